//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Limit, Said, Texts};
use crate::findings::setting::{Setting, of, set};

/// For `firmware-limit-too-low`.
pub(super) const FIRMWARE_LIMIT_TOO_LOW: &[Setting] = &[
    of(&["strip", "panel"], "Raise the firmware limit, in the firmware too", "firmware-limit", Limit),
    of(&["firmware-limit"], "Raise the firmware limit, in the firmware too", "current", Limit),
];

/// For `panel-order`.
pub(super) const PANEL_ORDER: &[Setting] = &[
    set("Correct how the panel is described", "turns", Texts(&["alternating", "same-way"])),
    set("Correct how the panel is described", "along", Texts(&["rows", "columns"])),
    set("Correct how the panel is described", "tiles.turns", Texts(&["alternating", "same-way"])),
    set("Use longer cables between the tiles", "@", Limit),
];

/// For `data-slow-edge`.
pub(super) const DATA_SLOW_EDGE: &[Setting] = &[
    set("Use a smaller resistor in series", "data.series", Texts(&["470 Ω", "330 Ω", "220 Ω", "100 Ω"])),
    of(&["shifter"], "Use a smaller resistor in series", "series", Texts(&["470 Ω", "330 Ω", "220 Ω", "100 Ω"])),
    of(&["shifter"], "Use a smaller pull-up", "pull", Texts(&["2.2 kΩ", "1 kΩ", "680 Ω", "470 Ω"])),
];

/// For `data-cable`.
pub(super) const DATA_CABLE: &[Setting] = &[
    set("Put a resistor in series at the driver", "data.series", Texts(&["330 Ω", "470 Ω", "220 Ω"])),
    set("Put a resistor in series at the driver", "signal.series", Texts(&["330 Ω", "470 Ω", "220 Ω"])),
    of(
        &["shifter", "differential-pair"],
        "Put a resistor in series at the driver",
        "series",
        Texts(&["330 Ω", "470 Ω", "220 Ω"]),
    ),
];

/// For `firmware-differs`.
pub(super) const FIRMWARE_DIFFERS: &[Setting] = &[set("Set the firmware as the plan says", "@", Said)];
