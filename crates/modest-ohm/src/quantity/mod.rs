//! Typed quantities: what a number is, is in its type. SI base units inside, engineering prefixes outside.

pub(crate) mod figure;
pub(crate) mod figures;
pub(crate) mod format;
pub(crate) mod parse;
pub(crate) mod range;
pub(crate) mod units;
