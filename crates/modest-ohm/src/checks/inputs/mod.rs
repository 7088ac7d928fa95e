//! Inputs: what holds them, what divides them, how they are looked at.

pub(crate) mod floating;
pub(crate) mod sampled;
pub(crate) mod wetting;

use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "inputs";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(codes::INPUT_FLOATING, FAMILY, "an input floats while its contact is open", &[Caution], floating::run),
    Check::new(
        codes::DIVIDER_RANGE,
        FAMILY,
        "a divider's output is above the pin's rating or range, or below its high level; or it lets transients \
        through",
        &[Danger, Fault, Caution, Advisory],
        crate::checks::shared::divider::range,
    )
    .fixed_with(OneChange::UndividedInput { leads: false }),
    Check::new(
        codes::DIVIDER_SOURCE,
        FAMILY,
        "the source resistance of an analogue input is too high",
        &[Caution],
        crate::checks::shared::divider::source,
    ),
    Check::new(
        codes::SAMPLED_TOO_SLOWLY,
        FAMILY,
        "pulses are shorter than the polling interval of an input",
        &[Fault, Caution, Unknown],
        sampled::run,
    ),
    Check::new(
        codes::CONTACT_WETTING,
        FAMILY,
        "a power contact carries too little current to stay clean",
        &[Caution],
        wetting::run,
    ),
];
