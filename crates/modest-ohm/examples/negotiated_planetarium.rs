//! Which profile of a negotiated source suits a planetarium? Every profile is tried, and one that is not listed.
//!
//! ```sh
//! cargo run --example negotiated_planetarium
//! ```

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]

use modest_ohm::plan::{BranchDraft, ConverterDraft, Lead, LoadDraft, SupplyDraft};
use modest_ohm::units::{Amps, Fraction, Metres, Volts, Watts};
use modest_ohm::{Plan, PlanErrors, size};

fn plan(selected: Volts) -> Result<Plan, PlanErrors> {
    let profiles: Vec<(Volts, Amps)> =
        size::profiles_of_power(Watts::new(45.0)).iter().map(|p| (p.volts, p.current)).collect();
    let lead = || Lead::awg(Metres::new(1.0), 20);
    Plan::builder("Planetarium")
        .supply(SupplyDraft::negotiated("brick", &profiles, selected))
        .branch(BranchDraft::new("dome").from("brick").cable(Lead::awg(Metres::new(0.3), 18)).fuse(Amps::new(4.0)))
        .converter(
            ConverterDraft::buck("twelve").from("dome").cable(lead()).output(Volts::new(12.0)).current(Amps::new(2.0)),
        )
        .load(LoadDraft::amps("sun", Amps::new(0.3)).from("twelve").cable(lead()).voltage(Volts::new(12.0)))
        .load(LoadDraft::amps("moon", Amps::new(0.9)).from("twelve").cable(lead()).voltage(Volts::new(12.0)))
        .build()
}

fn main() -> Result<(), PlanErrors> {
    run()
}

pub(crate) fn run() -> Result<(), PlanErrors> {
    for volts in [5.0, 9.0, 12.0, 15.0] {
        let review = plan(Volts::new(volts))?.review();
        println!("set to {volts} V:");
        for f in review.findings() {
            let also = if f.also.is_empty() { String::new() } else { format!(" (causes {})", f.also.len()) };
            println!("  {} {}: {}{also}", f.severity.word(), f.code, f.message);
        }
        if review.findings().is_empty() {
            println!("  no findings");
        }
    }
    // The same question without a plan: 16 W at 14 to 16 V.
    let list = size::profiles_of_power(Watts::new(45.0));
    let range = (Volts::new(14.0), Volts::new(16.0));
    let found = size::profiles(&list, range, Watts::new(16.0), None, Fraction::new(0.2), false);
    let words: Vec<String> = found.iter().map(|p| format!("{} at {}", p.volts, p.current)).collect();
    println!("profiles of a 45 W source that suit 16 W behind a 12 V buck converter: {}", words.join(", "));
    Ok(())
}
