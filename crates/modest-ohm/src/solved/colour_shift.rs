//! How much a colour changes along a strip.

use modest_ohm_solve::solve::StripSolution;

use crate::plan::strip::Strip;
use crate::plan::strip::pixel::Colour;
use crate::quantity::units::Volts;

/// A colour's current may differ this much along a strip before it shows.
const COLOUR_SHIFT: f64 = 0.10;
/// The brightness of a plain strip may differ this much along it before it shows.
const PLAIN_SHIFT: f64 = 0.15;

/// How much a colour's current may differ along a strip before it shows.
pub(crate) fn shift_that_shows(strip: &Strip) -> f64 {
    if strip.pixel.plain { PLAIN_SHIFT } else { COLOUR_SHIFT }
}

/// Volts up to which a colour gives no light, and at which it gives all of it, with Vf and Vreg at their largest. A plain
/// strip's current goes on rising beyond, and its resistor does not change with Vf.
pub(crate) fn light_range(strip: &Strip, colour: &Colour) -> (Volts, Volts) {
    let dark_to = colour.vf.high;
    let full_at =
        if strip.pixel.plain { dark_to + (colour.vreg.typical - colour.vf.typical) } else { colour.vreg.high };
    (dark_to, full_at)
}

/// What of its full light a colour gives at some volts, by its range.
pub(crate) fn light_at(v: f64, (dark_to, full_at): (Volts, Volts), plain: bool) -> f64 {
    ((v - dark_to.get()) / (full_at - dark_to).get()).clamp(0.0, if plain { f64::INFINITY } else { 1.0 })
}

/// The largest difference of a colour's current between the brightest and the lowest pixel, as a share of the larger,
/// with Vf and Vreg at their largest, and the colour's index.
pub(crate) fn colour_shift(strip: &Strip, solved: &StripSolution) -> (f64, usize) {
    let mut worst = (0.0, 0);
    for (c, colour) in strip.pixel.colours.iter().enumerate() {
        let (lowest_v, highest_v) = solved.colour_v.get(c).copied().unwrap_or((solved.lowest.0, solved.highest_v));
        let range = light_range(strip, colour);
        let light = |v: f64| light_at(v, range, strip.pixel.plain);
        let (low, high) = (light(lowest_v), light(highest_v));
        let shift = if high > 0.0 { (high - low) / high } else { 0.0 };
        if shift > worst.0 {
            worst = (shift, c);
        }
    }
    worst
}
