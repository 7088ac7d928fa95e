//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Larger, Nothing, Smaller, Texts};
use crate::findings::setting::{Setting, TRUE, of, set};

/// For `pin-overvoltage`.
pub(super) const PIN_OVERVOLTAGE: &[Setting] = &[
    set("Use a larger resistor in series", "series", Larger),
    set("Use a larger upper resistor", "divider.top", Larger),
    set("Put a resistor in series", "series", Texts(&["1 kΩ", "4.7 kΩ", "10 kΩ", "22 kΩ", "47 kΩ"])),
    of(&["input"], "Put a Zener diode from the pin to ground", "clamp", Texts(&["3.3 V", "3.6 V", "4.7 V", "5.1 V"])),
];

/// For `level-high`.
pub(super) const LEVEL_HIGH: &[Setting] = &[
    of(&["input", "signal"], "Use a larger pull resistor", "pull", Larger),
    of(&["input", "signal"], "Use a smaller pull resistor", "pull", Smaller),
    of(&["input", "signal"], "Fit a pull resistor", "pull", Texts(&["10 kΩ", "4.7 kΩ", "2.2 kΩ", "47 kΩ"])),
    set("Use a smaller resistor in series", "series", Smaller),
    set("Use a larger upper resistor", "divider.top", Larger),
    set("Use a smaller upper resistor", "divider.top", Smaller),
    set("Use a larger lower resistor", "divider.bottom", Larger),
    set("Use a smaller lower resistor", "divider.bottom", Smaller),
];

/// For `level-low`.
pub(super) const LEVEL_LOW: &[Setting] = LEVEL_HIGH;

/// For `shifter-direction`.
pub(super) const SHIFTER_DIRECTION: &[Setting] = &[
    set("Let both only pull low", "open-drain", TRUE),
    of(&["shifter"], "Turn the shifter round", "sends", Texts(&["down", "up"])),
    of(&["shifter"], "Use a two-way shifter", "sends", Texts(&["both"])),
];

/// For `bus-pull-ups`.
pub(super) const BUS_PULL_UPS: &[Setting] = &[
    of(
        &["bus"],
        "Fit other pull-ups on the bus",
        "pull",
        Texts(&["4.7 kΩ", "2.2 kΩ", "3.3 kΩ", "10 kΩ", "1.5 kΩ", "6.8 kΩ", "1 kΩ", "22 kΩ", "680 Ω"]),
    ),
    of(&["sensor"], "Remove the pull-ups of the module", "pull", Nothing),
    of(&["bus"], "Remove the pull-ups of the bus", "pull", Nothing),
    of(&["bus"], "Run the bus more slowly", "speed", Texts(&["400 kHz", "100 kHz", "50 kHz", "20 kHz", "10 kHz"])),
];
