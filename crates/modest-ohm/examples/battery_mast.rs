//! How many cells does a weather mast need? Builds the pack in code with one to five strings and asks how long each runs.
//!
//! ```sh
//! cargo run --example battery_mast
//! ```

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]

use modest_ohm::plan::{BranchDraft, ConverterDraft, Lead, LoadDraft, SupplyDraft};
use modest_ohm::units::{Amps, Metres, Volts, duration};
use modest_ohm::{Plan, PlanErrors, Severity};

/// Three cells in series, `strings` of them; a 5 V rail with a radio, a 3.3 V rail with instruments, a fan on the pack.
fn plan(strings: usize) -> Result<Plan, PlanErrors> {
    let lead = || Lead::awg(Metres::new(0.2), 20);
    Plan::builder("Weather mast")
        .supply(SupplyDraft::battery("pack", "li-ion-18650", 3, strings).key("cut-off", "\"9 V\"").key("keyed", "true"))
        .branch(BranchDraft::new("mast").from("pack").cable(Lead::awg(Metres::new(1.0), 18)).fuse(Amps::new(3.0)))
        .converter(
            ConverterDraft::buck("five").from("mast").cable(lead()).output(Volts::new(5.0)).current(Amps::new(2.0)),
        )
        .converter(
            ConverterDraft::linear("sense")
                .from("five")
                .output(Volts::new(3.3))
                .current(Amps::new(0.3))
                .key("dropout", "\"0.5 V\""),
        )
        .load(LoadDraft::amps("radio", Amps::new(0.12)).from("five").cable(lead()).voltage(Volts::new(5.0)))
        .load(LoadDraft::amps("instruments", Amps::new(0.035)).from("sense").cable(lead()).voltage(Volts::new(3.3)))
        .load(
            LoadDraft::amps("fan", Amps::new(0.15))
                .from("mast")
                .cable(lead())
                .voltage(Volts::new(12.0))
                .minimum(Volts::new(8.0)),
        )
        .build()
}

fn main() -> Result<(), PlanErrors> {
    run()
}

pub(crate) fn run() -> Result<(), PlanErrors> {
    println!("strings  runtime in *worst*  stops first        charge left  verdict");
    for strings in 1..=5 {
        let review = plan(strings)?.review();
        let Some(row) = review.runtimes().into_iter().find(|r| r.scenario.name() == "worst") else { continue };
        let worst = review.findings().iter().map(|f| f.severity).max().unwrap_or(Severity::Advisory);
        println!(
            "{strings:>7}  {:>16}  {:<20}  {:>8}  {}",
            duration(row.lasts),
            row.end,
            row.left.to_string(),
            worst.word()
        );
    }
    Ok(())
}
