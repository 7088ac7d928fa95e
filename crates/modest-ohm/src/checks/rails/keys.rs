//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Nothing, Texts};
use crate::findings::setting::{Setting, TRUE, of, set};

/// For `rails-joined` and `supplies-paralleled`.
pub(super) const JOINED: &[Setting] =
    &[of(&["busbar"], "Bridge only the negatives of the bus bar", "bridged", Texts(&["minus"]))];

/// For `back-fed`.
pub(super) const BACK_FED: &[Setting] = &[
    set("Never plug a computer into it while it is fed", "usb", Texts(&["never"])),
    set("Use a board that selects one of its inputs", "inputs", Texts(&["selects", "diode-joined"])),
];

/// For `series-diode-reversed`.
pub(super) const SERIES_DIODE_REVERSED: &[Setting] = &[set("Turn the diode: cathode to the load", "cathode", Nothing)];

/// For `clamp-conducts`.
pub(super) const CLAMP_CONDUCTS: &[Setting] = &[set("Turn the clamp: cathode to positive", "cathode", Nothing)];

/// For `bus-half-unfed`.
pub(super) const BUS_HALF_UNFED: &[Setting] =
    &[set("Bridge both conductors of the bus bar", "bridged", Texts(&["both"]))];

/// For `polarity-unprotected`.
pub(super) const POLARITY_UNPROTECTED: &[Setting] = &[set("Use a plug that cannot be reversed", "keyed", TRUE)];

/// For `transient-unprotected`.
pub(super) const TRANSIENT_UNPROTECTED: &[Setting] =
    &[set("Use a converter specified for vehicle transients", "vehicle-rated", TRUE)];

/// For `cranking-reset`.
pub(super) const CRANKING_RESET: &[Setting] = &[
    set("Use a converter for both higher and lower input", "kind", Texts(&["buck-boost"])),
    set("Use a converter that works from less", "dropout", Texts(&["0.5 V", "0.3 V", "0.1 V"])),
];

/// For `diode-heat`.
pub(super) const DIODE_HEAT: &[Setting] = &[
    set("Use a P-channel MOSFET in place of the diode", "kind", Texts(&["p-fet"])),
    set("Fit a heatsink", "theta-ja", Texts(&["60 K/W", "40 K/W", "25 K/W"])),
];
