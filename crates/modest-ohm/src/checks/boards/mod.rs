//! Boards: selectors and negotiated voltage, ports, USB, signals into what has no power.

mod keys;
pub(crate) mod low_side;
pub(crate) mod ports;
pub(crate) mod profile;
pub(crate) mod selector;
pub(crate) mod signal_power;
pub(crate) mod undo;
pub(crate) mod unregulated;
pub(crate) mod usb;

use crate::findings::change::Change::{FirmwareLimit, Keys, OwnRail, Rail, Rating, Remove, Voltage};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "boards";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::SELECTOR_MISMATCH,
        FAMILY,
        "a device's voltage selector differs from its supply voltage",
        &[Danger],
        selector::run,
    )
    .fixed_by(&[Voltage, Rail]),
    Check::new(
        codes::PROFILE_NOT_OFFERED,
        FAMILY,
        "a negotiated source is set to a voltage that it does not offer",
        &[Fault, Unknown],
        profile::not_offered,
    )
    .fixed_by(&[Voltage, Rail])
    .undone_by(undo::grant),
    Check::new(
        codes::PROFILE_POWER,
        FAMILY,
        "a negotiated source must supply more current than its profile or cable allows",
        &[Fault],
        profile::power,
    )
    .fixed_by(&[Keys(keys::PROFILE_POWER), Rating]),
    Check::new(
        codes::UNREGULATED_INPUT,
        FAMILY,
        "the voltage at a board's unregulated input is outside its absolute or recommended range",
        &[Danger, Caution, Advisory],
        unregulated::run,
    )
    .fixed_by(&[Voltage, Rail]),
    Check::new(
        codes::USB_WHILE_FED,
        FAMILY,
        "a connected computer is overloaded or back-fed",
        &[Danger, Fault, Caution],
        usb::run,
    )
    .fixed_by(&[Remove, Keys(keys::USB_WHILE_FED)]),
    Check::new(codes::PORTS_EXHAUSTED, FAMILY, "more consumers than a board has ports", &[Fault], ports::exhausted)
        .fixed_by(&[Rail, OwnRail]),
    Check::new(
        codes::PORT_OVERLOADED,
        FAMILY,
        "a port carries more than its limit or fuse, or all ports together more than the board",
        &[Danger],
        ports::overloaded,
    )
    .fixed_by(&[FirmwareLimit, Rating])
    .of_its_own_limit(),
    Check::new(
        codes::POWERED_THROUGH_SIGNAL,
        FAMILY,
        "a signal powers a part whose supply is off",
        &[Fault, Caution],
        signal_power::run,
    )
    .fixed_by(&[Keys(keys::POWERED_THROUGH_SIGNAL)])
    .naming_no_state(),
    Check::new(
        codes::LOW_SIDE_WITH_SIGNAL,
        FAMILY,
        "a part with a signal line is switched in its return",
        &[Fault],
        low_side::run,
    )
    .fixed_by(&[Keys(keys::LOW_SIDE_WITH_SIGNAL)])
    .naming_no_state(),
];
