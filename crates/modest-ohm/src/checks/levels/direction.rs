//! shifter-direction: shifters between two supplies the wrong way round, and shifters that are too slow for their
//! signal.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::shifter::{Sends, Shifter};
use crate::plan::kinds::signal_lines::Wire;
use crate::plan::model::Plan;
use crate::plan::wiring::through::Stage;
use crate::quantity::figure::Corner;
use crate::quantity::units::{Metres, Seconds, Volts};
use crate::solved::levels::{receiver_of, supplied};
use crate::tables::input::{INPUT_F, LEAD_F_PER_M, RISE};
use crate::topology::signals::{End, Hop, Of, Rail, hops};
use crate::verdict::compare::at_most;

/// Supplies that lie nearer to one another than this may be either side.
const APART_V: f64 = 0.3;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, shifter) in plan.shifters.iter().enumerate().filter(|(_, s)| s.low.is_some()) {
        if swapped(context, sink, i, shifter) {
            continue;
        }
        match shifter.sends {
            Sends::Both => sink.pass(&shifter.name.text, || "bidirectional, and its supplies match its sides".into()),
            Sends::Up | Sends::Down => reversed(context, sink, i, shifter),
        }
    }
    for wire in plan.wires.iter().filter(|w| (w.bidirectional || w.open_drain) && w.to.is_some()) {
        one_way(plan, sink, wire);
    }
    for hop in &hops(plan) {
        slow(context, sink, hop);
    }
}

/// Both supplies of a shifter in the state in which they lie furthest the wrong way.
fn sides(context: &Context<'_>, shifter: usize) -> Option<(f64, f64)> {
    let plan = context.plan;
    let both = context.outcomes.iter().filter(|o| o.corner == Corner::Typical).filter_map(|o| {
        let s = o.actual.as_ref().ok()?;
        let at = |rail| Some(supplied(plan, End::Shifter(shifter, rail), false, s)?.vdd);
        Some((at(Rail::Low)?, at(Rail::Main)?))
    });
    both.reduce(|a, b| if b.0 - b.1 > a.0 - a.1 { b } else { a })
}

fn swapped(context: &Context<'_>, sink: &mut Sink, i: usize, shifter: &Shifter) -> bool {
    let Some((low, high)) = sides(context, i) else { return false };
    if low <= high + APART_V {
        return false;
    }
    let name = &shifter.name.text;
    sink.find(
        Draft::fault(&shifter.name)
            .says(format!(
                "the supplies of `{name}` are swapped: low side {}, high side {}",
                Volts::new(low),
                Volts::new(high)
            ))
            .judged("low", Volts::new(low))
            .with("high", Volts::new(high)),
    );
    true
}

/// A signal that comes in at the side whose supply is its receiver's.
fn reversed(context: &Context<'_>, sink: &mut Sink, i: usize, shifter: &Shifter) {
    let plan = context.plan;
    let name = &shifter.name.text;
    let mut wrong = None;
    let all = hops(plan);
    let comes = all.iter().filter(|h| matches!(h.to, End::Shifter(s, _) if s == i));
    let goes: Vec<&Hop<'_>> = all.iter().filter(|h| matches!(h.from, End::Shifter(s, _) if s == i)).collect();
    for hop in comes {
        // A wire that goes in both directions comes in at either side.
        if matches!(hop.of, Of::Wire(w) if plan.wires[w].bidirectional || plan.wires[w].open_drain) {
            continue;
        }
        let Some(next) = goes.iter().find(|h| h.of == hop.of) else { continue };
        for o in context.outcomes.iter().filter(|o| o.corner == Corner::Typical) {
            let Ok(s) = o.actual.as_ref() else { continue };
            let at = |end, receiver| supplied(plan, end, receiver, s).map(|v| v.vdd);
            let (Some(input), Some(output)) = (at(hop.to, true), at(next.from, false)) else { continue };
            let (Some(sender), Some(receiver)) = (at(hop.from, false), receiver_of(plan, next, s).map(|v| v.vdd))
            else {
                continue;
            };
            let crossed = (sender - output).abs() + APART_V < (sender - input).abs()
                && (receiver - input).abs() + APART_V < (receiver - output).abs();
            if crossed {
                wrong = Some((hop.names.0.clone(), sender, input));
            }
        }
    }
    let Some((from, sender, input)) = wrong else {
        sink.pass(name, || "its sides match its signals".into());
        return;
    };
    let is = if shifter.sends == Sends::Up { "up" } else { "down" };
    sink.find(
        Draft::fault(&shifter.name)
            .says(format!(
                "`{name}` drives {is}, but `{from}` (at {}) is connected to its {} side",
                Volts::new(sender),
                Volts::new(input)
            ))
            .judged("sender", Volts::new(sender))
            .with("side", Volts::new(input)),
    );
}

/// A wire whose ends both send, through a part that only sends one way.
fn one_way(plan: &Plan, sink: &mut Sink, wire: &Wire) {
    for (name, stage) in &wire.line.through {
        let Stage::Shifter(i) = stage else { continue };
        let Some(shifter) = plan.shifters.get(*i) else { continue };
        if shifter.sends == Sends::Both {
            sink.pass(&shifter.name.text, || format!("it drives in the direction that `{}` needs", wire.name.text));
            continue;
        }
        sink.find(Draft::fault((&shifter.name.text, name.span.unwrap_or(wire.name.span))).says(format!(
            "both ends of `{}` drive, and `{}` between them works in one direction only",
            wire.name.text, shifter.name.text
        )));
    }
}

/// The output of a shifter that rises through a resistor, or slowly by its datasheet, against half a period.
fn slow(context: &Context<'_>, sink: &mut Sink, hop: &Hop<'_>) {
    let plan = context.plan;
    let (End::Shifter(i, _), line) = (
        hop.from,
        match hop.of {
            Of::Load(l) => plan.loads[l].signal.as_ref().map(|s| &s.line),
            Of::Wire(w) => Some(&plan.wires[w].line),
            Of::Driver(d, _) => Some(&plan.drivers[d].line),
            Of::Strip(_) => None,
        },
    ) else {
        return;
    };
    let shifter = &plan.shifters[i];
    let Some((line, rate)) = line.and_then(|l| Some((l, l.rate.as_ref()?))) else { return };
    let length = line.length.as_ref().map_or(0.0, |l| l.high.get());
    let pulled = shifter.pull.as_ref().map(|r| RISE * r.high.get() * (INPUT_F + LEAD_F_PER_M * length));
    let stated = shifter.edge.as_ref().map(|e| e.high.get());
    let Some(edge) = pulled.into_iter().chain(stated).reduce(f64::max) else { return };
    let (subject, span) = hop.item(plan);
    let allowed = 0.5 / rate.high.get();
    let (time, may) = (Seconds::new(edge), Seconds::new(allowed));
    if at_most(edge, allowed) {
        sink.pass(&shifter.name.text, || format!("rises in {time}; half a period is {may}"));
        return;
    }
    sink.find(
        Draft::fault((&shifter.name.text, span))
            .says(format!(
                "`{}` takes {time} to rise into the cable of {}; half a period of `{subject}` is {may}",
                shifter.name.text,
                Metres::new(length)
            ))
            .judged("switching_time", time)
            .at_most("allowed", may, &rate.origin),
    );
}
