//! Builds a plan in code and asks how many feed points a strip needs: 3 m with 60 pixels per metre, fed at one to five
//! points.
//!
//! ```sh
//! cargo run --example sweep_feeds
//! ```

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]

use modest_ohm::plan::{InjectionDraft, Lead, StripDraft, SupplyDraft};
use modest_ohm::units::{Amps, Metres, PerMetre, Volts};
use modest_ohm::{Plan, PlanErrors};

const LENGTH_M: f64 = 3.0;

/// A strip on one supply, fed at `feeds` points spread evenly, each over its own lead from the start of the strip.
fn plan(feeds: usize) -> Result<Plan, PlanErrors> {
    let mut strip = StripDraft::new("quay", "pixel-5v-rgb-12ma")
        .from("wall")
        .length(Metres::new(LENGTH_M))
        .pixels(PerMetre::new(60.0))
        .firmware_limit(Amps::new(5.0));
    for i in 0..feeds {
        let at = if feeds == 1 { 0.0 } else { LENGTH_M * i as f64 / (feeds - 1) as f64 };
        strip = strip.inject(InjectionDraft::at(Metres::new(at), Lead::awg(Metres::new(0.3 + at), 18)));
    }
    Plan::builder("Quay lights")
        .supply(SupplyDraft::adapter("wall").voltage(Volts::new(5.0)).current(Amps::new(8.0)))
        .strip(strip)
        .build()
}

fn main() -> Result<(), PlanErrors> {
    run()
}

pub(crate) fn run() -> Result<(), PlanErrors> {
    println!("feeds  lowest pixel       at  findings");
    for feeds in 1..=5 {
        let review = plan(feeds)?.review();
        let Some(quay) = review.strip("quay") else { continue };
        let codes: Vec<String> =
            review.findings().iter().map(|f| format!("{} {}", f.severity.word(), f.code)).collect();
        let codes = if codes.is_empty() { "none".to_owned() } else { codes.join(", ") };
        println!("{feeds:>5}  {:>12}  {:>7}  {codes}", quay.lowest, quay.lowest_at);
    }
    Ok(())
}
