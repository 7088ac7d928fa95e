//! low-side-with-signal: a switch breaks only the − of something that a signal reaches.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::Open;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::topology::signals::hops;

const MINUS: Open = Open { plus: false, minus: true };

/// Whether a switch on the way to a node breaks only the −.
fn breaks_minus(plan: &Plan, node: NodeId) -> bool {
    plan.path_up(node).iter().any(|id| match plan.nodes[id.0].kind {
        NodeKind::Branch(i) => plan.branches[i].switch().is_some_and(|s| s.breaks == MINUS),
        _ => false,
    })
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    // Every end of a data line, with the nodes it hangs on.
    let mut ends: Vec<(String, Vec<NodeId>)> = Vec::new();
    for hop in hops(plan) {
        for (end, name) in [(hop.from, &hop.names.0), (hop.to, &hop.names.1)] {
            let part = name.split('.').next().unwrap_or(name).to_owned();
            if !ends.iter().any(|(n, _)| *n == part) {
                ends.push((part, end.hangs_on(plan)));
            }
        }
    }
    for (i, run) in plan.branches.iter().enumerate() {
        let (Some(switch), Some(node)) = (run.switch(), plan.node_id(NodeKind::Branch(i))) else { continue };
        let behind = |id: &NodeId| plan.path_up(*id).contains(&node);
        // A feed that keeps its − keeps the part's.
        let loses = |at: &[NodeId]| at.iter().any(behind) && at.iter().all(|id| breaks_minus(plan, *id));
        let name = &run.name.text;
        let own: Vec<&str> = ends.iter().filter(|(_, at)| loses(at)).map(|(n, _)| n.as_str()).collect();
        // Where both ends lose their − together nothing is left between them.
        let outside = ends.iter().any(|(_, at)| !at.iter().any(behind));
        if switch.breaks != MINUS || own.is_empty() || !outside {
            sink.pass(name, "breaks no − of a part with a signal".into());
            continue;
        }
        let names = own.iter().map(|n| format!("`{n}`")).collect::<Vec<_>>().join(", ");
        sink.find(
            Draft::fault(&run.name)
                .says(format!(
                    "the switch `{name}` breaks the − of {names}, whose return then goes through the signal line"
                ))
                .cure(format!("break the +, or both: `breaks = \"plus\"` in `[switch.{name}]`")),
        );
    }
}
