//! Batteries: what they can give, how far they sag, how long they last, what ends their discharge.

pub(crate) mod cutoff;
mod keys;
pub(crate) mod overdrawn;
pub(crate) mod runtime;
pub(crate) mod sag;
pub(crate) mod trips;
pub(crate) mod undo;

use crate::derived::solves::Solves;
use crate::findings::change::Change::{Cells, Concession, FirmwareLimit, Keys, Rating, Wire};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "battery";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::BATTERY_OVERDRAWN,
        FAMILY,
        "a battery must supply more continuous current than its cells are rated for",
        &[Danger, Fault, Caution, Unknown],
        overdrawn::run,
    )
    .fixed_by(&[FirmwareLimit, Cells, Rating]),
    Check::new(
        codes::BATTERY_STOPS_EARLY,
        FAMILY,
        "a consumer stops while the battery holds more charge than its reserve",
        &[Fault, Unknown],
        sag::run,
    )
    .fixed_by(&[Cells, Wire, Concession(keys::BATTERY_STOPS_EARLY)])
    .solving(Solves::Discharges)
    .undone_by(undo::stiffen),
    Check::new(
        codes::BATTERY_RUNTIME,
        FAMILY,
        "battery runtime, and whether it meets `runtime`",
        &[Fault, Advisory, Unknown],
        runtime::run,
    )
    .fixed_by(&[Cells, Wire])
    .solving(Solves::Discharges),
    Check::new(
        codes::BATTERY_NO_CUTOFF,
        FAMILY,
        "nothing stops the discharge of a battery that deep discharge damages",
        &[Caution],
        cutoff::run,
    )
    .fixed_by(&[Keys(keys::BATTERY_NO_CUTOFF)]),
];
