//! supply-surge: a start, a surge or boards that burst together against source limits, and boards' brown-out.

use crate::derived::assumed_start::spread;
use crate::derived::context::{Context, Worst};
use crate::derived::motor_starts::drives;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::controller::Controller;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::{Amps, Volts};
use crate::solved::currents::source_of;
use crate::solved::outcome::Outcome;
use crate::topology::ratings::node_limit;
use crate::verdict::compare::{exceeds, is_below};
use crate::verdict::severity::Severity;

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
        let lasting = node_limit(plan, node.kind).map_or(limit.low.get(), |rated| rated.get().min(limit.low.get()));
        let lasts = |o: &Outcome| o.sustained.as_ref().is_ok_and(|s| exceeds(s.current_of(node.kind), lasting));
        if context.continuous().any(lasts) {
            continue;
        }
        let Some((hardest, asked_a, severity, loops)) = hardest(context, NodeId(id), limit.low.get()) else {
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
            Draft::of(severity, (&node.name, declared.span))
                .at(&Worst::at(hardest, asked_a))
                .says(format!(
                    "in *{during}*{bursts} {what} `{}` is asked for {amps} and limits at {}{loops}",
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

/// A start that asks a source for up to this much more than its limit only takes a little longer (simulated).
const SLOWER: f64 = 1.25;
/// Motors that only the program keeps apart slow down, up to here.
const SLOW: f64 = 1.8;

/// The state that asks most of a source, what it asks, how bad that is and what comes of it; `None` where all pass.
fn hardest<'c>(context: &Context<'c>, id: NodeId, limit: f64) -> Option<(&'c Outcome, f64, Severity, &'static str)> {
    let judged = context.outcomes.iter().chain(context.at_once).filter_map(|o| {
        let (asked, severity, what) = judge(context, id, limit, o)?;
        Some((o, asked, severity, what))
    });
    judged.reduce(|a, b| if (b.2, b.1) > (a.2, a.1) { b } else { a })
}

fn judge(context: &Context<'_>, id: NodeId, limit: f64, o: &Outcome) -> Option<(f64, Severity, &'static str)> {
    let plan = context.plan;
    let s = o.wanted.as_ref().ok()?;
    let asked = s.current_of(plan.nodes[id.0].kind);
    let behind = |load: usize| plan.path_up(plan.loads[load].feed.from.id).contains(&id);
    let amps = spread(plan, o, s, &behind, asked);
    if !exceeds(amps.most, limit) {
        return None;
    }
    let down = reset(context, id, o);
    if o.case.scenario == Scenario::AllAtOnce {
        let only_program = "; only the program keeps these starts apart";
        return match down {
            Some(board) if drives(plan, board, o) => {
                Some((asked, Severity::Fault, "; the board that switches them resets, and starts anew: a reset loop"))
            }
            Some(_) => Some((asked, Severity::Caution, only_program)),
            None if exceeds(asked, SLOW * limit) || is_low(context, id, o) => {
                exceeds(asked, limit).then_some((asked, Severity::Caution, only_program))
            }
            None => None,
        };
    }
    // Boards that burst find no volts that fall slowly; what starts takes a little longer.
    let may = if o.case.continuous || down.is_some() { limit } else { SLOWER * limit };
    let assumed = "; its start is assumed: give `stall`";
    if exceeds(amps.least, may) {
        Some((asked, Severity::Fault, if amps.stated { "" } else { assumed }))
    } else {
        exceeds(amps.most, may).then_some((amps.most, Severity::Caution, assumed))
    }
}

/// A board behind a source that an outcome takes below its reset.
fn reset(context: &Context<'_>, id: NodeId, o: &Outcome) -> Option<usize> {
    below(context, id, o, &|board| Some(board.brown_out.as_ref()?.typical.get()))
}

/// True where a board behind a source gets less than is recommended.
fn is_low(context: &Context<'_>, id: NodeId, o: &Outcome) -> bool {
    below(context, id, o, &|board| Some(board.recommended.as_ref()?.low.get())).is_some()
}

fn below(context: &Context<'_>, id: NodeId, o: &Outcome, limit: &dyn Fn(&Controller) -> Option<f64>) -> Option<usize> {
    let (plan, s) = (context.plan, o.actual.as_ref().ok()?);
    (0..plan.controllers.len()).find(|i| {
        let own = plan.node_id(NodeKind::BoardInput(*i)).is_some_and(|n| plan.path_up(n).contains(&id));
        let volts = s.volts(context.layout.controllers[*i].main);
        own && volts.zip(limit(&plan.controllers[*i])).is_some_and(|(v, l)| is_below(v, l))
    })
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
