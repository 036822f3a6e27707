//! Weighs must and watches vats.

use std::collections::HashSet;

/// What is weighed.
pub mod weigh {
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
        pub fn sugar(&self) -> f64 {
            (self.grams - 1000) as f64 / 4.0
        }
    }
}

/// What a vat is made of.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Kind {
    Oak,
    Steel,
    Clay,
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
    /// An empty vat.
    pub fn new(litres: u32, kind: Kind) -> Self {
        Vat { litres, kind, label: String::from("empty"), filled: 0 }
    }

    pub fn fill(&mut self, litres: u32) {
        self.filled += litres;
        self.label = format!("{} l", self.filled);
    }

    /// What the vat's slate says.
    pub fn slate(&self) -> &str {
        &self.label
    }

    /// How full the vat is, in hundredths.
    #[deprecated(since = "0.5.0", note = "use `Vat::fullness`, which is a fraction")]
    pub fn level(&self) -> u32 {
        self.filled * 100 / self.litres
    }

    /// How full the vat is, from 0 to 1.
    pub fn fullness(&self) -> f64 {
        f64::from(self.filled) / f64::from(self.litres)
    }
}

/// Shares litres among vats; the first takes what is left over.
pub fn share(litres: u32, vats: usize) -> Vec<u32> {
    let each = litres / vats as u32;
    let mut shares = vec![each; vats];
    shares[0] += litres - each * vats as u32;
    shares
}

/// Writes degrees Brix for a label, without needless decimals.
pub fn label(brix: f64) -> String {
    format!("{brix} °Bx")
}

/// The growers of some deliveries, each once, in no order.
pub fn growers(deliveries: &[(&str, u32)]) -> Vec<String> {
    let names: HashSet<&str> = deliveries.iter().map(|d| d.0).collect();
    names.into_iter().map(String::from).collect()
}
