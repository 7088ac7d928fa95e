//! The keys that findings ask for: which, on what kind of item, and the values that are tried.

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

const fn set(title: &'static str, key: &'static str, to: To) -> Setting {
    Setting { title, kinds: &[], key, to }
}

const fn of(kinds: &'static [&'static str], title: &'static str, key: &'static str, to: To) -> Setting {
    Setting { title, kinds, key, to }
}

use To::{Judged, Larger, Limit, Nothing, Resistors, Said, Smaller, Texts, Values};

const TRUE: To = Values(&["true"]);
const FALSE: To = Values(&["false"]);

/// The keys for a code.
pub(super) fn settings_of(code: &str) -> Vec<Setting> {
    match code {
        "back-fed" | "usb-while-fed" => vec![
            set("Never plug a computer into it while it is fed", "usb", Texts(&["never"])),
            set("Use a board that selects one of its inputs", "inputs", Texts(&["selects", "diode-joined"])),
        ],
        "base-drive" => vec![set("Use a smaller base resistor", "base-resistor", Smaller)],
        "battery-no-cutoff" => vec![set("Use a pack or module that disconnects earlier", "cut-off", Limit)],
        "battery-stops-early" => vec![of(&["supply"], "Accept a larger reserve", "reserve", Judged)],
        "braking-energy" => vec![
            set("Stop the motor before reversing, in the firmware too", "reverses", Texts(&["from-rest"])),
            set("Let the motor run down", "brakes", FALSE),
        ],
        "reversal-current" => {
            vec![set("Stop the motor before reversing, in the firmware too", "reverses", Texts(&["from-rest"]))]
        }
        "bridge-logic" => vec![
            set("Remove the jumper of the regulator", "regulator-jumper", Texts(&["out", "none"])),
            set("Fit the jumper of the regulator", "regulator-jumper", Texts(&["in"])),
            set("Feed its logic from the regulator", "from.logic", Nothing),
        ],
        "brown-out" | "start-up-dip" | "supply-surge" => {
            vec![set("Start it softly, in the firmware or with its own electronics", "soft-start", TRUE)]
        }
        "bus-half-unfed" => vec![set("Bridge both conductors of the bus bar", "bridged", Texts(&["both"]))],
        "bus-pull-ups" => vec![
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
        "clamp-conducts" => vec![set("Turn the clamp: cathode to positive", "cathode", Nothing)],
        "series-diode-reversed" => vec![set("Turn the diode: cathode to the load", "cathode", Nothing)],
        "connector-mismatch" => vec![
            set("Use a far half of the other gender", "far.gender", Texts(&["socket", "plug"])),
            set("Use halves of one family", "far.family", Said),
        ],
        "connector-pinout" => vec![set("Use a keyed connector", "keyed", TRUE)],
        "contact-overloaded" => vec![
            set("Use two contacts in parallel", "contacts", Values(&["2", "3", "4"])),
            set("Use a pack with welded cells", "mounted", Texts(&["welded"])),
        ],
        "contact-wetting" => vec![
            set("Use a smaller pull resistor", "pull", Texts(&["4.7 kΩ", "2.2 kΩ", "1 kΩ"])),
            set("Use a signal contact (gold, or sealed)", "contact", Nothing),
        ],
        "converter-heat" => vec![
            set("Use a switching converter", "kind", Texts(&["buck"])),
            set("Fit a heatsink", "theta-ja", Texts(&["40 K/W", "30 K/W", "20 K/W", "12 K/W"])),
        ],
        "diode-heat" => vec![
            set("Use a P-channel MOSFET in place of the diode", "kind", Texts(&["p-fet"])),
            set("Fit a heatsink", "theta-ja", Texts(&["60 K/W", "40 K/W", "25 K/W"])),
        ],
        "driver-heat" => vec![
            set("Fit a heatsink", "theta-ja", Texts(&["60 K/W", "40 K/W", "25 K/W", "15 K/W", "8 K/W"])),
            set("Fit a larger heatsink", "heatsink", Texts(&["20 K/W", "10 K/W", "5 K/W", "2 K/W"])),
        ],
        "led-heat" => vec![set(
            "Fit a larger heatsink",
            "heatsink",
            Texts(&["60 K/W", "40 K/W", "25 K/W", "15 K/W", "10 K/W", "5 K/W"]),
        )],
        "converter-input" => {
            vec![set("Use a converter for both higher and lower input", "kind", Texts(&["buck-boost"]))]
        }
        "cranking-reset" => vec![
            set("Use a converter for both higher and lower input", "kind", Texts(&["buck-boost"])),
            set("Use a converter that works from less", "dropout", Texts(&["0.5 V", "0.3 V", "0.1 V"])),
        ],
        "data-cable" => vec![
            set("Put a resistor in series at the driver", "data.series", Texts(&["330 Ω", "470 Ω", "220 Ω"])),
            set("Put a resistor in series at the driver", "signal.series", Texts(&["330 Ω", "470 Ω", "220 Ω"])),
            of(
                &["shifter", "differential-pair"],
                "Put a resistor in series at the driver",
                "series",
                Texts(&["330 Ω", "470 Ω", "220 Ω"]),
            ),
        ],
        "data-slow-edge" => vec![
            set("Use a smaller resistor in series", "data.series", Texts(&["470 Ω", "330 Ω", "220 Ω", "100 Ω"])),
            of(
                &["shifter"],
                "Use a smaller resistor in series",
                "series",
                Texts(&["470 Ω", "330 Ω", "220 Ω", "100 Ω"]),
            ),
            of(&["shifter"], "Use a smaller pull-up", "pull", Texts(&["2.2 kΩ", "1 kΩ", "680 Ω", "470 Ω"])),
        ],
        "divider-range" => vec![
            set("Use a larger upper resistor", "divider.top", Larger),
            set("Use a smaller lower resistor", "divider.bottom", Smaller),
            set("Use a smaller upper resistor", "divider.top", Smaller),
            set("Use a larger lower resistor", "divider.bottom", Larger),
            set("Put a Zener diode from the pin to ground", "clamp", Texts(&["3.3 V", "3.6 V", "4.7 V", "5.1 V"])),
        ],
        "divider-source" => vec![
            set("Put a capacitor from the pin to ground", "filter", Texts(&["100 nF"])),
            set("Use a smaller resistor in series", "series", Smaller),
        ],
        "driver-switching" => vec![
            set(
                "Switch it more slowly",
                "pwm",
                Texts(&["20 kHz", "10 kHz", "5 kHz", "1 kHz", "500 Hz", "200 Hz", "100 Hz", "50 Hz"]),
            ),
            set("Use a smaller gate resistor", "gate-resistor", Smaller),
        ],
        "pwm-range" => vec![set("Switch it within its range", "pwm", Limit)],
        "pwm-unsuited" => vec![set("Switch it without PWM", "pwm", Nothing)],
        "relay-pwm" => vec![set("Switch it without PWM", "pwm", Nothing)],
        "enable-open" => vec![
            set("Fit the enable jumper", "enable", Texts(&["jumper"])),
            set("Fit the enable jumper", "channels.a.enable", Texts(&["jumper"])),
        ],
        "firmware-differs" => vec![set("Set the firmware as the plan says", "@", Said)],
        "firmware-limit-too-low" => vec![
            of(&["strip", "panel"], "Raise the firmware limit, in the firmware too", "firmware-limit", Limit),
            of(&["firmware-limit"], "Raise the firmware limit, in the firmware too", "current", Limit),
        ],
        "flyback-missing" => vec![],
        "flyback-reversed" => vec![set("Turn the diode: cathode to positive", "flyback.cathode", Texts(&["plus"]))],
        "frame-rate-low" => vec![],
        "fuse-rating" => vec![
            set("Use a ceramic fuse", "fuse.body", Texts(&["ceramic"])),
            set("Use a bolt-down fuse", "fuse.family", Texts(&["bolt"])),
        ],
        "fuse-too-small" => vec![set("Use a time-lag fuse", "fuse.speed", Texts(&["slow"]))],
        "gate-drive" | "side-mismatch" | "low-side-with-signal" => vec![
            of(&["driver"], "Put it into the return of its load", "side", Texts(&["low"])),
            of(&["driver"], "Put it into the feed of its load", "side", Texts(&["high"])),
            of(&["switch"], "Break the positive", "breaks", Texts(&["plus", "both"])),
        ],
        "gate-floating" => vec![
            set("Fit a pull-down", "pull-down", Texts(&["10 kΩ", "100 kΩ"])),
            set("Fit a pull-up", "pull-up", Texts(&["10 kΩ", "100 kΩ"])),
        ],
        "gate-overvoltage" => {
            vec![set("Clamp the gate with a Zener diode", "gate-clamp", Texts(&["12 V", "10 V", "15 V", "6.8 V"]))]
        }
        "ground-not-common" => vec![set("Run a ground wire beside the signal", "signal.ground", TRUE)],
        "input-floating" => vec![
            set("Use the pin's own pull", "pull", Texts(&["internal"])),
            set("Fit a pull-up", "pull", Texts(&["10 kΩ", "4.7 kΩ", "2.2 kΩ"])),
        ],
        "inrush" => vec![set("Start the loads one after another", "soft-start", TRUE)],
        "led-no-resistor" | "led-overcurrent" | "led-spread" => vec![
            set("Use a larger resistor", "resistor", Larger),
            set("Fit a resistor", "resistor", Resistors),
            set("Use a smaller resistor", "resistor", Smaller),
        ],
        "level-high" | "level-low" => vec![
            of(&["input", "signal"], "Use a larger pull resistor", "pull", Larger),
            of(&["input", "signal"], "Use a smaller pull resistor", "pull", Smaller),
            of(&["input", "signal"], "Fit a pull resistor", "pull", Texts(&["10 kΩ", "4.7 kΩ", "2.2 kΩ", "47 kΩ"])),
            set("Use a smaller resistor in series", "series", Smaller),
            set("Use a larger upper resistor", "divider.top", Larger),
            set("Use a smaller upper resistor", "divider.top", Smaller),
            set("Use a larger lower resistor", "divider.bottom", Larger),
            set("Use a smaller lower resistor", "divider.bottom", Smaller),
        ],
        "pin-overvoltage" => vec![
            set("Use a larger resistor in series", "series", Larger),
            set("Use a larger upper resistor", "divider.top", Larger),
            set(
                "Divide the voltage",
                "divider",
                Values(&[
                    "{ top = \"10 kΩ\", bottom = \"15 kΩ\" }",
                    "{ top = \"10 kΩ\", bottom = \"18 kΩ\" }",
                    "{ top = \"10 kΩ\", bottom = \"10 kΩ\" }",
                    "{ top = \"27 kΩ\", bottom = \"10 kΩ\" }",
                    "{ top = \"39 kΩ\", bottom = \"10 kΩ\" }",
                    "{ top = \"82 kΩ\", bottom = \"10 kΩ\" }",
                ]),
            ),
            set("Put a resistor in series", "series", Texts(&["1 kΩ", "4.7 kΩ", "10 kΩ", "22 kΩ", "47 kΩ"])),
            of(
                &["input"],
                "Put a Zener diode from the pin to ground",
                "clamp",
                Texts(&["3.3 V", "3.6 V", "4.7 V", "5.1 V"]),
            ),
        ],
        "mains-earth" => vec![
            set("Cover the live parts", "cover", Texts(&["yes"])),
            set("Earth the metal", "earth", Texts(&["yes"])),
            set("Insulate it twice", "class", Texts(&["II"])),
        ],
        "mains-fuse" => vec![
            set(
                "Put a fuse first in its line conductor",
                "fuse",
                Texts(&["10 A", "6.3 A", "5 A", "4 A", "3.15 A", "2 A", "1 A", "16 A", "13 A"]),
            ),
            set("Use a thicker cord", "size", Texts(&["0.75 mm²", "1 mm²", "1.5 mm²", "2.5 mm²"])),
        ],
        "mains-separation" => vec![
            set("Keep the circuits further apart", "clearance", Texts(&["5.5 mm", "8 mm"])),
            set("Keep the circuits further apart along surfaces", "creepage", Texts(&["6 mm", "8 mm", "10 mm"])),
        ],
        "mains-colours" => vec![
            set(
                "Use a cord with the colours of IEC 60445",
                "colours",
                Values(&["[\"brown\", \"blue\", \"green-yellow\"]"]),
            ),
            set("Use a cord with the colours of the region", "colours", Values(&["[\"black\", \"white\", \"green\"]"])),
        ],
        "mains-input" => vec![set("Use one for this mains voltage", "input", Texts(&["100 V .. 240 V"]))],
        "mains-contact" => vec![set("Break the line conductor", "breaks", Texts(&["line"]))],
        "not-powered" => vec![set("Close it", "closed", Nothing), set("Close it", "closed", TRUE)],
        "on-time" => vec![set("Switch it less often", "switched", Limit)],
        "output-contention" | "shifter-direction" => vec![
            set("Let both only pull low", "open-drain", TRUE),
            of(&["shifter"], "Turn the shifter round", "sends", Texts(&["down", "up"])),
            of(&["shifter"], "Use a two-way shifter", "sends", Texts(&["both"])),
        ],
        "panel-order" => vec![
            set("Correct how the panel is described", "turns", Texts(&["alternating", "same-way"])),
            set("Correct how the panel is described", "along", Texts(&["rows", "columns"])),
            set("Correct how the panel is described", "tiles.turns", Texts(&["alternating", "same-way"])),
            set("Use longer cables between the tiles", "@", Limit),
        ],
        "pin-shared" => vec![set("Say that it shares its pin on purpose", "mirror", TRUE)],
        "pinout-wrong" => vec![set("Turn it, or wire its legs as they are", "wired-pinout", Nothing)],
        "polarity-unprotected" => vec![set("Use a plug that cannot be reversed", "keyed", TRUE)],
        "powered-through-signal" => vec![
            set("Use a larger resistor in series", "series", Larger),
            set("Put a resistor in series", "series", Texts(&["1 kΩ", "4.7 kΩ", "10 kΩ", "22 kΩ", "47 kΩ"])),
            of(&["shifter"], "Use a buffer that may be driven while it has no supply", "partial-power-down", TRUE),
            set("Use a larger upper resistor", "divider.top", Larger),
            set("Use a larger pull resistor", "pull", Larger),
        ],
        "profile-power" => vec![
            set("Use a cable marked for more than 3 A", "marked-cable", TRUE),
            set("Use one of more power", "power", Texts(&["30 W", "45 W", "65 W", "100 W"])),
        ],
        "resistor-heat" => vec![
            set("Use resistors of a higher rating", "resistor-rating", Texts(&["0.5 W", "1 W", "2 W", "3 W", "5 W"])),
            set("Use a larger resistor", "resistor", Larger),
        ],
        "return-undersized" => vec![set("Make the return as thick as the feed", "@.return", Nothing)],
        "relay-logic" => vec![set("Remove the jumper", "jumper", Texts(&["out"]))],
        "relay-coil" => vec![],
        "safe-state" => vec![
            set("Use the other contact", "contact", Texts(&["nc", "no"])),
            set("Fit a pull-down", "pull-down", Texts(&["10 kΩ"])),
            set("Fit a pull-up", "pull-up", Texts(&["10 kΩ"])),
        ],
        "sampled-too-slowly" => vec![
            set("Use an interrupt or a counter", "sampled", Texts(&["interrupt", "count"])),
            set("Poll it more often", "sampled", Limit),
        ],
        "solid-state-kind" => {
            vec![set("Use one for direct current", "switches", Nothing), set("Turn its output", "output", Nothing)]
        }
        "source-sleeps" => vec![set("Use a power bank that stays on", "off-below", Nothing)],
        "stack-pin-conflict" => vec![],
        "terminal-overfilled" => vec![
            set("Use a connector with more ways", "ways", Values(&["3", "4", "6", "8", "12"])),
            set("Use a connector whose ways take more wires", "wires", Values(&["2", "3"])),
        ],
        "thermal-pins-open" => vec![set("Connect all of them to ground", "thermal-pins", Texts(&["wired"]))],
        "transient-unprotected" => vec![set("Use a converter specified for vehicle transients", "vehicle-rated", TRUE)],
        "wire-colour-ambiguous" => vec![
            set("Use other colours", "@", Values(&["[\"red\", \"black\"]", "[\"red\", \"black\", \"white\"]"])),
            set(
                "Use other colours",
                "cable.colours",
                Values(&["[\"red\", \"black\"]", "[\"red\", \"black\", \"white\"]"]),
            ),
            set("Mark one core", "cable.core-marks", Values(&["[\"\", \"stripe\"]"])),
        ],
        "wire-end-unsuitable" => vec![
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
        _ => Vec::new(),
    }
}
