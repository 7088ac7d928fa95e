//! unfed: what hangs behind a disconnected run.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::Severity;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let (plan, layout) = (context.plan, context.layout);
    let Some(alive) = context.outcomes.iter().find_map(|o| o.wanted.as_ref().ok()).map(|s| &s.solution.alive) else {
        return;
    };
    let mut consumers: Vec<(String, crate::plan::NodeId, bool)> = Vec::new();
    for (load, members) in plan.loads.iter().zip(&layout.loads) {
        if let Some((t, _)) = members.first() {
            consumers.push((load.name.text.clone(), load.feed.from.id, alive[t.plus]));
        }
    }
    for (c, (t, ..)) in plan.controllers.iter().zip(&layout.controllers) {
        consumers.push((c.name.text.clone(), c.feed.from.id, alive[t.plus]));
    }
    for (s, (t, _)) in plan.shifters.iter().zip(&layout.shifters) {
        consumers.push((s.name.text.clone(), s.feed.from.id, alive[t.plus]));
    }
    for (i, s) in plan.strips.iter().enumerate() {
        let fed =
            context.outcomes.iter().find_map(|o| o.wanted.as_ref().ok()).is_some_and(|o| o.solution.ladders[i].alive);
        if let Some(first) = s.injections.first() {
            consumers.push((s.name.text.clone(), first.feed.from.id, fed));
        }
    }
    for (i, run) in plan.branches.iter().enumerate().filter(|(_, b)| !b.closed) {
        let node = plan.node_id(crate::plan::NodeKind::Branch(i));
        let behind: Vec<String> = consumers
            .iter()
            .filter(|(_, from, fed)| !fed && node.is_some_and(|n| plan.path_up(*from).contains(&n)))
            .map(|(name, ..)| format!("`{name}`"))
            .collect();
        if behind.is_empty() {
            continue;
        }
        let names = behind.join(", ");
        let verb = if behind.len() == 1 { "has" } else { "have" };
        sink.find(Draft {
            severity: Severity::Fault,
            subject: &run.name.text,
            span: run.name.span,
            at: None,
            message: format!("{names} {verb} no feed: the run `{}` is disconnected", run.name.text),
            cures: vec![format!(
                "close it: `closed = true` in `[branch.{}]`, or feed them from elsewhere",
                run.name.text
            )],
            evidence: Vec::new(),
        });
    }
    for (name, _, fed) in &consumers {
        if *fed {
            sink.pass(name, "fed".into());
        }
    }
}
