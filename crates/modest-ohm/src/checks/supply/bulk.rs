//! bulk-capacitor: the capacitor that holds a board's rail while its source catches up with a load step.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::{Amps, Farads, Ohms, Seconds, Volts};
use crate::size::capacitor::bulk_capacitor;
use crate::solved::outcome::Snapshot;
use crate::topology::rail::way_up;
use crate::verdict::compare::at_least;

/// Smaller steps every source follows.
const WORTH_A: f64 = 1.0;
/// How long a source takes to follow (typical): a mains adapter 500 µs, a converter or a lead 50 µs.
const ADAPTER_S: f64 = 500e-6;
const CONVERTER_S: f64 = 50e-6;
/// Of an electrolytic capacitor for this job (typical).
const ESR_OHMS: f64 = 0.05;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (id, node) in plan.nodes.iter().enumerate() {
        let delay = match node.kind {
            NodeKind::Supply(i) if plan.supplies[i].battery.is_none() => ADAPTER_S,
            NodeKind::Converter(_) => CONVERTER_S,
            _ => continue,
        };
        if !context.alive_at(context.layout.nodes[id].plus) {
            continue;
        }
        let Some((board, margin)) = most_delicate(context, NodeId(id)) else { continue };
        let Some(step) = step(context, node.kind) else { continue };
        if margin <= 0.0 || step < WORTH_A {
            sink.pass(&node.name, format!("steps by {}", Amps::new(step)));
            continue;
        }
        let behind = || plan.capacitors.iter().filter(|c| way_up(plan, c.across.id).last() == Some(&NodeId(id)));
        let fitted: f64 = behind().map(|c| c.capacitance.low.get()).sum();
        let esr = behind().map(|c| c.esr.high.get()).reduce(f64::min).unwrap_or(ESR_OHMS);
        let size = bulk_capacitor(Amps::new(step), Seconds::new(delay), Volts::new(margin), Ohms::new(esr));
        let needed = size.map_or(Farads::new(f64::MAX), |s| s.least);
        if at_least(fitted, needed.get()) {
            sink.pass(&node.name, format!("{} fitted, {needed} needed", Farads::new(fitted)));
            continue;
        }
        let board = &plan.controllers[board].name.text;
        let (margin, step) = (Volts::new(margin), Amps::new(step));
        let cure = if let Some(size) = size {
            format!("put {} across `{}`, near the load: {needed} or more at its tolerance", size.usual, node.name)
        } else {
            format!(
                "feed board `{board}` from a rail of its own, or take capacitors of less than {} each",
                Ohms::new(margin.get() / step.get())
            )
        };
        sink.find(
            Draft::advice((&node.name, plan.declared_at(NodeId(id))))
                .says(format!(
                    "`{}` follows a step of {step} after {} only; board `{board}` has {margin} to lose \
                     until then, and {} is fitted",
                    node.name,
                    Seconds::new(delay),
                    Farads::new(fitted)
                ))
                .judged("step", step)
                .with("margin", margin)
                .with("fitted", Farads::new(fitted))
                .facts(size.map(|s| Evidence::computed("needed", s.least)))
                .facts(size.map(|s| Evidence::computed("enough_capacitance", s.usual)))
                .cure(cure),
        );
    }
}

/// Of the boards behind a source the one that has the least to lose until it resets, and how much that is, V.
fn most_delicate(context: &Context<'_>, source: NodeId) -> Option<(usize, f64)> {
    let plan = context.plan;
    let boards = (0..plan.controllers.len()).filter_map(|i| {
        let own = plan.node_id(NodeKind::BoardInput(i))?;
        let brown_out = plan.controllers[i].brown_out.as_ref()?.typical.get();
        let t = context.layout.controllers[i].main;
        (way_up(plan, own).last() == Some(&source)).then_some(())?;
        let low = context.worst_actual(|_| true, |_, s| s.volts(t).map(|v| -v))?;
        Some((i, -low.value - brown_out))
    });
    boards.reduce(|a, b| if b.1 < a.1 { b } else { a })
}

/// The largest current of a source less its idle one, in the corner that has most.
fn step(context: &Context<'_>, kind: NodeKind) -> Option<f64> {
    let amps = |s: &Snapshot| s.current_of(kind);
    let idle = |corner| {
        let o = context.outcomes.iter().find(|o| o.case.scenario == Scenario::Idle && o.corner == corner)?;
        o.wanted.as_ref().ok().map(amps)
    };
    let steps = context.outcomes.iter().filter_map(|o| Some(amps(o.wanted.as_ref().ok()?) - idle(o.corner)?));
    steps.reduce(f64::max)
}
