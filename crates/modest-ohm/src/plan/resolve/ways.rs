//! Feeds that go in a circle; returns that lead nowhere.

use modest_ohm_solve::Groups;

use crate::plan::kinds::ground::GroundKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::text::problem::Problem;

/// Notes circular feeds; true if there are none.
pub(crate) fn circles(plan: &Plan, note: &impl Fn(Problem)) -> bool {
    // 0 unseen, 1 on the current path, 2 done.
    let mut state = vec![0u8; plan.nodes.len()];
    let mut sound = true;
    for start in 0..plan.nodes.len() {
        if state[start] != 0 {
            continue;
        }
        let mut path = vec![(start, plan.feeders(NodeId(start)))];
        state[start] = 1;
        while let Some((node, feeders)) = path.last_mut() {
            let Some(NodeId(up)) = feeders.next() else {
                state[*node] = 2;
                path.pop();
                continue;
            };
            match state[up] {
                0 => {
                    state[up] = 1;
                    path.push((up, plan.feeders(NodeId(up))));
                }
                1 => {
                    sound = false;
                    let at = path.iter().position(|(n, _)| *n == up).unwrap_or(0);
                    let mut names: Vec<&str> = path[at..].iter().map(|(n, _)| plan.nodes[*n].name.as_str()).collect();
                    names.push(&plan.nodes[up].name);
                    note(Problem::new(
                        plan.declared_at(NodeId(up)),
                        format!("the supply path is circular: {}", names.join(" from ")),
                        "feed one of them from a supply",
                    ));
                }
                _ => {}
            }
        }
    }
    sound
}

/// What a bridge has inside joins the − of its motors and of its logic only where nothing else does: else it would
/// carry a share of every return, which no cable of the plan shows.
pub(crate) fn drop_joined_inside(plan: &mut Plan) {
    let mut groups = joined_at_minus(plan);
    plan.grounds.retain(|g| {
        let [a, b] = [g.between[0].id, g.between[1].id];
        g.what != GroundKind::Inside || !groups.together(a.0, b.0)
    });
}

/// Nodes whose − conductors join, without what parts have inside.
fn joined_at_minus(plan: &Plan) -> Groups {
    let mut groups = Groups::new(plan.nodes.len());
    let mut join = |a: NodeId, b: NodeId| groups.join(a.0, b.0);
    for (_, feed, node) in plan.feeds() {
        // The output of an isolated converter is a ground group of its own.
        let isolated = node.is_some_and(
            |n| matches!(plan.nodes[n.0].kind, NodeKind::Converter(i) if plan.converters[i].is_isolated()),
        );
        if let Some(node) = node.filter(|_| !isolated) {
            join(node, feed.back.as_ref().map_or(feed.from.id, |b| b.to.id));
        }
    }
    for i in 0..plan.boards.len() {
        if let (Some(a), Some(b)) = (plan.node_id(NodeKind::BoardOutput(i)), plan.node_id(NodeKind::BoardInput(i))) {
            join(a, b);
        }
        if let Some(own) = plan.node_id(NodeKind::BoardInput(i)) {
            for run in plan.terminals_of(i) {
                plan.node_id(NodeKind::Branch(run)).into_iter().for_each(|n| join(n, own));
            }
        }
    }
    for i in 0..plan.strips.len() {
        if let (Some(a), Some(b)) = (plan.node_id(NodeKind::StripEnd(i)), plan.node_id(NodeKind::StripStart(i))) {
            join(a, b);
        }
    }
    for ground in plan.grounds.iter().filter(|g| g.what != GroundKind::Inside) {
        join(ground.between[0].id, ground.between[1].id);
    }
    groups
}

/// Every return has to reach the source that feeds it: its − and that source's − joined by conductors.
pub(crate) fn returns(plan: &Plan, note: &impl Fn(Problem)) {
    let mut groups = joined_at_minus(plan);
    for ground in &plan.grounds {
        groups.join(ground.between[0].id.0, ground.between[1].id.0);
    }
    for (name, feed, _) in plan.feeds() {
        let to = feed.back.as_ref().map_or(&feed.from, |b| &b.to);
        let root = plan.root(feed.from.id);
        if !groups.together(to.id.0, root.0) {
            note(Problem::new(
                to.name.span,
                format!(
                    "`{name}` has no return path: it returns to `{}`, which no conductor joins to the ground of `{}`",
                    to.name.text, plan.nodes[root.0].name
                ),
                "return it to what feeds it, or join the two with `[ground.tie]`",
            ));
        }
    }
}
