//! Typed quantities: what a number is, is in its type. SI base units inside, engineering prefixes outside.

mod figure;
mod format;
mod parse;
mod units;

pub use figure::{Corner, Figure, Origin, Role};
pub(crate) use format::engineering_of;
pub use format::{duration, engineering};
pub(crate) use parse::parse_spread;
pub use parse::{ParseProblem, parse_figure, parse_quantity};
pub use units::{
    AmpHours, Amps, AmpsPerMetre, Bytes, Celsius, Coulombs, Farads, Fraction, Henries, Hertz, Joules, KelvinsPerWatt,
    Metres, Ohms, OhmsPerMetre, PerMetre, Quantity, Seconds, SquareMetres, Volts, Watts, WattsPerMetre,
};
