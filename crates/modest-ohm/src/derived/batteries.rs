//! Which batteries run down together.

use modest_ohm_solve::Groups;

use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;

/// Batteries that feed something in common, in groups: each group runs down by itself.
pub(crate) fn feeding_together(plan: &Plan, batteries: &[usize]) -> Vec<Vec<usize>> {
    let mut groups = Groups::new(plan.supplies.len());
    let above = |node: NodeId| {
        let path = plan.path_up(node);
        let own = batteries.iter().copied();
        own.filter(|i| plan.node_id(NodeKind::Supply(*i)).is_some_and(|id| path.contains(&id))).collect::<Vec<_>>()
    };
    let mut join = |own: &[usize]| own.windows(2).for_each(|pair| groups.join(pair[0], pair[1]));
    for (i, _) in plan.nodes.iter().enumerate() {
        join(&above(NodeId(i)));
    }
    for strip in &plan.strips {
        let own: Vec<usize> = strip.injections.iter().flat_map(|q| above(q.feed.from.id)).collect();
        join(&own);
    }
    for link in plan.links.iter().filter(|l| l.closed) {
        let own: Vec<usize> = link.between.iter().flat_map(|n| above(n.id)).collect();
        join(&own);
    }
    let mut out: Vec<Vec<usize>> = Vec::new();
    for i in batteries {
        match out.iter_mut().find(|group| groups.together(group[0], *i)) {
            Some(group) => group.push(*i),
            None => out.push(vec![*i]),
        }
    }
    out
}
