use office::*;

#[test]
fn quotes() {
    assert_eq!(quote(&coach(), &Flat(100)), 350);
}
