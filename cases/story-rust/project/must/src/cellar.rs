//! The vats in the cellar.

use vatmeter::scale::Reading;
use vatmeter::{Kind, Vat};

/// A vat of oak, filled.
pub fn oak(litres: u32, filled: u32) -> Vat {
    let mut vat = Vat::new(litres);
    vat.fill(filled);
    vat
}

/// A vat for what the small press gives.
pub fn small() -> Vat {
    Vat::new(300)
}

/// How long must rests in a vat, in days.
pub fn rest(vat: &Vat) -> u32 {
    match vat.kind {
        Kind::Oak => 40,
        Kind::Steel => 21,
    }
}

/// Fills a vat and tells what its slate said before.
pub fn top_up(vat: &mut Vat, litres: u32) -> String {
    let before = vat.slate();
    vat.fill(litres);
    format!("{} -> {}", before, vat.slate())
}

/// Whether a vat is nearly full.
pub fn nearly_full(vat: &Vat) -> bool {
    vat.level() > 90
}

/// Whether there is room for some litres.
pub fn room(vat: &Vat, litres: u32) -> bool {
    vat.level() + litres * 100 / vat.litres <= 100
}

/// Which vats a reading goes to, and how much into each.
pub fn shares(r: &Reading, litres: u32) -> Vec<u32> {
    vatmeter::share(litres, if r.brix() > 12.0 { 2 } else { 3 })
}
