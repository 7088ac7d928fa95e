//! A plan without the mistake that this family finds: what is gone in it follows from the mistake.

use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;

/// A servo on a board's output that is connected to what feeds the board.
pub(crate) fn feed_past_board(plan: &mut Plan, finding: &Finding) -> bool {
    let name = finding.subject.as_str();
    let Some(i) = plan.loads.iter().position(|l| l.name.text == name) else { return false };
    let NodeKind::BoardOutput(board) = plan.nodes[plan.root(plan.loads[i].feed.from.id).0].kind else { return false };
    let Some(feed) = plan.boards[board].feed.clone() else { return false };
    plan.loads[i].feed.from.id = feed.from.id;
    true
}
