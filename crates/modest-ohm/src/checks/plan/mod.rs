//! The plan itself: what is unused, unfed, out of reach, or accepted in vain.

pub(crate) mod unfed;
pub(crate) mod unreachable;
pub(crate) mod unused;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Advice, Caution, Fault};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "unfed",
        family: "plan",
        title: "something is declared and used, and a run on its way is disconnected",
        severities: &[Fault],
        about: include_str!("../../about/unfed.md"),
        solves: Solves::Nothing,
        run: unfed::run,
    },
    Check {
        code: "unreachable",
        family: "plan",
        title: "a data line never starts at a pin",
        severities: &[Fault],
        about: include_str!("../../about/unreachable.md"),
        solves: Solves::Nothing,
        run: unreachable::run,
    },
    Check {
        code: "unused",
        family: "plan",
        title: "nothing uses it",
        severities: &[Caution],
        about: include_str!("../../about/unused.md"),
        solves: Solves::Nothing,
        run: unused::run,
    },
    Check {
        code: "acceptance-stale",
        family: "plan",
        title: "an acceptance matches no finding",
        severities: &[Caution],
        about: include_str!("../../about/acceptance-stale.md"),
        // Runs when all findings are known: `acceptance::accept`.
        solves: Solves::Nothing,
        run: |_, _| {},
    },
    Check {
        code: "verdict-hangs",
        family: "plan",
        title: "an assumed figure decides a verdict within its spread",
        severities: &[Advice],
        about: include_str!("../../about/verdict-hangs.md"),
        // Runs when all findings are known: `review::hangs`.
        solves: Solves::Nothing,
        run: |_, _| {},
    },
];
