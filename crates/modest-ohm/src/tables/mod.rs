//! Standard rows: wire resistance, ampacity, fuses. Each table names its source.

mod cell;
mod fuse;
mod wire;

pub(crate) use cell::{Cell, CellCurrent, CellFigures, HOLDER_OHMS};
pub(crate) use fuse::cold_ohms;
pub use fuse::{FuseBody, FuseFamily, FuseSpeed};
pub use wire::WireSize;
pub(crate) use wire::{Material, ampacity_at, conductor_ohms_per_metre, temperature_factor};
