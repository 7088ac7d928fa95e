//! How much a colour changes along a strip.

use crate::plan::Strip;
use crate::quantity::{Figure, Volts};
use crate::solve::StripSolution;

/// A colour's current may differ this much along a strip before it shows.
const COLOUR_SHIFT: f64 = 0.10;
/// The brightness of a plain strip may differ this much along it before it shows.
const PLAIN_SHIFT: f64 = 0.15;

/// How much a colour's current may differ along a strip before it shows.
pub(crate) fn shift_that_shows(strip: &Strip) -> f64 {
    if strip.pixel.plain { PLAIN_SHIFT } else { COLOUR_SHIFT }
}

/// The largest difference of a colour's current between the brightest and the lowest pixel, as a share of the larger,
/// with Vf and Vreg at their largest, and the colour's index.
pub(crate) fn colour_shift(strip: &Strip, solved: &StripSolution) -> (f64, usize) {
    let plain = strip.pixel.plain;
    let share = |v: f64, vf: &Figure<Volts>, vreg: &Figure<Volts>| {
        // A plain strip's current goes on rising beyond its rated volts, and its resistor does not change with Vf.
        let full = if plain { vreg.typical - vf.typical } else { vreg.high - vf.high };
        ((v - vf.high.get()) / full.get()).clamp(0.0, if plain { f64::INFINITY } else { 1.0 })
    };
    let mut worst = (0.0, 0);
    for (c, colour) in strip.pixel.colours.iter().enumerate() {
        let (lowest_v, highest_v) = solved.colour_v.get(c).copied().unwrap_or((solved.lowest.0, solved.highest_v));
        let (low, high) = (share(lowest_v, &colour.vf, &colour.vreg), share(highest_v, &colour.vf, &colour.vreg));
        let shift = if high > 0.0 { (high - low) / high } else { 0.0 };
        if shift > worst.0 {
            worst = (shift, c);
        }
    }
    worst
}
