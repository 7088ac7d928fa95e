//! Joints and lead ends: what goes into what, what meets what.

pub(crate) mod colours;
pub(crate) mod confusable;
pub(crate) mod crowded;
pub(crate) mod ends;
pub(crate) mod fits;
pub(crate) mod mates;
pub(crate) mod meets;
pub(crate) mod pins;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Caution, Fault};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "ends-do-not-mate",
        family: "joint",
        title: "the two halves of a plug pair are of other families, or of one gender",
        severities: &[Fault],
        about: include_str!("../../about/ends-do-not-mate.md"),
        solves: Solves::Nothing,
        run: mates::run,
    },
    Check {
        code: "pin-in-order",
        family: "joint",
        title: "the contacts of two halves that meet carry other things",
        severities: &[Fault, Caution],
        about: include_str!("../../about/pin-in-order.md"),
        solves: Solves::Nothing,
        run: pins::run,
    },
    Check {
        code: "wire-does-not-fit",
        family: "joint",
        title: "a conductor is too thick or too thin for what it goes into",
        severities: &[Fault, Caution],
        about: include_str!("../../about/wire-does-not-fit.md"),
        solves: Solves::Nothing,
        run: fits::run,
    },
    Check {
        code: "terminal-crowded",
        family: "joint",
        title: "more wires go into a joint than it has places for",
        severities: &[Caution],
        about: include_str!("../../about/terminal-crowded.md"),
        solves: Solves::Nothing,
        run: crowded::run,
    },
    Check {
        code: "end-unsuited",
        family: "joint",
        title: "a lead end is made in a way that does not hold in what it goes into",
        severities: &[Caution],
        about: include_str!("../../about/end-unsuited.md"),
        solves: Solves::Nothing,
        run: ends::run,
    },
    Check {
        code: "colour-misleads",
        family: "joint",
        title: "one colour means two things on one path",
        severities: &[Caution],
        about: include_str!("../../about/colour-misleads.md"),
        solves: Solves::Nothing,
        run: colours::run,
    },
    Check {
        code: "connector-confusable",
        family: "joint",
        title: "nodes of different volts show connectors that mate with each other",
        severities: &[Caution],
        about: include_str!("../../about/connector-confusable.md"),
        solves: Solves::Nothing,
        run: confusable::run,
    },
];
