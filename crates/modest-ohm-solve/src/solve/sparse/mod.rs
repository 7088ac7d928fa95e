//! Elimination of the sparse, unsymmetric system outside the strips.
//!
//! Own code because the small well-kept crates factor symmetric systems only, and converters make this one unsymmetric.
//! The rows of a supply tree are so sparse that a good pivot order makes hardly any fill. The order is found once, with
//! the first values ([`order`]), and kept while the pattern stays: Newton rounds, corners and scenarios change values
//! only, so each of them costs one pass over the stored pattern ([`factor`]). One refinement step takes the rounding of
//! badly scaled rows (milliohm leads beside kilo-ohm pulls) out again.

mod factor;
mod order;
mod system;
#[cfg(test)]
mod tests;

pub(crate) use factor::{Factors, Template};
pub(crate) use system::System;

/// The row that turned out to depend on the others.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Singular {
    /// Its number.
    pub row: usize,
}
