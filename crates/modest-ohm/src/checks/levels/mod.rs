//! Levels: what a sender gives, what a receiver needs and stands, on signals in addition to pixel data.

pub(crate) mod bus_pulls;
pub(crate) mod direction;
pub(crate) mod hung;
mod keys;
pub(crate) mod met;
pub(crate) mod opto;
pub(crate) mod over;

use crate::findings::change::Change::{Divider, Keys, Level, Rail, Wire};
use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "levels";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::PIN_OVERVOLTAGE,
        FAMILY,
        "a signal is above what an input withstands, or below its ground",
        &[Danger, Fault, Caution, Advisory],
        over::run,
    )
    .fixed_by(&[Divider, Keys(keys::PIN_OVERVOLTAGE), Level])
    .fixed_with(OneChange::UndividedInput { leads: true }),
    Check::new(
        codes::LEVEL_HIGH,
        FAMILY,
        "a signal's high level is below its receiver's threshold, or has no margin",
        &[Fault, Caution, Unknown],
        met::high,
    )
    .fixed_by(&[Keys(keys::LEVEL_HIGH), Level, Wire]),
    Check::new(
        codes::LEVEL_LOW,
        FAMILY,
        "a signal's low level is above its receiver's threshold, or has no margin",
        &[Fault, Caution, Unknown],
        met::low,
    )
    .fixed_by(&[Keys(keys::LEVEL_LOW), Level, Wire]),
    Check::new(
        codes::SHIFTER_DIRECTION,
        FAMILY,
        "a level shifter's supplies are swapped, it drives in the wrong direction, or it is too slow",
        &[Fault],
        direction::run,
    )
    .fixed_by(&[Keys(keys::SHIFTER_DIRECTION)])
    .beside_nominal(),
    Check::new(
        codes::BUS_PULL_UPS,
        FAMILY,
        "a bus has no pull-ups, or they are too strong, too weak or at the wrong voltage; or two addresses are equal",
        &[Fault, Caution, Unknown],
        bus_pulls::run,
    )
    .fixed_by(&[Keys(keys::BUS_PULL_UPS), Rail, Level]),
];
