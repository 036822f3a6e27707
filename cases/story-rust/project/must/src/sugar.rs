//! Sugar in the must.

use vatmeter::scale::Reading;

/// The sugar of a morning's readings, in the middle.
pub fn mean(readings: &[Reading]) -> f64 {
    let sum: f64 = readings.iter().map(|r| r.brix()).sum();
    sum / readings.len() as f64
}

/// The sweetest of two.
pub fn sweeter(a: Reading, b: Reading) -> Reading {
    if a.brix() >= b.brix() {
        a
    } else {
        b
    }
}

/// Whether a reading is ripe.
pub fn ripe(r: &Reading) -> bool {
    r.brix() > 11.0
}

/// Whether a reading is overripe.
pub fn overripe(r: &Reading) -> bool {
    r.brix() > 17.5
}

/// How much alcohol a reading promises, in hundredths.
pub fn promise(r: &Reading) -> f64 {
    let sugar = r.brix();
    return sugar * 0.55;
}

/// How far two readings are apart.
pub fn apart(a: &Reading, b: &Reading) -> f64 {
    (a.brix() - b.brix()).abs()
}

/// What stands on the bottle.
pub fn bottle(r: &Reading) -> String {
    vatmeter::label(r.brix())
}
