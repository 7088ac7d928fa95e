//! The plan: what the maker wrote, typed, with spans kept and names resolved.

pub(crate) mod build;
pub(crate) mod driver;
pub(crate) mod kinds;
pub(crate) mod model;
pub(crate) mod pins;
pub(crate) mod read;
pub(crate) mod resolve;
pub(crate) mod strip;
pub(crate) mod wiring;
