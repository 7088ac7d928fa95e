//! The mains, as far as the low-voltage side meets them: contacts, fuses, earth, separation; and volts that can be touched.

pub(crate) mod circuit;
pub(crate) mod contact;
pub(crate) mod input;
pub(crate) mod touch;

use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::verdict::severity::Severity::{Caution, Danger, Unknown};

macro_rules! check {
    ($code:literal, $title:literal, $severities:expr, $run:path) => {
        Check {
            code: $code,
            family: "mains",
            title: $title,
            severities: $severities,
            about: include_str!(concat!("../../about/", $code, ".md")),
            solves: Solves::Nothing,
            run: $run,
        }
    };
}

pub(crate) const CHECKS: &[Check] = &[
    check!(
        "mains-separation",
        "mains and touchable low voltage lie nearer to each other than reinforced insulation wants",
        &[Danger, Unknown],
        circuit::separation
    ),
    check!(
        "mains-contact",
        "a contact in a mains circuit switches more than it can, or breaks neutral",
        &[Danger, Unknown],
        contact::run
    ),
    check!(
        "mains-fuse",
        "a mains circuit has no fuse, or one that its wire does not stand",
        &[Danger, Unknown],
        circuit::fuse
    ),
    check!("mains-earth", "metal that can be touched has no earth", &[Danger, Unknown], circuit::earth),
    check!(
        "mains-colours",
        "conductors of a mains circuit have colours that mean something else in this region",
        &[Caution],
        circuit::colours
    ),
    check!("mains-input", "a supply is not made for the mains of this region", &[Danger, Unknown], input::run),
    check!("touch-voltage", "a rail has more volts than may be touched", &[Caution], touch::run),
];
