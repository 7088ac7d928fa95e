//! Fuses, and what protects each lead.

pub(crate) mod cure;
pub(crate) mod protection;
pub(crate) mod rating;
pub(crate) mod small;
pub(crate) mod start;

use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Fault, Unknown};

/// The family's name.
const FAMILY: &str = "fuse";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::FUSE_MISSING,
        FAMILY,
        "neither a fuse nor its source's limit protects a lead",
        &[Danger, Caution, Advice, Unknown],
        protection::missing,
    )
    .about_the_feed()
    .standing_alone(),
    Check::new(
        codes::FUSE_TOO_LARGE,
        FAMILY,
        "a fuse is larger than a lead behind it allows",
        &[Danger, Caution, Advice],
        protection::too_large,
    )
    .about_the_feed()
    .standing_alone(),
    Check::new(
        codes::FUSE_CANNOT_ACT,
        FAMILY,
        "what surely flows into a short does not open the fuse",
        &[Danger, Advice],
        protection::cannot_act,
    )
    .about_the_feed()
    .standing_alone(),
    Check::new(
        codes::FUSE_TOO_SMALL,
        FAMILY,
        "a fuse carries more than it stands for ever, or a start ages or opens it",
        &[Fault, Caution, Advice],
        small::run,
    )
    .of_its_own_limit(),
    Check::new(
        codes::FUSE_RATING,
        FAMILY,
        "a fuse cannot interrupt the volts or the current of a short",
        &[Danger, Caution, Unknown],
        rating::run,
    ),
];
