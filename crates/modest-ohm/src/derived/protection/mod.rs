//! The paths from each wire up to its sources, the fuses on them, and one verdict per wire.

pub(crate) mod judge;
pub(crate) mod paths;
pub(crate) mod wire;
