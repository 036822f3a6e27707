//! Weighs must and watches vats.

/// What a scale says.
pub mod scale {
    /// One weighing of must: grams in a litre.
    #[derive(Clone, Copy, Debug, PartialEq)]
    pub struct Reading {
        pub grams: i64,
    }

    impl Reading {
        pub fn new(grams: i64) -> Self {
            Reading { grams }
        }

        /// The sugar in degrees Brix.
        pub fn brix(&self) -> f64 {
            (self.grams - 1000) as f64 / 4.0
        }
    }
}

/// What a vat is made of.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kind {
    Oak,
    Steel,
}

/// A vat and what is in it.
#[derive(Clone, Debug)]
pub struct Vat {
    pub litres: u32,
    pub kind: Kind,
    label: String,
    filled: u32,
}

impl Vat {
    /// An empty vat of oak.
    pub fn new(litres: u32) -> Self {
        Vat { litres, kind: Kind::Oak, label: String::from("empty"), filled: 0 }
    }

    pub fn of(litres: u32, kind: Kind) -> Self {
        Vat { kind, ..Vat::new(litres) }
    }

    pub fn fill(&mut self, litres: u32) {
        self.filled += litres;
        self.label = format!("{} l", self.filled);
    }

    /// What the vat's slate says.
    pub fn slate(&self) -> String {
        self.label.clone()
    }

    /// How full the vat is, in hundredths.
    pub fn level(&self) -> u32 {
        self.filled * 100 / self.litres
    }
}

/// Shares litres among vats; the last takes what is left over.
pub fn share(litres: u32, vats: usize) -> Vec<u32> {
    let each = litres / vats as u32;
    let mut shares = vec![each; vats];
    shares[vats - 1] += litres - each * vats as u32;
    shares
}

/// Writes degrees Brix for a label, with one decimal.
pub fn label(brix: f64) -> String {
    format!("{brix:.1} °Bx")
}

/// The growers of some deliveries, each once, by name.
pub fn growers(deliveries: &[(&str, u32)]) -> Vec<String> {
    let mut names: Vec<String> = deliveries.iter().map(|d| d.0.to_string()).collect();
    names.sort();
    names.dedup();
    names
}
