//! What is said of one way to feed a strip: as `check` says it.

use super::trial::Found;
use crate::derived::path::copper_w_per_m;
use crate::plan::strip::Strip;
use crate::quantity::units::Volts;
use crate::solved::colour_shift::shift_that_shows;
use crate::verdict::compare::{at_least, exceeds};

/// Whether a way to feed a strip suffices, and if not, why.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum FeedVerdict {
    /// `check` finds nothing of its light, and every pixel gets the limit.
    Enough,
    /// A pixel gets less than the limit.
    TooLow,
    /// The copper of the strip turns more into heat than it may.
    CopperTooHot,
    /// The light, or a colour, falls along the strip so that it shows.
    LightFalls,
}

impl FeedVerdict {
    /// In words: `enough`, `too low`, `copper too hot`, `light falls`.
    #[must_use]
    pub const fn words(self) -> &'static str {
        match self {
            Self::Enough => "enough",
            Self::TooLow => "too low",
            Self::CopperTooHot => "copper too hot",
            Self::LightFalls => "too dim",
        }
    }

    /// True where it suffices.
    #[must_use]
    pub const fn does(self) -> bool {
        matches!(self, Self::Enough)
    }

    pub(super) fn of(strip: &Strip, found: &Found, limit: Volts) -> Self {
        let shows = shift_that_shows(strip);
        if !at_least(found.lowest_v, limit.get()) {
            Self::TooLow
        } else if exceeds(found.copper_w_per_m, copper_w_per_m(strip)) {
            Self::CopperTooHot
        } else if exceeds(found.shift_nominal, shows.nominal) || exceeds(found.shift, shows.worst) {
            Self::LightFalls
        } else {
            Self::Enough
        }
    }
}
