//! Reads a plan's text, reviews it, and prints what matters.
//!
//! ```sh
//! cargo run --example read_a_plan
//! ```

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]

use modest_ohm::{Plan, PlanErrors, Severity};

const SHED: &str = r#"
format = 1
title = "Ferry landing"

[supply.wall]
kind = "adapter"
voltage = "12 V"
current = "2 A"

[load.winch]                       # lowers the ramp
from = "wall"
cable = "5 m 20 AWG"
current = "1.2 A"
voltage = "12 V"
surge = "3 A"
at-power-on = "off"
"#;

fn main() -> Result<(), PlanErrors> {
    run()
}

pub(crate) fn run() -> Result<(), PlanErrors> {
    let plan = Plan::from_toml(SHED)?;
    let review = plan.review().with_fixes();
    println!("{}, findings: {}", plan.title(), review.findings().len());
    for finding in review.findings() {
        println!("{}  {}  {}", finding.severity.word(), finding.subject, finding.message);
        for fix in &finding.fixes {
            println!("    → {}", fix.text());
        }
    }
    if let Some(wall) = review.node("wall") {
        let wanted = wall.demand.map_or_else(|| "nothing that it could give".to_owned(), |a| a.to_string());
        println!("`wall` must supply {wanted} at worst");
    }
    let bad = review.count(Severity::Danger) + review.count(Severity::Fault);
    println!("{}", if bad == 0 { "it works" } else { "do not power on" });
    Ok(())
}
