//! A toy crane: which drivers suit its magnet, what the simplest one looks like in a plan, and how fast the magnet
//! releases.
//!
//! ```sh
//! cargo run --example crane_stages
//! ```

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]
use std::error::Error;

use modest_ohm::Plan;
use modest_ohm::advise::{DriverRequest, drivers};

const RAIL: &str = "12 V ± 5 %";

fn main() -> Result<(), Box<dyn Error>> {
    run()
}

pub(crate) fn run() -> Result<(), Box<dyn Error>> {
    let found = drivers(&DriverRequest::new("solenoid-12v", RAIL, "wifi-board-3v3"))?;
    println!("{} drivers suit the magnet, {} do not", found.offers.len(), found.rejected.len());
    for offer in found.offers.iter().take(3) {
        println!("  {:<20} {}", offer.part, offer.parts.join(", "));
    }
    for passed in found.rejected.iter().take(3) {
        println!("  not {}: {}", passed.class, passed.why);
    }

    // The tables of an offer, with a rail and a board for them, are a plan.
    let offer = found.offers.first().ok_or("no stage switches the magnet")?;
    let plan = format!(
        "format = 1\ntitle = \"Crane\"\n\
         [supply.rail]\nkind = \"adapter\"\nvoltage = \"{RAIL}\"\ncurrent = \"3 A\"\n\
         [converter.five]\nkind = \"buck\"\nfrom = \"rail\"\noutput = \"5 V ± 2 %\"\ncurrent = \"2 A\"\n\
         [board.wifi-board-3v3]\npart = \"wifi-board-3v3\"\nfrom = \"five\"\n{}\n",
        offer.toml
    );
    let review = Plan::from_toml(&plan)?.review();
    println!("with {}:", offer.part);
    for finding in review.findings() {
        println!("  {} {}: {}", finding.severity.word(), finding.subject, finding.message);
    }
    for row in review.releases() {
        let Some(release) = row.release else { continue };
        println!("  {} releases {} after {} opens, {}", row.name, release.time, row.channel, row.path);
    }
    Ok(())
}
