//! Loading plans for ferries.
use std::fmt;

#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Vehicle {
    pub length: f64,
    pub mass: u32,
    pub plate: Option<String>,
}

impl Vehicle {
    pub fn new(length: f64, mass: u32) -> Self {
        Vehicle { length, mass, plate: None }
    }
    pub fn lane_metres(&self) -> f64 {
        (self.length * 10.0).ceil() / 10.0
    }
}

#[derive(Debug, PartialEq)]
pub enum LoadError {
    Full { missing: f64 },
    TooHeavy(u32),
    Closed,
}

impl fmt::Display for LoadError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            LoadError::Full { missing } => write!(f, "{missing} m are missing"),
            LoadError::TooHeavy(w) => write!(f, "{w} kg exceed what the ramp bears"),
            LoadError::Closed => write!(f, "closed"),
        }
    }
}

pub struct Deck {
    metres: f64,
    loaded: Vec<Vehicle>,
    reserve: f64,
}

pub struct DeckBuilder {
    metres: f64,
    reserve: f64,
}

impl DeckBuilder {
    pub fn reserve(mut self, metres: f64) -> Self {
        self.reserve = metres;
        self
    }
    pub fn build(self) -> Deck {
        Deck { metres: self.metres, loaded: Vec::new(), reserve: self.reserve }
    }
}

impl Deck {
    pub fn builder(metres: f64) -> DeckBuilder {
        DeckBuilder { metres, reserve: 0.0 }
    }
    pub fn metres(&self) -> f64 {
        self.metres
    }
    pub fn load(&mut self, v: Vehicle) -> Result<usize, LoadError> {
        if v.mass > 38_000 {
            return Err(LoadError::TooHeavy(v.mass));
        }
        if self.used() + v.lane_metres() > self.metres - self.reserve {
            return Err(LoadError::Full { missing: self.used() + v.lane_metres() - self.metres + self.reserve });
        }
        self.loaded.push(v);
        Ok(self.loaded.len())
    }
    pub fn used(&self) -> f64 {
        self.loaded.iter().map(|v| v.lane_metres()).sum()
    }
    pub fn free(&self) -> f64 {
        self.metres - self.reserve - self.used()
    }
    pub fn vehicles(&self) -> impl Iterator<Item = &Vehicle> {
        self.loaded.iter()
    }
    pub fn unload_all(&mut self) -> Vec<Vehicle> {
        std::mem::take(&mut self.loaded)
    }
}

pub trait Tariff {
    fn price(&self, v: &Vehicle, season: Season) -> u32;
    fn name(&self) -> &str;
}

#[derive(Debug, Clone, Copy)]
pub enum Season {
    Low,
    High,
}

pub struct ByLength {
    pub cents_per_metre: u32,
}

impl Tariff for ByLength {
    fn price(&self, v: &Vehicle, _: Season) -> u32 {
        (v.lane_metres() * self.cents_per_metre as f64).round() as u32
    }
    fn name(&self) -> &str {
        "by length"
    }
}

pub fn departures(first: u32, last: u32, every: u32) -> Vec<u32> {
    (first..last).step_by(every as usize).collect()
}

pub fn clock(minutes: u32) -> String {
    format!("{}:{:02}", minutes / 60, minutes % 60)
}

#[cfg(feature = "plates")]
pub fn parse_plate(text: &str) -> Option<String> {
    Some(text.trim().to_uppercase())
}

pub mod weather {
    pub fn beaufort(knots: u32) -> u8 {
        [1, 3, 6, 10, 16, 21, 27, 33, 40, 47, 55, 63].iter().filter(|k| knots >= **k).count() as u8
    }
}
