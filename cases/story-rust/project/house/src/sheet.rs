//! The day's sheet.

use must::sugar;
use vatmeter::scale::Reading;

/// The sheet's first line.
pub fn head(readings: &[Reading]) -> String {
    format!("sugar {:.2}, best {:.1}", sugar::mean(readings), best(readings).brix())
}

fn best(readings: &[Reading]) -> Reading {
    readings.iter().copied().reduce(sugar::sweeter).expect("a day has readings")
}

/// A line for each grower.
pub fn lines(deliveries: &[(&str, u32)]) -> Vec<String> {
    vatmeter::growers(deliveries).into_iter().map(|g| format!("- {g}")).collect()
}

/// What each of three carts takes.
pub fn carts(litres: u32) -> Vec<u32> {
    vatmeter::share(litres, 3)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn head_names_the_best() {
        assert_eq!(head(&[Reading::new(1040), Reading::new(1060)]), "sugar 12.50, best 15.0");
    }

    #[test]
    fn growers_stand_by_name() {
        assert_eq!(lines(&[("Wren", 1), ("Ash", 2), ("Wren", 3)]), ["- Ash", "- Wren"]);
    }

    #[test]
    fn last_cart_takes_the_rest() {
        assert_eq!(carts(200), [66, 66, 68]);
    }
}
