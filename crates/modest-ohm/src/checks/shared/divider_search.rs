//! The divider that an input needs: pairs that fit its window, tried on the input itself.

use super::divider::is_sound;
use crate::derived::context::Context;
use crate::derived::input_margin::pairs as input_pairs;
use crate::derived::level_margin::MARGIN_V;
use crate::plan::kinds::input::{Divider, Input, Source as InputSource};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Fraction, Ohms, Volts};
use crate::size::divider::{DividerLimits, DividerNeed, DividerSize, divider};
use crate::size::series::Series;
use crate::size::stock::Values;
use crate::solved::input_source::{Does, Front, Side};
use crate::solved::zener::Zener;
use crate::tables::input::{ABOVE_V, CAUTION_A};

/// Of a converter's scale at least this is to be used.
const SCALE_SHARE: f64 = 0.8;
/// The usual tolerance of resistors, and a finer one that is as easy to buy.
const TOLERANCES: [f64; 2] = [0.05, 0.01];
/// What a divider may look like to a pin that reads levels, Ω, and what it may take from its source, A (typical).
const SOURCE_OHMS: f64 = 10e3;
const TAKES_A: f64 = 5e-3;
/// The largest pulse of a vehicle, either way, V (ISO 7637-2).
const PULSE_V: f64 = 150.0;
/// Zener diodes as they are sold, V.
const ZENER_V: [f64; 9] = [2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1];
/// Pairs that are tried.
const TRIES: usize = 12;

/// A divider of E24 with which nothing is found of the input any more, as a plan would have it; `None` where there is
/// none, or where the input is no swing.
pub(crate) fn pair(context: &Context<'_>, input: &Input) -> Option<String> {
    let InputSource::Swing { vehicle, .. } = &input.source else { return None };
    if !context.proposes {
        return None;
    }
    let (volts, vdd) = (source(context, input)?, supply(context, input)?);
    let pins = &context.plan.boards[input.pin.at.board].pins;
    let stands = pins.stands(input.pin.at.index).map_or(vdd.0 + ABOVE_V, |top| top.low.get());
    let (from, least, most) = if input.analogue {
        let full = pins.adc.as_ref()?.full_scale.as_ref().map_or(vdd.0, |f| f.high.get()).min(stands);
        (volts.1, SCALE_SHARE * full, full)
    } else {
        (volts.0, pins.vih.as_ref()?.surely_high(vdd.1) + MARGIN_V, stands)
    };
    let alone = TOLERANCES.into_iter().find_map(|t| {
        let need = DividerNeed {
            input: Range::new(Volts::new(from), Volts::new(volts.1)),
            tolerance: Fraction::new(t),
            most: Volts::new(most),
            least: Volts::new(least),
        };
        let looks = match (input.analogue, *vehicle) {
            (true, _) => pins.source.low.get() / (1.0 + t),
            (false, true) => f64::MAX,
            (false, false) => SOURCE_OHMS,
        };
        let top = if *vehicle { PULSE_V / CAUTION_A / (1.0 - t) } else { 0.0 };
        let limits = DividerLimits { source: Ohms::new(looks), current: Amps::new(TAKES_A), top: Ohms::new(top) };
        let found = divider(&need, &limits, &Values::of_series(Series::E24), TRIES);
        let sound = found.iter().find(|d| is_sound(context, &with(input, d.top, d.bottom, t)))?;
        Some(format!("divide it by {}", told(sound, t)))
    });
    alone.or_else(|| if input.analogue { None } else { clamped(context, input, volts, (least, stands)) })
}

/// A pair of 5 % that lets the smallest high through, and a Zener diode at the pin that holds the largest.
fn clamped(context: &Context<'_>, input: &Input, volts: (f64, f64), (least, stands): (f64, f64)) -> Option<String> {
    let t = TOLERANCES[0];
    let need = DividerNeed {
        input: Range::new(Volts::new(volts.0), Volts::new(volts.1)),
        tolerance: Fraction::new(t),
        most: Volts::new(1.5 * least * volts.1 / volts.0.max(1e-3)),
        least: Volts::new(least),
    };
    let limits = DividerLimits { source: Ohms::new(SOURCE_OHMS), current: Amps::new(TAKES_A), top: Ohms::new(0.0) };
    let found = divider(&need, &limits, &Values::of_series(Series::E24), TRIES);
    // A diode that stands above what is to be read as high; a soft one gives way below what is printed on it.
    let above = ZENER_V.into_iter().filter(|z| z * (1.0 - t) >= least);
    let (diode, pair) = above.map(Volts::new).find_map(|diode| {
        let (low, high) = (diode * (1.0 - t), diode * (1.0 + t));
        let clamp = Some(Figure { low, typical: diode, high, origin: Origin::Computed, bare: false });
        // Most pairs are out by the diode alone.
        let (weak, strong) =
            (clamp.as_ref().map(|c| Zener::at_end(c, false))?, clamp.as_ref().map(|c| Zener::at_end(c, true))?);
        let may = |d: &&DividerSize| {
            let ohms = d.source.get();
            weak.holds(d.worst_low.get(), ohms * (1.0 + t)) >= least
                && strong.holds(d.worst_high.get(), ohms * (1.0 - t)) <= stands
        };
        let holds =
            |d: &&DividerSize| is_sound(context, &Input { clamp: clamp.clone(), ..with(input, d.top, d.bottom, t) });
        Some((diode, found.iter().filter(may).find(holds)?))
    })?;
    Some(format!("clamp the pin with a {diode} Zener diode, `clamp = \"{diode}\"`, behind {}", told(pair, t)))
}

/// `75.0 kΩ over 11.0 kΩ, of 1 %: …` as the plan would have it.
fn told(pair: &DividerSize, tolerance: f64) -> String {
    let percent = format!("{:.0} %", 100.0 * tolerance);
    let (top, bottom) = (pair.top, pair.bottom);
    format!(
        "{top} over {bottom}, {percent}: `divider = {{ top = \"{top} ± {percent}\", bottom = \"{bottom} ± \
        {percent}\" }}`"
    )
}

/// The input with another divider.
fn with(input: &Input, top: Ohms, bottom: Ohms, tolerance: f64) -> Input {
    let figure = |ohms: Ohms| Figure {
        low: ohms * (1.0 - tolerance),
        typical: ohms,
        high: ohms * (1.0 + tolerance),
        origin: Origin::Computed,
        bare: false,
    };
    Input { divider: Some(Divider { top: figure(top), bottom: figure(bottom) }), series: None, ..input.clone() }
}

/// What its source gives while it is high, with nothing on it, from least to most, V.
fn source(context: &Context<'_>, input: &Input) -> Option<(f64, f64)> {
    let bare =
        Input { divider: None, pull: None, leak: Figure::exact(Amps::new(0.0), Origin::Computed), ..input.clone() };
    let front = Front { plan: context.plan, layout: context.layout, input: &bare };
    let end = |side| {
        let all = input_pairs(context, &front)
            .into_iter()
            .filter_map(|(_, states)| Some(front.arrives(Does::On, side, states)?.volts));
        if side == Side::Most { all.reduce(f64::max) } else { all.reduce(f64::min) }
    };
    Some((end(Side::Least)?, end(Side::Most)?)).filter(|(least, _)| *least > 0.0 || input.analogue)
}

/// The supply of its pin, from least to most, V.
fn supply(context: &Context<'_>, input: &Input) -> Option<(f64, f64)> {
    let front = Front { plan: context.plan, layout: context.layout, input };
    let all = || input_pairs(context, &front).into_iter().filter_map(|(_, states)| front.vdd(states.here));
    Some((all().reduce(f64::min)?, all().reduce(f64::max)?))
}
