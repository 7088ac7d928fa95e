//! A solved plan: every scenario in every corner, and what one solved state says of currents, levels, inputs, heat and
//! drivers.

pub(crate) mod aim;
pub(crate) mod collapsed;
pub(crate) mod colour_shift;
pub(crate) mod currents;
pub(crate) mod drivers;
pub(crate) mod flips;
pub(crate) mod heat;
pub(crate) mod input_heat;
pub(crate) mod input_source;
pub(crate) mod levels;
pub(crate) mod loop_ohms;
pub(crate) mod meeting;
pub(crate) mod mixed;
#[cfg(test)]
mod mixed_tests;
pub(crate) mod on_demand;
pub(crate) mod opto;
pub(crate) mod outcome;
pub(crate) mod pulls;
pub(crate) mod questions;
pub(crate) mod state;
#[cfg(test)]
mod tests;
pub(crate) mod zener;
