//! Wires and contacts.

pub(crate) mod cable_unknown;
pub(crate) mod contact;
pub(crate) mod overloaded;
pub(crate) mod starved;
pub(crate) mod voltage_drop;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "wire-overloaded",
        family: "wire",
        title: "the wanted continuous current is above what a wire carries at this ambient",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/wire-overloaded.md"),
        solves: Solves::Nothing,
        run: overloaded::run,
    },
    Check {
        code: "contact-overloaded",
        family: "wire",
        title: "the wanted continuous current is above what a plug, terminal or other contact carries",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/contact-overloaded.md"),
        solves: Solves::Nothing,
        run: contact::run,
    },
    Check {
        code: "return-starved",
        family: "wire",
        title: "a return has less copper than its feed",
        severities: &[Caution],
        about: include_str!("../../about/return-starved.md"),
        solves: Solves::Nothing,
        run: starved::run,
    },
    Check {
        code: "voltage-drop",
        family: "wire",
        title: "a consumer without regulation loses more of its source's volts than the policy allows",
        severities: &[Caution, Advice],
        about: include_str!("../../about/voltage-drop.md"),
        solves: Solves::Nothing,
        run: voltage_drop::run,
    },
    Check {
        code: "cable-unknown",
        family: "wire",
        title: "something draws more than 0.5 A over a lead that the plan does not give",
        severities: &[Unknown],
        about: include_str!("../../about/cable-unknown.md"),
        solves: Solves::Nothing,
        run: cable_unknown::run,
    },
];
