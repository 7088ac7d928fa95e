//! The renderers, one module per subject.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod every_plan;
mod figures;
mod misspelt;
mod mutated;
mod pins;
mod rails;
mod strip_figures;
mod texts;
