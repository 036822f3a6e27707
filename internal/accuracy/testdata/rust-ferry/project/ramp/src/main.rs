//! The ramp's display.
use ferrydeck::signal;
use ferrydeck::timetable;
use ferrydeck::{weather, Deck, Vehicle};

fn weigh(v: &Vehicle) -> String {
    format!("{} kg", v.weight)
}

fn over(list: &[Vehicle]) -> Vec<&Vehicle> {
    list.iter().filter(|v| v.weight > 30_000).collect()
}

fn main() {
    let mut deck = Deck::new(60.0);
    let unused = 3;
    let truck = Vehicle { length: 16.5, weight: 28_000, plate: "T 9".into() };
    println!("{}", weigh(&truck));
    println!("{}", over(&[truck.clone()]).len());
    if weather::rough(20) {
        println!("{}", signal::blast(3));
    }
    match deck.load(truck) {
        Ok(n) => println!("{n} of {} m", deck.metres),
        Err(e) => println!("{e}"),
    }
    let emptied: usize = deck.unload_all();
    println!("{emptied} {:?}", timetable(0, 60, 20));
    deck.clear();
}
