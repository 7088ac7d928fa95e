//! Facts that follow from a plan without solving it: conductors, rails, signals hop by hop, jobs of pins.

pub(crate) mod buses;
pub(crate) mod clamps;
pub(crate) mod conductors;
pub(crate) mod data_cables;
pub(crate) mod data_lines;
pub(crate) mod low_logic;
pub(crate) mod panel_map;
pub(crate) mod parts;
pub(crate) mod pin_jobs;
pub(crate) mod rail;
pub(crate) mod ratings;
pub(crate) mod run;
pub(crate) mod signals;
