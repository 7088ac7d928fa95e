//! How large a plan may be.

/// Texts above this size are refused before they are read.
pub const LARGEST_TEXT_BYTES: usize = 8 * 1024 * 1024;
