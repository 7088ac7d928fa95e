//! The mains, as far as the low-voltage side meets them: contacts, fuses, earth, separation; and volts that can be touched.

pub(crate) mod circuit;
pub(crate) mod contact;
pub(crate) mod input;
pub(crate) mod touch;

use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Caution, Danger, Unknown};

/// The family's name.
const FAMILY: &str = "mains";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::MAINS_SEPARATION,
        FAMILY,
        "mains and touchable low voltage lie nearer to each other than reinforced insulation wants",
        &[Danger, Unknown],
        circuit::separation,
    ),
    Check::new(
        codes::MAINS_CONTACT,
        FAMILY,
        "a contact in a mains circuit switches more than it can, or breaks neutral",
        &[Danger, Unknown],
        contact::run,
    ),
    Check::new(
        codes::MAINS_FUSE,
        FAMILY,
        "a mains circuit has no fuse, or one that its wire does not stand",
        &[Danger, Unknown],
        circuit::fuse,
    ),
    Check::new(
        codes::MAINS_EARTH,
        FAMILY,
        "metal that can be touched has no earth",
        &[Danger, Unknown],
        circuit::earth,
    ),
    Check::new(
        codes::MAINS_COLOURS,
        FAMILY,
        "conductors of a mains circuit have colours that mean something else in this region",
        &[Caution],
        circuit::colours,
    ),
    Check::new(
        codes::MAINS_INPUT,
        FAMILY,
        "a supply is not made for the mains of this region",
        &[Danger, Unknown],
        input::run,
    ),
    Check::new(codes::TOUCH_VOLTAGE, FAMILY, "a rail has more volts than may be touched", &[Caution], touch::run),
];
