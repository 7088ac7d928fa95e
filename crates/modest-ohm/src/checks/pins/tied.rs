//! output-contention: wires that join two outputs.

use std::collections::BTreeMap;

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::signal_lines::Wire;
use crate::plan::model::Plan;
use crate::plan::wiring::pin::PinRef;
use crate::plan::wiring::through::Stage;
use crate::quantity::units::Amps;
use crate::solved::levels::supplied;
use crate::solved::opto::STAGE_OHMS;
use crate::solved::outcome::Snapshot;
use crate::topology::pin_jobs::{Direction, Together, jobs};
use crate::topology::signals::{End, rails};

/// What drives a wire where it ends: a pin, or the last stage before.
#[derive(Clone, Debug, PartialEq)]
struct Output {
    name: String,
    end: End,
    ohms: f64,
}

fn pin(plan: &Plan, pin: &PinRef) -> Output {
    let ohms = plan.boards[pin.at.board].pins.ohms.typical.get();
    Output { name: plan.pin_name(&pin.at), end: End::Pin(pin.at.board), ohms }
}

fn output(plan: &Plan, wire: &Wire) -> Output {
    match wire.line.through.last() {
        None => pin(plan, &wire.pin),
        Some((name, stage)) => {
            let shifter = match stage {
                Stage::Shifter(s) => *s,
                Stage::Pair(p) => plan.pairs[*p].far,
            };
            let receiver = wire.to.as_ref().map_or(End::Pin(wire.pin.at.board), |to| End::Pin(to.at.board));
            let (_, rail) = rails(plan, shifter, End::Pin(wire.pin.at.board), receiver);
            Output { name: name.text.clone(), end: End::Shifter(shifter, rail), ohms: STAGE_OHMS }
        }
    }
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let known = plan.boards.len();
    // Where wires end: what drives that pin.
    let mut ends: BTreeMap<String, (Vec<Output>, &Wire)> = BTreeMap::new();
    for wire in plan.wires.iter().filter(|w| !w.open_drain && w.pin.at.board < known) {
        // What is still to be chosen is no pin yet.
        let Some(to) = wire.to.as_ref().filter(|to| to.at.board < known && !to.at.is_open()) else { continue };
        let entry = ends.entry(plan.pin_name(&to.at)).or_insert_with(|| (Vec::new(), wire));
        let drives = output(plan, wire);
        if !entry.0.contains(&drives) {
            entry.0.push(drives);
            entry.1 = wire;
        }
    }
    // A pin that is an output itself, but for the other direction of a wire that goes in both directions.
    for job in jobs(plan) {
        if job.way != Direction::Out || job.claim || job.pin.is_open() || job.together == Some(Together::WireEnd) {
            continue;
        }
        if let Some((outputs, _)) = ends.get_mut(&job.name) {
            let bidirectional = plan.wires.iter().any(|w| w.name.text == job.subject && w.bidirectional);
            let own = Output {
                name: job.name.clone(),
                end: End::Pin(job.pin.board),
                ohms: plan.boards[job.pin.board].pins.ohms.typical.get(),
            };
            if !bidirectional && !outputs.contains(&own) {
                outputs.push(own);
            }
        }
    }
    for (at, (outputs, wire)) in ends {
        judge(context, sink, &at, &outputs, wire);
    }
}

fn judge(context: &Context<'_>, sink: &mut Sink, at: &str, outputs: &[Output], wire: &Wire) {
    let [one, other, ..] = outputs else {
        sink.pass(&wire.name.text, || format!("`{at}` is driven by one output"));
        return;
    };
    // One is high while the other is low.
    let volts = |end: End| {
        let high = |s: &Snapshot| supplied(context.plan, end, false, s).map_or(0.0, |v| v.vdd);
        context.worst_sustained(high).map_or(0.0, |w| w.value)
    };
    let series = wire.line.series.as_ref().map_or(0.0, |r| r.low.get());
    let amps = Amps::new(volts(one.end).max(volts(other.end)) / (one.ohms + other.ohms + series).max(1e-9));
    let names: Vec<String> = outputs.iter().map(|o| format!("`{}`", o.name)).collect();
    sink.find(
        Draft::danger((at, wire.name.span))
            .says(format!(
                "{} drive the wire at `{at}`: with one high and the other low, {amps} flows through both",
                names.join(" and ")
            ))
            .judged("through", amps),
    );
}
