//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::{Texts, Values};
use crate::findings::setting::{Setting, set};

/// For `mains-separation`.
pub(super) const MAINS_SEPARATION: &[Setting] = &[
    set("Keep the circuits further apart", "clearance", Texts(&["5.5 mm", "8 mm"])),
    set("Keep the circuits further apart along surfaces", "creepage", Texts(&["6 mm", "8 mm", "10 mm"])),
];

/// For `mains-contact`.
pub(super) const MAINS_CONTACT: &[Setting] = &[set("Break the line conductor", "breaks", Texts(&["line"]))];

/// For `mains-fuse`.
pub(super) const MAINS_FUSE: &[Setting] = &[
    set(
        "Put a fuse first in its line conductor",
        "fuse",
        Texts(&["10 A", "6.3 A", "5 A", "4 A", "3.15 A", "2 A", "1 A", "16 A", "13 A"]),
    ),
    set("Use a thicker cord", "size", Texts(&["0.75 mm²", "1 mm²", "1.5 mm²", "2.5 mm²"])),
];

/// For `mains-earth`.
pub(super) const MAINS_EARTH: &[Setting] = &[
    set("Cover the live parts", "cover", Texts(&["yes"])),
    set("Earth the metal", "earth", Texts(&["yes"])),
    set("Insulate it twice", "class", Texts(&["II"])),
];

/// For `mains-colours`.
pub(super) const MAINS_COLOURS: &[Setting] = &[
    set("Use a cord with the colours of IEC 60445", "colours", Values(&["[\"brown\", \"blue\", \"green-yellow\"]"])),
    set("Use a cord with the colours of the region", "colours", Values(&["[\"black\", \"white\", \"green\"]"])),
];

/// For `mains-input`.
pub(super) const MAINS_INPUT: &[Setting] =
    &[set("Use one for this mains voltage", "input", Texts(&["100 V .. 240 V"]))];
