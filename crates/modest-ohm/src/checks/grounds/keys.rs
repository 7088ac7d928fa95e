//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::{Setting, TRUE, set};

/// For `ground-not-common`.
pub(super) const GROUND_NOT_COMMON: &[Setting] = &[set("Run a ground wire beside the signal", "signal.ground", TRUE)];
