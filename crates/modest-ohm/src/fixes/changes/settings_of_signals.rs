//! The keys that findings ask for: signals, pins, LEDs, connectors.

use super::settings::To::{Larger, Limit, Nothing, Resistors, Said, Smaller, Texts, Values};
use super::settings::{Setting, TRUE, of, set};

/// The keys by codes.
pub(super) const OF_SIGNALS: &[(&[&str], &[Setting])] = &[
    (
        &["bus-pull-ups"],
        &[
            of(
                &["bus"],
                "Fit other pull-ups on the bus",
                "pull",
                Texts(&["4.7 kΩ", "2.2 kΩ", "3.3 kΩ", "10 kΩ", "1.5 kΩ", "6.8 kΩ", "1 kΩ", "22 kΩ", "680 Ω"]),
            ),
            of(&["sensor"], "Remove the pull-ups of the module", "pull", Nothing),
            of(&["bus"], "Remove the pull-ups of the bus", "pull", Nothing),
            of(
                &["bus"],
                "Run the bus more slowly",
                "speed",
                Texts(&["400 kHz", "100 kHz", "50 kHz", "20 kHz", "10 kHz"]),
            ),
        ],
    ),
    (
        &["connector-mismatch"],
        &[
            set("Use a far half of the other gender", "far.gender", Texts(&["socket", "plug"])),
            set("Use halves of one family", "far.family", Said),
        ],
    ),
    (&["connector-pinout"], &[set("Use a keyed connector", "keyed", TRUE)]),
    (
        &["contact-wetting"],
        &[
            set("Use a smaller pull resistor", "pull", Texts(&["4.7 kΩ", "2.2 kΩ", "1 kΩ"])),
            set("Use a signal contact (gold, or sealed)", "contact", Nothing),
        ],
    ),
    (
        &["led-heat"],
        &[set(
            "Fit a larger heatsink",
            "heatsink",
            Texts(&["60 K/W", "40 K/W", "25 K/W", "15 K/W", "10 K/W", "5 K/W"]),
        )],
    ),
    (
        &["data-cable"],
        &[
            set("Put a resistor in series at the driver", "data.series", Texts(&["330 Ω", "470 Ω", "220 Ω"])),
            set("Put a resistor in series at the driver", "signal.series", Texts(&["330 Ω", "470 Ω", "220 Ω"])),
            of(
                &["shifter", "differential-pair"],
                "Put a resistor in series at the driver",
                "series",
                Texts(&["330 Ω", "470 Ω", "220 Ω"]),
            ),
        ],
    ),
    (
        &["data-slow-edge"],
        &[
            set("Use a smaller resistor in series", "data.series", Texts(&["470 Ω", "330 Ω", "220 Ω", "100 Ω"])),
            of(
                &["shifter"],
                "Use a smaller resistor in series",
                "series",
                Texts(&["470 Ω", "330 Ω", "220 Ω", "100 Ω"]),
            ),
            of(&["shifter"], "Use a smaller pull-up", "pull", Texts(&["2.2 kΩ", "1 kΩ", "680 Ω", "470 Ω"])),
        ],
    ),
    (
        &["divider-range"],
        &[
            set("Use a larger upper resistor", "divider.top", Larger),
            set("Use a smaller lower resistor", "divider.bottom", Smaller),
            set("Use a smaller upper resistor", "divider.top", Smaller),
            set("Use a larger lower resistor", "divider.bottom", Larger),
            set("Put a Zener diode from the pin to ground", "clamp", Texts(&["3.3 V", "3.6 V", "4.7 V", "5.1 V"])),
        ],
    ),
    (
        &["divider-source"],
        &[
            set("Put a capacitor from the pin to ground", "filter", Texts(&["100 nF"])),
            set("Use a smaller resistor in series", "series", Smaller),
        ],
    ),
    (
        &["enable-open"],
        &[
            set("Fit the enable jumper", "enable", Texts(&["jumper"])),
            set("Fit the enable jumper", "channels.a.enable", Texts(&["jumper"])),
        ],
    ),
    (&["firmware-differs"], &[set("Set the firmware as the plan says", "@", Said)]),
    (
        &["gate-floating"],
        &[
            set("Fit a pull-down", "pull-down", Texts(&["10 kΩ", "100 kΩ"])),
            set("Fit a pull-up", "pull-up", Texts(&["10 kΩ", "100 kΩ"])),
        ],
    ),
    (&["ground-not-common"], &[set("Run a ground wire beside the signal", "signal.ground", TRUE)]),
    (
        &["input-floating"],
        &[
            set("Use the pin's own pull", "pull", Texts(&["internal"])),
            set("Fit a pull-up", "pull", Texts(&["10 kΩ", "4.7 kΩ", "2.2 kΩ"])),
        ],
    ),
    (
        &["led-no-resistor", "led-overcurrent", "led-spread"],
        &[
            set("Use a larger resistor", "resistor", Larger),
            set("Fit a resistor", "resistor", Resistors),
            set("Use a smaller resistor", "resistor", Smaller),
        ],
    ),
    (
        &["level-high", "level-low"],
        &[
            of(&["input", "signal"], "Use a larger pull resistor", "pull", Larger),
            of(&["input", "signal"], "Use a smaller pull resistor", "pull", Smaller),
            of(&["input", "signal"], "Fit a pull resistor", "pull", Texts(&["10 kΩ", "4.7 kΩ", "2.2 kΩ", "47 kΩ"])),
            set("Use a smaller resistor in series", "series", Smaller),
            set("Use a larger upper resistor", "divider.top", Larger),
            set("Use a smaller upper resistor", "divider.top", Smaller),
            set("Use a larger lower resistor", "divider.bottom", Larger),
            set("Use a smaller lower resistor", "divider.bottom", Smaller),
        ],
    ),
    (
        &["pin-overvoltage"],
        &[
            set("Use a larger resistor in series", "series", Larger),
            set("Use a larger upper resistor", "divider.top", Larger),
            set("Put a resistor in series", "series", Texts(&["1 kΩ", "4.7 kΩ", "10 kΩ", "22 kΩ", "47 kΩ"])),
            of(
                &["input"],
                "Put a Zener diode from the pin to ground",
                "clamp",
                Texts(&["3.3 V", "3.6 V", "4.7 V", "5.1 V"]),
            ),
        ],
    ),
    (
        &["output-contention", "shifter-direction"],
        &[
            set("Let both only pull low", "open-drain", TRUE),
            of(&["shifter"], "Turn the shifter round", "sends", Texts(&["down", "up"])),
            of(&["shifter"], "Use a two-way shifter", "sends", Texts(&["both"])),
        ],
    ),
    (
        &["panel-order"],
        &[
            set("Correct how the panel is described", "turns", Texts(&["alternating", "same-way"])),
            set("Correct how the panel is described", "along", Texts(&["rows", "columns"])),
            set("Correct how the panel is described", "tiles.turns", Texts(&["alternating", "same-way"])),
            set("Use longer cables between the tiles", "@", Limit),
        ],
    ),
    (&["pin-shared"], &[set("Say that it shares its pin on purpose", "mirror", TRUE)]),
    (&["pinout-wrong"], &[set("Turn it, or wire its legs as they are", "wired-pinout", Nothing)]),
    (
        &["powered-through-signal"],
        &[
            set("Use a larger resistor in series", "series", Larger),
            set("Put a resistor in series", "series", Texts(&["1 kΩ", "4.7 kΩ", "10 kΩ", "22 kΩ", "47 kΩ"])),
            of(&["shifter"], "Use a buffer that may be driven while it has no supply", "partial-power-down", TRUE),
            set("Use a larger upper resistor", "divider.top", Larger),
            set("Use a larger pull resistor", "pull", Larger),
        ],
    ),
    (
        &["resistor-heat"],
        &[
            set("Use resistors of a higher rating", "resistor-rating", Texts(&["0.5 W", "1 W", "2 W", "3 W", "5 W"])),
            set("Use a larger resistor", "resistor", Larger),
        ],
    ),
    (
        &["sampled-too-slowly"],
        &[
            set("Use an interrupt or a counter", "sampled", Texts(&["interrupt", "count"])),
            set("Poll it more often", "sampled", Limit),
        ],
    ),
    (
        &["terminal-overfilled"],
        &[
            set("Use a connector with more ways", "ways", Values(&["3", "4", "6", "8", "12"])),
            set("Use a connector whose ways take more wires", "wires", Values(&["2", "3"])),
        ],
    ),
    (
        &["wire-colour-ambiguous"],
        &[
            set("Use other colours", "@", Values(&["[\"red\", \"black\"]", "[\"red\", \"black\", \"white\"]"])),
            set(
                "Use other colours",
                "cable.colours",
                Values(&["[\"red\", \"black\"]", "[\"red\", \"black\", \"white\"]"]),
            ),
            set("Mark one core", "cable.core-marks", Values(&["[\"\", \"stripe\"]"])),
        ],
    ),
    (
        &["wire-end-unsuitable"],
        &[
            set("Prepare the end for its terminal", "@", Texts(&["ferrule", "bare", "crimped", "soldered"])),
            set(
                "Prepare the ends for their terminals",
                "@.ends",
                Values(&[
                    "[\"ferrule\", \"ferrule\"]",
                    "[\"ferrule\", \"bare\"]",
                    "[\"bare\", \"bare\"]",
                    "[\"bare\", \"ferrule\"]",
                    "[\"crimped\", \"crimped\"]",
                    "[\"ferrule\", \"crimped\"]",
                    "[\"crimped\", \"ferrule\"]",
                ]),
            ),
        ],
    ),
];
