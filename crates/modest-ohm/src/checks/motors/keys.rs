//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Limit, Texts};
use crate::findings::setting::{FALSE, Setting, TRUE, set};

/// For `brown-out`.
pub(super) const BROWN_OUT: &[Setting] =
    &[set("Start it softly, in the firmware or with its own electronics", "soft-start", TRUE)];

/// For `reversal-current`.
pub(super) const REVERSAL_CURRENT: &[Setting] =
    &[set("Stop the motor before reversing, in the firmware too", "reverses", Texts(&["from-rest"]))];

/// For `braking-energy`.
pub(super) const BRAKING_ENERGY: &[Setting] = &[
    set("Stop the motor before reversing, in the firmware too", "reverses", Texts(&["from-rest"])),
    set("Let the motor run down", "brakes", FALSE),
];

/// For `on-time`.
pub(super) const ON_TIME: &[Setting] = &[set("Switch it less often", "switched", Limit)];
