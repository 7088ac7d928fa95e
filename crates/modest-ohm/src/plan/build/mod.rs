//! A plan written in code: the same text, read in the same way.

pub(crate) mod builder;
pub(crate) mod drafts;
pub(crate) mod lead;
