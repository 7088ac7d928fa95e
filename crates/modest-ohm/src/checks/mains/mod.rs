//! The mains, as far as the low-voltage side meets them: contacts, fuses, earth, separation; and volts that can be touched.

pub(crate) mod circuit;
pub(crate) mod contact;
pub(crate) mod input;
pub(crate) mod touch;

use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "mains";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::MAINS_SEPARATION,
        FAMILY,
        "mains and touchable low voltage lie nearer to each other than reinforced insulation wants",
        &[Danger, Caution, Advice, Unknown],
        circuit::separation,
    ),
    Check::new(
        codes::MAINS_CONTACT,
        FAMILY,
        "a contact in a mains circuit carries or closes on more than it is made for, or breaks neutral",
        &[Danger, Caution, Advice, Unknown],
        contact::run,
    ),
    Check::new(
        codes::MAINS_FUSE,
        FAMILY,
        "a mains cord carries more than it is made for, or its fuse does not suit load and cord",
        &[Danger, Fault, Caution, Advice, Unknown],
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
