//! data-level: every hop of a data line, sender and receiver in their worst corners, ground shift signed.

use crate::checks::shared::pin_volts::pin_volts_unknown;
use crate::derived::context::Context;
use crate::derived::level_margin::{MARGIN_ONE_RAIL_V, MARGIN_V, smallest};
use crate::findings::draft::Draft;
use crate::findings::evidence::EvidenceRole;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::wiring::threshold::Threshold;
use crate::quantity::units::Volts;
use crate::solved::levels::thresholds;
use crate::topology::signals::{End, Hop, Of, hops};
use crate::verdict::severity::Severity;

/// Between this share of VDD and VIH a pixel's data input often works all the same (typical).
const OFTEN_WORKS: f64 = 0.55;
/// Pixels for 12 and 24 V run their data input on an inner supply of about this (typical).
const INNER_V: f64 = 5.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for hop in hops(context.plan) {
        if let Of::Strip(strip) = hop.of {
            judge(context, sink, &hop, strip);
        }
    }
    super::pair_grounds::run(context, sink);
}

/// The thresholds of a hop's receiver; what is not known of it, or of its sender, with the fix.
fn known<'p>(plan: &'p Plan, hop: &Hop<'_>) -> Result<(&'p Threshold, &'p Threshold), (String, &'static str)> {
    let (from, to) = hop.words(plan);
    if let Some(board) = hop.from.unknown_volts(plan) {
        return Err(pin_volts_unknown(plan, board, &from));
    }
    let (Some(vih), Some(vil)) = thresholds(plan, hop) else {
        let message = format!("cannot check {from} to {to}: the thresholds of the receiver are not given");
        return Err((message, "set `part`, or write `vih` and `vil`"));
    };
    Ok((vih, vil))
}

fn judge(context: &Context<'_>, sink: &mut Sink, hop: &Hop<'_>, strip: usize) {
    let plan = context.plan;
    let strip = &plan.strips[strip];
    let span = strip.data.as_ref().map_or(strip.name.span, |d| d.span);
    let (from, to) = hop.words(plan);
    let (vih, vil) = match known(plan, hop) {
        Ok(thresholds) => thresholds,
        Err((message, task)) => return sink.unknown(&strip.name.text, span, message, task),
    };
    let one_rail = hop.is_on_one_rail(plan);
    let Some(high) = smallest(context, hop, one_rail, vih, true) else { return };
    let Some(low) = smallest(context, hop, one_rail, vil, false) else { return };
    let enough = if one_rail { MARGIN_ONE_RAIL_V } else { MARGIN_V };
    let (worse, is_high) = if high.value <= low.value { (&high, true) } else { (&low, false) };
    if worse.value >= enough - 1e-9 {
        if !context.all_actual() {
            return;
        }
        let text = format!("margin high {}, low {}", Volts::new(high.value), Volts::new(low.value));
        sink.pass(&strip.name.text, || format!("{from} to {to}: {text}"));
        return;
    }
    let to_strip = matches!(hop.to, End::Strip(_));
    let severity = match (worse.value < 0.0, is_high) {
        (true, true) if to_strip && worse.level >= OFTEN_WORKS * worse.vdd.min(INNER_V) => Severity::Caution,
        (true, _) => Severity::Fault,
        (false, _) => Severity::Caution,
    };
    let (level, threshold) = (Volts::new(worse.level), Volts::new(worse.threshold));
    let side = if is_high {
        format!("logic high at {to} is {level}; needs {threshold}")
    } else {
        format!("logic low at {to} is {level}; needs {threshold} or less")
    };
    let often = if severity == Severity::Caution && worse.value < 0.0 { "; works often, not always" } else { "" };
    let origin = match if is_high { vih } else { vil } {
        Threshold::Volts(f) => f.origin.clone(),
        Threshold::OfVdd(f) => f.origin.clone(),
    };
    sink.find(
        Draft::of(severity, (&strip.name.text, span))
            .at(&worse.at)
            .says(format!("data from {from} to {to}: {side} at {} supply{often}", Volts::new(worse.vdd)))
            .judged("level", level)
            .limit(if is_high { EvidenceRole::AtLeast } else { EvidenceRole::AtMost }, "threshold", threshold, &origin)
            .with("margin", Volts::new(worse.value))
            .with("ground_shift", Volts::new(worse.shift))
            .with("vdd", Volts::new(worse.vdd)),
    );
}
