//! Supplies, rails and boards.

pub(crate) mod box_heat;
pub(crate) mod bulk;
pub(crate) mod collapse;
pub(crate) mod converter_heat;
pub(crate) mod converter_input;
pub(crate) mod headroom;
pub(crate) mod inrush;
pub(crate) mod overloaded;
pub(crate) mod surge;
pub(crate) mod voltage;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

pub(crate) const CHECKS: &[Check] = &[
    Check {
        code: "feed-collapses",
        family: "supply",
        title: "more power is asked of a feed than it can deliver: there is no working voltage",
        severities: &[Fault, Unknown],
        about: include_str!("../../about/feed-collapses.md"),
        solves: Solves::Limits,
        run: collapse::run,
    },
    Check {
        code: "supply-overloaded",
        family: "supply",
        title: "the wanted continuous current is above a supply's, converter's or board output's rating",
        severities: &[Danger, Unknown],
        about: include_str!("../../about/supply-overloaded.md"),
        solves: Solves::Nothing,
        run: overloaded::run,
    },
    Check {
        code: "supply-headroom",
        family: "supply",
        title: "the wanted continuous current leaves less than the policy's headroom",
        severities: &[Caution],
        about: include_str!("../../about/supply-headroom.md"),
        solves: Solves::Nothing,
        run: headroom::run,
    },
    Check {
        code: "supply-voltage",
        family: "supply",
        title: "a consumer's volts are above its maximum, below its minimum, or outside its recommended range",
        severities: &[Danger, Fault, Caution, Advice, Unknown],
        about: include_str!("../../about/supply-voltage.md"),
        solves: Solves::Nothing,
        run: voltage::run,
    },
    Check {
        code: "converter-input",
        family: "supply",
        title: "a converter's input is above its range, or too low to make the output",
        severities: &[Danger, Fault],
        about: include_str!("../../about/converter-input.md"),
        solves: Solves::Nothing,
        run: converter_input::run,
    },
    Check {
        code: "converter-heat",
        family: "supply",
        title: "a converter or on-board regulator gets hotter than its junction stands, or nearly",
        severities: &[Danger, Caution],
        about: include_str!("../../about/converter-heat.md"),
        solves: Solves::Nothing,
        run: converter_heat::run,
    },
    Check {
        code: "supply-surge",
        family: "supply",
        title: "a start or a surge drives a source into its limit, or a board below its brown-out",
        severities: &[Fault],
        about: include_str!("../../about/supply-surge.md"),
        solves: Solves::Nothing,
        run: surge::run,
    },
    Check {
        code: "inrush",
        family: "supply",
        title: "charging capacitors is too much for a contact, or takes longer than a supply waits",
        severities: &[Caution],
        about: include_str!("../../about/inrush.md"),
        solves: Solves::Nothing,
        run: inrush::run,
    },
    Check {
        code: "bulk-capacitor",
        family: "supply",
        title: "a load step on a board's rail wants a capacitor that holds the dip",
        severities: &[Advice],
        about: include_str!("../../about/bulk-capacitor.md"),
        solves: Solves::Nothing,
        run: bulk::run,
    },
    Check {
        code: "box-heat",
        family: "supply",
        title: "a closed box gets warmer inside than what is in it stands",
        severities: &[Caution],
        about: include_str!("../../about/box-heat.md"),
        solves: Solves::Nothing,
        run: box_heat::run,
    },
];
