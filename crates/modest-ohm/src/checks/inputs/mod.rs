//! Inputs: what holds them, what divides them, how they are looked at.

pub(crate) mod floating;
pub(crate) mod sampled;
pub(crate) mod wetting;

use crate::findings::check::{Check, OneChange};
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "inputs";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::INPUT_FLOATING,
        FAMILY,
        "nothing holds an input while its contact is open",
        &[Caution],
        floating::run,
    ),
    Check::new(
        codes::DIVIDER_RANGE,
        FAMILY,
        "a divider gives more than its pin stands or reads, or less than it takes as high; or transients come through",
        &[Danger, Fault, Caution, Advice],
        crate::checks::shared::divider::range,
    )
    .fixed_with(OneChange::UndividedInput { leads: false }),
    Check::new(
        codes::DIVIDER_SOURCE,
        FAMILY,
        "an analogue input is fed through more ohms than it wants",
        &[Caution],
        crate::checks::shared::divider::source,
    ),
    Check::new(
        codes::SAMPLED_TOO_SLOWLY,
        FAMILY,
        "pulses come faster than an input is looked at",
        &[Fault, Caution, Unknown],
        sampled::run,
    ),
    Check::new(
        codes::CONTACT_WETTING,
        FAMILY,
        "a contact made for power gets too little current to keep itself clean",
        &[Caution],
        wetting::run,
    ),
];
