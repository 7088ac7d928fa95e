//! Supplies, rails and boards.

mod collapse;
mod converter_input;
mod headroom;
mod overloaded;
mod voltage;

use super::Check;
use crate::finding::Severity::{Advice, Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "feed-collapses",
        family: "supply",
        title: "more power is asked of a feed than it can deliver: there is no working voltage",
        severities: &[Fault, Unknown],
        about: include_str!("../../about/feed-collapses.md"),
        run: collapse::run,
    },
    Check {
        code: "supply-overloaded",
        family: "supply",
        title: "the wanted continuous current is above a supply's, converter's or board output's rating",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/supply-overloaded.md"),
        run: overloaded::run,
    },
    Check {
        code: "supply-headroom",
        family: "supply",
        title: "the wanted continuous current leaves less than the policy's headroom",
        severities: &[Caution],
        about: include_str!("../../about/supply-headroom.md"),
        run: headroom::run,
    },
    Check {
        code: "supply-voltage",
        family: "supply",
        title: "a consumer's volts are above its maximum, below its minimum, or outside its recommended range",
        severities: &[Danger, Fault, Caution, Advice, Unknown],
        about: include_str!("../../about/supply-voltage.md"),
        run: voltage::run,
    },
    Check {
        code: "converter-input",
        family: "supply",
        title: "a converter's input is above its range, or too low to make the output",
        severities: &[Danger, Fault],
        about: include_str!("../../about/converter-input.md"),
        run: converter_input::run,
    },
];
