//! The second method: networks and strips solved as dense matrices, to compare the product with. Shares nothing with
//! it; a crate of its own because tests are not optimised and this has to be.

#![cfg(feature = "matrices")]
#![allow(missing_docs, reason = "used by tests only")]
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

pub mod model;
pub mod network;
pub mod resistors;
pub mod strip;
