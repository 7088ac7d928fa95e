//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Limit, Nothing, Smaller, Texts};
use crate::findings::setting::{Setting, of, set};

/// For `base-drive`.
pub(super) const BASE_DRIVE: &[Setting] = &[set("Use a smaller base resistor", "base-resistor", Smaller)];

/// For `gate-drive`.
pub(super) const GATE_DRIVE: &[Setting] = &[
    of(&["driver"], "Put it into the return of its load", "side", Texts(&["low"])),
    of(&["driver"], "Put it into the feed of its load", "side", Texts(&["high"])),
    of(&["switch"], "Break the positive", "breaks", Texts(&["plus", "both"])),
];

/// For `gate-overvoltage`.
pub(super) const GATE_OVERVOLTAGE: &[Setting] =
    &[set("Clamp the gate with a Zener diode", "gate-clamp", Texts(&["12 V", "10 V", "15 V", "6.8 V"]))];

/// For `gate-floating`.
pub(super) const GATE_FLOATING: &[Setting] = &[
    set("Fit a pull-down", "pull-down", Texts(&["10 kΩ", "100 kΩ"])),
    set("Fit a pull-up", "pull-up", Texts(&["10 kΩ", "100 kΩ"])),
];

/// For `driver-heat`.
pub(super) const DRIVER_HEAT: &[Setting] = &[
    set("Fit a heatsink", "theta-ja", Texts(&["60 K/W", "40 K/W", "25 K/W", "15 K/W", "8 K/W"])),
    set("Fit a larger heatsink", "heatsink", Texts(&["20 K/W", "10 K/W", "5 K/W", "2 K/W"])),
];

/// For `driver-switching`.
pub(super) const DRIVER_SWITCHING: &[Setting] = &[
    set(
        "Switch it more slowly",
        "pwm",
        Texts(&["20 kHz", "10 kHz", "5 kHz", "1 kHz", "500 Hz", "200 Hz", "100 Hz", "50 Hz"]),
    ),
    set("Use a smaller gate resistor", "gate-resistor", Smaller),
];

/// For `side-mismatch`.
pub(super) const SIDE_MISMATCH: &[Setting] = GATE_DRIVE;

/// For `relay-logic`.
pub(super) const RELAY_LOGIC: &[Setting] = &[set("Remove the jumper", "jumper", Texts(&["out"]))];

/// For `bridge-logic`.
pub(super) const BRIDGE_LOGIC: &[Setting] = &[
    set("Remove the jumper of the regulator", "regulator-jumper", Texts(&["out", "none"])),
    set("Fit the jumper of the regulator", "regulator-jumper", Texts(&["in"])),
    set("Feed its logic from the regulator", "from.logic", Nothing),
];

/// For `pwm-unsuited`.
pub(super) const PWM_UNSUITED: &[Setting] = &[set("Switch it without PWM", "pwm", Nothing)];

/// For `relay-pwm`.
pub(super) const RELAY_PWM: &[Setting] = PWM_UNSUITED;

/// For `solid-state-kind`.
pub(super) const SOLID_STATE_KIND: &[Setting] =
    &[set("Use one for direct current", "switches", Nothing), set("Turn its output", "output", Nothing)];

/// For `pwm-range`.
pub(super) const PWM_RANGE: &[Setting] = &[set("Switch it within its range", "pwm", Limit)];

/// For `thermal-pins-open`.
pub(super) const THERMAL_PINS_OPEN: &[Setting] =
    &[set("Connect all of them to ground", "thermal-pins", Texts(&["wired"]))];

/// For `pinout-wrong`.
pub(super) const PINOUT_WRONG: &[Setting] = &[set("Turn it, or wire its legs as they are", "wired-pinout", Nothing)];

/// For `enable-open`.
pub(super) const ENABLE_OPEN: &[Setting] = &[
    set("Fit the enable jumper", "enable", Texts(&["jumper"])),
    set("Fit the enable jumper", "channels.a.enable", Texts(&["jumper"])),
];

/// For `safe-state`.
pub(super) const SAFE_STATE: &[Setting] = &[
    set("Use the other contact", "contact", Texts(&["nc", "no"])),
    set("Fit a pull-down", "pull-down", Texts(&["10 kΩ"])),
    set("Fit a pull-up", "pull-up", Texts(&["10 kΩ"])),
];
