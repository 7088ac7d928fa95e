//! Grounds: whether signals have one, what it shifts by, whose current it carries, what is to have none.

pub(crate) mod common;
pub(crate) mod isolation;
pub(crate) mod shift;
pub(crate) mod through;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger, Fault};

/// The family's name.
const FAMILY: &str = "grounds";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::GROUND_NOT_COMMON,
        FAMILY,
        "a signal runs between two grounds that nothing joins",
        &[Fault],
        common::run,
    )
    .naming_no_state(),
    Check::new(
        codes::GROUND_SHIFT,
        FAMILY,
        "ground shift leaves a signal too little margin",
        &[Fault, Caution],
        shift::run,
    ),
    Check::new(
        codes::GROUND_THROUGH_LOGIC,
        FAMILY,
        "a load's current returns through a board or a signal cable, as wired or when one return opens",
        &[Danger, Caution],
        through::run,
    )
    .solving(Solves::Variants),
    Check::new(
        codes::ISOLATION_BROKEN,
        FAMILY,
        "a tie joins two grounds that are to be isolated",
        &[Caution],
        isolation::run,
    ),
];
