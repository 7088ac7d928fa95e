//! Joints and lead ends: what goes into what, what meets what.

pub(crate) mod colours;
pub(crate) mod confusable;
pub(crate) mod crowded;
pub(crate) mod ends;
pub(crate) mod fits;
pub(crate) mod mates;
pub(crate) mod meets;
pub(crate) mod pins;

use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger, Fault};

/// The family's name.
const FAMILY: &str = "joint";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::ENDS_DO_NOT_MATE,
        FAMILY,
        "the two halves of a plug pair are of other families, or of one gender",
        &[Fault],
        mates::run,
    ),
    Check::new(
        codes::PIN_IN_ORDER,
        FAMILY,
        "the contacts of two halves that meet carry other things",
        &[Danger, Fault, Caution],
        pins::run,
    ),
    Check::new(
        codes::WIRE_DOES_NOT_FIT,
        FAMILY,
        "a conductor is too thick or too thin for what it goes into",
        &[Fault, Caution],
        fits::run,
    ),
    Check::new(
        codes::TERMINAL_CROWDED,
        FAMILY,
        "more wires go into a joint than it has places for",
        &[Caution],
        crowded::run,
    ),
    Check::new(
        codes::END_UNSUITED,
        FAMILY,
        "a lead end is made in a way that does not hold in what it goes into",
        &[Caution],
        ends::run,
    ),
    Check::new(codes::COLOUR_MISLEADS, FAMILY, "one colour means two things on one path", &[Caution], colours::run),
    Check::new(
        codes::CONNECTOR_CONFUSABLE,
        FAMILY,
        "nodes of different volts show connectors that mate with each other",
        &[Caution],
        confusable::run,
    ),
];
