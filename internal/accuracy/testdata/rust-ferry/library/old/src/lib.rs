//! Loading plans for ferries.
use std::fmt;

#[derive(Debug, Clone, PartialEq)]
pub struct Vehicle {
    pub length: f64,
    pub weight: u32,
    pub plate: String,
}

impl Vehicle {
    pub fn new(length: f64, weight: u32) -> Self {
        Vehicle { length, weight, plate: String::new() }
    }
    pub fn lane_metres(&self) -> f64 {
        (self.length * 10.0).round() / 10.0
    }
}

#[derive(Debug, PartialEq)]
pub enum LoadError {
    Full,
    TooHeavy(u32),
}

impl fmt::Display for LoadError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            LoadError::Full => write!(f, "deck is full"),
            LoadError::TooHeavy(w) => write!(f, "{w} kg is too heavy"),
        }
    }
}

pub struct Deck {
    pub metres: f64,
    loaded: Vec<Vehicle>,
    reserve: f64,
}

impl Deck {
    pub fn new(metres: f64) -> Deck {
        Deck { metres, loaded: Vec::new(), reserve: 0.0 }
    }
    pub fn reserve(mut self, metres: f64) -> Deck {
        self.reserve = metres;
        self
    }
    pub fn load(&mut self, v: Vehicle) -> Result<usize, LoadError> {
        if v.weight > 40_000 {
            return Err(LoadError::TooHeavy(v.weight));
        }
        if self.used() + v.lane_metres() > self.metres - self.reserve {
            return Err(LoadError::Full);
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
    pub fn vehicles(&self) -> &Vec<Vehicle> {
        &self.loaded
    }
    #[deprecated(since = "3.2.0", note = "use `unload_all`")]
    pub fn clear(&mut self) -> usize {
        self.unload_all()
    }
    pub fn unload_all(&mut self) -> usize {
        let n = self.loaded.len();
        self.loaded.clear();
        n
    }
}

pub trait Tariff {
    fn price(&self, v: &Vehicle) -> u32;
}

pub struct ByLength {
    pub cents_per_metre: u32,
}

impl Tariff for ByLength {
    fn price(&self, v: &Vehicle) -> u32 {
        (v.lane_metres() * self.cents_per_metre as f64).round() as u32
    }
}

pub fn timetable(first: u32, last: u32, every: u32) -> Vec<u32> {
    (first..=last).step_by(every as usize).collect()
}

pub fn clock(minutes: u32) -> String {
    format!("{:02}:{:02}", minutes / 60 % 24, minutes % 60)
}

pub fn parse_plate(text: &str) -> Option<String> {
    Some(text.trim().to_uppercase())
}

pub mod weather {
    pub fn rough(knots: u32) -> bool {
        knots > 33
    }
    pub fn beaufort(knots: u32) -> u8 {
        [1, 3, 6, 10, 16, 21, 27, 33, 40, 47, 55, 63].iter().filter(|k| knots > **k).count() as u8
    }
}

pub mod signal {
    pub fn blast(n: usize) -> String {
        vec!["tut"; n].join(" ")
    }
}
