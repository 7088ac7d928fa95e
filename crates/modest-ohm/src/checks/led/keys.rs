//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Larger, Resistors, Smaller, Texts};
use crate::findings::setting::{Setting, set};

/// For `led-no-resistor`.
pub(super) const LED_NO_RESISTOR: &[Setting] = &[
    set("Use a larger resistor", "resistor", Larger),
    set("Fit a resistor", "resistor", Resistors),
    set("Use a smaller resistor", "resistor", Smaller),
];

/// For `led-overcurrent`.
pub(super) const LED_OVERCURRENT: &[Setting] = LED_NO_RESISTOR;

/// For `led-spread`.
pub(super) const LED_SPREAD: &[Setting] = LED_NO_RESISTOR;

/// For `resistor-heat`.
pub(super) const RESISTOR_HEAT: &[Setting] = &[
    set("Use resistors of a higher rating", "resistor-rating", Texts(&["0.5 W", "1 W", "2 W", "3 W", "5 W"])),
    set("Use a larger resistor", "resistor", Larger),
];

/// For `led-heat`.
pub(super) const LED_HEAT: &[Setting] =
    &[set("Fit a larger heatsink", "heatsink", Texts(&["60 K/W", "40 K/W", "25 K/W", "15 K/W", "10 K/W", "5 K/W"]))];
