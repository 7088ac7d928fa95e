//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Larger, Limit, Nothing, Smaller, Texts};
use crate::findings::setting::{Setting, set};

/// For `input-floating`.
pub(super) const INPUT_FLOATING: &[Setting] = &[
    set("Use the pin's own pull", "pull", Texts(&["internal"])),
    set("Fit a pull-up", "pull", Texts(&["10 kΩ", "4.7 kΩ", "2.2 kΩ"])),
];

/// For `divider-range`.
pub(super) const DIVIDER_RANGE: &[Setting] = &[
    set("Use a larger upper resistor", "divider.top", Larger),
    set("Use a smaller lower resistor", "divider.bottom", Smaller),
    set("Use a smaller upper resistor", "divider.top", Smaller),
    set("Use a larger lower resistor", "divider.bottom", Larger),
    set("Put a Zener diode from the pin to ground", "clamp", Texts(&["3.3 V", "3.6 V", "4.7 V", "5.1 V"])),
];

/// For `divider-source`.
pub(super) const DIVIDER_SOURCE: &[Setting] = &[
    set("Put a capacitor from the pin to ground", "filter", Texts(&["100 nF"])),
    set("Use a smaller resistor in series", "series", Smaller),
];

/// For `sampled-too-slowly`.
pub(super) const SAMPLED_TOO_SLOWLY: &[Setting] = &[
    set("Use an interrupt or a counter", "sampled", Texts(&["interrupt", "count"])),
    set("Poll it more often", "sampled", Limit),
];

/// For `contact-wetting`.
pub(super) const CONTACT_WETTING: &[Setting] = &[
    set("Use a smaller pull resistor", "pull", Texts(&["4.7 kΩ", "2.2 kΩ", "1 kΩ"])),
    set("Use a signal contact (gold, or sealed)", "contact", Nothing),
];
