//! Inputs: what holds them, what divides them, how they are looked at.

pub(crate) mod floating;
mod keys;
pub(crate) mod sampled;
pub(crate) mod wetting;

use crate::findings::change::Change::{Divider, Keys};
use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "inputs";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(codes::INPUT_FLOATING, FAMILY, "an input floats while its contact is open", &[Caution], floating::run)
        .fixed_by(&[Keys(keys::INPUT_FLOATING)]),
    Check::new(
        codes::DIVIDER_RANGE,
        FAMILY,
        "a divider's output is above the pin's rating or range, or below its high level; or it lets transients \
        through",
        &[Danger, Fault, Caution, Advisory],
        crate::checks::shared::divider::range,
    )
    .fixed_by(&[Divider, Keys(keys::DIVIDER_RANGE)])
    .fixed_with(OneChange::UndividedInput { leads: false }),
    Check::new(
        codes::DIVIDER_SOURCE,
        FAMILY,
        "the source resistance of an analogue input is too high",
        &[Caution],
        crate::checks::shared::divider::source,
    )
    .fixed_by(&[Keys(keys::DIVIDER_SOURCE)]),
    Check::new(
        codes::SAMPLED_TOO_SLOWLY,
        FAMILY,
        "pulses are shorter than the polling interval of an input",
        &[Fault, Caution, Unknown],
        sampled::run,
    )
    .fixed_by(&[Keys(keys::SAMPLED_TOO_SLOWLY)]),
    Check::new(
        codes::CONTACT_WETTING,
        FAMILY,
        "a power contact carries too little current to stay clean",
        &[Caution],
        wetting::run,
    )
    .fixed_by(&[Keys(keys::CONTACT_WETTING)]),
];
