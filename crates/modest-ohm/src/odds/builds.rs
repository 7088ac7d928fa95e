//! Builds of a plan, each solved and checked.

use modest_ohm_solve::solve::Workspace;
use rayon::prelude::*;

use super::asked::Asked;
use super::states::States;
use crate::checks;
use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::plan::model::scatter::Scatter;
use crate::review::Review;
use crate::verdict::severity::Severity;

/// Builds that one core takes at a time. Each begins with an empty workspace, so that nothing depends on the number of
/// cores.
const BATCH: usize = 32;

/// What became of one build.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Built {
    /// Per finding that was asked for: the severity with which it stands.
    pub stands: Vec<Option<Severity>>,
    /// Per finding: how bad its quantity is.
    pub badness: Vec<Option<f64>>,
    /// Dangers of which the review knows nothing.
    pub beyond: Vec<(&'static str, String, Severity)>,
}

/// The builds of a plan.
pub(crate) struct Builds<'a> {
    pub review: &'a Review,
    pub asked: &'a [Asked<'a>],
    pub scatter: &'a Scatter,
    pub states: &'a States<'a>,
}

impl Builds<'_> {
    /// One build for each position of the figures in their spreads, in their order.
    pub fn all(&self, positions: &[Vec<f64>]) -> Vec<Built> {
        let batch = |some: &[Vec<f64>]| -> Vec<Built> {
            let mut workspace = Workspace::default();
            some.iter().map(|shares| self.one(shares, &mut workspace)).collect()
        };
        positions.par_chunks(BATCH).flat_map_iter(batch).collect()
    }

    fn one(&self, shares: &[f64], workspace: &mut Workspace) -> Built {
        let plan = self.scatter.build(&self.review.plan, shares);
        self.judge(&plan, workspace)
    }

    /// A build, solved and checked.
    pub fn judge(&self, plan: &Plan, workspace: &mut Workspace) -> Built {
        let outcomes = self.states.solve(plan, workspace);
        let mut codes: Vec<&str> = self.asked.iter().map(|a| a.finding.code).collect();
        codes.sort_unstable();
        codes.dedup();
        let found = checks::found_in(plan, &self.review.layout, &outcomes, &codes);
        let solved = outcomes.iter().all(|o| o.actual.is_ok());
        let stands = |a: &Asked<'_>| {
            // What has no solution does not work.
            let same = |f: &&Finding| f.code == a.finding.code && f.subject == a.finding.subject;
            let found = found.iter().filter(same).map(|f| f.severity).max();
            if solved { found } else { found.max(Some(Severity::Fault)) }
        };
        // A caution may be a danger in a build: it stands for one that is certain only at the end of a spread. What the
        // review does not know at all is another matter.
        let known = |f: &Finding| {
            let same = |g: &Finding| g.code == f.code || g.also.iter().any(|c| c.code == f.code);
            self.review.findings.iter().any(same)
        };
        let is_new = |f: &&Finding| f.severity == Severity::Danger && f.corner.is_some() && !known(f);
        Built {
            stands: self.asked.iter().map(stands).collect(),
            badness: self.asked.iter().map(|a| a.badness(&outcomes)).collect(),
            beyond: found.iter().filter(is_new).map(|f| (f.code, f.subject.clone(), f.severity)).collect(),
        }
    }
}
