//! The divider that an input needs: pairs that fit its window.

use crate::checks::shared::divider::is_sound;
use crate::derived::context::Context;
use crate::derived::input_margin::pairs as input_pairs;
use crate::derived::level_margin::MARGIN_V;
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::Item;
use crate::fixes::bench::trial::Bench;
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

/// Dividers of E24 with which nothing is found of the input any more; where none is, one with a Zener diode at the pin.
pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let context = bench.context();
    let item = bench.items_of(f).into_iter().find(|item| item.kind == "input");
    let input = context.plan.inputs.iter().find(|input| input.name.text == f.subject);
    item.zip(input).map(|(item, input)| Ladder::of(sound(&context, input, item))).into_iter().collect()
}

fn sound(context: &Context<'_>, input: &Input, item: Item<'_>) -> Vec<Candidate> {
    let is_vehicle = match &input.source {
        InputSource::Swing { vehicle, .. } => *vehicle,
        _ => return Vec::new(),
    };
    let (Some(volts), Some(vdd)) = (source(context, input), supply(context, input)) else { return Vec::new() };
    let Some((least, most)) = window(context, input, vdd) else { return Vec::new() };
    let from = if input.analogue { volts.1 } else { volts.0 };
    let alone = TOLERANCES.into_iter().find_map(|t| {
        let need = DividerNeed {
            input: Range::new(Volts::new(from), Volts::new(volts.1)),
            tolerance: Fraction::new(t),
            most: Volts::new(most),
            least: Volts::new(least),
        };
        let looks = match (input.analogue, is_vehicle) {
            (true, _) => context.plan.boards[input.pin.at.board].pins.source.low.get() / (1.0 + t),
            (false, true) => f64::MAX,
            (false, false) => SOURCE_OHMS,
        };
        let top = if is_vehicle { PULSE_V / CAUTION_A / (1.0 - t) } else { 0.0 };
        let limits = DividerLimits { source: Ohms::new(looks), current: Amps::new(TAKES_A), top: Ohms::new(top) };
        let found = divider(&need, &limits, &Values::of_series(Series::E24), TRIES);
        let sound = found.iter().find(|d| is_sound(context, &with(input, d.top, d.bottom, t)))?;
        let title = format!("Divide it, {} over {}", sound.top, sound.bottom);
        Some(Candidate::new(title, edits(item, sound, t)))
    });
    let clamped = || if input.analogue { None } else { clamped(context, input, item, volts, (least, most)) };
    alone.or_else(clamped).into_iter().collect()
}

/// What a high may be at the pin, from least to most, V.
fn window(context: &Context<'_>, input: &Input, vdd: (f64, f64)) -> Option<(f64, f64)> {
    let pins = &context.plan.boards[input.pin.at.board].pins;
    let stands = pins.stands(input.pin.at.index).map_or(vdd.0 + ABOVE_V, |top| top.low.get());
    if input.analogue {
        let full = pins.adc.as_ref()?.full_scale.as_ref().map_or(vdd.0, |f| f.high.get()).min(stands);
        return Some((SCALE_SHARE * full, full));
    }
    Some((pins.vih.as_ref()?.surely_high(vdd.1) + MARGIN_V, stands))
}

/// A pair of 5 % that lets the smallest high through, and a Zener diode at the pin that holds the largest.
fn clamped(
    context: &Context<'_>,
    input: &Input,
    item: Item<'_>,
    volts: (f64, f64),
    (least, stands): (f64, f64),
) -> Option<Candidate> {
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
    let mut edits = edits(item, pair, t);
    edits.push(Edit::text(item.key("clamp"), &diode.to_string()));
    let title = format!("Divide it, {} over {}, with a {diode} Zener diode at the pin", pair.top, pair.bottom);
    Some(Candidate::new(title, edits))
}

/// A divider in place of what the input has.
fn edits(item: Item<'_>, pair: &DividerSize, tolerance: f64) -> Vec<Edit> {
    let percent = format!("{:.0} %", 100.0 * tolerance);
    let table = format!("{{ top = \"{} ± {percent}\", bottom = \"{} ± {percent}\" }}", pair.top, pair.bottom);
    let divider = Edit::set(item.key("divider"), table);
    let series = item.has("series").then(|| Edit::remove(item.key("series")));
    std::iter::once(divider).chain(series).collect()
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
