//! Windings that are let go: whether their current has a path, what that path takes, what it does to others.

pub(crate) mod arc;
pub(crate) mod clamp;
pub(crate) mod missing;
pub(crate) mod noise;
pub(crate) mod rating;
pub(crate) mod reversed;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Caution, Danger, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "flyback-missing",
        family: "coils",
        title: "a winding behind a semiconductor has no path for its current when it is let go",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/flyback-missing.md"),
        solves: Solves::Nothing,
        run: missing::run,
    },
    Check {
        code: "flyback-rating",
        family: "coils",
        title: "a flyback diode carries more than it stands, is too slow, or breaks down at the supply",
        severities: &[Danger, Caution, Unknown],
        about: include_str!("../../about/flyback-rating.md"),
        solves: Solves::Nothing,
        run: rating::run,
    },
    Check {
        code: "flyback-reversed",
        family: "coils",
        title: "a flyback diode is the wrong way round, or across what is driven both ways",
        severities: &[Danger],
        about: include_str!("../../about/flyback-reversed.md"),
        solves: Solves::Nothing,
        run: reversed::run,
    },
    Check {
        code: "clamp-voltage",
        family: "coils",
        title: "a clamp at a switch conducts at the supply, or lets through more than the switch holds off",
        severities: &[Danger, Caution],
        about: include_str!("../../about/clamp-voltage.md"),
        solves: Solves::Nothing,
        run: clamp::run,
    },
    Check {
        code: "contact-arc",
        family: "coils",
        title: "a contact switches a winding that nothing damps",
        severities: &[Caution],
        about: include_str!("../../about/contact-arc.md"),
        solves: Solves::Nothing,
        run: arc::run,
    },
    Check {
        code: "noise-shared",
        family: "coils",
        title: "a winding that starts pulls the volts of a board down with it",
        severities: &[Caution],
        about: include_str!("../../about/noise-shared.md"),
        solves: Solves::Nothing,
        run: noise::run,
    },
];
