//! Standard rows: wire resistance, ampacity, fuses. Each table names its source.

pub(crate) mod cell;
mod cell_rate;
pub(crate) mod fuse;
pub(crate) mod input;
pub(crate) mod wire;

pub use fuse::{FuseBody, FuseFamily, FuseSpeed};
pub use wire::{PLAIN_INSULATION, WireSize};
