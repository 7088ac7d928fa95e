//! What turns into heat where, and how warm that makes it.

use super::outcome::{Outcome, Snapshot};
use crate::network::layout::{BoardAt, ConverterAt};
use crate::plan::kinds::enclosure::Held;
use crate::plan::kinds::run::{Port, RunKind};
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Role;
use crate::topology::conductors::feed_of;
use crate::topology::run::Run;

/// Heat that a square metre of a closed box sheds per kelvin, W (typical of small enclosures in still air).
pub(crate) const BOX_W_PER_M2_K: f64 = 7.0;

/// Of what a mains supply gives, what it turns into heat: P·(1/η − 1), η 0.86, at 5 V and below 0.82 (typical);
/// batteries and ports make none to speak of.
fn supply_w(plan: &Plan, i: usize, s: &Snapshot) -> f64 {
    let supply = &plan.supplies[i];
    if !matches!(supply.kind, SupplyKind::Adapter | SupplyKind::MainsConverter | SupplyKind::Bench) {
        return 0.0;
    }
    let efficiency = if supply.voltage.typical.get() <= 5.5 { 0.82 } else { 0.86 };
    let volts = plan.node_id(NodeKind::Supply(i)).and_then(|id| s.volts_at(id)).unwrap_or(0.0);
    (volts * s.amps(s.layout.supplies[i])).max(0.0) * (1.0 / efficiency - 1.0)
}

/// Heat in a converter, W.
pub(crate) fn converter_w(plan: &Plan, i: usize, s: &Snapshot) -> f64 {
    let ConverterAt { input, output, .. } = s.layout.converters[i];
    let given = plan.node_id(NodeKind::Converter(i)).and_then(|id| s.volts_at(id));
    let (Some(taken), Some(given)) = (s.volts(input), given) else { return 0.0 };
    taken * s.current_into_converter(plan, i) - given * s.amps(output)
}

/// Heat in a board's logic regulator, W. The board's own current goes through it as well.
pub(crate) fn regulator_w(plan: &Plan, i: usize, o: &Outcome, s: &Snapshot) -> f64 {
    let BoardAt { main, regulator: Some(branch), .. } = s.layout.boards[i] else { return 0.0 };
    if !s.solution.alive[main.plus] {
        return 0.0;
    }
    let own = &plan.boards[i];
    let own = own.logic_regulator().map_or(0.0, |_| own.mean.at(o.corner, Role::Demand).get());
    s.drop_v(branch).max(0.0) * (s.amps(branch) + own)
}

/// Heat in the regulator behind a board's unregulated input, W.
pub(crate) fn unregulated_w(i: usize, s: &Snapshot) -> f64 {
    let Some((at, branch)) = &s.layout.inlets[i].unregulated else { return 0.0 };
    if !s.solution.alive[at.plus] {
        return 0.0;
    }
    s.drop_v(*branch).max(0.0) * s.amps(*branch)
}

/// Heat of something in a box, W.
fn held_w(plan: &Plan, held: Held, s: &Snapshot) -> f64 {
    let at = |branch: usize| s.amps(branch) * s.drop_v(branch);
    match held {
        Held::Nothing => 0.0,
        Held::Supply(i) => supply_w(plan, i, s),
        Held::Converter(i) => converter_w(plan, i, s),
        Held::Board(i) => {
            let BoardAt { own, regulator, .. } = s.layout.boards[i];
            at(own) + regulator.map_or(0.0, at) + unregulated_w(i, s)
        }
        Held::Strip(i) => s.solution.strips[i].pixel_w + s.solution.strips[i].copper_w,
        Held::Load(i) => s.layout.loads[i].iter().map(|d| at(d.branch)).sum(),
        Held::Branch(i) => {
            let own = s.layout.conductors.iter().find(|c| c.run == Run::Branch(i));
            let leads = own.map_or(0.0, |c| c.feed.map_or(0.0, at) + at(c.back));
            leads + s.layout.elements[i].map_or(0.0, at)
        }
    }
}

/// Heat in a box, W.
pub(crate) fn box_w(plan: &Plan, enclosure: usize, s: &Snapshot) -> f64 {
    plan.enclosures[enclosure].holds.iter().map(|(_, held)| held_w(plan, *held, s)).sum()
}

/// How much warmer than outside it is in a box: ΔT = P/(7 W/m²K · A).
pub(crate) fn box_rise_k(plan: &Plan, enclosure: usize, s: &Snapshot) -> f64 {
    box_w(plan, enclosure, s) / (BOX_W_PER_M2_K * plan.enclosures[enclosure].area.low_si())
}

/// The air around a cable, °C: the warmest that it passes. A cable that begins or ends at something in a box is partly
/// in it, and that part limits it.
pub(crate) fn air_of_run_c(plan: &Plan, run: Run, s: &Snapshot) -> f64 {
    let near = feed_of(plan, run).and_then(|f| held_of_node(plan, f.from.id));
    let far = match run {
        Run::Branch(i) => Some(Held::Branch(i)),
        Run::Converter(i) => Some(Held::Converter(i)),
        Run::Board(i) => Some(Held::Board(i)),
        Run::Load(i) => Some(Held::Load(i)),
        Run::Injection(i, _) | Run::Join(i, _) => Some(Held::Strip(i)),
        Run::Shifter(_) | Run::Ground(_) => None,
    };
    near.into_iter().chain(far).map(|held| air_c(plan, held, s)).fold(plan.warmest_c(), f64::max)
}

/// What a box can hold of a node.
fn held_of_node(plan: &Plan, id: NodeId) -> Option<Held> {
    match plan.nodes[id.0].kind {
        NodeKind::Supply(i) => Some(Held::Supply(i)),
        NodeKind::Branch(i) => match plan.branches[i].kind {
            RunKind::Port(Port { board, .. }) | RunKind::Terminal { board } => Some(Held::Board(board)),
            _ => Some(Held::Branch(i)),
        },
        NodeKind::Converter(i) => Some(Held::Converter(i)),
        NodeKind::BoardInput(i) | NodeKind::BoardOutput(i) => Some(Held::Board(i)),
        NodeKind::StripStart(i) | NodeKind::StripEnd(i) => Some(Held::Strip(i)),
    }
}

/// The air around something: the warmest ambient, and what its box adds.
pub(crate) fn air_c(plan: &Plan, held: Held, s: &Snapshot) -> f64 {
    let own = plan.enclosures.iter().position(|h| h.holds.iter().any(|(_, inside)| *inside == held));
    plan.warmest_c() + own.map_or(0.0, |h| box_rise_k(plan, h, s))
}
