//! The plan itself: what is unused, unfed, out of reach, or accepted in vain.

pub(crate) mod implausible;
pub(crate) mod polarity;
pub(crate) mod unfed;
pub(crate) mod unreachable;
pub(crate) mod unused;

use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault};

/// The family's name.
const FAMILY: &str = "plan";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::UNFED,
        FAMILY,
        "something is declared and used, and a run on its way is disconnected",
        &[Fault],
        unfed::run,
    ),
    Check::new(
        codes::HEADER_POLARITY,
        FAMILY,
        "a lead's + is on a ground position of a header, or its − on a supply position",
        &[Danger, Fault],
        polarity::run,
    ),
    Check::new(
        codes::FIGURE_IMPLAUSIBLE,
        FAMILY,
        "a figure of the plan that no such part has",
        &[Caution],
        implausible::run,
    ),
    Check::new(codes::UNREACHABLE, FAMILY, "a data line never starts at a pin", &[Fault], unreachable::run),
    Check::new(codes::UNUSED, FAMILY, "nothing uses it", &[Caution], unused::run),
    // Runs when all findings are known: `acceptance::accept`.
    Check::new(codes::ACCEPTANCE_STALE, FAMILY, "an acceptance matches no finding", &[Caution], |_, _| {}),
    // Runs when all findings are known: `review::hangs`.
    Check::new(
        codes::VERDICT_HANGS,
        FAMILY,
        "an assumed figure decides a verdict within its spread",
        &[Advice],
        |_, _| {},
    )
    .about_the_feed(),
];
