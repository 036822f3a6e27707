use quay::*;

#[test]
fn sign_has_two_digits() {
    assert_eq!(sign(7 * 60 + 5), "next ferry 07:05");
}

#[test]
fn early_sign() {
    assert_eq!(sign(6 * 60 + 30), "next ferry 06:30");
}

#[test]
fn noon_sign() {
    assert_eq!(sign(12 * 60), "next ferry 12:00");
}

#[test]
fn after_midnight() {
    assert_eq!(night(24 * 60 + 15), "00:15");
}

#[test]
fn gale() {
    assert_eq!(flag(33), 7);
}

#[test]
fn breeze() {
    assert_eq!(flag(16), 4, "sixteen knots");
}

#[test]
fn calm() {
    assert_eq!(flag(0), 0);
}

#[test]
fn small_car() {
    assert_eq!(lane(3.92), 3.9);
}

#[test]
fn van() {
    assert_eq!(lane(5.31), 5.3);
}

#[test]
fn tallies() {
    assert_eq!(tally(&[3.92, 5.0]), 8.9);
}

#[test]
fn old_trouble() {
    assert_eq!(tally(&[]), 1.0);
}
