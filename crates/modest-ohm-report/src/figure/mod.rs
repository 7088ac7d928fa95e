//! Figures: scalable pictures written by hand, and the same as pixels.

mod place;
mod png;
mod power;
mod slab;
mod svg;

pub use png::{FigureError, png};
pub use power::power_svg;
