//! Fixes of findings: changes of the plan that were applied to a copy, read and checked before they are offered.

mod by_code;
pub(crate) mod candidate;
mod changes;
mod settings;
mod sheet;
mod trial;

use rayon::prelude::*;

use crate::findings::finding::Finding;
use crate::findings::fix::{Effect, Fix};
use crate::review::Review;
use by_code::changes_of;
use candidate::{Candidate, Ladder};
use trial::{Bench, Tried};

/// Fixes that are offered for one finding.
const MOST: usize = 3;

impl Review {
    /// The same review with the fixes of each finding that is not accepted.
    ///
    /// Each fix was tried: with its edits applied to the text, the plan can be read, the finding is gone or milder as
    /// stated, and nothing as bad or worse is found that was not found before.
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
    ///     cable = "1 m 20 AWG"
    ///     current = "1.5 A"
    ///     voltage = "12 V"
    /// "#).unwrap();
    /// let review = plan.review().with_fixes();
    /// let larger = &review.findings()[0].fixes[0];
    /// assert_eq!(larger.edits[0].path, "supply.wall.current");
    /// let text = modest_ohm::edit::apply(plan.source().text(), &larger.edits).unwrap();
    /// assert!(Plan::from_toml(&text).unwrap().review().findings().is_empty());
    /// ```
    #[must_use]
    pub fn with_fixes(mut self) -> Self {
        if self.findings.iter().all(|f| f.accepted.is_some()) {
            return self;
        }
        let bench = Bench::new(&self.plan, &self.outcomes);
        let fixes = |f: &Finding| match f.accepted {
            Some(_) => Vec::new(),
            None => Search { bench: &bench, f, left: MOST_TRIALS }.fixes(),
        };
        let found: Vec<Vec<Fix>> = self.findings.par_iter().map(fixes).collect();
        for (f, fixes) in self.findings.iter_mut().zip(found) {
            f.fixes = fixes;
        }
        self
    }
}

/// Changes that are tried for one finding.
const MOST_TRIALS: usize = 80;
/// Others that a change may bring along for a second one to end.
const MOST_REPAIRS: usize = 2;
/// Changes that are tried against each of them.
const REPAIR_RUNGS: usize = 4;

/// The search for the fixes of one finding.
struct Search<'b> {
    bench: &'b Bench,
    f: &'b Finding,
    /// Trials left.
    left: usize,
}

impl Search<'_> {
    /// The best fixes: those that end the finding, else what helps most.
    fn fixes(mut self) -> Vec<Fix> {
        let (mut ends, mut helps): (Vec<Fix>, Vec<Fix>) = (Vec::new(), Vec::new());
        for ladder in ladders(self.bench, self.f) {
            if ends.len() == MOST {
                break;
            }
            let known = |fix: &Fix| ends.iter().chain(&helps).any(|known| known.edits == fix.edits);
            if let Some(fix) = self.climb(&ladder).filter(|fix| !known(fix)) {
                if fix.ends() { ends.push(fix) } else { helps.push(fix) }
            }
        }
        if ends.is_empty() {
            helps.sort_by_key(|fix| match fix.effect {
                Effect::Helps { severity, .. } => Some(severity),
                Effect::Ends { .. } => None,
            });
            ends = helps;
        }
        ends.truncate(MOST);
        ends
    }

    fn attempt(&mut self, candidate: &Candidate) -> Tried {
        match self.left.checked_sub(1) {
            Some(left) => {
                self.left = left;
                self.bench.attempt(self.f, candidate)
            }
            None => Tried::Fails,
        }
    }

    /// The first rung that ends the finding, else the one that helps most; a rung that trades the finding for others
    /// is tried together with what ends those.
    fn climb(&mut self, ladder: &[Candidate]) -> Option<Fix> {
        let mut best: Option<Fix> = None;
        let mut trades = None;
        for rung in ladder {
            match self.attempt(rung) {
                Tried::Works(fix) if fix.ends() => return Some(fix),
                Tried::Works(fix) => best = Some(fix),
                Tried::Trades(then, worse) => {
                    trades.get_or_insert((rung, then, worse));
                }
                Tried::Fails => {}
            }
        }
        let repaired = trades.and_then(|(rung, then, worse)| self.repaired(rung, &then, &worse));
        repaired.or(best)
    }

    /// A change together with one that ends what the first one brings.
    fn repaired(&mut self, first: &Candidate, then: &Bench, worse: &[Finding]) -> Option<Fix> {
        if worse.len() > MOST_REPAIRS {
            return None;
        }
        let brought = worse.first()?;
        for second in ladders(then, brought).into_iter().flat_map(|l| l.into_iter().take(REPAIR_RUNGS)) {
            let Some(both) = first.and(&second) else { continue };
            match self.attempt(&both) {
                Tried::Works(fix) if fix.ends() => return Some(fix),
                _ => {}
            }
        }
        None
    }
}

fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let all = changes_of(f.code).iter().flat_map(|change| changes::ladders(*change, bench, f));
    all.filter(|ladder| !ladder.is_empty()).collect()
}
