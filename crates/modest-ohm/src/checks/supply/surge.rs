//! supply-surge: a start, a surge or boards that burst together against source limits, and boards' brown-out.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::{Amps, Volts};
use crate::solved::currents::source_of;
use crate::solved::outcome::Outcome;
use crate::topology::ratings::node_limit;
use crate::verdict::compare::{exceeds, is_below};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let limited = sources(context, sink);
    boards(context, sink, &limited);
}

/// Sources that a surge or a burst drives into their limit; one that its lasting load overloads is another check's matter.
fn sources(context: &Context<'_>, sink: &mut Sink) -> Vec<NodeId> {
    let plan = context.plan;
    let mut limited = Vec::new();
    for (id, node) in plan.nodes.iter().enumerate() {
        let (what, figure, declared) = match node.kind {
            NodeKind::Supply(i) => (plan.supplies[i].kind.word(), &plan.supplies[i].limit, &plan.supplies[i].name),
            NodeKind::Converter(i) => ("converter", &plan.converters[i].limit, &plan.converters[i].name),
            _ => continue,
        };
        let (Some(limit), Some(branch)) = (figure, source_of(context.layout, node.kind)) else { continue };
        if !context.alive(branch) {
            continue;
        }
        let over = |o: &Outcome| {
            let wanted = o.wanted.as_ref().ok().map(|s| s.current_of(node.kind));
            wanted.filter(|a| exceeds(*a, limit.low.get()))
        };
        let lasting = node_limit(plan, node.kind).map_or(limit.low.get(), |rated| rated.get().min(limit.low.get()));
        let lasts = |o: &Outcome| o.sustained.as_ref().is_ok_and(|s| exceeds(s.current_of(node.kind), lasting));
        if context.continuous().any(lasts) {
            continue;
        }
        let Some((hardest, asked_a)) = worst_of(context.outcomes.iter(), over) else {
            if context.all_actual() {
                sink.pass(&node.name, format!("starts, surges and bursts stay below {}", limit.low));
            }
            continue;
        };
        limited.push(NodeId(id));
        let (amps, scenario) = (Amps::new(asked_a), &hardest.case.scenario);
        let during =
            hardest.case.surging.as_ref().map_or_else(|| scenario.to_string(), |s| format!("{scenario} of {s}"));
        let bursts = if hardest.case.continuous { ", its boards bursting," } else { "" };
        sink.find(
            Draft::fault((&node.name, declared.span))
                .at(&Worst::at(hardest, asked_a))
                .says(format!(
                    "in *{during}*{bursts} {what} `{}` is asked for {amps} and limits at {}",
                    node.name, limit.low
                ))
                .judged("wanted", amps)
                .at_most("limit", limit.low, &limit.origin)
                .cure(format!(
                    "take one that gives {amps} for the moment, start things one after the other \
                     (`[group.x]`), or feed what surges from a rail of its own"
                )),
        );
    }
    limited
}

fn boards(context: &Context<'_>, sink: &mut Sink, limited: &[NodeId]) {
    let plan = context.plan;
    for (i, board) in plan.controllers.iter().enumerate() {
        let (name, Some(brown_out)) = (&board.name.text, &board.brown_out) else { continue };
        let t = context.layout.controllers[i].main;
        let lowest = |short: bool| context.worst_actual(|o| o.case.continuous != short, |_, s| s.volts(t).map(|v| -v));
        let below = |w: &Worst| is_below(-w.value, brown_out.typical.get());
        let Some(at) = lowest(true) else { continue };
        let volts = Volts::new(-at.value);
        // What is too low for long is told of the volts; what a limiting source causes stands with that source.
        let path = plan.node_id(NodeKind::BoardInput(i)).map_or_else(Vec::new, |id| plan.path_up(id));
        if lowest(false).as_ref().is_some_and(below) || path.iter().any(|id| limited.contains(id)) {
            continue;
        }
        if !below(&at) {
            if context.all_actual() {
                sink.pass(name, format!("{volts} or more in starts and surges, resets below {}", brown_out.typical));
            }
            continue;
        }
        // What motors bring about has a check of its own, with cures that were tried.
        if crate::derived::motor_starts::by_motors(context, &at) {
            continue;
        }
        sink.find(
            Draft::fault((name, board.name.span))
                .at(&at)
                .says(format!(
                    "in *{}* board `{name}` gets {volts} and resets below {}",
                    at.scenario, brown_out.typical
                ))
                .judged("volts", volts)
                .at_least("brown_out", brown_out.typical, &brown_out.origin)
                .cure(
                    "feed it by a lead of its own from the source, or from a rail of its own; a \
                     thicker common lead; a capacitor for what lasts milliseconds",
                ),
        );
    }
}
