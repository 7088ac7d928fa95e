//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::Texts;
use crate::findings::setting::{Setting, TRUE, set};

/// For `converter-input`.
pub(super) const CONVERTER_INPUT: &[Setting] =
    &[set("Use a converter for both higher and lower input", "kind", Texts(&["buck-boost"]))];

/// For `converter-heat`.
pub(super) const CONVERTER_HEAT: &[Setting] = &[
    set("Use a switching converter", "kind", Texts(&["buck"])),
    set("Fit a heatsink", "theta-ja", Texts(&["40 K/W", "30 K/W", "20 K/W", "12 K/W"])),
];

/// For `supply-surge`.
pub(super) const SUPPLY_SURGE: &[Setting] =
    &[set("Start it softly, in the firmware or with its own electronics", "soft-start", TRUE)];

/// For `inrush`.
pub(super) const INRUSH: &[Setting] = &[set("Start the loads one after another", "soft-start", TRUE)];
