//! Windings that are turned off: whether their current has a path, what that path takes, what it does to others.

pub(crate) mod arc;
pub(crate) mod clamp;
mod keys;
pub(crate) mod missing;
pub(crate) mod noise;
pub(crate) mod rating;
pub(crate) mod reversed;

use crate::findings::change::Change::{Capacitor, Flyback, Keys, OwnRail, Part, Rail, Rating, Source, Wire};
use crate::findings::check::Check;
use crate::verdict::codes;
use crate::verdict::severity::Severity::{Advisory, Caution, Danger, Unknown};

/// The family's name.
const FAMILY: &str = "coils";

pub(crate) const CHECKS: &[Check] = &[
    Check::new(
        codes::FLYBACK_MISSING,
        FAMILY,
        "an inductive load behind a semiconductor has no path for its current at turn-off",
        &[Danger, Unknown],
        missing::run,
    )
    .fixed_by(&[Flyback, Part]),
    Check::new(
        codes::FLYBACK_RATING,
        FAMILY,
        "a flyback diode carries more than its rating, is too slow, or breaks down at the supply voltage",
        &[Danger, Caution, Unknown],
        rating::run,
    )
    .fixed_by(&[Flyback, Part]),
    Check::new(
        codes::FLYBACK_REVERSED,
        FAMILY,
        "a flyback diode is reversed, or across a load that is driven in both directions",
        &[Danger],
        reversed::run,
    )
    .fixed_by(&[Keys(keys::FLYBACK_REVERSED), Flyback]),
    Check::new(
        codes::CLAMP_VOLTAGE,
        FAMILY,
        "a clamp at a switch conducts at the supply voltage, or limits above the rating of the switch",
        &[Danger, Caution],
        clamp::run,
    )
    .fixed_by(&[Rating, Flyback]),
    Check::new(
        codes::CONTACT_ARC,
        FAMILY,
        "a contact switches a coil that nothing damps",
        &[Caution, Advisory],
        arc::run,
    )
    .fixed_by(&[Flyback, Part]),
    Check::new(
        codes::START_UP_DIP,
        FAMILY,
        "a starting motor or coil pulls down the supply of a board",
        &[Caution],
        noise::run,
    )
    .fixed_by(&[Keys(keys::START_UP_DIP), Capacitor, Rail, OwnRail, Source, Wire]),
];
