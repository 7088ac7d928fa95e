//! Pins: whether they exist, whether they can, what they carry.

pub(crate) mod cannot;
pub(crate) mod carries;
pub(crate) mod claimed;
pub(crate) mod coil;
mod keys;
pub(crate) mod named;
pub(crate) mod reserved;
pub(crate) mod shared;
pub(crate) mod tied;

use crate::findings::change::Change::{Concession, Keys, Pin, Rail, Stage};
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
    )
    .fixed_by(&[Pin])
    .naming_no_state(),
    Check::new(
        codes::PIN_NOT_SIGNAL,
        FAMILY,
        "a signal is assigned to a supply, ground, reset or unconnected pin",
        &[Fault],
        named::not_signal,
    )
    .fixed_by(&[Pin])
    .naming_no_state(),
    Check::new(codes::PIN_SHARED, FAMILY, "two jobs use the same pin", &[Fault], shared::run)
        .fixed_by(&[Pin, Concession(keys::PIN_SHARED)])
        .naming_no_state(),
    Check::new(
        codes::PIN_CANNOT,
        FAMILY,
        "a pin lacks a function that its job needs, or loses it to the radio",
        &[Fault, Unknown],
        cannot::run,
    )
    .fixed_by(&[Pin])
    .naming_no_state(),
    Check::new(
        codes::PIN_RESERVED,
        FAMILY,
        "a pin is used by the board itself, or its job changes the level that it needs at boot",
        &[Caution],
        reserved::run,
    )
    .fixed_by(&[Pin])
    .naming_no_state(),
    Check::new(
        codes::PIN_OVERLOADED,
        FAMILY,
        "a pin, a group of pins or all pins of a board carry more than their rating",
        &[Danger, Caution, Unknown],
        carries::run,
    )
    .fixed_by(&[Keys(keys::PIN_OVERLOADED), Stage, Rail])
    .fixed_with(OneChange::PinOfJob),
    Check::new(
        codes::PIN_DRIVES_COIL,
        FAMILY,
        "a motor, coil or lamp is connected to a pin without a driver",
        &[Danger, Unknown],
        coil::run,
    )
    .fixed_by(&[Stage, Rail])
    .fixed_with(OneChange::LoadOfPin),
    Check::new(codes::OUTPUT_CONTENTION, FAMILY, "two outputs drive one wire", &[Danger], tied::run)
        .fixed_by(&[Keys(keys::OUTPUT_CONTENTION), Pin])
        .naming_no_state(),
    Check::new(
        codes::STACK_PIN_CONFLICT,
        FAMILY,
        "two stacked boards use the same pin of their host",
        &[Fault],
        claimed::run,
    )
    .fixed_by(&[Pin])
    .naming_no_state(),
];
