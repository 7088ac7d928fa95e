//! Fuses, and what protects each cable.

mod keys;
pub(crate) mod names;
pub(crate) mod protection;
pub(crate) mod rating;
pub(crate) mod small;
pub(crate) mod start;

use crate::findings::change::Change::{AddFuse, FirmwareLimit, Fuse, Keys, Rating, Wire, WireAndFuse};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "fuse";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::FUSE_MISSING,
        FAMILY,
        "neither a fuse nor the source's limit protects a cable",
        &[Danger, Caution, Advisory, Unknown],
        protection::missing,
    )
    .fixed_by(&[AddFuse, WireAndFuse, Wire])
    .naming_no_state()
    .about_the_feed()
    .standing_alone(),
    Check::new(
        codes::FUSE_TOO_LARGE,
        FAMILY,
        "a fuse is larger than a cable behind it allows",
        &[Danger, Caution, Advisory],
        protection::too_large,
    )
    .fixed_by(&[Fuse, Wire, WireAndFuse])
    .naming_no_state()
    .about_the_feed()
    .standing_alone(),
    Check::new(
        codes::FUSE_MAY_NOT_BLOW,
        FAMILY,
        "the short-circuit current may not blow the fuse",
        &[Danger, Advisory],
        protection::cannot_act,
    )
    .fixed_by(&[Fuse, Wire, WireAndFuse])
    .naming_no_state()
    .about_the_feed()
    .standing_alone(),
    Check::new(
        codes::FUSE_TOO_SMALL,
        FAMILY,
        "a fuse carries more than its continuous rating, or a start ages or blows it",
        &[Fault, Caution, Advisory],
        small::run,
    )
    .fixed_by(&[Fuse, Keys(keys::FUSE_TOO_SMALL), WireAndFuse, FirmwareLimit])
    .of_its_own_limit(),
    Check::new(
        codes::FUSE_RATING,
        FAMILY,
        "a fuse cannot interrupt the voltage or current of a short circuit",
        &[Danger, Caution, Unknown],
        rating::run,
    )
    .fixed_by(&[Rating, Keys(keys::FUSE_RATING), Fuse]),
];
