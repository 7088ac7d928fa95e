//! Pins: whether they exist, whether they can, what they carry.

pub(crate) mod cannot;
pub(crate) mod carries;
pub(crate) mod claimed;
pub(crate) mod coil;
pub(crate) mod named;
pub(crate) mod reserved;
pub(crate) mod shared;
pub(crate) mod tied;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "pin-unknown",
        family: "pins",
        title: "a board has no pin of this name, or none is chosen yet",
        severities: &[Fault, Unknown],
        about: include_str!("../../about/pin-unknown.md"),
        solves: Solves::Nothing,
        run: named::unknown,
    },
    Check {
        code: "pin-not-signal",
        family: "pins",
        title: "a signal is given a supply, ground, reset or open pin",
        severities: &[Fault],
        about: include_str!("../../about/pin-not-signal.md"),
        solves: Solves::Nothing,
        run: named::not_signal,
    },
    Check {
        code: "pin-shared",
        family: "pins",
        title: "two jobs have the same pin",
        severities: &[Fault],
        about: include_str!("../../about/pin-shared.md"),
        solves: Solves::Nothing,
        run: shared::run,
    },
    Check {
        code: "pin-cannot",
        family: "pins",
        title: "a pin lacks an ability that its job needs, or loses it to the radio",
        severities: &[Fault, Unknown],
        about: include_str!("../../about/pin-cannot.md"),
        solves: Solves::Nothing,
        run: cannot::run,
    },
    Check {
        code: "pin-reserved",
        family: "pins",
        title: "a pin that the board needs itself, or that has to have a level at the start which its job changes",
        severities: &[Caution],
        about: include_str!("../../about/pin-reserved.md"),
        solves: Solves::Nothing,
        run: reserved::run,
    },
    Check {
        code: "pin-overloaded",
        family: "pins",
        title: "a pin, a group of pins or all pins of a board carry more direct current than they may",
        severities: &[Danger, Caution, Unknown],
        about: include_str!("../../about/pin-overloaded.md"),
        solves: Solves::Nothing,
        run: carries::run,
    },
    Check {
        code: "pin-drives-coil",
        family: "pins",
        title: "a motor, coil or lamp hangs on a pin without a stage between",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/pin-drives-coil.md"),
        solves: Solves::Nothing,
        run: coil::run,
    },
    Check {
        code: "outputs-tied",
        family: "pins",
        title: "two outputs drive one wire",
        severities: &[Danger],
        about: include_str!("../../about/outputs-tied.md"),
        solves: Solves::Nothing,
        run: tied::run,
    },
    Check {
        code: "pins-claimed",
        family: "pins",
        title: "two stacked boards take the same pin of their host",
        severities: &[Fault],
        about: include_str!("../../about/pins-claimed.md"),
        solves: Solves::Nothing,
        run: claimed::run,
    },
];
