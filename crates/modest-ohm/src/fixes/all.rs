//! Fixing a whole plan: the best fix of one finding after another, each tried on the plan that the ones before left.

use std::collections::BTreeSet;

use super::Search;
use super::bench::keep::Keep;
use super::bench::trial::Bench;
use crate::findings::finding::Finding;
use crate::findings::fix::Fix;
use crate::plan::model::Plan;
use crate::review::Review;
use crate::verdict::severity::Severity;

/// Fixes that are applied at most.
const MOST_STEPS: usize = 200;

/// A plan with the fixes that were found for it.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct FixedPlan {
    /// The review of the plan as it is then; its source is the edited text.
    pub review: Review,
    /// What was done, in order.
    pub steps: Vec<FixStep>,
}

/// One fix that was applied.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FixStep {
    /// The code of the finding.
    pub code: &'static str,
    /// Its part.
    pub subject: String,
    /// What was done.
    pub fix: Fix,
}

impl Review {
    /// Applies fixes until nothing is found, or no change that is known ends what is left.
    ///
    /// The fix of the worst finding comes first, each is tried on the plan that the ones before left, and none is taken
    /// that makes the plan worse by the number of findings of any severity. `keep` names items that are not to be
    /// changed, beside those with `keep = true`. `progress` hears of each fix.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// let plan = Plan::from_toml(r#"
    ///     format = 1
    ///     [supply.wall]
    ///     kind = "adapter"
    ///     voltage = "12 V"
    ///     current = "1 A"
    ///     [load.lamp]
    ///     from = "wall"
    ///     cable = "1 m 28 AWG"
    ///     current = "1.5 A"
    ///     voltage = "12 V"
    /// "#).unwrap();
    /// let fixed = plan.review().fix_all(&[], &mut |_| ());
    /// assert!(fixed.review.findings().is_empty());
    /// assert_eq!(fixed.steps[0].code, "supply-overloaded");
    /// ```
    #[must_use]
    pub fn fix_all(&self, keep: &[&str], progress: &mut dyn FnMut(&FixStep)) -> FixedPlan {
        let mut bench = Bench::new(&self.plan, &self.outcomes, Keep::of(&self.plan, keep));
        let mut states: Vec<(Plan, Option<FixStep>)> = vec![(self.plan.clone(), None)];
        let mut given_up: BTreeSet<(&'static str, String)> = BTreeSet::new();
        // A value that was there before is not written again.
        let mut texts: BTreeSet<String> = BTreeSet::from([self.plan.source().text().to_owned()]);
        while states.len() <= MOST_STEPS {
            let Some((step, next)) = next_step(&bench, &mut given_up, &texts) else { break };
            progress(&step);
            texts.insert(next.plan.source().text().to_owned());
            states.push((Plan::clone(&next.plan), Some(step)));
            bench = next;
        }
        // What stood under a finding may stand by itself without it.
        let mut review = states.last().map_or_else(|| self.clone(), |(plan, _)| plan.review());
        while states.len() > 1 && Severity::LISTED.iter().any(|s| review.count(*s) > self.count(*s)) {
            states.pop();
            review = states.last().map_or_else(|| self.clone(), |(plan, _)| plan.review());
        }
        // What is left says what stands in the way.
        let review = review.with_fixes_but(keep);
        FixedPlan { review, steps: states.into_iter().filter_map(|(_, step)| step).collect() }
    }
}

/// The next fix, and the plan with it: one that leaves no severity with more findings than before; else one that leaves
/// fewer of some severity and no more of the worse ones.
fn next_step(
    bench: &Bench,
    given_up: &mut BTreeSet<(&'static str, String)>,
    texts: &BTreeSet<String>,
) -> Option<(FixStep, Bench)> {
    let is_open = |f: &&Finding| f.accepted.is_none() && f.severity > Severity::Unknown;
    let mut open: Vec<_> = bench.found().findings.iter().filter(is_open).collect();
    open.sort_by_key(|f| std::cmp::Reverse(f.severity));
    for f in open {
        if given_up.contains(&(f.code, f.subject.clone())) {
            continue;
        }
        let before = bench.counts();
        let then = |fix: Fix| Some((bench.then(&fix.edits)?, fix));
        let fixes = Search::new(bench, f).fixes().into_iter().filter_map(then);
        let fixes = fixes.filter(|(next, _)| !texts.contains(next.plan.source().text()) && next.counts() < before);
        let mut fixes: Vec<(Bench, Fix)> = fixes.collect();
        let is_no_worse = |next: &Bench| next.counts().iter().zip(before).all(|(after, before)| *after <= before);
        fixes.sort_by_key(|(next, _)| !is_no_worse(next));
        if let Some((next, fix)) = fixes.into_iter().next() {
            return Some((FixStep { code: f.code, subject: f.subject.clone(), fix }, next));
        }
        given_up.insert((f.code, f.subject.clone()));
    }
    None
}
