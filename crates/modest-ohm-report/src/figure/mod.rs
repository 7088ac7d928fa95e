//! Figures: scalable pictures written by hand, and the same as pixels.

mod axis;
mod drop;
mod panel;
mod pattern;
mod pins;
mod place;
#[cfg(feature = "png")]
mod png;
mod power;
mod release;
mod slab;
mod svg;

pub use drop::drop_svg;
pub use panel::panel_svg;
pub use pattern::pattern_svg;
pub use pins::pins_svg;
#[cfg(feature = "png")]
pub use png::{FigureError, png};
pub use power::power_svg;
pub use release::release_svg;
