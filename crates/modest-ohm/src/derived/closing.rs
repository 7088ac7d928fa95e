//! What a contact closes on: the capacitors behind it, stated or typical of what hangs there, and the loop to the
//! source.

use super::context::Context;
use crate::plan::kinds::board::Board;
use crate::plan::kinds::converter::{Converter, ConverterKind};
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::kinds::run::RunKind;
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::{Farads, Henries, Metres, Ohms, Volts};
use crate::size::closing::{Closing, pair_inductance};
use crate::solved::currents::source_of;
use crate::solved::loop_ohms::loop_ohms;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::rail::way_up;

/// A capacitor at a node.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Capacitance {
    pub at: NodeId,
    pub farads: f64,
    pub esr: f64,
    /// False where only the class of the part says that there is one.
    pub stated: bool,
}

/// A contact: a hand switch or a relay's.
pub(crate) struct Contact<'p> {
    pub run: usize,
    pub name: &'p str,
    pub span: crate::source::Span,
    /// What it may carry, A, and what it may close on where that is said.
    pub rating: Option<f64>,
    pub making: Option<f64>,
    pub is_relay: bool,
    pub node: NodeId,
}

/// All contacts of a plan.
pub(crate) fn contacts(plan: &Plan) -> Vec<Contact<'_>> {
    let mut out = Vec::new();
    for (run, branch) in plan.branches.iter().enumerate() {
        let Some(node) = plan.node_id(NodeKind::Branch(run)) else { continue };
        let (rating, making, is_relay) = match &branch.kind {
            RunKind::Switch(s) => {
                (s.rating.as_ref().map(|r| r.low.get()), s.making.as_ref().map(|m| m.low.get()), false)
            }
            RunKind::Stage(at) => {
                let driver = &plan.drivers[at.driver];
                let Some(relay) = driver.relay() else { continue };
                let making = relay.making.as_ref().map(|m| m.low.get());
                (driver.current.as_ref().map(|r| r.low.get()), making, true)
            }
            _ => continue,
        };
        let (name, span) = (branch.name.text.as_str(), branch.name.span);
        out.push(Contact { run, name, span, rating, making, is_relay, node });
    }
    out
}

/// Every capacitor that lies behind a node on its rail.
pub(crate) fn behind(plan: &Plan, node: NodeId) -> Vec<Capacitance> {
    all(plan).into_iter().filter(|c| way_up(plan, c.at).contains(&node)).collect()
}

/// Capacitors of the plan, and those that its parts have inside.
fn all(plan: &Plan) -> Vec<Capacitance> {
    let stated = plan.capacitors.iter().map(|c| Capacitance {
        at: c.across.id,
        farads: c.capacitance.typical.get(),
        esr: c.esr.low.get().max(1e-3),
        stated: true,
    });
    let inside = |at: NodeId, (farads, esr): (f64, f64)| Capacitance { at, farads, esr, stated: false };
    let converters = plan
        .converters
        .iter()
        .map(|c| Capacitance { stated: c.input_capacitance.is_some(), ..inside(c.feed.from.id, of_converter(c)) });
    let boards = plan.boards.iter().filter_map(|c| Some(inside(c.feed.as_ref()?.from.id, of_board(c))));
    let loads = plan.loads.iter().filter_map(|l| Some(inside(l.feed.from.id, of_load(l)?)));
    let strips = plan.strips.iter().filter(|s| !s.pixel.plain).filter_map(|s| {
        let first = s.injections.first()?;
        Some(inside(first.feed.from.id, (s.pixels as f64 * 0.1e-6, 0.01)))
    });
    let bridges = plan.branches.iter().filter(|b| matches!(b.kind, RunKind::Inlet));
    let bridges = bridges.map(|b| inside(b.feed.from.id, (150e-6, 0.15)));
    let others = converters.chain(boards).chain(loads).chain(strips).chain(bridges);
    stated.chain(others.filter(|c| c.farads > 0.0)).collect()
}

/// What modules have at their input (typical): F and Ω.
fn of_converter(c: &Converter) -> (f64, f64) {
    if let Some(stated) = &c.input_capacitance {
        return (stated.typical.get(), c.input_esr.as_ref().map_or(0.005, |r| r.typical.get()));
    }
    let amps = c.current.as_ref().map_or(1.0, |a| a.typical.get());
    match c.kind {
        ConverterKind::Boost | ConverterKind::BuckBoost => (100e-6, 0.15),
        ConverterKind::Linear => (0.0, 0.1),
        _ if amps > 3.0 => (330e-6, 0.1),
        _ if c.dropout.typical.get() >= 2.0 => (100e-6, 0.3),
        _ => (22e-6, 0.005),
    }
}

fn of_board(c: &Board) -> (f64, f64) {
    if c.peak.typical.get() >= 1.0 { (150e-6, 0.1) } else { (33e-6, 0.1) }
}

/// Electronics have 10 µF a watt, servos 22 µF; lamps, motors and relays none.
fn of_load(l: &Load) -> Option<(f64, f64)> {
    let many = l.count as f64;
    match l.nature {
        Some(Nature::Servo) => Some((22e-6 * many, 0.3)),
        Some(Nature::Electronics) => {
            let volts = l.voltage.as_ref().map_or(5.0, |v| v.typical.get());
            let watts = l.rated_a() * volts;
            (watts > 0.0).then(|| ((10e-6 * watts).clamp(22e-6, 2200e-6) * many, 0.1))
        }
        _ => None,
    }
}

/// The capacitors that a source has at its own output, F: what it gives at once; a battery gives continuously.
pub(crate) fn of_source(plan: &Plan, source: NodeId) -> f64 {
    let (amps, volts) = match plan.nodes[source.0].kind {
        NodeKind::Supply(i) => {
            let s = &plan.supplies[i];
            if matches!(s.kind, SupplyKind::Battery | SupplyKind::Vehicle { .. }) {
                return f64::INFINITY;
            }
            (s.current.as_ref().map_or(1.0, |a| a.typical.get()), s.voltage.typical.get())
        }
        NodeKind::Converter(i) => {
            let c = &plan.converters[i];
            (c.current.as_ref().map_or(1.0, |a| a.typical.get()), c.output.typical.get())
        }
        _ => return f64::INFINITY,
    };
    amps * output_f_per_amp(volts)
}

/// What adapters and modules have at their output by their voltage, F/A (typical): 300 µF at 5 V, 200 at 12 V, 100 at
/// 24 V.
pub(crate) fn output_f_per_amp(volts: f64) -> f64 {
    const POINTS: [(f64, f64); 3] = [(5.0, 300e-6), (12.0, 200e-6), (24.0, 100e-6)];
    if volts <= POINTS[0].0 {
        return POINTS[0].1;
    }
    let pair = POINTS.windows(2).find(|p| volts <= p[1].0);
    pair.map_or(POINTS[2].1, |p| p[0].1 + (p[1].1 - p[0].1) * (volts - p[0].0) / (p[1].0 - p[0].0))
}

/// The loop that a contact closes on some of the capacitors behind it; `None` where nothing feeds it.
pub(crate) fn closing(
    context: &Context<'_>,
    outcome: &Outcome,
    contact: &Contact<'_>,
    capacitors: &[Capacitance],
) -> Option<Closing> {
    let (plan, s) = (context.plan, outcome.actual.as_ref().ok()?);
    let before = plan.branches[contact.run].feed.from.id;
    let volts = s.volts_at(before)?;
    let largest = capacitors.iter().max_by(|a, b| a.farads.total_cmp(&b.farads))?;
    let path = way_up(plan, largest.at);
    let source = *path.last()?;
    let charged: f64 = capacitors.iter().map(|c| c.farads).sum();
    let gives = of_source(plan, source);
    let capacitance = if gives.is_finite() { charged * gives / (charged + gives) } else { charged };
    let esr = 1.0 / capacitors.iter().map(|c| 1.0 / c.esr.max(1e-3)).sum::<f64>();
    // The warm resistance of a limiter is in the loop; at the first contact it is cold.
    let limiters = path.iter().filter_map(|id| match plan.nodes[id.0].kind {
        NodeKind::Branch(i) => match &plan.branches[i].kind {
            RunKind::Limiter(l) => Some((l.cold.low.get() - l.warm.low.get()).max(0.0)),
            _ => None,
        },
        _ => None,
    });
    let cold: f64 = limiters.sum();
    let ohms = source_ohms(context, source, s) + loop_ohms(plan, largest.at, s) + cold + esr;
    let length: f64 = path.iter().map(|id| length_m(plan, *id)).sum();
    Some(Closing {
        volts: Volts::new(volts),
        capacitance: Farads::new(capacitance),
        ohms: Ohms::new(ohms),
        inductance: inductance(length),
    })
}

pub(crate) fn inductance(length_m: f64) -> Henries {
    pair_inductance(Metres::new(length_m))
}

/// The length of the lead to a node, m.
pub(crate) fn length_m(plan: &Plan, id: NodeId) -> f64 {
    let feed = match plan.nodes[id.0].kind {
        NodeKind::Branch(i) => Some(&plan.branches[i].feed),
        NodeKind::BoardInput(i) => plan.boards[i].feed.as_ref(),
        _ => None,
    };
    feed.and_then(|f| f.cable.as_ref()).and_then(Cable::length_m).unwrap_or(0.0)
}

fn source_ohms(context: &Context<'_>, id: NodeId, s: &Snapshot) -> f64 {
    let Some(branch) = source_of(context.layout, context.plan.nodes[id.0].kind) else { return 0.0 };
    match s.net.branches[branch].law {
        modest_ohm_solve::network::Law::Source { ohms, .. } => ohms,
        _ => 0.0,
    }
}
