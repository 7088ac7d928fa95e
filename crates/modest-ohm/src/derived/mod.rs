//! What follows from all solved states: firmware limits, discharge, protection, pin currents, and the context that
//! checks look at.

pub(crate) mod assumed_start;
pub(crate) mod batteries;
pub(crate) mod braking;
pub(crate) mod class_starts;
pub(crate) mod closing;
pub(crate) mod coils;
pub(crate) mod consumers;
pub(crate) mod context;
pub(crate) mod deliverable;
pub(crate) mod discharge;
pub(crate) mod driver_drop;
pub(crate) mod feed_row;
pub(crate) mod filaments;
pub(crate) mod firmware_limit;
pub(crate) mod flyback_path;
pub(crate) mod hiccup;
pub(crate) mod input_margin;
pub(crate) mod level_margin;
pub(crate) mod motor_starts;
pub(crate) mod path;
pub(crate) mod pin_currents;
pub(crate) mod protection;
pub(crate) mod shift_taken;
pub(crate) mod solves;
pub(crate) mod starved;
pub(crate) mod wrong_rail;
