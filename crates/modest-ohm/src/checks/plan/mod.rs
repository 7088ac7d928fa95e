//! The plan itself: what is unused, unfed, out of reach, or accepted in vain.

pub(crate) mod implausible;
mod keys;
pub(crate) mod polarity;
pub(crate) mod unfed;
pub(crate) mod unreachable;
pub(crate) mod unused;

use crate::findings::change::Change::{Keys, OwnRail, Pin, Rail, Remove};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault};

/// The family's name.
const FAMILY: &str = "plan";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::NOT_POWERED,
        FAMILY,
        "a part has no power because something upstream is disconnected",
        &[Fault],
        unfed::run,
    )
    .fixed_by(&[Keys(keys::NOT_POWERED), Rail, OwnRail]),
    Check::new(
        codes::HEADER_POLARITY,
        FAMILY,
        "a cable's positive is on a ground position of a header, or its return on a supply position",
        &[Danger, Fault],
        polarity::run,
    )
    .fixed_by(&[Pin]),
    Check::new(
        codes::FIGURE_IMPLAUSIBLE,
        FAMILY,
        "a value of the plan is implausible for such a part",
        &[Caution],
        implausible::run,
    ),
    Check::new(codes::DATA_MISSING, FAMILY, "a data line does not start at a pin", &[Fault], unreachable::run)
        .fixed_by(&[Pin]),
    Check::new(codes::UNUSED, FAMILY, "nothing uses it", &[Caution], unused::run).fixed_by(&[Remove]),
    // Runs when all findings are known: `acceptance::accept`.
    Check::new(codes::ACCEPTANCE_STALE, FAMILY, "an acceptance matches no finding", &[Caution], |_, _| {})
        .fixed_by(&[Remove]),
    // Runs when all findings are known: `review::hangs`.
    Check::new(codes::ASSUMPTION_DECIDES, FAMILY, "a verdict depends on an assumed value", &[Advisory], |_, _| {})
        .about_the_feed(),
];
