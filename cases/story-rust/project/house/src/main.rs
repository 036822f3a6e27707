//! Prints the day's sheet of the press house.

mod sheet;

use vatmeter::scale::Reading;

fn main() {
    let season = 2031;
    let readings = [Reading::new(1048), Reading::new(1052)];
    println!("{}", sheet::head(&readings));
    for line in sheet::lines(&[("Wren", 400), ("Ash", 250)]) {
        println!("{line}");
    }
}
