//! The mains, as far as the low-voltage side meets them: contacts, fuses, earth, separation; and voltage that can be
//! touched.

pub(crate) mod circuit;
pub(crate) mod contact;
pub(crate) mod input;
mod keys;
pub(crate) mod touch;

use crate::findings::change::Change::{Keys, Part, Rail, Rating, Voltage};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "mains";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::MAINS_SEPARATION,
        FAMILY,
        "mains is closer to touchable low voltage than reinforced insulation needs",
        &[Danger, Caution, Advisory, Unknown],
        circuit::separation,
    )
    .fixed_by(&[Keys(keys::MAINS_SEPARATION)]),
    Check::new(
        codes::MAINS_CONTACT,
        FAMILY,
        "a contact in a mains circuit carries or closes on more than its rating, or breaks neutral",
        &[Danger, Caution, Advisory, Unknown],
        contact::run,
    )
    .fixed_by(&[Rating, Keys(keys::MAINS_CONTACT), Part]),
    Check::new(
        codes::MAINS_FUSE,
        FAMILY,
        "a mains cord carries more than its rating, or its fuse does not suit load and cord",
        &[Danger, Fault, Caution, Advisory, Unknown],
        circuit::fuse,
    )
    .fixed_by(&[Keys(keys::MAINS_FUSE)]),
    Check::new(codes::MAINS_EARTH, FAMILY, "touchable metal is not earthed", &[Danger, Unknown], circuit::earth)
        .fixed_by(&[Keys(keys::MAINS_EARTH)]),
    Check::new(
        codes::MAINS_COLOURS,
        FAMILY,
        "conductors of a mains circuit have colours with another meaning in this region",
        &[Caution],
        circuit::colours,
    )
    .fixed_by(&[Keys(keys::MAINS_COLOURS)]),
    Check::new(
        codes::MAINS_INPUT,
        FAMILY,
        "a supply is not rated for the mains voltage of this region",
        &[Danger, Unknown],
        input::run,
    )
    .fixed_by(&[Keys(keys::MAINS_INPUT), Rating]),
    Check::new(codes::TOUCH_VOLTAGE, FAMILY, "a rail is above the touchable voltage", &[Caution], touch::run)
        .fixed_by(&[Voltage, Rail]),
];
