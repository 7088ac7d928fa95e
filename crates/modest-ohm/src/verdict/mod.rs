//! What verdicts are made of: severities, and one tolerant comparison.

pub(crate) mod codes;
pub(crate) mod compare;
pub(crate) mod severity;
