//! What changes are tried on: the plan's text as tables, variants of it, and the verdict on a change.

pub(crate) mod candidate;
pub(crate) mod keep;
pub(crate) mod sheet;
pub(crate) mod trial;
pub(crate) mod variant;
