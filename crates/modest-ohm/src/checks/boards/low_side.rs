//! low-side-with-signal: a switch breaks only the − of something that a signal reaches.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load_kind::LoadKind;
use crate::plan::kinds::run::Open;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::solved::drivers::channel::channels;
use crate::topology::signals::hops;

const MINUS: Open = Open { plus: false, minus: true };

/// Whether a switch on the way to a node breaks only the −.
fn breaks_minus(plan: &Plan, node: NodeId) -> bool {
    plan.any_up(node, |id| match plan.nodes[id.0].kind {
        NodeKind::Branch(i) => plan.branches[i].switch().is_some_and(|s| s.breaks == MINUS),
        _ => false,
    })
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    // Every end of a data line, with the nodes it is connected to.
    let mut ends: Vec<(String, Vec<NodeId>)> = Vec::new();
    for hop in hops(plan).into_iter().filter(|hop| hop.opto(plan).is_none()) {
        for (end, name) in [(hop.from, &hop.names.0), (hop.to, &hop.names.1)] {
            let part = name.split('.').next().unwrap_or(name).to_owned();
            if !ends.iter().any(|(n, _)| *n == part) {
                ends.push((part, end.hangs_on(plan)));
            }
        }
    }
    stages(context, sink, &ends);
    for (i, run) in plan.branches.iter().enumerate() {
        let (Some(switch), Some(node)) = (run.switch(), plan.node_id(NodeKind::Branch(i))) else { continue };
        let behind = |id: &NodeId| plan.is_behind(*id, node);
        // A feed that keeps its − keeps the part's.
        let loses = |at: &[NodeId]| at.iter().any(behind) && at.iter().all(|id| breaks_minus(plan, *id));
        let name = &run.name.text;
        let own: Vec<&str> = ends.iter().filter(|(_, at)| loses(at)).map(|(n, _)| n.as_str()).collect();
        // Where both ends lose their − together nothing is left between them.
        let outside = ends.iter().any(|(_, at)| !at.iter().any(behind));
        if switch.breaks != MINUS || own.is_empty() || !outside {
            sink.pass(name, || "does not break the return of a part with a signal".into());
            continue;
        }
        let names = own.iter().map(|n| format!("`{n}`")).collect::<Vec<_>>().join(", ");
        sink.find(Draft::fault(&run.name).says(format!(
            "switch `{name}` breaks the return of {names}; the current then returns through the signal line"
        )));
    }
}

/// A low-side stage takes the − of what it switches while it is off.
fn stages(context: &Context<'_>, sink: &mut Sink, ends: &[(String, Vec<NodeId>)]) {
    let plan = context.plan;
    let sensors = plan.loads.iter().filter(|l| l.kind == LoadKind::Sensor);
    let sensors: Vec<_> = sensors.map(|l| (l.name.text.clone(), vec![l.feed.from.id])).collect();
    for channel in channels(plan).into_iter().filter(|c| c.is_low_side() && c.driver.bridge().is_none()) {
        let Some(node) = plan.node_id(NodeKind::Branch(channel.run)) else { continue };
        let behind = |at: &[NodeId]| !at.is_empty() && at.iter().all(|id| plan.is_behind(*id, node));
        let own: Vec<String> =
            ends.iter().chain(&sensors).filter(|(_, at)| behind(at)).map(|(n, _)| format!("`{n}`")).collect();
        let name = channel.name();
        let outside = ends.iter().any(|(_, at)| !at.is_empty() && !behind(at));
        if own.is_empty() || !outside {
            sink.pass(name, || "does not switch the return of a part with a signal".into());
            continue;
        }
        sink.find(Draft::fault((name, channel.span())).says(format!(
            "{} switches the return of {}: while it is off, the current returns through the signal line into \
                    the pin",
            channel.words(),
            own.join(", ")
        )));
    }
}
