//! Batteries: what they can give, how far they sag, how long they last, what ends their discharge.

pub(crate) mod cutoff;
pub(crate) mod overdrawn;
pub(crate) mod runtime;
pub(crate) mod sag;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "battery-overdrawn",
        family: "battery",
        title: "the wanted continuous current is above what the battery's cells give",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/battery-overdrawn.md"),
        solves: Solves::Nothing,
        run: overdrawn::run,
    },
    Check {
        code: "battery-sag",
        family: "battery",
        title: "a consumer stops while the battery has more charge than it is to be used down to",
        severities: &[Fault],
        about: include_str!("../../about/battery-sag.md"),
        solves: Solves::Discharges,
        run: sag::run,
    },
    Check {
        code: "battery-runtime",
        family: "battery",
        title: "how long a battery lasts, against the wish where there is one",
        severities: &[Fault, Advice, Unknown],
        about: include_str!("../../about/battery-runtime.md"),
        solves: Solves::Discharges,
        run: runtime::run,
    },
    Check {
        code: "battery-no-cutoff",
        family: "battery",
        title: "nothing ends the discharge of a battery that deep discharge ruins",
        severities: &[Caution],
        about: include_str!("../../about/battery-no-cutoff.md"),
        solves: Solves::Nothing,
        run: cutoff::run,
    },
];
