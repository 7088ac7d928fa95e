//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Judged, Limit};
use crate::findings::setting::{Setting, of, set};

/// For `battery-stops-early`.
pub(super) const BATTERY_STOPS_EARLY: &[Setting] = &[of(&["supply"], "Accept a larger reserve", "reserve", Judged)];

/// For `battery-no-cutoff`.
pub(super) const BATTERY_NO_CUTOFF: &[Setting] =
    &[set("Use a pack or module that disconnects earlier", "cut-off", Limit)];
