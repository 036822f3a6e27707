//! What the quay staff sees: it uses only the calm parts of ferrydeck.
use ferrydeck::{clock, weather, Deck, Vehicle};

pub fn sign(minutes: u32) -> String {
    format!("next ferry {}", clock(minutes))
}

pub fn night(minutes: u32) -> String {
    clock(minutes)
}

pub fn flag(knots: u32) -> u8 {
    weather::beaufort(knots)
}

pub fn lane(length: f64) -> f64 {
    Vehicle::new(length, 1_000).lane_metres()
}

pub fn free(deck: &Deck) -> f64 {
    deck.free()
}

pub fn tally(lengths: &[f64]) -> f64 {
    lengths.iter().map(|l| lane(*l)).sum()
}
