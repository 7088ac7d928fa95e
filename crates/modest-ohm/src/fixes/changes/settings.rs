//! The keys that findings ask for: which, on what kind of item, and the values that are tried.

use super::settings_of_signals::OF_SIGNALS;

/// One key that may end a finding.
pub(super) struct Setting {
    /// An imperative; `{of}` stands for the item.
    pub title: &'static str,
    /// The kinds of item that have it; empty for any.
    pub kinds: &'static [&'static str],
    /// The key, which may be a path; `@` is the value where the finding points, `@.key` one beside it or in it.
    pub key: &'static str,
    pub to: To,
}

/// What is written.
#[derive(Clone, Copy)]
pub(super) enum To {
    /// Texts, in this order.
    Texts(&'static [&'static str]),
    /// Other values, as TOML.
    Values(&'static [&'static str]),
    /// The key is removed.
    Nothing,
    /// The limit that the finding was held to.
    Limit,
    /// The number that was judged.
    Judged,
    /// What the message names last.
    Said,
    /// Resistors above the present one.
    Larger,
    /// Resistors below the present one.
    Smaller,
    /// Resistors of all decades.
    Resistors,
}

pub(super) const fn set(title: &'static str, key: &'static str, to: To) -> Setting {
    Setting { title, kinds: &[], key, to }
}

pub(super) const fn of(kinds: &'static [&'static str], title: &'static str, key: &'static str, to: To) -> Setting {
    Setting { title, kinds, key, to }
}

use To::{Judged, Limit, Nothing, Smaller, Texts, Values};

pub(super) const TRUE: To = Values(&["true"]);
const FALSE: To = Values(&["false"]);

/// The keys for a code.
pub(super) fn settings_of(code: &str) -> &'static [Setting] {
    SETTINGS.iter().chain(OF_SIGNALS).find(|(codes, _)| codes.contains(&code)).map_or(&[], |(_, settings)| settings)
}

/// The keys by codes: supplies, cables, drivers and the mains.
const SETTINGS: &[(&[&str], &[Setting])] = &[
    (
        &["back-fed", "usb-while-fed"],
        &[
            set("Never plug a computer into it while it is fed", "usb", Texts(&["never"])),
            set("Use a board that selects one of its inputs", "inputs", Texts(&["selects", "diode-joined"])),
        ],
    ),
    (&["base-drive"], &[set("Use a smaller base resistor", "base-resistor", Smaller)]),
    (&["battery-no-cutoff"], &[set("Use a pack or module that disconnects earlier", "cut-off", Limit)]),
    (&["battery-stops-early"], &[of(&["supply"], "Accept a larger reserve", "reserve", Judged)]),
    (
        &["braking-energy"],
        &[
            set("Stop the motor before reversing, in the firmware too", "reverses", Texts(&["from-rest"])),
            set("Let the motor run down", "brakes", FALSE),
        ],
    ),
    (
        &["reversal-current"],
        &[set("Stop the motor before reversing, in the firmware too", "reverses", Texts(&["from-rest"]))],
    ),
    (
        &["bridge-logic"],
        &[
            set("Remove the jumper of the regulator", "regulator-jumper", Texts(&["out", "none"])),
            set("Fit the jumper of the regulator", "regulator-jumper", Texts(&["in"])),
            set("Feed its logic from the regulator", "from.logic", Nothing),
        ],
    ),
    (
        &["brown-out", "start-up-dip", "supply-surge"],
        &[set("Start it softly, in the firmware or with its own electronics", "soft-start", TRUE)],
    ),
    (&["bus-half-unfed"], &[set("Bridge both conductors of the bus bar", "bridged", Texts(&["both"]))]),
    (&["clamp-conducts"], &[set("Turn the clamp: cathode to positive", "cathode", Nothing)]),
    (&["series-diode-reversed"], &[set("Turn the diode: cathode to the load", "cathode", Nothing)]),
    (
        &["contact-overloaded"],
        &[
            set("Use two contacts in parallel", "contacts", Values(&["2", "3", "4"])),
            set("Use a pack with welded cells", "mounted", Texts(&["welded"])),
        ],
    ),
    (
        &["converter-heat"],
        &[
            set("Use a switching converter", "kind", Texts(&["buck"])),
            set("Fit a heatsink", "theta-ja", Texts(&["40 K/W", "30 K/W", "20 K/W", "12 K/W"])),
        ],
    ),
    (
        &["diode-heat"],
        &[
            set("Use a P-channel MOSFET in place of the diode", "kind", Texts(&["p-fet"])),
            set("Fit a heatsink", "theta-ja", Texts(&["60 K/W", "40 K/W", "25 K/W"])),
        ],
    ),
    (
        &["driver-heat"],
        &[
            set("Fit a heatsink", "theta-ja", Texts(&["60 K/W", "40 K/W", "25 K/W", "15 K/W", "8 K/W"])),
            set("Fit a larger heatsink", "heatsink", Texts(&["20 K/W", "10 K/W", "5 K/W", "2 K/W"])),
        ],
    ),
    (&["converter-input"], &[set("Use a converter for both higher and lower input", "kind", Texts(&["buck-boost"]))]),
    (
        &["cranking-reset"],
        &[
            set("Use a converter for both higher and lower input", "kind", Texts(&["buck-boost"])),
            set("Use a converter that works from less", "dropout", Texts(&["0.5 V", "0.3 V", "0.1 V"])),
        ],
    ),
    (
        &["driver-switching"],
        &[
            set(
                "Switch it more slowly",
                "pwm",
                Texts(&["20 kHz", "10 kHz", "5 kHz", "1 kHz", "500 Hz", "200 Hz", "100 Hz", "50 Hz"]),
            ),
            set("Use a smaller gate resistor", "gate-resistor", Smaller),
        ],
    ),
    (&["pwm-range"], &[set("Switch it within its range", "pwm", Limit)]),
    (&["pwm-unsuited"], &[set("Switch it without PWM", "pwm", Nothing)]),
    (&["relay-pwm"], &[set("Switch it without PWM", "pwm", Nothing)]),
    (
        &["firmware-limit-too-low"],
        &[
            of(&["strip", "panel"], "Raise the firmware limit, in the firmware too", "firmware-limit", Limit),
            of(&["firmware-limit"], "Raise the firmware limit, in the firmware too", "current", Limit),
        ],
    ),
    (&["flyback-reversed"], &[set("Turn the diode: cathode to positive", "flyback.cathode", Texts(&["plus"]))]),
    (
        &["fuse-rating"],
        &[
            set("Use a ceramic fuse", "fuse.body", Texts(&["ceramic"])),
            set("Use a bolt-down fuse", "fuse.family", Texts(&["bolt"])),
        ],
    ),
    (&["fuse-too-small"], &[set("Use a time-lag fuse", "fuse.speed", Texts(&["slow"]))]),
    (
        &["gate-drive", "side-mismatch", "low-side-with-signal"],
        &[
            of(&["driver"], "Put it into the return of its load", "side", Texts(&["low"])),
            of(&["driver"], "Put it into the feed of its load", "side", Texts(&["high"])),
            of(&["switch"], "Break the positive", "breaks", Texts(&["plus", "both"])),
        ],
    ),
    (
        &["gate-overvoltage"],
        &[set("Clamp the gate with a Zener diode", "gate-clamp", Texts(&["12 V", "10 V", "15 V", "6.8 V"]))],
    ),
    (&["inrush"], &[set("Start the loads one after another", "soft-start", TRUE)]),
    (
        &["mains-earth"],
        &[
            set("Cover the live parts", "cover", Texts(&["yes"])),
            set("Earth the metal", "earth", Texts(&["yes"])),
            set("Insulate it twice", "class", Texts(&["II"])),
        ],
    ),
    (
        &["mains-fuse"],
        &[
            set(
                "Put a fuse first in its line conductor",
                "fuse",
                Texts(&["10 A", "6.3 A", "5 A", "4 A", "3.15 A", "2 A", "1 A", "16 A", "13 A"]),
            ),
            set("Use a thicker cord", "size", Texts(&["0.75 mm²", "1 mm²", "1.5 mm²", "2.5 mm²"])),
        ],
    ),
    (
        &["mains-separation"],
        &[
            set("Keep the circuits further apart", "clearance", Texts(&["5.5 mm", "8 mm"])),
            set("Keep the circuits further apart along surfaces", "creepage", Texts(&["6 mm", "8 mm", "10 mm"])),
        ],
    ),
    (
        &["mains-colours"],
        &[
            set(
                "Use a cord with the colours of IEC 60445",
                "colours",
                Values(&["[\"brown\", \"blue\", \"green-yellow\"]"]),
            ),
            set("Use a cord with the colours of the region", "colours", Values(&["[\"black\", \"white\", \"green\"]"])),
        ],
    ),
    (&["mains-input"], &[set("Use one for this mains voltage", "input", Texts(&["100 V .. 240 V"]))]),
    (&["mains-contact"], &[set("Break the line conductor", "breaks", Texts(&["line"]))]),
    (&["not-powered"], &[set("Close it", "closed", Nothing), set("Close it", "closed", TRUE)]),
    (&["on-time"], &[set("Switch it less often", "switched", Limit)]),
    (&["polarity-unprotected"], &[set("Use a plug that cannot be reversed", "keyed", TRUE)]),
    (
        &["profile-power"],
        &[
            set("Use a cable marked for more than 3 A", "marked-cable", TRUE),
            set("Use one of more power", "power", Texts(&["30 W", "45 W", "65 W", "100 W"])),
        ],
    ),
    (&["return-undersized"], &[set("Make the return as thick as the feed", "@.return", Nothing)]),
    (&["relay-logic"], &[set("Remove the jumper", "jumper", Texts(&["out"]))]),
    (
        &["safe-state"],
        &[
            set("Use the other contact", "contact", Texts(&["nc", "no"])),
            set("Fit a pull-down", "pull-down", Texts(&["10 kΩ"])),
            set("Fit a pull-up", "pull-up", Texts(&["10 kΩ"])),
        ],
    ),
    (
        &["solid-state-kind"],
        &[set("Use one for direct current", "switches", Nothing), set("Turn its output", "output", Nothing)],
    ),
    (&["thermal-pins-open"], &[set("Connect all of them to ground", "thermal-pins", Texts(&["wired"]))]),
    (&["transient-unprotected"], &[set("Use a converter specified for vehicle transients", "vehicle-rated", TRUE)]),
];
