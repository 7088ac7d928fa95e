//! What follows from all solved states: firmware limits, discharge, protection, pin currents, and the context that checks look at.

pub(crate) mod consumers;
pub(crate) mod context;
pub(crate) mod deliverable;
pub(crate) mod discharge;
pub(crate) mod feed_row;
pub(crate) mod firmware_limit;
pub(crate) mod flyback_path;
pub(crate) mod path;
pub(crate) mod pin_currents;
pub(crate) mod protection;
