//! From text to plan: the top-level tables, parts laid under the items that name them.

pub(crate) mod assemble;
mod entry;
pub(crate) mod items;
pub(crate) mod kinds;
mod members;
mod stacks;
