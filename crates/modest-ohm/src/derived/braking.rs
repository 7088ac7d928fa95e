//! What motors feed back into their rail as their bridge slows them down or turns them round.

use super::closing;
use super::coils::most_a;
use super::context::{Context, worst_of};
use crate::plan::driver::DriverKind;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::kinds::scenario::Scenario;
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Corner;
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::outcome::Outcome;
use crate::topology::rail::way_up;

/// Of the energy in a turning motor so much comes back through its bridge (electrical corrections, section 17;
/// typical).
const COMES_BACK: f64 = 0.3;
/// Time constants of a motor with what it drives, by its stall current: A, s (typical, × ½ .. × 3).
const TIME_CONSTANTS: [(f64, f64); 3] = [(3.0, 0.03), (10.0, 0.05), (f64::INFINITY, 0.1)];
/// A motor has come to rest after so many time constants.
const AT_REST: f64 = 3.0;

/// What brakes into a part of a rail from which nothing flows back into its source.
pub(crate) struct Braking<'p> {
    /// The motor that feeds back most.
    pub motor: &'p Load,
    /// What ends the rail: its source, or the diode before it.
    pub held_by: NodeId,
    /// True where a diode separates the rail from its source.
    pub behind_diode: bool,
    /// The rail before they brake, V.
    pub volts: f64,
    /// What comes back, less what the rail's other loads take meanwhile, J.
    pub energy_j: f64,
    /// The same at least start that is assumed.
    pub least_j: f64,
    /// The capacitors that take it, F.
    pub farads: f64,
}

/// Motors with their index among the loads.
type Motors<'p> = Vec<(usize, &'p Load)>;

/// All rails that motors brake into, each once.
pub(crate) fn braking<'p>(context: &Context<'p>) -> Vec<Braking<'p>> {
    let plan = context.plan;
    let mut found: Vec<((NodeId, bool), Motors<'p>)> = Vec::new();
    for channel in channels(plan).into_iter().filter(|c| c.driver.kind == DriverKind::Bridge) {
        let Some(end) = end_of(plan, plan.branches[channel.run].feed.from.id) else { continue };
        for i in plan.loads_behind(channel.run).filter(|i| feeds_back(&channel, &plan.loads[*i])) {
            match found.iter_mut().find(|(known, _)| *known == end) {
                Some((_, motors)) => motors.push((i, &plan.loads[i])),
                None => found.push((end, vec![(i, &plan.loads[i])])),
            }
        }
    }
    found.into_iter().filter_map(|((end, behind_diode), motors)| of_rail(context, end, behind_diode, &motors)).collect()
}

/// What ends a rail upwards for a current that comes back: a diode, or a source that takes nothing; `None` where the
/// source takes it.
fn end_of(plan: &Plan, from: NodeId) -> Option<(NodeId, bool)> {
    let path = way_up(plan, from);
    let is_diode = |id: &NodeId| match plan.nodes[id.0].kind {
        NodeKind::Branch(i) => plan.branches[i].diode().is_some_and(|d| !d.fet && !d.reversed),
        _ => false,
    };
    if let Some(diode) = path.iter().find(|id| is_diode(id)) {
        return Some((*diode, true));
    }
    let source = *path.last()?;
    match plan.nodes[source.0].kind {
        NodeKind::Supply(i) => {
            let supply = &plan.supplies[i];
            let takes = supply.sinks || matches!(supply.kind, SupplyKind::Battery | SupplyKind::Vehicle { .. });
            (!takes).then_some((source, false))
        }
        NodeKind::Converter(_) => Some((source, false)),
        _ => None,
    }
}

/// A motor that its bridge reverses at speed, or that is said to be braked.
fn feeds_back(channel: &Channel<'_>, load: &Load) -> bool {
    let bidirectional = channel.driver.channels[channel.at.channel].pins.len() >= 2;
    load.nature == Some(Nature::Motor) && (load.limits.brakes || (bidirectional && !load.limits.stops_first))
}

/// Whether a node lies on the rail that ends there.
pub(crate) fn is_on(plan: &Plan, end: NodeId, node: NodeId) -> bool {
    way_up(plan, node).contains(&end)
}

fn of_rail<'p>(
    context: &Context<'p>,
    end: NodeId,
    behind_diode: bool,
    motors: &[(usize, &'p Load)],
) -> Option<Braking<'p>> {
    let plan = context.plan;
    let (_, volts) = worst_of(context.outcomes.iter(), |o: &Outcome| o.actual.as_ref().ok()?.volts_at(end))?;
    let energy = |load: &Load, held: f64| {
        let typical = TIME_CONSTANTS.into_iter().find(|(most, _)| held <= *most).map_or(0.1, |(_, s)| s);
        let time = load.limits.run_down.as_ref().map_or(typical, |t| t.typical.get() / AT_REST);
        (COMES_BACK * 0.5 * volts * held * time, time)
    };
    let mut each: Vec<(&Load, f64, f64, f64)> = Vec::new();
    for (i, load) in motors {
        let Some((_, held)) = most_a(context, *i, |o| o.corner == Corner::Typical) else { continue };
        let least = load.limits.assumed_start.map_or(1.0, |[least, typical, _]| least / typical);
        let (joules, time) = energy(load, held);
        each.push((load, joules, least * joules, time));
    }
    let motor = each.iter().max_by(|a, b| a.1.total_cmp(&b.1))?.0;
    // The rail's other loads take their share while the motors come to rest.
    let time = each.iter().map(|e| e.3).fold(0.0, f64::max);
    let taken = idle_watts(context, end, volts) * AT_REST * time;
    let total = |of: fn(&(&Load, f64, f64, f64)) -> f64| (each.iter().map(of).sum::<f64>() - taken).max(0.0);
    Some(Braking {
        motor,
        held_by: end,
        behind_diode,
        volts,
        energy_j: total(|e| e.1),
        least_j: total(|e| e.2),
        farads: farads(plan, end, behind_diode),
    })
}

/// What the rail gives to all that is connected to it while the motors stand, W.
fn idle_watts(context: &Context<'_>, end: NodeId, volts: f64) -> f64 {
    let idle = |o: &&Outcome| o.case.scenario == Scenario::Idle && o.corner == Corner::Typical;
    let Some(s) = context.outcomes.iter().find(idle).and_then(|o| o.actual.as_ref().ok()) else { return 0.0 };
    let plan = context.plan;
    let amps = match plan.nodes[end.0].kind {
        NodeKind::Branch(run) => s.amps(context.layout.through[run]),
        kind => s.current_of(kind),
    };
    amps.max(0.0) * volts
}

fn farads(plan: &Plan, end: NodeId, behind_diode: bool) -> f64 {
    let on_it = closing::behind(plan, end).iter().map(|c| c.farads).sum::<f64>();
    let source = if behind_diode { 0.0 } else { closing::of_source(plan, end) };
    on_it + source
}
