//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::Texts;
use crate::findings::setting::{Setting, TRUE, set};

/// For `flyback-reversed`.
pub(super) const FLYBACK_REVERSED: &[Setting] =
    &[set("Turn the diode: cathode to positive", "flyback.cathode", Texts(&["plus"]))];

/// For `start-up-dip`.
pub(super) const START_UP_DIP: &[Setting] =
    &[set("Start it softly, in the firmware or with its own electronics", "soft-start", TRUE)];
