//! From text to plan: the top-level tables, parts laid under the items that name them.

pub(crate) mod assemble;
pub(crate) mod kinds;
pub(crate) mod read;
