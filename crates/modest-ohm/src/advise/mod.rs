//! Searches by trial: feed points, drivers and pins, each candidate tried in a plan of its own.

pub(crate) mod assign;
pub(crate) mod feeds;
pub(crate) mod offers;
