use must::{cellar, sugar};

#[test]
fn oak_is_filled() {
    assert_eq!(cellar::oak(500, 120).slate(), "120 l");
}

#[test]
fn oak_rests_for_forty_days() {
    assert_eq!(cellar::rest(&cellar::small()), 40);
}

#[test]
fn slate_tells_before_and_after() {
    assert_eq!(cellar::top_up(&mut cellar::small(), 50), "empty -> 50 l");
}

#[test]
fn bottle_has_one_decimal() {
    assert_eq!(sugar::bottle(&weighed(1048)), "12.0 °Bx");
}

#[test]
fn overripe_is_very_sweet() {
    assert!(sugar::overripe(&weighed(1070)), "17.5 is overripe");
}

#[test]
fn shares_leave_the_rest_to_the_last() {
    assert_eq!(cellar::shares(&weighed(1040), 100), [33, 33, 34]);
}

#[test]
fn nothing_is_left_over_between_two() {
    assert_eq!(cellar::shares(&weighed(1060), 100), [50, 50]);
}

fn weighed(grams: i64) -> vatmeter::scale::Reading {
    vatmeter::scale::Reading::new(grams)
}
