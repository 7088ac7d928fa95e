//! How large a plan may be as a whole: memory and time are bounded whatever the text says.

use std::cell::RefCell;

use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::strip::MOST_PIXELS;
use crate::source::Span;
use crate::text::problem::Problem;

/// Scenarios times parts that a review goes through.
const MOST_WORK: usize = 60_000_000;

/// Loads with all members of their counts.
const MOST_MEMBERS: usize = 20_000;

/// Pixels and load members are bounded over the whole plan, so that memory and time are.
pub(crate) fn too_many(plan: &Plan, problems: &RefCell<Vec<Problem>>) {
    let bound = |what: &str, most: usize, items: &mut dyn Iterator<Item = (Span, usize)>| {
        let mut sum = 0;
        for (span, own) in items {
            let before = sum;
            sum += own;
            // Said once, where the sum goes beyond.
            if before <= most && sum > most {
                let message = format!("with this one the plan has {sum} {what}; at most {most} are read");
                problems.borrow_mut().push(Problem::new(span, message, "split the plan"));
            }
        }
    };
    bound("pixels", MOST_PIXELS, &mut plan.strips.iter().map(|s| (s.name.span, s.pixels)));
    bound("loads", MOST_MEMBERS, &mut plan.loads.iter().map(|l| (l.name.span, l.count)));
}

/// Scenarios times what has to be solved in each: a review of the largest takes some ten seconds.
pub(crate) fn too_much(plan: &Plan, problems: &RefCell<Vec<Problem>>) {
    let surges = plan.loads.iter().filter(|l| l.demand.has_surge()).count();
    // One for what rests off, and one a member of each group that excludes itself.
    let members: usize = plan.groups.iter().map(|g| g.members.len()).sum();
    let scenarios = Scenario::ALWAYS.len() + 1 + members + surges + plan.scenarios.len();
    let pixels: usize = plan.strips.iter().map(crate::plan::strip::Strip::work).sum();
    let members: usize = plan.loads.iter().map(|l| l.count).sum();
    // A cable or a node costs about as much as twenty pixels.
    let parts = pixels + 20 * (plan.nodes.len() + members);
    if scenarios.saturating_mul(parts) > MOST_WORK {
        let message = format!(
            "the plan needs {scenarios} scenarios ({surges} loads that surge in turn, {} of its own) of {parts} \
            parts each",
            plan.scenarios.len()
        );
        problems.borrow_mut().push(Problem::new(None, message, "split the plan, or let fewer loads surge"));
    }
}
