//! How likely it is that a build of the plan works: shares of builds, what decides them, and what a measurement is worth.
//!
//! A review judges the worst that is possible within the tolerances. Here many builds are drawn, each figure once
//! somewhere in its spread, and each build is solved and checked by itself.

pub(crate) mod asked;
pub(crate) mod builds;
pub(crate) mod gather;
pub(crate) mod judged;
pub(crate) mod sequence;
pub(crate) mod states;
pub(crate) mod statistics;
#[cfg(test)]
mod tests;
pub(crate) mod words;

pub use judged::{Beyond, LeftOut, Likely, Odds, Part, Share, VerdictOdds, Worth};
