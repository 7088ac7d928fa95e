//! Pins: whether they exist, whether they can, what they carry.

pub(crate) mod cannot;
pub(crate) mod carries;
pub(crate) mod claimed;
pub(crate) mod coil;
pub(crate) mod named;
pub(crate) mod reserved;
pub(crate) mod shared;
pub(crate) mod tied;

use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "pins";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::PIN_UNKNOWN,
        FAMILY,
        "a board has no pin of this name, or none is chosen yet",
        &[Fault, Unknown],
        named::unknown,
    ),
    Check::new(
        codes::PIN_NOT_SIGNAL,
        FAMILY,
        "a signal is given a supply, ground, reset or open pin",
        &[Fault],
        named::not_signal,
    ),
    Check::new(codes::PIN_SHARED, FAMILY, "two jobs have the same pin", &[Fault], shared::run),
    Check::new(
        codes::PIN_CANNOT,
        FAMILY,
        "a pin lacks an ability that its job needs, or loses it to the radio",
        &[Fault, Unknown],
        cannot::run,
    ),
    Check::new(
        codes::PIN_RESERVED,
        FAMILY,
        "a pin that the board needs itself, or that has to have a level at the start which its job changes",
        &[Caution],
        reserved::run,
    ),
    Check::new(
        codes::PIN_OVERLOADED,
        FAMILY,
        "a pin, a group of pins or all pins of a board carry more direct current than they may",
        &[Danger, Caution, Unknown],
        carries::run,
    )
    .fixed_with(OneChange::PinOfJob),
    Check::new(
        codes::PIN_DRIVES_COIL,
        FAMILY,
        "a motor, coil or lamp hangs on a pin without a stage between",
        &[Danger, Unknown],
        coil::run,
    )
    .fixed_with(OneChange::LoadOfPin),
    Check::new(codes::OUTPUTS_TIED, FAMILY, "two outputs drive one wire", &[Danger], tied::run),
    Check::new(
        codes::PINS_CLAIMED,
        FAMILY,
        "two stacked boards take the same pin of their host",
        &[Fault],
        claimed::run,
    ),
];
