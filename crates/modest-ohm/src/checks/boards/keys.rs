//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Larger, Texts};
use crate::findings::setting::{Setting, TRUE, of, set};

/// For `profile-power`.
pub(super) const PROFILE_POWER: &[Setting] = &[
    set("Use a cable marked for more than 3 A", "marked-cable", TRUE),
    set("Use one of more power", "power", Texts(&["30 W", "45 W", "65 W", "100 W"])),
];

/// For `usb-while-fed`.
pub(super) const USB_WHILE_FED: &[Setting] = &[
    set("Never plug a computer into it while it is fed", "usb", Texts(&["never"])),
    set("Use a board that selects one of its inputs", "inputs", Texts(&["selects", "diode-joined"])),
];

/// For `powered-through-signal`.
pub(super) const POWERED_THROUGH_SIGNAL: &[Setting] = &[
    set("Use a larger resistor in series", "series", Larger),
    set("Put a resistor in series", "series", Texts(&["1 kΩ", "4.7 kΩ", "10 kΩ", "22 kΩ", "47 kΩ"])),
    of(&["shifter"], "Use a buffer that may be driven while it has no supply", "partial-power-down", TRUE),
    set("Use a larger upper resistor", "divider.top", Larger),
    set("Use a larger pull resistor", "pull", Larger),
];

/// For `low-side-with-signal`.
pub(super) const LOW_SIDE_WITH_SIGNAL: &[Setting] = &[
    of(&["driver"], "Put it into the return of its load", "side", Texts(&["low"])),
    of(&["driver"], "Put it into the feed of its load", "side", Texts(&["high"])),
    of(&["switch"], "Break the positive", "breaks", Texts(&["plus", "both"])),
];
