//! What a van's supply does to a puppet stage: the shipped plan, and the same without its guard.
//!
//! ```sh
//! cargo run --example vehicle_stage
//! ```

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]

use modest_ohm::{Plan, PlanErrors, Review, Select};

const STAGE: &str = include_str!("../../../plans/puppet-stage.toml");

fn main() -> Result<(), PlanErrors> {
    run()
}

fn say(review: &Review) {
    for f in review.findings() {
        println!("  {} {}: {}", f.severity.word(), f.code, f.message);
    }
    if review.findings().is_empty() {
        println!("  no findings");
    }
}

pub(crate) fn run() -> Result<(), PlanErrors> {
    let review = Plan::from_toml(STAGE)?.review();
    println!("as planned:");
    say(&review);
    println!("voltage behind the guard, van at 9 V to 16 V:");
    for row in review.nodes(&Select { all_corners: true, scenario: Some("worst".into()), ..Select::default() }) {
        if row.row.name == "guard" {
            println!("  {:<8} {}", row.corner.name(), row.row.voltage.map_or_else(String::new, |v| v.to_string()));
        }
    }
    // The clamp gone: a load dump reaches the converter.
    let bare: String = STAGE
        .split("[diode.clamp]")
        .enumerate()
        .map(|(i, part)| match i {
            0 => part.to_owned(),
            _ => part.split_once("[switch.show]").map_or_else(String::new, |(_, rest)| format!("[switch.show]{rest}")),
        })
        .collect();
    println!("without the clamp:");
    say(&Plan::from_toml(&bare)?.review());
    Ok(())
}
