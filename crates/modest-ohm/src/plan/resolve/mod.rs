//! Names become indices; what a plan cannot mean is reported.

pub(crate) mod bounds;
pub(crate) mod driver_runs;
pub(crate) mod firmware_limits;
pub(crate) mod limits;
pub(crate) mod names;
pub(crate) mod pin_refs;
pub(crate) mod ports;
pub(crate) mod references;
pub(crate) mod resolve_panels;
pub(crate) mod settings;
pub(crate) mod signal_grounds;
pub(crate) mod ways;
