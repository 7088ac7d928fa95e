//! The review: every scenario solved in every corner, every check run, one finding per cause.

pub(crate) mod acceptance;
pub(crate) mod ahead;
pub(crate) mod alike;
pub(crate) mod assumptions;
pub(crate) mod depends;
#[cfg(test)]
mod depends_tests;
pub(crate) mod measurement;
pub(crate) mod mixed;
pub(crate) mod pin_findings;
pub(crate) mod root_causes;
pub(crate) mod standing;
#[cfg(test)]
mod standing_tests;
pub(crate) mod verdicts;

pub use crate::derived::discharge::{DischargeEnd, RuntimeRow};
pub use crate::derived::feed_row::FeedRow;

use std::sync::Arc;

use crate::derived::context::{Context, Derived};
use crate::findings::finding::{Finding, Passed};
use crate::network::layout::Layout;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::solved::mixed::Search;
use crate::solved::outcome::{Lift, Outcome, solve_all};
use crate::verdict::severity::Severity;

/// What a check has to say of a part.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Verdict {
    /// How bad it is.
    pub severity: Severity,
    /// True where the plan accepts it.
    pub accepted: bool,
}

/// Everything that can be said of a plan: solved scenarios, findings, and what passed.
///
/// ```
/// use modest_ohm::{Plan, Severity};
/// let plan = Plan::from_toml(r#"
///     format = 1
///     [supply.wall]
///     kind = "adapter"
///     voltage = "12 V"
///     current = "1 A"
///     [load.lamp]
///     from = "wall"
///     cable = "1 m 20 AWG"
///     current = "1.5 A"
///     voltage = "12 V"
/// "#).unwrap();
/// let review = plan.review();
/// assert_eq!(review.findings()[0].code, "supply-overloaded");
/// assert_eq!(review.count(Severity::Danger), 1);
/// ```
#[derive(Clone, Debug)]
pub struct Review {
    pub(crate) plan: Plan,
    pub(crate) layout: Arc<Layout>,
    pub(crate) outcomes: Vec<Outcome>,
    derived: Arc<Derived>,
    pub(crate) findings: Vec<Finding>,
    passed: Vec<Passed>,
}

impl Plan {
    /// Solves and checks the plan.
    #[must_use]
    pub fn review(&self) -> Review {
        let (layout, outcomes) = solve_all(self, Lift::None);
        let context = Context::new(self, &layout, &outcomes);
        let (mut findings, mut passed) = crate::checks::run(&context);
        let movables = self.movables();
        let mut search = Search::new(self, &movables, &outcomes, context.outcomes.len());
        let mixes = mixed::worsen(&context, &mut search, &movables, &mut findings, &mut passed);
        acceptance::mark(self, &mut findings);
        // What is accepted neither hides anything nor is hidden.
        let mut accepted = root_causes::take(&mut findings, |f| f.accepted.is_some());
        pin_findings::gather(self, &mut findings);
        root_causes::gather(&context, &mut findings);
        alike::gather(&mut findings);
        findings.iter_mut().for_each(root_causes::once_each);
        findings.append(&mut accepted);
        match assumptions::verdicts_that_depend(&context, &findings, &movables, &mut search, mixes) {
            Some(finding) => findings.push(finding),
            None => passed.extend(assumptions::nothing_depends(self)),
        }
        let all_solved = outcomes.iter().all(|o| o.wanted.is_ok() && o.actual.is_ok());
        let derived = context.derived();
        acceptance::mark(self, &mut findings);
        acceptance::find_stale(self, all_solved, &mut findings);
        crate::checks::sort(self, &mut findings);
        Review { plan: self.clone(), layout, outcomes, derived, findings, passed }
    }
}

impl Review {
    /// The plan.
    #[must_use]
    pub fn plan(&self) -> &Plan {
        &self.plan
    }

    /// What the checks found, worst first; accepted ones last.
    #[must_use]
    pub fn findings(&self) -> &[Finding] {
        &self.findings
    }

    /// What was decided without a finding.
    #[must_use]
    pub fn passed(&self) -> &[Passed] {
        &self.passed
    }

    /// The verdict of a check on a part: by itself, or under the finding that has the same cause. `None` where the
    /// check found nothing there.
    #[must_use]
    pub fn verdict(&self, code: &str, subject: &str) -> Option<Verdict> {
        let verdict = |severity, f: &Finding| Verdict { severity, accepted: f.accepted.is_some() };
        let own = self.findings.iter().find(|f| f.code == code && f.subject == subject);
        own.map(|f| verdict(f.severity, f)).or_else(|| {
            let under = |f: &'_ Finding| {
                let c = f.also.iter().find(|c| c.code == code && c.subject == subject)?;
                Some(verdict(c.severity, f))
            };
            self.findings.iter().find_map(under)
        })
    }

    /// How many findings of a severity there are, with what stands under others by its own severity. What the plan
    /// accepts is not counted; the same advice on several parts counts once.
    #[must_use]
    pub fn count(&self, severity: Severity) -> usize {
        let open = self.findings.iter().filter(|f| f.accepted.is_none());
        let under = |f: &Finding| f.also.iter().filter(|c| !c.is_alike(f) && c.severity == severity).count();
        open.map(|f| usize::from(f.severity == severity) + under(f)).sum()
    }

    /// How many findings the plan accepts.
    #[must_use]
    pub fn accepted(&self) -> usize {
        self.findings.iter().filter(|f| f.accepted.is_some()).count()
    }

    /// How long batteries last, per scenario that lasts.
    #[must_use]
    pub fn runtimes(&self) -> Vec<RuntimeRow> {
        self.context().runtimes().to_vec()
    }

    /// What the checks saw; nothing that they have worked out is worked out again.
    pub(crate) fn context(&self) -> Context<'_> {
        Context::with(&self.plan, &self.layout, &self.outcomes, Arc::clone(&self.derived))
    }

    /// The solved scenarios, each once: the built-in ones, then the plan's own.
    #[must_use]
    pub fn scenarios(&self) -> Vec<&Scenario> {
        let mut scenarios: Vec<&Scenario> = Vec::new();
        for outcome in &self.outcomes {
            if !scenarios.contains(&&outcome.case.scenario) {
                scenarios.push(&outcome.case.scenario);
            }
        }
        scenarios
    }
}
