//! Numerics only: no part names. Newton on piecewise-smooth laws, strips eliminated in O(n).

mod islands;
mod ladder;
mod newton;
mod solution;
mod sparse;

pub(crate) use ladder::{Clamp, Ladder, PixelLaw, Port};
pub(crate) use newton::{Limits, SolveError, solve};
pub(crate) use solution::Solution;
