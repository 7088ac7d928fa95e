//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Larger, Resistors, Texts};
use crate::findings::setting::{Setting, TRUE, of, set};

/// For `pin-shared`.
pub(super) const PIN_SHARED: &[Setting] = &[set("Say that it shares its pin on purpose", "mirror", TRUE)];

/// For `output-contention`.
pub(super) const OUTPUT_CONTENTION: &[Setting] = &[
    set("Let both only pull low", "open-drain", TRUE),
    of(&["shifter"], "Turn the shifter round", "sends", Texts(&["down", "up"])),
    of(&["shifter"], "Use a two-way shifter", "sends", Texts(&["both"])),
];

/// For `pin-overloaded`.
pub(super) const PIN_OVERLOADED: &[Setting] =
    &[of(&["led"], "Use a larger resistor", "resistor", Larger), of(&["led"], "Fit a resistor", "resistor", Resistors)];
