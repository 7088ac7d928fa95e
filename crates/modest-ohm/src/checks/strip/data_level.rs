//! data-level: every hop of a data line, sender and receiver in their worst corners, ground shift signed.

use crate::checks::shared::pin_volts::pin_volts_unknown;
use crate::derived::context::Context;
use crate::derived::level_margin::{MARGIN_ONE_RAIL_V, MARGIN_V, Margin, smallest};
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
        Err((message, cure)) => return sink.unknown(&strip.name.text, span, message, cure),
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
    let cures = match (is_high, hop.from, to_strip) {
        (true, End::Pin(_), true) => cures_of_high(vih, worse, enough, strip.pixel.sheet.as_ref().map(|v| v.low.get())),
        (true, ..) => vec!["lower the receiver's supply, or use a receiver with a lower threshold".into()],
        (false, ..) => CURES_OF_LOW.map(str::to_owned).to_vec(),
    };
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
            .with("vdd", Volts::new(worse.vdd))
            .cures(cures),
    );
}

const CURES_OF_LOW: [&str; 2] = [
    "use a thicker return, or join both grounds nearer to the receiver",
    "or send the data over a differential pair (`[differential-pair.x]`), which tolerates the ground shift",
];

/// A buffer of the HCT kind: what its input needs, and what its output is below its supply (JEDEC).
const HCT_VIH: f64 = 2.0;
const HCT_BELOW_V: f64 = 0.1;
/// Its supply is at most this; a rail of 5 V gives at least that.
const HCT_MOST_V: f64 = 5.5;
const RAIL_LEAST_V: f64 = 4.75;
/// The flat threshold of the newer 5 V chips.
const NEWER_VIH: f64 = 2.7;
/// What a rectifier in the + of a first pixel takes off its supply (typical).
const DIODE_V: f64 = 0.7;

/// Everything that lifts a pin's high level over a pixel's threshold, with the margin that it leaves.
fn cures_of_high(vih: &Threshold, worse: &Margin, enough: f64, least_v: Option<f64>) -> Vec<String> {
    let (level, vdd) = (worse.level, worse.vdd);
    let mut cures = Vec::new();
    // Pixels for 12 or 24 V take their data from a rail of 5 V.
    let (buffer_v, rail) = if vdd > HCT_MOST_V { (RAIL_LEAST_V, "a 5 V rail") } else { (vdd, "the strip's supply") };
    let lifted = buffer_v - HCT_BELOW_V - worse.shift.max(0.0) - worse.threshold;
    if level - HCT_VIH >= enough && lifted >= 0.0 {
        cures.push(format!(
            "add an HCT buffer on {rail} (`through = \"lift\"`): margin {} at its input, {} at the strip",
            Volts::new(level - HCT_VIH),
            Volts::new(lifted)
        ));
    }
    if level - NEWER_VIH >= enough && worse.threshold > NEWER_VIH && vdd <= HCT_MOST_V {
        cures.push(format!(
            "or use pixels of the newer kind, with a fixed threshold of {}: margin {}",
            Volts::new(NEWER_VIH),
            Volts::new(level - NEWER_VIH)
        ));
    }
    // A lower supply lowers a threshold that goes with it.
    let share = match vih {
        Threshold::OfVdd(share) => share.typical.get(),
        Threshold::Volts(_) => f64::INFINITY,
    };
    let behind = vdd - DIODE_V;
    let (at_first, at_next) = (level - share * behind, behind - HCT_BELOW_V - share * vdd);
    if at_first >= enough && at_next >= enough {
        cures.push(format!(
            "or feed the first pixel alone through a rectifier: margin {} at it, {} from it to the next",
            Volts::new(at_first),
            Volts::new(at_next)
        ));
    }
    let lower = (20.0 * (level - enough) / share).floor() / 20.0;
    if lower > 0.0 && least_v.is_none_or(|least| lower >= least) {
        cures.push(format!(
            "or keep the strip's supply at {} or less where it is highest: margin {}",
            Volts::new(lower),
            Volts::new(enough)
        ));
    }
    if cures.is_empty() {
        cures.push("use a driver with a higher level, or a receiver with a lower threshold".into());
    }
    cures
}
