//! Inputs: what holds them, what divides them, how they are looked at.

pub(crate) mod floating;
pub(crate) mod sampled;
pub(crate) mod wetting;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "input-floating",
        family: "inputs",
        title: "nothing holds an input while its contact is open",
        severities: &[Caution],
        about: include_str!("../../about/input-floating.md"),
        solves: Solves::Nothing,
        run: floating::run,
    },
    Check {
        code: "divider-range",
        family: "inputs",
        title: "a divider gives more than its pin stands or reads, or less than it takes as high; or transients come through",
        severities: &[Danger, Fault, Caution],
        about: include_str!("../../about/divider-range.md"),
        solves: Solves::Nothing,
        run: crate::checks::shared::divider::range,
    },
    Check {
        code: "divider-source",
        family: "inputs",
        title: "an analogue input is fed through more ohms than it wants",
        severities: &[Caution],
        about: include_str!("../../about/divider-source.md"),
        solves: Solves::Nothing,
        run: crate::checks::shared::divider::source,
    },
    Check {
        code: "sampled-too-slowly",
        family: "inputs",
        title: "pulses come faster than an input is looked at",
        severities: &[Fault, Caution, Unknown],
        about: include_str!("../../about/sampled-too-slowly.md"),
        solves: Solves::Nothing,
        run: sampled::run,
    },
    Check {
        code: "contact-wetting",
        family: "inputs",
        title: "a contact made for power gets too little current to keep itself clean",
        severities: &[Caution],
        about: include_str!("../../about/contact-wetting.md"),
        solves: Solves::Nothing,
        run: wetting::run,
    },
];
