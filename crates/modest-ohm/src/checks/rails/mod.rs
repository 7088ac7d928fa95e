//! Rails that meet, and what protects them.

pub(crate) mod back_fed;
pub(crate) mod bus_half;
pub(crate) mod clamp;
pub(crate) mod joined;
pub(crate) mod polarity;
pub(crate) mod reversed;
pub(crate) mod switch_bypassed;
pub(crate) mod switch_overloaded;
pub(crate) mod transient;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "rails-joined",
        family: "rails",
        title: "a closed link, jumper, bus or track joins rails of different volts",
        severities: &[Danger],
        about: include_str!("../../about/rails-joined.md"),
        solves: Solves::Nothing,
        run: joined::rails,
    },
    Check {
        code: "supplies-paralleled",
        family: "rails",
        title: "two sources are joined at +",
        severities: &[Danger, Caution],
        about: include_str!("../../about/supplies-paralleled.md"),
        solves: Solves::Nothing,
        run: joined::supplies,
    },
    Check {
        code: "back-fed",
        family: "rails",
        title: "through a closed link a part receives more volts than it may",
        severities: &[Danger],
        about: include_str!("../../about/back-fed.md"),
        solves: Solves::Variants,
        run: back_fed::run,
    },
    Check {
        code: "series-diode-reversed",
        family: "rails",
        title: "a diode in a feed shows the wrong way and blocks it",
        severities: &[Fault],
        about: include_str!("../../about/series-diode-reversed.md"),
        solves: Solves::Nothing,
        run: reversed::run,
    },
    Check {
        code: "clamp-conducts",
        family: "rails",
        title: "a clamp conducts at the volts of the rail it sits on",
        severities: &[Danger],
        about: include_str!("../../about/clamp-conducts.md"),
        solves: Solves::Nothing,
        run: clamp::run,
    },
    Check {
        code: "switch-overloaded",
        family: "rails",
        title: "the wanted continuous current is above a hand switch's or series diode's rating",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/switch-overloaded.md"),
        solves: Solves::Nothing,
        run: switch_overloaded::run,
    },
    Check {
        code: "switch-bypassed",
        family: "rails",
        title: "with a hand switch open, what it should switch is still fed",
        severities: &[Fault],
        about: include_str!("../../about/switch-bypassed.md"),
        solves: Solves::Variants,
        run: switch_bypassed::run,
    },
    Check {
        code: "bus-half-unfed",
        family: "rails",
        title: "half of a split bus bar has consumers and no feed",
        severities: &[Fault],
        about: include_str!("../../about/bus-half-unfed.md"),
        solves: Solves::Nothing,
        run: bus_half::run,
    },
    Check {
        code: "polarity-unprotected",
        family: "rails",
        title: "a battery or vehicle supply can be connected the wrong way round",
        severities: &[Advice],
        about: include_str!("../../about/polarity-unprotected.md"),
        solves: Solves::Nothing,
        run: polarity::run,
    },
    Check {
        code: "transient-unprotected",
        family: "rails",
        title: "electronics hang on a vehicle's supply without what stops its transients",
        severities: &[Caution],
        about: include_str!("../../about/transient-unprotected.md"),
        solves: Solves::Nothing,
        run: transient::run,
    },
];
