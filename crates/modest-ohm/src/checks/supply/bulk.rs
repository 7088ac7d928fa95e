//! bulk-capacitor: the capacitor that holds a board's rail while its source catches up with a load step.

use crate::derived::closing::{behind, inductance, length_m};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Corner, Origin};
use crate::quantity::units::{Amps, Farads, Volts};
use crate::solved::loop_ohms::loop_ohms;
use crate::solved::outcome::Snapshot;
use crate::topology::rail::way_up;
use crate::verdict::compare::at_most;

/// Smaller steps every source follows.
const WORTH_A: f64 = 1.0;
/// By how much of its voltage a source dips for a step of its rating, its own capacitors included (typical: "5 % for a
/// step of half the load"): adapters and mains converters, modules.
const ADAPTER_DIP: f64 = 0.10;
const MODULE_DIP: f64 = 0.06;
/// What a USB port dips for a step of all it gives, V (USB 2.0, 7.2.4.1).
const USB_DIP_V: f64 = 0.3;

/// A step on a rail, and the two dips that follow from it.
struct Dip {
    step: f64,
    margin: f64,
    /// Of the source.
    source: f64,
    /// Of the cable, until its current has grown.
    lead: f64,
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (id, node) in plan.nodes.iter().enumerate() {
        let Some(per_amp) = dip_per_amp(plan, node.kind) else { continue };
        if !context.alive_at(context.layout.nodes[id].plus) {
            continue;
        }
        let Some((board, margin)) = most_delicate(context, NodeId(id)) else { continue };
        let Some(step) = step(context, node.kind) else { continue };
        if margin <= 0.0 || step < WORTH_A {
            sink.pass(&node.name, || format!("steps by {}", Amps::new(step)));
            continue;
        }
        let henries = common_lead(plan, NodeId(id), board);
        let local = local_f(plan, NodeId(id));
        let lead = if henries > 0.0 && has_fast_steps(context, NodeId(id)) {
            lead_dip(step, henries, local, lead_ohms(context, NodeId(id), board))
        } else {
            0.0
        };
        let dip = Dip { step, margin, source: per_amp * step, lead };
        if at_most(dip.source.max(dip.lead), margin) {
            sink.pass(&node.name, || {
                format!("dips by {} of {}", Volts::new(dip.source.max(dip.lead)), Volts::new(margin))
            });
            continue;
        }
        tell(context, sink, (NodeId(id), board), &dip, local);
    }
}

fn dip_per_amp(plan: &Plan, kind: NodeKind) -> Option<f64> {
    let of = |volts: f64, amps: Option<f64>, share: f64| share * volts / amps.unwrap_or(1.0).max(1e-3);
    match kind {
        NodeKind::Supply(i) => {
            let s = &plan.supplies[i];
            let amps = s.current.as_ref().map(|a| a.typical.get());
            match s.kind {
                SupplyKind::Battery | SupplyKind::Vehicle { .. } => None,
                SupplyKind::Usb => Some(USB_DIP_V / amps.unwrap_or(0.5).max(1e-3)),
                _ => Some(of(s.voltage.typical.get(), amps, ADAPTER_DIP)),
            }
        }
        NodeKind::Converter(i) => {
            let c = &plan.converters[i];
            Some(of(c.output.typical.get(), c.current.as_ref().map(|a| a.typical.get()), MODULE_DIP))
        }
        _ => None,
    }
}

/// The dip until a cable's current has grown, V: ΔI·√(L/C)·e^(−ζ·acos ζ/√(1−ζ²)), with ζ = R/2·√(C/L) of the cable and
/// the capacitors. Beyond ζ = 1 it no longer swings: acosh ζ/√(ζ²−1) takes its place.
fn lead_dip(step: f64, henries: f64, farads: f64, ohms: f64) -> f64 {
    let wave = (henries / farads.max(1e-9)).sqrt();
    let zeta = ohms / (2.0 * wave);
    let angle = match (1.0 - zeta * zeta).abs().sqrt() {
        root if root < 1e-6 => 1.0,
        root if zeta < 1.0 => zeta.acos() / root,
        root => zeta.acosh() / root,
    };
    step * wave * (-zeta * angle).exp()
}

/// The resistance of the cable that a board shares with what steps, and of the capacitors behind it, Ω.
fn lead_ohms(context: &Context<'_>, source: NodeId, board: usize) -> f64 {
    let plan = context.plan;
    let idle = context.outcomes.iter().find(|o| o.corner == Corner::Typical && o.actual.is_ok());
    let Some(s) = idle.and_then(|o| o.actual.as_ref().ok()) else { return 0.0 };
    let own = plan.node_id(NodeKind::BoardInput(board));
    let last = own.map(|own| way_up(plan, own)).and_then(|path| path.get(1).copied());
    let lead = last.filter(|id| *id != source).map_or(0.0, |id| loop_ohms(plan, id, s));
    let siemens: f64 = behind(plan, source).iter().map(|c| 1.0 / c.esr.max(1e-3)).sum();
    lead + if siemens > 0.0 { 1.0 / siemens } else { 0.0 }
}

/// The inductance of the cable that a board shares with what steps: from the source to the first node that others are
/// connected to.
fn common_lead(plan: &Plan, source: NodeId, board: usize) -> f64 {
    let Some(own) = plan.node_id(NodeKind::BoardInput(board)) else { return 0.0 };
    let path = way_up(plan, own);
    let shared = path.iter().filter(|id| **id != own && **id != source);
    let length: f64 = shared.map(|id| length_m(plan, *id)).sum();
    if length > 0.0 { inductance(length).get() } else { 0.0 }
}

/// Strips step within a millisecond, which a cable follows; motors and electronics at once.
fn has_fast_steps(context: &Context<'_>, source: NodeId) -> bool {
    context.plan.loads.iter().any(|l| way_up(context.plan, l.feed.from.id).last() == Some(&source))
}

/// Capacitors on the rail behind its cable, fitted and inside its parts, F.
fn local_f(plan: &Plan, source: NodeId) -> f64 {
    behind(plan, source).iter().map(|c| c.farads).sum()
}

fn tell(context: &Context<'_>, sink: &mut Sink, (id, board): (NodeId, usize), dip: &Dip, local: f64) {
    let plan = context.plan;
    let name = &plan.nodes[id.0].name;
    let board = &plan.boards[board].name.text;
    let (margin, step) = (Volts::new(dip.margin), Amps::new(dip.step));
    let dips = Volts::new(dip.source.max(dip.lead));
    let of = if dip.source > dip.margin { "the source itself" } else { "its cable" };
    sink.find(
        Draft::advisory((name, plan.declared_at(id)))
            .says(format!(
                "a load step of {step} on `{name}` makes {of} dip by {dips}; board `{board}` tolerates {margin}"
            ))
            .judged("dip", dips)
            .at_most("margin", margin, &Origin::Computed)
            .with("step", step)
            .with("local", Farads::new(local)),
    );
}

/// Of the boards behind a source the one that has the least to lose until it resets, and how much that is, V.
fn most_delicate(context: &Context<'_>, source: NodeId) -> Option<(usize, f64)> {
    let plan = context.plan;
    let boards = (0..plan.boards.len()).filter_map(|i| {
        let own = plan.node_id(NodeKind::BoardInput(i))?;
        let brown_out = plan.boards[i].brown_out.as_ref()?.typical.get();
        let t = context.layout.boards[i].main;
        (way_up(plan, own).last() == Some(&source)).then_some(())?;
        let low = context.worst_actual(|o| o.case.continuous, |_, s| s.volts(t).map(|v| -v))?;
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

#[cfg(test)]
mod tests {
    use super::lead_dip;

    /// A cable and a capacitor from rest, the load stepping on: the lowest voltage before the cable's current has
    /// grown, beside what its resistance takes for good.
    fn stepped(step: f64, henries: f64, farads: f64, ohms: f64) -> f64 {
        let (mut volts, mut amps, mut lowest) = (0.0, 0.0, 0.0f64);
        let dt = (henries * farads).sqrt() / 20_000.0;
        for _ in 0..200_000 {
            // The capacitor has the loop's resistance in series with the cable's inductance.
            amps += dt * (-volts - ohms * (amps - step)) / henries;
            volts += dt * (amps - step) / farads;
            lowest = lowest.min(volts);
        }
        -lowest
    }

    #[test]
    fn the_dip_is_that_of_a_stepped_loop() {
        for (henries, farads) in [(1e-6f64, 10e-6f64), (0.6e-6, 100e-6), (2e-6, 33e-6)] {
            let wave = (henries / farads).sqrt();
            for zeta in [0.0, 0.1, 0.4, 0.8, 1.0, 1.5, 3.0] {
                let ohms = 2.0 * zeta * wave;
                let (said, simulated) = (lead_dip(3.0, henries, farads, ohms), stepped(3.0, henries, farads, ohms));
                assert!((said - simulated).abs() < 2e-3 * simulated, "ζ {zeta}: {said} against {simulated}");
            }
        }
    }
}
