//! Strips and pixels.

mod cap_missing;
mod cure;
mod data_level;
mod sags;

use super::{Check, Solves};
use crate::finding::Severity::{Advice, Caution, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "strip-sags",
        family: "strip",
        title: "pixels get too few volts: below working volts, a colour shifts, or below the sheet's range",
        severities: &[Fault, Caution, Advice, Unknown],
        about: include_str!("../../about/strip-sags.md"),
        solves: Solves::Nothing,
        run: sags::run,
    },
    Check {
        code: "cap-missing",
        family: "strip",
        title: "full white exceeds the path and the firmware has no cap",
        severities: &[Caution],
        about: include_str!("../../about/cap-missing.md"),
        solves: Solves::Caps,
        run: cap_missing::run,
    },
    Check {
        code: "data-level",
        family: "strip",
        title: "a data line's high or low level misses the receiver's threshold, or meets it without margin",
        severities: &[Fault, Caution, Unknown],
        about: include_str!("../../about/data-level.md"),
        solves: Solves::Nothing,
        run: data_level::run,
    },
];
