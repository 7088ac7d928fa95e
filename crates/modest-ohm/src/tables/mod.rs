//! Standard rows: wire resistance, ampacity, fuses. Each table names its source.

mod cell;
mod fuse;
mod input;
mod wire;

pub(crate) use cell::{Cell, CellCurrent, CellFigures, HOLDER_OHMS};
pub(crate) use fuse::cold_ohms;
pub use fuse::{FuseBody, FuseFamily, FuseSpeed};
pub(crate) use input::{ABOVE_V, CAUTION_A, INPUT_F, LEAD_F_PER_M, PASS_A, PROTECTION_V, RISE};
pub use wire::WireSize;
pub(crate) use wire::{Material, ampacity_at, conductor_ohms_per_metre, temperature_factor};
