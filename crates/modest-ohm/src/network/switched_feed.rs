//! How a conductor pair is fed in a scenario.

use super::state::Demands;
use crate::plan::model::Plan;
use crate::plan::wiring::feed::Feed;
use crate::topology::conductors::feed_of;
use crate::topology::run::Run;

/// As [`feed_of`], with change-over switches as they stand in a scenario.
pub(crate) fn feed_in<'p>(plan: &'p Plan, run: Run, demands: &Demands) -> Option<&'p Feed> {
    if let Run::Branch(i) = run
        && let Some(switch) = plan.branches[i].switch()
        && let Some((_, feed)) = switch.throws.get(demands.runs[i].1)
    {
        return Some(feed);
    }
    feed_of(plan, run)
}
