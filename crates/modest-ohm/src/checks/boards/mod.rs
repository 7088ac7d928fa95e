//! Boards: selectors and negotiated volts, ports, USB, signals into what has no power.

pub(crate) mod low_side;
pub(crate) mod ports;
pub(crate) mod profile;
pub(crate) mod selector;
pub(crate) mod signal_power;
pub(crate) mod unregulated;
pub(crate) mod usb;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "selector-mismatch",
        family: "boards",
        title: "a device's voltage selector stands at other volts than feed it",
        severities: &[Danger],
        about: include_str!("../../about/selector-mismatch.md"),
        solves: Solves::Nothing,
        run: selector::run,
    },
    Check {
        code: "profile-not-offered",
        family: "boards",
        title: "a negotiated source is asked for volts that it does not list",
        severities: &[Fault, Unknown],
        about: include_str!("../../about/profile-not-offered.md"),
        solves: Solves::Nothing,
        run: profile::not_offered,
    },
    Check {
        code: "profile-power",
        family: "boards",
        title: "a negotiated source is asked for more current than its profile or lead gives",
        severities: &[Fault],
        about: include_str!("../../about/profile-power.md"),
        solves: Solves::Nothing,
        run: profile::power,
    },
    Check {
        code: "unregulated-input",
        family: "boards",
        title: "a board's unregulated input is beyond its absolute or recommended volts",
        severities: &[Danger, Caution],
        about: include_str!("../../about/unregulated-input.md"),
        solves: Solves::Nothing,
        run: unregulated::run,
    },
    Check {
        code: "usb-while-fed",
        family: "boards",
        title: "with a computer plugged in, current or volts go where they should not",
        severities: &[Danger, Fault, Caution],
        about: include_str!("../../about/usb-while-fed.md"),
        solves: Solves::Nothing,
        run: usb::run,
    },
    Check {
        code: "ports-exhausted",
        family: "boards",
        title: "more consumers than a board has ports",
        severities: &[Fault],
        about: include_str!("../../about/ports-exhausted.md"),
        solves: Solves::Nothing,
        run: ports::exhausted,
    },
    Check {
        code: "port-overloaded",
        family: "boards",
        title: "a port carries more than its limit or its fuse, or all ports more than the board",
        severities: &[Danger],
        about: include_str!("../../about/port-overloaded.md"),
        solves: Solves::Nothing,
        run: ports::overloaded,
    },
    Check {
        code: "powered-through-signal",
        family: "boards",
        title: "a signal feeds a part that has no power",
        severities: &[Fault, Caution],
        about: include_str!("../../about/powered-through-signal.md"),
        solves: Solves::Nothing,
        run: signal_power::run,
    },
    Check {
        code: "low-side-with-signal",
        family: "boards",
        title: "a part with a signal line is switched in its −",
        severities: &[Fault],
        about: include_str!("../../about/low-side-with-signal.md"),
        solves: Solves::Nothing,
        run: low_side::run,
    },
];
