//! A plan without the mistake that this family finds: what is gone in it follows from the mistake.

use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Ohms;

/// A battery that is always full and has no resistance.
pub(crate) fn stiffen(plan: &mut Plan, finding: &Finding) -> bool {
    let name = finding.subject.as_str();
    let Some(supply) = plan.supplies.iter_mut().find(|s| s.name.text == name) else { return false };
    supply.voltage = Figure::exact(supply.voltage.high, Origin::Computed);
    supply.resistance = Figure::exact(Ohms::new(0.0), Origin::Computed);
    if let Some(battery) = &mut supply.battery {
        // Of a stiff battery no discharge is computed.
        battery.cell = None;
    }
    true
}
