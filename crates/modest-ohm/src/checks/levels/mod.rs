//! Levels: what a sender gives, what a receiver wants and stands, on signals besides pixel data.

pub(crate) mod bus_pulls;
pub(crate) mod direction;
pub(crate) mod hung;
pub(crate) mod met;
pub(crate) mod opto;
pub(crate) mod over;

use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "levels";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::PIN_OVERVOLTAGE,
        FAMILY,
        "a signal lies above what an input stands, or below its ground",
        &[Danger, Fault, Caution, Advice],
        over::run,
    )
    .fixed_with(OneChange::UndividedInput { leads: true }),
    Check::new(
        codes::LEVEL_HIGH,
        FAMILY,
        "a signal's high level misses its receiver's threshold, or meets it without margin",
        &[Fault, Caution, Unknown],
        met::high,
    ),
    Check::new(
        codes::LEVEL_LOW,
        FAMILY,
        "a signal's low level misses its receiver's threshold, or meets it without margin",
        &[Fault, Caution, Unknown],
        met::low,
    ),
    Check::new(
        codes::SHIFTER_DIRECTION,
        FAMILY,
        "a level shifter's supplies are swapped, it sends the wrong way, or it is too slow",
        &[Fault],
        direction::run,
    ),
    Check::new(
        codes::BUS_PULLS,
        FAMILY,
        "the pull-ups of a bus are missing, too strong, too weak or go to the wrong volts; or two addresses are equal",
        &[Fault, Caution, Unknown],
        bus_pulls::run,
    ),
];
