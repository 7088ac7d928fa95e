//! unused: supplies, runs, converters, shifters and parts that nothing uses.

use std::collections::BTreeSet;

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::Severity;
use crate::plan::{Name, NodeId, NodeKind, RunKind};

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let used: BTreeSet<NodeId> = plan
        .feeds()
        .iter()
        .flat_map(|(_, f, _)| std::iter::once(f.from.id).chain(f.back.as_ref().map(|b| b.to.id)))
        .chain(
            plan.branches
                .iter()
                .flat_map(|b| b.switch().into_iter().flat_map(|s| s.throws.iter()).map(|(_, f)| f.from.id)),
        )
        .chain(plan.links.iter().flat_map(|l| l.between.iter().map(|n| n.id)))
        .collect();
    let mut judge = |name: &Name, what: &str, is_used: bool| {
        if is_used {
            sink.pass(&name.text, "used".into());
            return;
        }
        sink.find(Draft {
            severity: Severity::Caution,
            subject: &name.text,
            span: name.span,
            at: None,
            message: format!("nothing uses {what} `{}`", name.text),
            cures: vec!["remove it, or name it where it belongs".into()],
            evidence: Vec::new(),
        });
    };
    let node_used = |kind| plan.node_id(kind).is_some_and(|id| used.contains(&id));
    for (i, s) in plan.supplies.iter().enumerate() {
        judge(&s.name, "supply", node_used(NodeKind::Supply(i)));
    }
    for (i, b) in plan.branches.iter().enumerate() {
        // Spare ports and halves of bus bars are no finding.
        if matches!(b.kind, RunKind::Cable | RunKind::Switch(_) | RunKind::Diode(_)) && !b.name.text.contains('.') {
            judge(&b.name, b.word(), node_used(NodeKind::Branch(i)));
        }
    }
    for (i, c) in plan.converters.iter().enumerate() {
        judge(&c.name, "converter", node_used(NodeKind::Converter(i)));
    }
    for (i, s) in plan.shifters.iter().enumerate() {
        let through = plan.strips.iter().any(|strip| {
            strip.data.as_ref().is_some_and(|d| d.through.as_ref().is_some_and(|(_, shifter)| *shifter == i))
        });
        judge(&s.name, "shifter", through);
    }
    for part in &plan.unused_parts {
        judge(part, "part", false);
    }
}
