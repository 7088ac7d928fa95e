//! A plan written in code: the same text, read in the same way.

pub(crate) mod builder;
pub(crate) mod drafts;
pub(crate) mod lead;
pub(crate) mod strip_draft;
