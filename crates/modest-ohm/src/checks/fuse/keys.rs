//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::Texts;
use crate::findings::setting::{Setting, set};

/// For `fuse-too-small`.
pub(super) const FUSE_TOO_SMALL: &[Setting] = &[set("Use a time-lag fuse", "fuse.speed", Texts(&["slow"]))];

/// For `fuse-rating`.
pub(super) const FUSE_RATING: &[Setting] = &[
    set("Use a ceramic fuse", "fuse.body", Texts(&["ceramic"])),
    set("Use a bolt-down fuse", "fuse.family", Texts(&["bolt"])),
];
