//! Fuses, and what protects each lead.

pub(crate) mod cure;
pub(crate) mod protection;
pub(crate) mod rating;
pub(crate) mod small;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "fuse-missing",
        family: "fuse",
        title: "neither a fuse nor its source's limit protects a lead",
        severities: &[Danger, Caution, Advice, Unknown],
        about: include_str!("../../about/fuse-missing.md"),
        solves: Solves::Nothing,
        run: protection::missing,
    },
    Check {
        code: "fuse-too-large",
        family: "fuse",
        title: "a fuse is larger than a lead behind it allows",
        severities: &[Danger, Caution, Advice],
        about: include_str!("../../about/fuse-too-large.md"),
        solves: Solves::Nothing,
        run: protection::too_large,
    },
    Check {
        code: "fuse-cannot-act",
        family: "fuse",
        title: "what surely flows into a short does not open the fuse",
        severities: &[Danger, Caution, Advice],
        about: include_str!("../../about/fuse-cannot-act.md"),
        solves: Solves::Nothing,
        run: protection::cannot_act,
    },
    Check {
        code: "fuse-too-small",
        family: "fuse",
        title: "a fuse carries more than its rating, or more of it than it stands for ever",
        severities: &[Fault, Caution],
        about: include_str!("../../about/fuse-too-small.md"),
        solves: Solves::Nothing,
        run: small::run,
    },
    Check {
        code: "fuse-rating",
        family: "fuse",
        title: "a fuse cannot interrupt the volts or the current of a short",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/fuse-rating.md"),
        solves: Solves::Nothing,
        run: rating::run,
    },
];
