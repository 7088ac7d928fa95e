//! Boards: selectors and negotiated volts, ports, USB, signals into what has no power.

pub(crate) mod low_side;
pub(crate) mod ports;
pub(crate) mod profile;
pub(crate) mod selector;
pub(crate) mod signal_power;
pub(crate) mod undo;
pub(crate) mod unregulated;
pub(crate) mod usb;

use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "boards";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::SELECTOR_MISMATCH,
        FAMILY,
        "a device's voltage selector stands at other volts than feed it",
        &[Danger],
        selector::run,
    ),
    Check::new(
        codes::PROFILE_NOT_OFFERED,
        FAMILY,
        "a negotiated source is asked for volts that it does not list",
        &[Fault, Unknown],
        profile::not_offered,
    )
    .undone_by(undo::grant),
    Check::new(
        codes::PROFILE_POWER,
        FAMILY,
        "a negotiated source is asked for more current than its profile or lead gives",
        &[Fault],
        profile::power,
    ),
    Check::new(
        codes::UNREGULATED_INPUT,
        FAMILY,
        "a board's unregulated input is beyond its absolute or recommended volts",
        &[Danger, Caution, Advice],
        unregulated::run,
    ),
    Check::new(
        codes::USB_WHILE_FED,
        FAMILY,
        "with a computer plugged in, current or volts go where they should not",
        &[Danger, Fault, Caution],
        usb::run,
    ),
    Check::new(codes::PORTS_EXHAUSTED, FAMILY, "more consumers than a board has ports", &[Fault], ports::exhausted),
    Check::new(
        codes::PORT_OVERLOADED,
        FAMILY,
        "a port carries more than its limit or its fuse, or all ports more than the board",
        &[Danger],
        ports::overloaded,
    )
    .of_its_own_limit(),
    Check::new(
        codes::POWERED_THROUGH_SIGNAL,
        FAMILY,
        "a signal feeds a part that has no power",
        &[Fault, Caution],
        signal_power::run,
    ),
    Check::new(
        codes::LOW_SIDE_WITH_SIGNAL,
        FAMILY,
        "a part with a signal line is switched in its −",
        &[Fault],
        low_side::run,
    ),
];
