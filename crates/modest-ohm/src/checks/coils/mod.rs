//! Windings that are let go: whether their current has a path, what that path takes, what it does to others.

pub(crate) mod arc;
pub(crate) mod clamp;
pub(crate) mod missing;
pub(crate) mod noise;
pub(crate) mod rating;
pub(crate) mod reversed;

use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advice, Caution, Danger, Unknown};

/// The family's name.
const FAMILY: &str = "coils";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::FLYBACK_MISSING,
        FAMILY,
        "a winding behind a semiconductor has no path for its current when it is let go",
        &[Danger, Unknown],
        missing::run,
    ),
    Check::new(
        codes::FLYBACK_RATING,
        FAMILY,
        "a flyback diode carries more than it stands, is too slow, or breaks down at the supply",
        &[Danger, Caution, Unknown],
        rating::run,
    ),
    Check::new(
        codes::FLYBACK_REVERSED,
        FAMILY,
        "a flyback diode is the wrong way round, or across what is driven both ways",
        &[Danger],
        reversed::run,
    ),
    Check::new(
        codes::CLAMP_VOLTAGE,
        FAMILY,
        "a clamp at a switch conducts at the supply, or lets through more than the switch holds off",
        &[Danger, Caution],
        clamp::run,
    ),
    Check::new(
        codes::CONTACT_ARC,
        FAMILY,
        "a contact switches a winding that nothing damps",
        &[Caution, Advice],
        arc::run,
    ),
    Check::new(
        codes::NOISE_SHARED,
        FAMILY,
        "a winding that starts pulls the volts of a board down with it",
        &[Caution],
        noise::run,
    ),
];
