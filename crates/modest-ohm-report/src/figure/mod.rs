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
pub use png::png;
pub use power::power_svg;
pub use release::release_svg;

/// Why a figure could not be drawn, in words.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum FigureError {
    /// There is nothing of what was asked for: a name that the plan does not have, or nothing that the figure shows.
    Nothing(String),
    /// It cannot be drawn as pixels.
    Pixels(String),
}

impl std::fmt::Display for FigureError {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::Nothing(why) => f.write_str(why),
            Self::Pixels(why) => write!(f, "the figure cannot be drawn as pixels: {why}"),
        }
    }
}

impl std::error::Error for FigureError {}
