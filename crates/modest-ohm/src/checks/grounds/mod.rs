//! Grounds: whether signals have one, what it shifts by, whose current it carries, what is to have none.

pub(crate) mod common;
pub(crate) mod isolation;
mod keys;
pub(crate) mod shift;
pub(crate) mod through;

use crate::derived::solves::Solves;
use crate::findings::change::Change::{Ground, Keys, Remove, Wire};
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
    .fixed_by(&[Ground, Keys(keys::GROUND_NOT_COMMON), Wire])
    .naming_no_state(),
    Check::new(
        codes::GROUND_SHIFT,
        FAMILY,
        "ground shift leaves a signal too little margin",
        &[Fault, Caution],
        shift::run,
    )
    .fixed_by(&[Wire, Ground]),
    Check::new(
        codes::GROUND_THROUGH_LOGIC,
        FAMILY,
        "a load's current returns through a board or a signal cable, as wired or when one return opens",
        &[Danger, Caution],
        through::run,
    )
    .fixed_by(&[Ground, Wire])
    .solving(Solves::Variants),
    Check::new(
        codes::ISOLATION_BROKEN,
        FAMILY,
        "a tie joins two grounds that are to be isolated",
        &[Caution],
        isolation::run,
    )
    .fixed_by(&[Remove]),
];
