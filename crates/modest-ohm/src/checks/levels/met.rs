//! level-high and level-low: of wires, of control leads, and of what arrives at inputs.

use crate::checks::shared::pin_volts::pin_volts_unknown;
use crate::derived::context::Context;
use crate::derived::level_margin::{MARGIN_ONE_RAIL_V, MARGIN_V, Margin, smallest};
use crate::derived::shift_taken::is_why as shift_is_why;
use crate::findings::draft::Draft;
use crate::findings::evidence::EvidenceRole;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::Input;
use crate::plan::wiring::threshold::Threshold;
use crate::quantity::units::Volts;
use crate::solved::levels::thresholds;
use crate::source::Span;
use crate::topology::signals::{End, Hop, Of, hops};
use crate::verdict::severity::Severity;

pub(crate) fn high(context: &Context<'_>, sink: &mut Sink) {
    run(context, sink, true);
}

pub(crate) fn low(context: &Context<'_>, sink: &mut Sink) {
    run(context, sink, false);
}

fn run(context: &Context<'_>, sink: &mut Sink, high: bool) {
    let asked = |h: &&Hop<'_>| {
        !matches!(h.of, Of::Strip(_)) && !h.is_dead(context.plan) && context.asks(h.item(context.plan).0)
    };
    for hop in hops(context.plan).iter().filter(asked) {
        match hop.from.unknown_volts(context.plan) {
            Some(board) if high => {
                let (subject, span) = hop.item(context.plan);
                let (message, task) = pin_volts_unknown(context.plan, board, &hop.words(context.plan).0);
                sink.unknown(subject, span, message, task);
            }
            Some(_) => {}
            None if hop.wants_levels(context.plan) => signal(context, sink, hop, high),
            None => {}
        }
    }
    // A divider's high is divider-range's matter; what the converter reads has no threshold of the pin.
    let judged = |i: &&Input| !(i.analogue || (high && i.divider.is_some())) && context.asks(&i.name.text);
    for input in context.plan.inputs.iter().filter(judged) {
        arriving(context, sink, input, high);
    }
}

/// What is judged, in words.
struct Line<'a> {
    subject: &'a str,
    span: Span,
    from: String,
    to: String,
    enough: f64,
}

fn signal(context: &Context<'_>, sink: &mut Sink, hop: &Hop<'_>, high: bool) {
    let plan = context.plan;
    let (subject, span) = hop.item(plan);
    // What only pulls low is lifted by its pull-up.
    if high && hop.is_open_drain(plan) {
        return;
    }
    if let Some(opto) = hop.opto(plan) {
        super::opto::judge(context, sink, hop, opto, high);
        return;
    }
    let (vih, vil) = thresholds(plan, hop);
    let threshold = if high { vih } else { vil };
    let (from, to) = hop.words(plan);
    let one_rail = hop.is_on_one_rail(plan);
    let enough = if one_rail { MARGIN_ONE_RAIL_V } else { MARGIN_V };
    let line = Line { subject, span, from, to, enough };
    let Some(threshold) = threshold else {
        unknown(sink, &line, high, hop.to);
        return;
    };
    // What the ground alone takes is reported of the ground.
    if shift_is_why(context, hop, high) {
        return;
    }
    let Some(margin) = smallest(context, hop, one_rail, threshold, high) else { return };
    judge(context, sink, &line, &margin, threshold, high);
}

fn unknown(sink: &mut Sink, line: &Line<'_>, high: bool, to: End) {
    let key = if high { "vih" } else { "vil" };
    let task = match to {
        End::Pin(_) => format!("set `part` of the board, or write its `{key}`"),
        _ => format!("write `{key}` of the receiver"),
    };
    let message = format!("cannot check the signal to {}: its threshold `{key}` is not given ({})", line.to, line.from);
    sink.unknown(line.subject, line.span, message, &task);
}

fn arriving(context: &Context<'_>, sink: &mut Sink, input: &Input, high: bool) {
    let pins = &context.plan.boards[input.pin.at.board].pins;
    let threshold = if high { pins.vih.as_ref() } else { pins.vil.as_ref() };
    let line = Line {
        subject: &input.name.text,
        span: input.name.span,
        from: format!("`{}`", input.name.text),
        to: context.plan.pin_words(&input.pin.at),
        enough: crate::derived::input_margin::enough(context, input),
    };
    let Some(threshold) = threshold else {
        unknown(sink, &line, high, End::Pin(input.pin.at.board));
        return;
    };
    let Some(margin) = crate::derived::input_margin::smallest(context, input, threshold, high) else { return };
    judge(context, sink, &line, &margin, threshold, high);
}

fn judge(context: &Context<'_>, sink: &mut Sink, line: &Line<'_>, margin: &Margin, threshold: &Threshold, high: bool) {
    let (from, to) = (&line.from, &line.to);
    if margin.value >= line.enough - 1e-9 {
        if context.all_actual() {
            sink.pass(line.subject, || format!("{from} to {to}: {}", Volts::new(margin.value)));
        }
        return;
    }
    let severity = if margin.value < 0.0 { Severity::Fault } else { Severity::Caution };
    let (level, wanted) = (Volts::new(margin.level), Volts::new(margin.threshold));
    let side = if high {
        format!("logic high is {level}; {to} needs {wanted} or more")
    } else {
        format!("logic low is {level}; {to} needs {wanted} or less")
    };
    let origin = match threshold {
        Threshold::Volts(f) => f.origin.clone(),
        Threshold::OfVdd(f) => f.origin.clone(),
    };
    sink.find(
        Draft::of(severity, (line.subject, line.span))
            .at(&margin.at)
            .says(format!("from {from}: {side} (at {} supply of {to})", Volts::new(margin.vdd)))
            .judged("level", level)
            .limit(if high { EvidenceRole::AtLeast } else { EvidenceRole::AtMost }, "threshold", wanted, &origin)
            .with("margin", Volts::new(margin.value))
            .with("ground_shift", Volts::new(margin.shift))
            .with("vdd", Volts::new(margin.vdd)),
    );
}
