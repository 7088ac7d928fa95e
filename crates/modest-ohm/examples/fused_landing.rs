//! A ferry landing in code: how each cable is made, which fuse protects it, and which wire suits which fuse.
//!
//! `cargo run --example fused_landing`

#![allow(clippy::print_stdout, reason = "an example talks to its reader")]
#![allow(dead_code, reason = "tests take this in as a module and call `run`")]

use modest_ohm::plan::{BranchDraft, ConnectorDraft, Lead, LoadDraft, SupplyDraft};
use modest_ohm::size::{self, Pair, WireNeed};
use modest_ohm::tables::{FuseFamily, WireSize};
use modest_ohm::units::{Amps, Celsius, Metres, Ohms, Volts};
use modest_ohm::{Plan, PlanErrors, Severity};

fn main() -> Result<(), PlanErrors> {
    run()
}

/// Runs the example.
///
/// # Errors
/// The problems of the plan it builds.
pub fn run() -> Result<(), PlanErrors> {
    // Which wire and fuse carry 2.5 A of lamps over 4 m?
    let need = WireNeed {
        load: Amps::new(2.5),
        length: Metres::new(4.0),
        drop: Some((Volts::new(12.0), modest_ohm::units::Fraction::new(0.05))),
        limit: None,
        for_protection: None,
        ambient: Celsius::new(30.0),
        insulation: None,
        pairs: 1,
        metric: false,
    };
    let Some(pair) = size::pair(&need, FuseFamily::Blade) else {
        println!("no listed wire and fuse are suitable");
        return Ok(());
    };
    println!("lamps: {} with a {} fuse, voltage drop {}", pair.wire.size, pair.fuse, pair.wire.drop);

    let review = landing(Some(&pair))?.review();
    for lead in review.cables() {
        let long = lead.sustained_fault.map_or_else(|| "an unknown current".to_owned(), |a| a.to_string());
        println!(
            "{}: rated {}, protected by {}; {long} can flow continuously",
            lead.name, lead.ampacity, lead.protected_by
        );
    }
    println!("{} dangers with the fuse, {} without", review.count(Severity::Danger), dangers_without()?);
    Ok(())
}

/// A battery, a run to the quay, lamps at its end.
fn landing(pair: Option<&Pair>) -> Result<Plan, PlanErrors> {
    let size = pair.map_or(WireSize::Awg(16), |p| p.wire.size);
    let lead = match size {
        WireSize::Awg(n) => Lead::awg(Metres::new(4.0), n),
        WireSize::Mm2(area) => Lead::mm2(Metres::new(4.0), area),
    };
    let mut quay = BranchDraft::new("quay").from("pack").cable(lead.ends("ring", "ferrule"));
    if let Some(pair) = pair {
        quay = quay.fuse(pair.fuse);
    }
    Plan::builder("Ferry landing")
        .supply(
            SupplyDraft::battery("pack", "li-ion-18650", 3, 4)
                .key("holder", "\"20 mΩ\"")
                .key("cut-off", "\"9 V\"")
                .key("keyed", "true"),
        )
        .branch(quay)
        .connector(ConnectorDraft::new("splice", "lever-splice-2mm5").from("quay"))
        .load(
            LoadDraft::amps("lamps", Amps::new(2.5))
                .from("splice")
                .cable(Lead::measured(Ohms::new(0.0), Ohms::new(0.0)))
                .voltage(Volts::new(12.0))
                .key("recommended", "\"8 V .. 13 V\""),
        )
        .build()
}

/// How many dangers there are with nothing between the battery and the quay.
fn dangers_without() -> Result<usize, PlanErrors> {
    Ok(landing(None)?.review().count(Severity::Danger))
}
