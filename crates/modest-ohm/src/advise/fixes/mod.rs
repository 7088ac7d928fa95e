//! Fixes of findings: changes of the plan that were applied to a copy, read and checked before they are offered.

mod by_code;
pub(crate) mod candidate;
mod changes;
mod settings;
mod sheet;
mod trial;
mod variant;

use rayon::prelude::*;

use crate::findings::finding::Finding;
use crate::findings::fix::{Effect, Fix};
use crate::review::Review;
use crate::verdict::severity::Severity;
use by_code::changes_of;
use candidate::{Candidate, Ladder};
use trial::{Bench, Glance, Tried};

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
            None => Search::new(&bench, f).fixes(),
        };
        let found: Vec<Vec<Fix>> = self.findings.par_iter().map(fixes).collect();
        for (f, fixes) in self.findings.iter_mut().zip(found) {
            f.fixes = fixes;
        }
        self
    }
}

/// Changes that are looked at for one finding.
const MOST_GLANCES: usize = 120;
/// Changes that are checked in full for one finding.
const MOST_TRIALS: usize = 24;
/// Changes of one ladder that are checked in full.
const LADDER_TRIALS: usize = 4;
/// Others that a change may bring along for a second one to end.
const MOST_REPAIRS: usize = 2;
/// Second changes that are tried against them, of each ladder.
const REPAIR_RUNGS: usize = 3;

/// The search for the fixes of one finding.
struct Search<'b> {
    bench: &'b Bench,
    f: &'b Finding,
    glances: usize,
    trials: usize,
}

impl<'b> Search<'b> {
    fn new(bench: &'b Bench, f: &'b Finding) -> Self {
        Self { bench, f, glances: MOST_GLANCES, trials: MOST_TRIALS }
    }

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

    fn glance(&mut self, candidate: &Candidate) -> Glance {
        let Some(left) = self.glances.checked_sub(1) else { return Glance::Nothing };
        self.glances = left;
        self.bench.glance(self.f, candidate)
    }

    fn attempt(&mut self, candidate: &Candidate) -> Tried {
        let Some(left) = self.trials.checked_sub(1) else { return Tried::Fails };
        self.trials = left;
        self.bench.attempt(self.f, candidate)
    }

    /// The rungs that seem to end the finding, first first; else the one that seems to help most.
    fn promising<'l>(&mut self, ladder: &'l Ladder) -> Vec<&'l Candidate> {
        let rungs = &ladder.rungs;
        let Some(last) = rungs.last() else { return Vec::new() };
        if !ladder.rising {
            let looked: Vec<(Glance, &Candidate)> = rungs.iter().map(|rung| (self.glance(rung), rung)).collect();
            let are = |wanted: Glance| looked.iter().filter(move |(g, _)| *g == wanted).map(|(_, rung)| *rung);
            let gone: Vec<&Candidate> = are(Glance::Gone).take(LADDER_TRIALS).collect();
            return if gone.is_empty() { are(Glance::Milder).take(1).collect() } else { gone };
        }
        match self.glance(last) {
            Glance::Nothing => Vec::new(),
            Glance::Milder => vec![last],
            Glance::Gone => {
                let (mut fails, mut ends) = (0, rungs.len() - 1);
                while fails < ends {
                    let middle = (fails + ends) / 2;
                    if self.glance(&rungs[middle]) == Glance::Gone { ends = middle } else { fails = middle + 1 }
                }
                rungs[ends..].iter().take(LADDER_TRIALS).collect()
            }
        }
    }

    /// The first rung that ends the finding and brings nothing that asks for another fix, else the one that brings
    /// least; a rung that trades the finding for others is tried together with what ends those.
    fn climb(&mut self, ladder: &Ladder) -> Option<Fix> {
        let mut best: Option<((bool, Option<Severity>), Fix)> = None;
        let mut trades = None;
        for rung in self.promising(ladder) {
            match self.attempt(rung) {
                Tried::Works(fix, brings) => {
                    let rank = (!fix.ends(), brings.filter(|s| *s > Severity::Advisory));
                    if rank == (false, None) {
                        return Some(fix);
                    }
                    // What does not work as planned is no fix.
                    if brings < Some(Severity::Fault) && best.as_ref().is_none_or(|(known, _)| rank < *known) {
                        best = Some((rank, fix));
                    }
                }
                Tried::Trades(then, worse) => {
                    trades.get_or_insert((rung, then, worse));
                }
                Tried::Fails => {}
            }
        }
        let repaired = trades.and_then(|(rung, then, worse)| self.repaired(rung, &then, &worse));
        repaired.or(best.map(|(_, fix)| fix))
    }

    /// A change together with one that ends what the first one brings.
    fn repaired(&mut self, first: &Candidate, then: &Bench, worse: &[Finding]) -> Option<Fix> {
        if worse.len() > MOST_REPAIRS {
            return None;
        }
        let brought = worse.first()?;
        for ladder in ladders(then, brought) {
            let mut second = Search { bench: then, f: brought, glances: self.glances, trials: self.trials };
            let seconds = second.promising(&ladder);
            self.glances = second.glances;
            for second in seconds.into_iter().take(REPAIR_RUNGS) {
                let Some(both) = first.and(second) else { continue };
                match self.attempt(&both) {
                    Tried::Works(fix, brings) if fix.ends() && brings <= Some(Severity::Advisory) => return Some(fix),
                    _ => {}
                }
            }
        }
        None
    }
}

fn ladders(bench: &Bench, f: &Finding) -> impl Iterator<Item = Ladder> {
    changes_of(f.code).iter().flat_map(move |change| changes::ladders(*change, bench, f))
}
