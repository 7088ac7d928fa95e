//! interlock-software-only: loads that exclude each other by firmware alone, and what they take when it fails.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::group::{Group, GroupKind};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::driven::Contacts;
use crate::quantity::figure::Origin;
use crate::quantity::units::Amps;
use crate::solved::outcome::Outcome;
use crate::topology::ratings::node_limit;
use crate::verdict::compare::at_most;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (g, group) in plan.groups.iter().enumerate().filter(|(_, g)| g.how == GroupKind::Exclusive) {
        if group.by_wiring || change_over(plan, group) {
            sink.pass(&group.name.text, || "wiring keeps them apart".into());
            continue;
        }
        judge(context, sink, g, group);
    }
}

/// The two contacts of one relay cannot both be closed.
fn change_over(plan: &Plan, group: &Group) -> bool {
    let driven: Vec<_> = group.members.iter().filter_map(|(_, i)| plan.loads.get(*i)?.driven.as_ref()).collect();
    let [a, b] = driven.as_slice() else { return false };
    group.members.len() == 2
        && a.at.is_some()
        && a.at == b.at
        && a.contacts != b.contacts
        && [a, b].iter().any(|d| d.contacts == Contacts::Closed)
}

/// A source, a run or a stage that all of them together are too much for.
fn judge(context: &Context<'_>, sink: &mut Sink, index: usize, group: &Group) {
    let mut both = context.plan.clone();
    both.groups.remove(index);
    let name = &group.name.text;
    let Some((_, outcomes)) = context.trial(&both) else { return };
    let members: Vec<String> = group.members.iter().map(|(n, _)| format!("`{}`", n.text)).collect();
    let members = members.join(" and ");
    let mut worst: Option<(f64, &Outcome, &str, Amps, Amps)> = None;
    for node in &both.nodes {
        let Some(limit) = node_limit(&both, node.kind) else { continue };
        let flows = |o: &Outcome| Some(o.sustained.as_ref().ok()?.current_of(node.kind));
        let lasting = outcomes.iter().filter(|o| o.case.continuous && !o.case.programming);
        let Some((o, amps)) = worst_of(lasting, flows) else { continue };
        // What is too much one at a time is another check's matter.
        let alone = context.worst_sustained(|s| s.current_of(node.kind)).map_or(0.0, |w| w.value);
        let share = amps / limit.get().max(1e-12);
        let is_new = at_most(alone, limit.get()) && share > 1.0 + 1e-9;
        if is_new && worst.as_ref().is_none_or(|w| share > w.0) && !matches!(node.kind, NodeKind::StripStart(_)) {
            worst = Some((share, o, &node.name, Amps::new(amps), limit));
        }
    }
    let Some((_, o, node, amps, limit)) = worst else {
        sink.pass(name, || format!("{members} together overload nothing"));
        return;
    };
    sink.find(
        Draft::caution(&group.name)
            .at(&Worst::at(o, amps.get()))
            .says(format!(
                "only firmware keeps {members} apart: together they load `{node}` with {amps}; rated {limit}"
            ))
            .judged("both_on", amps)
            .at_most("limit", limit, &Origin::Computed),
    );
}
