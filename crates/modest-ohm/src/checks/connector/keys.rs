//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Said, Texts, Values};
use crate::findings::setting::{Setting, TRUE, set};

/// For `connector-mismatch`.
pub(super) const CONNECTOR_MISMATCH: &[Setting] = &[
    set("Use a far half of the other gender", "far.gender", Texts(&["socket", "plug"])),
    set("Use halves of one family", "far.family", Said),
];

/// For `connector-pinout`.
pub(super) const CONNECTOR_PINOUT: &[Setting] = &[set("Use a keyed connector", "keyed", TRUE)];

/// For `terminal-overfilled`.
pub(super) const TERMINAL_OVERFILLED: &[Setting] = &[
    set("Use a connector with more ways", "ways", Values(&["3", "4", "6", "8", "12"])),
    set("Use a connector whose ways take more wires", "wires", Values(&["2", "3"])),
];

/// For `wire-end-unsuitable`.
pub(super) const WIRE_END_UNSUITABLE: &[Setting] = &[
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
];

/// For `wire-colour-ambiguous`.
pub(super) const WIRE_COLOUR_AMBIGUOUS: &[Setting] = &[
    set("Use other colours", "@", Values(&["[\"red\", \"black\"]", "[\"red\", \"black\", \"white\"]"])),
    set("Use other colours", "cable.colours", Values(&["[\"red\", \"black\"]", "[\"red\", \"black\", \"white\"]"])),
    set("Mark one core", "cable.core-marks", Values(&["[\"\", \"stripe\"]"])),
];
