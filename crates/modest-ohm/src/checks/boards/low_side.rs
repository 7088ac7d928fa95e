//! low-side-with-signal: a switch breaks only the − of something that a signal reaches.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::Severity;
use crate::plan::{NodeId, NodeKind, Open};
use crate::signal::{End, hops};

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    // Every end of a data line, with the node it hangs on.
    let mut ends: Vec<(String, NodeId)> = Vec::new();
    for hop in hops(plan) {
        for (end, name) in [(hop.from, &hop.names.0), (hop.to, &hop.names.1)] {
            let at = match end {
                End::Pin(c) => plan.node_id(NodeKind::BoardInput(c)),
                End::Shifter(s) => Some(plan.shifters[s].feed.from.id),
                End::Strip(s) => plan.strips[s].injections.first().map(|q| q.feed.from.id),
            };
            let part = name.split('.').next().unwrap_or(name).to_owned();
            if let Some(at) = at.filter(|_| !ends.iter().any(|(n, _)| *n == part)) {
                ends.push((part, at));
            }
        }
    }
    for (i, run) in plan.branches.iter().enumerate() {
        let (Some(switch), Some(node)) = (run.switch(), plan.node_id(NodeKind::Branch(i))) else { continue };
        let behind = |id: &NodeId| plan.path_up(*id).contains(&node);
        let name = &run.name.text;
        let own: Vec<&str> = ends.iter().filter(|(_, at)| behind(at)).map(|(n, _)| n.as_str()).collect();
        // Where both ends lose their − together nothing is left between them.
        let outside = ends.iter().any(|(_, at)| !behind(at));
        if switch.breaks != (Open { plus: false, minus: true }) || own.is_empty() || !outside {
            sink.pass(name, "breaks no − of a part with a signal".into());
            continue;
        }
        let names = own.iter().map(|n| format!("`{n}`")).collect::<Vec<_>>().join(", ");
        sink.find(Draft {
            severity: Severity::Fault,
            subject: name,
            span: run.name.span,
            at: None,
            message: format!(
                "the switch `{name}` breaks the − of {names}, whose return then goes through the signal line"
            ),
            cures: vec![format!("break the +, or both: `breaks = \"plus\"` in `[switch.{name}]`")],
            evidence: Vec::new(),
        });
    }
}
