//! What ships with the tool.

pub mod starters;
