//! Motors on a logic rail whose voltage is too low for them.

use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;

/// True for a servo or a motor on the output of a board whose voltage is too few for it.
pub(crate) fn on_low_logic(plan: &Plan, load: usize) -> bool {
    let load = &plan.loads[load];
    let root = plan.root(load.feed.from.id);
    let low = load.recommended_range().is_some_and(|r| plan.highest_of(root) < r.low.get());
    load.is_motor() && low && matches!(plan.nodes[root.0].kind, NodeKind::BoardOutput(_))
}
