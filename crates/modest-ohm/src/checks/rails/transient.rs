//! transient-unprotected: what a vehicle's transients reach: both polarities, against parts, protects and clamps.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::Clamp;
use crate::plan::kinds::supply::{Supply, SupplyKind};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Volts, Watts};
use crate::topology::clamps::lets_through;
use crate::topology::parts::{Part, parts};
use crate::topology::rail::way_up;
use crate::verdict::compare::{at_least, at_most, is_below};
use crate::verdict::severity::Severity;

/// A clamp that conducts a load dump takes this much power for tens of milliseconds (10/1000 µs rating, ISO 16750-2).
const DUMP_W: f64 = 5000.0;

/// What a vehicle's net does in addition to its steady voltage.
#[derive(Clone, Copy, Debug)]
struct Net {
    /// The load dump, V: suppressed centrally, or as the plan says.
    dump: f64,
    /// What a part stands who stands the dump by itself, V.
    enough: f64,
    /// The negative pulse of what is inductive and turns off, V.
    pulse: f64,
    /// What the rail has then, V.
    rail: f64,
}

/// ISO 16750-2 (load dump 35 V, 58 V; unsuppressed 101 V, 202 V) and ISO 7637-2 (pulse 1: −150 V, −600 V).
fn net_of(supply: &Supply) -> Option<Net> {
    let SupplyKind::Vehicle { volts } = supply.kind else { return None };
    Some(match (volts == 24, supply.vehicle.suppressed) {
        (false, true) => Net { dump: 35.0, enough: 40.0, pulse: -150.0, rail: 15.0 },
        (false, false) => Net { dump: 101.0, enough: 101.0, pulse: -150.0, rail: 15.0 },
        (true, true) => Net { dump: 58.0, enough: 65.0, pulse: -600.0, rail: 30.0 },
        (true, false) => Net { dump: 202.0, enough: 202.0, pulse: -600.0, rail: 30.0 },
    })
}

/// Something that a source feeds over conductors, switches and diodes.
pub(crate) struct Hanging {
    pub name: String,
    /// True for what voltage beyond its range destroy in an instant: converters, boards, pixels, electronics, stages.
    pub electronic: bool,
    /// True where its datasheet says that it stands a vehicle's transients.
    pub rated: bool,
    /// True for a stage in the return of its load: a negative pulse finds the load before it.
    behind_load: bool,
    /// The most it withstands, V, where that is known.
    stands: Option<f64>,
    pub diode: bool,
    /// The least that a clamp on the way lets through, V.
    lets_through: Option<f64>,
}

/// What is connected to a supply, and what stands between.
pub(crate) fn hanging_on(plan: &Plan, supply: usize) -> Vec<Hanging> {
    let source = plan.node_id(NodeKind::Supply(supply));
    let mut out: Vec<Hanging> = Vec::new();
    for part in parts(plan) {
        let path = way_up(plan, part.from);
        if path.last().copied() != source {
            continue;
        }
        let diode = path.iter().any(|id| guard_at(plan, *id).is_some());
        let clamps = plan.clamps.iter().filter(|c| !c.diode.reversed && path.contains(&c.across.id));
        let lets_through = clamps.filter_map(lets_through).reduce(f64::min);
        // Of several feeds the least guarded counts.
        if let Some(known) = out.iter_mut().find(|h| h.name == part.name.text) {
            known.diode &= diode;
            known.lets_through = known.lets_through.zip(lets_through).map(|(a, b)| a.max(b));
            continue;
        }
        let Part { name, electronic, rated, behind_load, stands, .. } = part;
        let name = name.text.clone();
        out.push(Hanging { name, electronic, rated, behind_load, stands, diode, lets_through });
    }
    out
}

/// The series diode or P-channel MOSFET that a node is.
fn guard_at(plan: &Plan, id: NodeId) -> Option<usize> {
    let NodeKind::Branch(i) = plan.nodes[id.0].kind else { return None };
    plan.branches[i].diode().is_some_and(|d| !d.reversed).then_some(i)
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, supply) in context.plan.supplies.iter().enumerate() {
        let Some(net) = net_of(supply) else { continue };
        let mut open: Vec<(String, String, Hanging)> = Vec::new();
        for part in hanging_on(context.plan, i).into_iter().filter(|h| h.electronic) {
            match missing(&part, net) {
                Some((lacks, stands)) => open.push((lacks, stands, part)),
                None if part.rated => sink.pass(&part.name, || "rated for vehicles".into()),
                None => sink.pass(&part.name, || "diode and clamp".into()),
            }
        }
        tell(sink, supply, net, &open);
        guards(context, sink, i, net);
        energy(context, sink, i, net);
    }
}

/// What a part lacks, and what it withstands, in words; `None` where it is protected.
fn missing(part: &Hanging, net: Net) -> Option<(String, String)> {
    if part.rated {
        return None;
    }
    let known = part.stands.map(Volts::new);
    let clamped = part.lets_through.is_some_and(|v| part.stands.is_none_or(|stands| at_most(v, stands)));
    let is_high = part.stands.is_some_and(|v| at_least(v, net.enough)) || clamped;
    let is_low = part.diode || part.behind_load;
    if is_high && is_low {
        return None;
    }
    let clamp = match part.lets_through {
        Some(through) => format!("a clamp of lower voltage than its own {}", Volts::new(through)),
        None => "a clamp".to_owned(),
    };
    let diode = "a series diode or P-channel MOSFET";
    let lacks = match (is_low, is_high) {
        (true, _) => clamp,
        (false, true) => diode.to_owned(),
        (false, false) => format!("{diode} and {clamp}"),
    };
    Some((lacks, known.map_or_else(String::new, |v| format!(", and withstands {v}"))))
}

/// One finding a rail: the same pulse reaches all of it.
fn tell(sink: &mut Sink, supply: &Supply, net: Net, open: &[(String, String, Hanging)]) {
    // The part that stands least goes first.
    let stands = |h: &Hanging| h.stands.unwrap_or(f64::INFINITY);
    let Some((lacks, withstands, first)) = open.iter().min_by(|a, b| stands(&a.2).total_cmp(&stands(&b.2))) else {
        return;
    };
    let others: Vec<String> =
        open.iter().filter(|(_, _, h)| h.name != first.name).map(|(.., h)| format!("`{}`", h.name)).collect();
    let more = if others.is_empty() { String::new() } else { format!("; the same for {}", others.join(", ")) };
    let (dump, pulse) = (Volts::new(net.dump), Volts::new(net.pulse));
    let draft = Draft::caution(&supply.name)
        .says(format!(
            "`{}` is connected to the vehicle supply `{}` without {lacks}{withstands}; a load dump reaches {dump}, \
             other pulses {pulse}{more}",
            first.name, supply.name.text
        ))
        .given("load_dump", dump, &Origin::Default("ISO 16750-2, load dump"))
        .given("pulse", pulse, &Origin::Default("ISO 7637-2, pulse 1"));
    sink.find(draft.also_on(open.iter().map(|(.., h)| (h.name.as_str(), Severity::Caution))));
}

/// The negative pulse stands across the guard itself, unless a clamp stands before it.
fn guards(context: &Context<'_>, sink: &mut Sink, supply: usize, net: Net) {
    let plan = context.plan;
    let source = plan.node_id(NodeKind::Supply(supply));
    for (i, branch) in plan.branches.iter().enumerate() {
        let Some(diode) = branch.diode().filter(|d| !d.reversed) else { continue };
        let path = way_up(plan, branch.feed.from.id);
        let first = plan.node_id(NodeKind::Branch(i)).is_some() && path.last().copied() == source;
        let behind_another = path.iter().any(|id| guard_at(plan, *id).is_some());
        let (Some(reverse), true, false) = (&diode.reverse, first, behind_another) else { continue };
        let fused = path
            .iter()
            .any(|id| matches!(plan.nodes[id.0].kind, NodeKind::Branch(b) if plan.branches[b].feed.fuse.is_some()));
        let before = plan.clamps.iter().filter(|c| !c.diode.reversed && path.contains(&c.across.id));
        // One that conducts forwards at 1.5 V holds a negative pulse there, as long as a fuse stands before it.
        let leaves = |c: &Clamp| if !c.diode.bidirectional && fused { Some(1.5) } else { lets_through(c) };
        let below = before.filter_map(leaves).reduce(f64::min).unwrap_or(-net.pulse);
        let across = Volts::new(net.rail + below);
        if !is_below(reverse.low.get(), across.get()) {
            sink.pass(&branch.name.text, || format!("{across} across it at most, of {}", reverse.low));
            continue;
        }
        sink.find(
            Draft::caution(&branch.name)
                .says(format!(
                    "a negative pulse puts {across} in reverse across `{}`; rated {}: it fails, usually as a short \
                    circuit, and protects nothing from then on",
                    branch.name.text, reverse.low
                ))
                .judged("across", across)
                .at_most("reverse", reverse.low, &reverse.origin),
        );
    }
}

/// An unsuppressed dump lasts so long that only a large clamp survives it.
fn energy(context: &Context<'_>, sink: &mut Sink, supply: usize, net: Net) {
    let plan = context.plan;
    if plan.supplies[supply].vehicle.suppressed {
        return;
    }
    let source = plan.node_id(NodeKind::Supply(supply));
    let own = plan.clamps.iter().filter(|c| !c.diode.reversed);
    for clamp in own.filter(|c| way_up(plan, c.across.id).last().copied() == source) {
        let takes = clamp.diode.pulse_power.as_ref();
        if takes.is_some_and(|w| at_least(w.low.get(), DUMP_W)) {
            sink.pass(&clamp.name.text, || "rated for a load dump".into());
            continue;
        }
        let own = takes.map_or_else(|| "its pulse power is not given".to_owned(), |w| format!("it is rated {}", w.low));
        sink.find(
            Draft::caution(&clamp.name)
                .says(format!(
                    "an unsuppressed load dump of {} lasts up to 0.4 s; suppressor `{}` has to absorb it, and {own}",
                    Volts::new(net.dump),
                    clamp.name.text
                ))
                .with("needs", Watts::new(DUMP_W)),
        );
    }
}
