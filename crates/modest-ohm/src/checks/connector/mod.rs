//! Connectors and lead ends: what goes into what, what meets what.

pub(crate) mod colours;
pub(crate) mod confusable;
pub(crate) mod crowded;
pub(crate) mod ends;
pub(crate) mod fits;
mod keys;
pub(crate) mod mates;
pub(crate) mod meets;
pub(crate) mod pins;

use crate::findings::change::Change::{Keys, Wire};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger, Fault};

/// The family's name.
const FAMILY: &str = "connector";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::CONNECTOR_MISMATCH,
        FAMILY,
        "the halves of a plug connection are of different families or the same gender",
        &[Fault],
        mates::run,
    )
    .fixed_by(&[Keys(keys::CONNECTOR_MISMATCH)]),
    Check::new(
        codes::CONNECTOR_PINOUT,
        FAMILY,
        "contacts that meet in a connector carry different signals",
        &[Danger, Fault, Caution],
        pins::run,
    )
    .fixed_by(&[Keys(keys::CONNECTOR_PINOUT)]),
    Check::new(
        codes::WIRE_SIZE_MISMATCH,
        FAMILY,
        "a wire is too thick or too thin for its connector",
        &[Fault, Caution],
        fits::run,
    )
    .fixed_by(&[Wire])
    .naming_no_state(),
    Check::new(
        codes::TERMINAL_OVERFILLED,
        FAMILY,
        "more wires go into a connector than it has places for",
        &[Caution],
        crowded::run,
    )
    .fixed_by(&[Keys(keys::TERMINAL_OVERFILLED)]),
    Check::new(codes::WIRE_END_UNSUITABLE, FAMILY, "a wire end does not hold in its connector", &[Caution], ends::run)
        .fixed_by(&[Keys(keys::WIRE_END_UNSUITABLE)])
        .naming_no_state(),
    Check::new(
        codes::WIRE_COLOUR_AMBIGUOUS,
        FAMILY,
        "a wire colour has two meanings on one path",
        &[Caution],
        colours::run,
    )
    .fixed_by(&[Keys(keys::WIRE_COLOUR_AMBIGUOUS)])
    .naming_no_state(),
    Check::new(codes::CONNECTOR_MIX_UP, FAMILY, "connectors at different voltages mate", &[Caution], confusable::run)
        .naming_no_state(),
];
