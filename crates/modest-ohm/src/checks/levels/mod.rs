//! Levels: what a sender gives, what a receiver wants and stands, on signals besides pixel data.

pub(crate) mod bus_pulls;
pub(crate) mod direction;
pub(crate) mod met;
pub(crate) mod opto;
pub(crate) mod over;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "pin-overvoltage",
        family: "levels",
        title: "a signal lies above what an input stands, or below its ground",
        severities: &[Danger, Caution],
        about: include_str!("../../about/pin-overvoltage.md"),
        solves: Solves::Nothing,
        run: over::run,
    },
    Check {
        code: "level-high",
        family: "levels",
        title: "a signal's high level misses its receiver's threshold, or meets it without margin",
        severities: &[Fault, Caution, Unknown],
        about: include_str!("../../about/level-high.md"),
        solves: Solves::Nothing,
        run: met::high,
    },
    Check {
        code: "level-low",
        family: "levels",
        title: "a signal's low level misses its receiver's threshold, or meets it without margin",
        severities: &[Fault, Caution, Unknown],
        about: include_str!("../../about/level-low.md"),
        solves: Solves::Nothing,
        run: met::low,
    },
    Check {
        code: "shifter-direction",
        family: "levels",
        title: "a level shifter's supplies are swapped, it sends the wrong way, or it is too slow",
        severities: &[Fault],
        about: include_str!("../../about/shifter-direction.md"),
        solves: Solves::Nothing,
        run: direction::run,
    },
    Check {
        code: "bus-pulls",
        family: "levels",
        title: "the pull-ups of a bus are missing, too strong, too weak or go to the wrong volts; or two addresses are equal",
        severities: &[Fault, Caution, Unknown],
        about: include_str!("../../about/bus-pulls.md"),
        solves: Solves::Nothing,
        run: bus_pulls::run,
    },
];
