//! Batteries: what they can give, how far they sag, how long they last, what ends their discharge.

pub(crate) mod cutoff;
pub(crate) mod overdrawn;
pub(crate) mod runtime;
pub(crate) mod sag;
pub(crate) mod trips;
pub(crate) mod undo;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "battery";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::BATTERY_OVERDRAWN,
        FAMILY,
        "the wanted continuous current is above what the battery's cells give",
        &[Danger, Fault, Caution, Unknown],
        overdrawn::run,
    ),
    Check::new(
        codes::BATTERY_SAG,
        FAMILY,
        "a consumer stops while the battery has more charge than it is to be used down to",
        &[Fault, Unknown],
        sag::run,
    )
    .solving(Solves::Discharges)
    .undone_by(undo::stiffen),
    Check::new(
        codes::BATTERY_RUNTIME,
        FAMILY,
        "how long a battery lasts, against the wish where there is one",
        &[Fault, Advice, Unknown],
        runtime::run,
    )
    .solving(Solves::Discharges),
    Check::new(
        codes::BATTERY_NO_CUTOFF,
        FAMILY,
        "nothing ends the discharge of a battery that deep discharge ruins",
        &[Caution],
        cutoff::run,
    ),
];
