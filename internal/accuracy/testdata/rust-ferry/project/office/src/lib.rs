//! Bookings.
use ferrydeck::parse_plate;
use ferrydeck::timetable;
use ferrydeck::{ByLength, Deck, LoadError, Tariff, Vehicle};

pub struct Flat(pub u32);

impl Tariff for Flat {
    fn price(&self, _v: &Vehicle) -> u32 {
        self.0
    }
}

pub struct Club {
    pub percent: u32,
}

impl Tariff for Club {
    fn price(&self, v: &Vehicle) -> u32 {
        ByLength { cents_per_metre: 900 }.price(v) * self.percent / 100
    }
}

pub fn camper(length: f64) -> Vehicle {
    Vehicle { length, weight: 3_500, plate: String::from("X 1") }
}

pub fn coach() -> Vehicle {
    Vehicle { length: 12.0, weight: 18_000, plate: String::new() }
}

pub fn main_deck() -> Deck {
    Deck::new(240.0).reserve(12.0)
}

pub fn car_deck() -> Deck {
    Deck::new(110.0)
}

pub fn explain(e: LoadError) -> String {
    match e {
        LoadError::Full => String::from("please wait for the next one"),
        LoadError::TooHeavy(w) => format!("{} tonnes", w / 1000),
    }
}

pub fn heaviest(deck: &Deck) -> u32 {
    deck.vehicles().iter().map(|v| v.weight).max().unwrap_or(0)
}

pub fn count(deck: &Deck) -> usize {
    deck.vehicles().len()
}

pub fn ends(deck: &mut Deck) -> usize {
    deck.clear()
}

pub fn sundays() -> Vec<u32> {
    timetable(480, 1200, 120)
}

pub fn plate(text: &str) -> String {
    parse_plate(text).unwrap_or_default()
}

pub fn quote(v: &Vehicle, t: &dyn Tariff) -> u32 {
    t.price(v) + 250
}
