//! Names that earlier versions of the plan format used: what is written with one of them is told the name of today.

use What::{Code, Key, Table, Word};

/// What a name stands for.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) enum What {
    /// A kind of table: `[board.x]`.
    Table,
    /// A key.
    Key,
    /// A word that a key takes.
    Word,
    /// The code of a check.
    Code,
}

/// An old name and the names of today; which of them is meant depends on the table it is in.
type Row = (What, &'static str, &'static [&'static str]);

#[rustfmt::skip]
const RENAMED: [Row; 98] = [
    (Table, "wire", &["signal"]),
    (Table, "pair", &["differential-pair"]),
    (Table, "controller", &["board"]),
    (Table, "box", &["enclosure"]),
    (Table, "joint", &["connector"]),
    (Table, "cap", &["firmware-limit"]),
    (Key, "ac-volts", &["ac-voltage"]),
    (Key, "also", &["extra-functions"]),
    (Key, "asks", &["requested-current"]),
    (Key, "at", &["position"]),
    (Key, "boot", &["at-reset"]),
    (Key, "both-ways", &["bidirectional"]),
    (Key, "can", &["functions"]),
    (Key, "cap", &["limit"]),
    (Key, "class", &["part"]),
    (Key, "conductors", &["wire-range"]),
    (Key, "dc-volts", &["dc-voltage"]),
    (Key, "firmware-cap", &["firmware-limit"]),
    (Key, "frames", &["frame-rate"]),
    (Key, "gate-volts", &["rds-on-at"]),
    (Key, "holds", &["contains"]),
    (Key, "input-volts", &["input-voltage"]),
    (Key, "is", &["kind"]),
    (Key, "joints", &["connectors"]),
    (Key, "junction", &["junction-max"]),
    (Key, "lead", &["cable-resistance", "data-cable", "cable", "signal-cable"]),
    (Key, "leak", &["leakage"]),
    (Key, "legs", &["pinout"]),
    (Key, "lets-go", &["partial-power-down"]),
    (Key, "logic-volts", &["logic-voltage"]),
    (Key, "marks", &["core-marks", "cut-spacing"]),
    (Key, "needs-volts", &["needs-voltage"]),
    (Key, "of", &["rail", "section"]),
    (Key, "on-time", &["max-on-time"]),
    (Key, "opens-from", &["blows-from"]),
    (Key, "pin-ohms", &["pin-resistance"]),
    (Key, "pin-volts", &["pin-voltage"]),
    (Key, "pins-can", &["pin-functions"]),
    (Key, "rest", &["safe-state", "at-power-on"]),
    (Key, "runs-dry", &["dry-running"]),
    (Key, "samples", &["boot-level"]),
    (Key, "sheet", &["recommended"]),
    (Key, "sink", &["heatsink"]),
    (Key, "stands", &["max-air-temperature"]),
    (Key, "takes", &["accepts-ends"]),
    (Key, "thermal-legs", &["thermal-pins"]),
    (Key, "theta", &["theta-ja"]),
    (Key, "theta-case", &["theta-jc"]),
    (Key, "until", &["reserve"]),
    (Key, "volts", &["voltage"]),
    (Key, "wanted", &["minimum-current"]),
    (Key, "wants-capacitor", &["local-capacitor"]),
    (Key, "watched-by", &["stopped-by"]),
    (Key, "wired", &["wired-pinout"]),
    (Key, "works", &["minimum"]),
    (Word, "swing", &["voltage"]),
    (Word, "held", &["jumper"]),
    (Word, "may", &["allowed"]),
    (Word, "balanced-pair-5v", &["differential-pair-5v"]),
    (Word, "wire", &["signal"]),
    (Word, "pair", &["differential-pair"]),
    (Word, "controller", &["board"]),
    (Word, "box", &["enclosure"]),
    (Word, "joint", &["connector"]),
    (Word, "cap", &["firmware-limit"]),
    (Code, "battery-sag", &["battery-stops-early"]),
    (Code, "box-heat", &["enclosure-heat"]),
    (Code, "bus-pulls", &["bus-pull-ups"]),
    (Code, "cap-missing", &["firmware-limit-missing"]),
    (Code, "cap-too-high", &["firmware-limit-too-high"]),
    (Code, "cap-too-low", &["firmware-limit-too-low"]),
    (Code, "colour-misleads", &["wire-colour-ambiguous"]),
    (Code, "connector-confusable", &["connector-mix-up"]),
    (Code, "cut-off-grid", &["cut-mark-missed"]),
    (Code, "end-unsuited", &["wire-end-unsuitable"]),
    (Code, "ends-do-not-mate", &["connector-mismatch"]),
    (Code, "feeds-disagree", &["strip-sources-paralleled"]),
    (Code, "fuse-cannot-act", &["fuse-may-not-blow"]),
    (Code, "legs-mixed", &["pinout-wrong"]),
    (Code, "noise-shared", &["start-up-dip"]),
    (Code, "outputs-tied", &["output-contention"]),
    (Code, "pin-in-order", &["connector-pinout"]),
    (Code, "pins-claimed", &["stack-pin-conflict"]),
    (Code, "pixels-slow", &["frame-rate-low"]),
    (Code, "rest-state", &["safe-state"]),
    (Code, "return-starved", &["return-undersized"]),
    (Code, "reversal", &["reversal-current"]),
    (Code, "stall-budget", &["stall-current"]),
    (Code, "strip-sags", &["strip-voltage-low"]),
    (Code, "terminal-crowded", &["terminal-overfilled"]),
    (Code, "thermal-legs-open", &["thermal-pins-open"]),
    (Code, "transistor-current", &["driver-current"]),
    (Code, "transistor-starved", &["base-drive"]),
    (Code, "transistor-voltage", &["driver-voltage"]),
    (Code, "unfed", &["not-powered"]),
    (Code, "unreachable", &["data-missing"]),
    (Code, "verdict-hangs", &["assumption-decides"]),
    (Code, "wire-does-not-fit", &["wire-size-mismatch"]),
];

/// The name of today for an old one, among those that `fits` here.
pub(crate) fn renamed(what: What, old: &str, fits: impl Fn(&str) -> bool) -> Option<&'static str> {
    let (_, _, new) = RENAMED.iter().find(|(kind, name, _)| *kind == what && *name == old)?;
    new.iter().copied().find(|name| fits(name))
}

/// All old names of one sort.
pub(crate) fn old_names(what: What) -> impl Iterator<Item = &'static str> {
    RENAMED.iter().filter(move |(kind, _, _)| *kind == what).map(|(_, old, _)| *old)
}

/// The old names of a key of today.
pub(crate) fn old_keys(new: &str) -> impl Iterator<Item = &'static str> {
    RENAMED.iter().filter(move |(what, _, names)| *what == Key && names.contains(&new)).map(|(_, old, _)| *old)
}
