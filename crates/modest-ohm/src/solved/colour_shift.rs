//! How much a colour changes along a strip.

use modest_ohm_solve::solve::StripSolution;

use crate::plan::strip::Strip;
use crate::plan::strip::pixel::Colour;
use crate::quantity::units::Volts;

/// How much a colour's current may differ along a strip before it shows, as shares.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Shows {
    /// With every figure at its nominal.
    pub nominal: f64,
    /// With every figure at its worst.
    pub worst: f64,
    /// Nominal, from where it is worth an advice.
    pub advice: f64,
}

/// A gradient over metres is seen from 25 .. 30 %, a change of colour from 10 % (typical).
pub(crate) fn shift_that_shows(strip: &Strip) -> Shows {
    if strip.pixel.plain {
        Shows { nominal: 0.30, worst: 0.55, advice: 0.20 }
    } else {
        Shows { nominal: 0.10, worst: 0.15, advice: f64::INFINITY }
    }
}

/// Which ends of Vf and Vreg count.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Figures {
    Nominal,
    Largest,
}

/// Volts up to which a colour gives no light, and at which it gives all of it, with Vf and Vreg at their largest. A
/// plain strip's current goes on rising beyond, and its resistor does not change with Vf.
pub(crate) fn light_range(strip: &Strip, colour: &Colour) -> (Volts, Volts) {
    range_of(strip, colour, Figures::Largest)
}

fn range_of(strip: &Strip, colour: &Colour, figures: Figures) -> (Volts, Volts) {
    if figures == Figures::Nominal {
        return (colour.vf.typical, colour.vreg.typical);
    }
    let dark_to = colour.vf.high;
    let full_at =
        if strip.pixel.plain { dark_to + (colour.vreg.typical - colour.vf.typical) } else { colour.vreg.high };
    (dark_to, full_at)
}

/// The least light that any group of a strip gives, as a share of its full light, every figure at its nominal.
pub(crate) fn least_light(strip: &Strip, solved: &StripSolution) -> f64 {
    let each = strip.pixel.colours.iter().enumerate().map(|(c, colour)| {
        let lowest_v = solved.colour_v.get(c).map_or(solved.lowest.0, |(lowest, _)| *lowest);
        light_at(lowest_v, range_of(strip, colour, Figures::Nominal), strip.pixel.plain)
    });
    each.fold(f64::INFINITY, f64::min)
}

/// What of its full light a colour gives at some volts, by its range.
pub(crate) fn light_at(v: f64, (dark_to, full_at): (Volts, Volts), plain: bool) -> f64 {
    ((v - dark_to.get()) / (full_at - dark_to).get()).clamp(0.0, if plain { f64::INFINITY } else { 1.0 })
}

/// The largest difference of a colour's current between the brightest and the lowest pixel, as a share of the larger,
/// with Vf and Vreg at their largest, and the colour's index.
pub(crate) fn colour_shift(strip: &Strip, solved: &StripSolution) -> (f64, usize) {
    shift_with(strip, solved, Figures::Largest)
}

/// As [`colour_shift`], with Vf and Vreg as chosen.
pub(crate) fn shift_with(strip: &Strip, solved: &StripSolution, figures: Figures) -> (f64, usize) {
    let mut worst = (0.0, 0);
    for (c, colour) in strip.pixel.colours.iter().enumerate() {
        let (lowest_v, highest_v) = solved.colour_v.get(c).copied().unwrap_or((solved.lowest.0, solved.highest_v));
        let range = range_of(strip, colour, figures);
        let light = |v: f64| light_at(v, range, strip.pixel.plain);
        let (low, high) = (light(lowest_v), light(highest_v));
        let shift = if high > 0.0 { (high - low) / high } else { 0.0 };
        if shift > worst.0 {
            worst = (shift, c);
        }
    }
    worst
}
