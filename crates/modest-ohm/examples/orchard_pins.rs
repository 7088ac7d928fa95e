//! Which pin does what at the orchard gate, what is free, and a pin for one more lamp.
//!
//! `cargo run --example orchard_pins`

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]

use modest_ohm::Plan;
use modest_ohm::size::{self, LedNeed, Series, Values};
use modest_ohm::units::{Amps, Fraction, Nominal, Ohms, Volts, Watts};

/// What the program does.
///
/// # Errors
/// Where the plan cannot be read, or has no pin for the lamp.
pub fn run() -> Result<(), Box<dyn std::error::Error>> {
    let text = include_str!("../../../plans/orchard-gate.toml");
    let review = Plan::from_toml(text)?.review();
    for board in review.pins() {
        let used: Vec<String> = board
            .pins
            .iter()
            .filter(|p| !p.jobs.is_empty())
            .map(|p| format!("{} for {}", p.name, p.jobs[0].subject))
            .collect();
        println!("{}: {}", board.board, used.join(", "));
        println!("  all pins together: {}", board.current);
    }

    // A white lamp from 5 V, out of a pin of 40 Ω: 10 mA are wanted.
    let need = LedNeed {
        supply: Nominal::new(Volts::new(5.0), Volts::new(5.1)),
        vf: Nominal::new(Volts::new(3.2), Volts::new(3.0)),
        diode: Nominal::exactly(Volts::new(0.0)),
        pin: Nominal::exactly(Ohms::new(40.0)),
        current: Amps::new(0.010),
        most: Some(Amps::new(0.030)),
        tolerance: Fraction::new(0.05),
        rated: Watts::new(0.25),
    };
    let resistor = size::led(&need, &Values::of_series(Series::E24)).chosen.ok_or("the supply is too low")?;
    println!("resistor of a white LED: {}, {} at worst", resistor.ohms, resistor.worst);

    // Its pin is left open, and one is proposed.
    let lamp =
        format!("\n[led.path]\npart = \"led-white\"\nfrom = \"gate.any\"\nresistor = \"{} Ω\"\n", resistor.ohms.get());
    let pins = Plan::from_toml(&format!("{text}{lamp}"))?.assign_pins(&[])?;
    for pin in &pins.pins {
        println!("{} = \"{}.{}\"", pin.path, pin.board, pin.pin);
    }
    assert!(pins.findings.is_empty());
    Ok(())
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    run()
}
