//! The keys that may end what these checks find, and the values that are tried.

use crate::findings::setting::To::Nothing;
use crate::findings::setting::{Setting, TRUE, set};

/// For `not-powered`.
pub(super) const NOT_POWERED: &[Setting] = &[set("Close it", "closed", Nothing), set("Close it", "closed", TRUE)];
