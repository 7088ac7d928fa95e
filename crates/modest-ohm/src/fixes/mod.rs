//! Fixes of findings: changes of the plan that were applied to a copy, read and checked before they are offered.

mod all;
pub(crate) mod bench;
mod causes;
pub(crate) mod changes;
mod together;

pub use all::{FixStep, FixedPlan};

use crate::checks;
use crate::findings::change::Change;
use crate::findings::finding::Finding;
use crate::findings::fix::{Effect, Fix};
use crate::findings::obstacle::Obstacle;
use crate::plan::model::Plan;
use crate::review::Review;
use crate::verdict::severity::Severity;
use bench::candidate::{Candidate, Ladder};
use bench::keep::Keep;
use bench::sheet::Sheet;
use bench::trial::{Bench, Glance, Tried};

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
    pub fn with_fixes(self) -> Self {
        self.with_fixes_but(&[])
    }

    /// As [`with_fixes`](Self::with_fixes), with fixes that leave some items as they are: those named and those with
    /// `keep = true`.
    #[must_use]
    pub fn with_fixes_but(mut self, keep: &[&str]) -> Self {
        if self.findings.iter().all(|f| f.accepted.is_some()) {
            return self;
        }
        let bench = Bench::new(&self.plan, &self.outcomes, Keep::of(&self.plan, keep));
        let (accepted, open): (Vec<Finding>, Vec<Finding>) =
            std::mem::take(&mut self.findings).into_iter().partition(|f| f.accepted.is_some());
        self.findings = causes::fixed(&bench, open);
        self.findings.extend(accepted);
        crate::checks::sort(&self.plan, &mut self.findings);
        together::of_groups(&bench, &mut self);
        causes::note_shared(&mut self.findings);
        self
    }
}

impl Plan {
    /// The names of all tables of the plan, `[kind.name]`, in the order of the text.
    ///
    /// ```
    /// let plan = modest_ohm::Plan::from_toml("format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n").unwrap();
    /// assert_eq!(plan.items(), ["wall"]);
    /// ```
    #[must_use]
    pub fn items(&self) -> Vec<String> {
        Sheet::of(self).items().map(|item| item.name.to_owned()).collect()
    }
}

/// Changes that are looked at for one finding.
const MOST_GLANCES: usize = 120;
/// Changes that are checked in full for one finding.
const MOST_TRIALS: usize = 24;
/// Changes of one ladder that are checked in full.
const LADDER_TRIALS: usize = 3;
/// Others that a change may bring along for a second one to end.
const MOST_REPAIRS: usize = 2;
/// Second changes that are tried against them, of each ladder.
const REPAIR_RUNGS: usize = 2;

/// How good a fix is, best first.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Rank {
    Ends,
    LeavesAdvice,
    EndsTogether,
    EndsAndBrings,
}

/// The search for the fixes of one finding.
struct Search<'b> {
    bench: &'b Bench,
    f: &'b Finding,
    glances: usize,
    trials: usize,
    /// What ended the finding and brought something as bad: the change, and the mildest of that.
    blocked: Option<(String, Finding)>,
}

/// What a search found.
struct Found {
    fixes: Vec<Fix>,
    /// Where none of them ends the finding.
    obstacle: Option<Obstacle>,
}

impl<'b> Search<'b> {
    fn new(bench: &'b Bench, f: &'b Finding) -> Self {
        Self { bench, f, glances: MOST_GLANCES, trials: MOST_TRIALS, blocked: None }
    }

    /// The best fixes: one change that ends the finding, then one that leaves no more than advice, then several changes
    /// together, then what only helps.
    fn fixes(self) -> Vec<Fix> {
        self.found().fixes
    }

    /// The best fixes, and what stands in the way where none of them ends the finding.
    fn found(mut self) -> Found {
        let (mut tried, mut kept): (Vec<String>, Vec<String>) = (Vec::new(), Vec::new());
        let (mut enough, mut helps): (Vec<(Rank, Fix)>, Vec<Fix>) = (Vec::new(), Vec::new());
        for ladder in ladders(self.bench, self.f) {
            if enough.iter().filter(|(rank, _)| *rank == Rank::Ends).count() == MOST {
                break;
            }
            let Some((fix, together)) = self.climb(&ladder) else {
                let own = ladder.furthest();
                match own.and_then(|rung| self.bench.kept_by(rung)) {
                    Some(item) if !kept.contains(&item) => kept.push(item),
                    Some(_) => {}
                    None => tried.extend(own.map(|r| r.title.clone()).filter(|title| !tried.contains(title))),
                }
                continue;
            };
            if enough.iter().map(|(_, known)| known).chain(&helps).any(|known| known.edits == fix.edits) {
                continue;
            }
            match fix.effect {
                Effect::Ends { .. } if !fix.brings.is_empty() => enough.push((Rank::EndsAndBrings, fix)),
                Effect::Ends { .. } if together => enough.push((Rank::EndsTogether, fix)),
                Effect::Ends { .. } => enough.push((Rank::Ends, fix)),
                Effect::Helps { severity: Severity::Advisory, .. } if self.f.severity > Severity::Advisory => {
                    enough.push((Rank::LeavesAdvice, fix));
                }
                Effect::Helps { .. } => helps.push(fix),
            }
        }
        enough.sort_by_key(|(rank, _)| *rank);
        let mut fixes: Vec<Fix> = enough.into_iter().map(|(_, fix)| fix).collect();
        // What only helps may be all that somebody can do.
        helps.sort_by_key(|fix| match fix.effect {
            Effect::Helps { severity, .. } => Some(severity),
            Effect::Ends { .. } => None,
        });
        fixes.extend(helps);
        fixes.truncate(MOST);
        let obstacle = (!fixes.iter().any(Fix::ends)).then(|| match self.blocked {
            Some((title, brought)) => Obstacle::brings(&title, &brought),
            None if tried.is_empty() && !kept.is_empty() => Obstacle::Kept { items: kept },
            None if tried.is_empty() => Obstacle::NoChange,
            None => Obstacle::NoneEnds { tried },
        });
        Found { fixes, obstacle }
    }

    fn glance(&mut self, candidate: &Candidate) -> Glance {
        let Some(left) = self.glances.checked_sub(1) else { return Glance::Nothing };
        self.glances = left;
        self.bench.glance(self.f, candidate)
    }

    fn attempt(&mut self, candidate: &Candidate) -> Option<Tried> {
        self.trials = self.trials.checked_sub(1)?;
        self.bench.attempt(self.f, candidate)
    }

    /// The rungs that seem to end the finding, first first; else the one that seems to help most.
    fn promising<'l>(&mut self, ladder: &'l Ladder) -> Vec<&'l Candidate> {
        let rungs = &ladder.rungs;
        let Some(last) = rungs.last() else { return Vec::new() };
        if !ladder.rising {
            let (mut gone, mut milder) = (Vec::new(), Vec::new());
            for rung in rungs {
                match self.glance(rung) {
                    Glance::Gone => gone.push(rung),
                    Glance::Milder(_) => milder.push(rung),
                    Glance::Nothing => {}
                }
                if gone.len() == LADDER_TRIALS {
                    break;
                }
            }
            milder.truncate(1);
            return if gone.is_empty() { milder } else { gone };
        }
        let wanted = self.glance(last);
        if wanted == Glance::Nothing {
            return Vec::new();
        }
        // The smallest that does what the largest does.
        let (mut fails, mut does) = (0, rungs.len() - 1);
        while fails < does {
            let middle = (fails + does) / 2;
            if self.glance(&rungs[middle]) == wanted { does = middle } else { fails = middle + 1 }
        }
        let most = if wanted == Glance::Gone { LADDER_TRIALS } else { 1 };
        rungs[does..].iter().take(most).collect()
    }

    /// The first rung that ends the finding and brings nothing but advice; else one together with what ends what it
    /// brings, and true; else the one that brings least.
    fn climb(&mut self, ladder: &Ladder) -> Option<(Fix, bool)> {
        let mut best: Option<((bool, Option<Severity>), Fix)> = None;
        let mut trades: Vec<(&Candidate, Tried)> = Vec::new();
        for rung in self.promising(ladder) {
            let Some(tried) = self.attempt(rung) else { continue };
            let brings = tried.worse.first().or(tried.milder.first()).map(|g| (g.code, g.subject.clone()));
            if tried.worse.is_empty() {
                let worst = tried.milder.first().map(|g| g.severity);
                if tried.fix.ends() && worst.is_none() {
                    return Some((tried.fix, false));
                }
                let rank = (!tried.fix.ends(), worst);
                // What then does not work as planned is no fix.
                if worst < Some(Severity::Fault) && best.as_ref().is_none_or(|(known, _)| rank < *known) {
                    best = Some((rank, tried.fix.clone()));
                }
            }
            if let Some(worst) = tried.worse.first().filter(|_| tried.fix.ends()) {
                let is_milder = |(_, known): &(String, Finding)| worst.severity < known.severity;
                if self.blocked.as_ref().is_none_or(is_milder) {
                    self.blocked = Some((rung.title.clone(), worst.clone()));
                }
            }
            if tried.fix.ends() && brings.is_some() {
                let of = |t: &Tried| t.worse.first().or(t.milder.first()).map(|g| (g.code, g.subject.clone()));
                let again = trades.iter().any(|(_, known)| of(known) == brings);
                trades.push((rung, tried));
                // More of the same brings the same.
                if again {
                    break;
                }
            }
        }
        let first = trades.first();
        let repaired = first.and_then(|(rung, tried)| self.repaired(rung, tried));
        repaired.map(|fix| (fix, true)).or(best.map(|(_, fix)| (fix, false)))
    }

    /// A change together with one that ends what the first one brings.
    fn repaired(&mut self, first: &Candidate, tried: &Tried) -> Option<Fix> {
        let mut best: Option<(Severity, Fix)> = None;
        if tried.worse.len() + tried.milder.len() > MOST_REPAIRS {
            return None;
        }
        let brought = tried.worse.first().or(tried.milder.first())?;
        // That less is enough is no repair of what a change brings, and feed points laid anew are more than one.
        let repairs = |change: &&Change| !matches!(change, Change::Concession(_) | Change::FeedPoints);
        let changes = changes_of(brought.code).iter().filter(repairs);
        for ladder in changes.flat_map(|change| changes::ladders(*change, &tried.then, brought)) {
            let mut second = Search::new(&tried.then, brought);
            second.glances = self.glances;
            let seconds = second.promising(&ladder);
            self.glances = second.glances;
            for second in seconds.into_iter().take(REPAIR_RUNGS) {
                // What the second change ends by itself needs no first one.
                if self.glance(second) == Glance::Gone {
                    continue;
                }
                let Some(both) = first.and(second) else { continue };
                let Some(tried) = self.attempt(&both).filter(|t| t.fix.ends() && t.worse.is_empty()) else { continue };
                let Some(milder) = tried.milder.first().map(|g| g.severity) else { return Some(tried.fix) };
                if milder < Severity::Fault && best.as_ref().is_none_or(|(known, _)| milder < *known) {
                    best = Some((milder, tried.fix));
                }
            }
        }
        best.map(|(_, fix)| fix)
    }
}

fn ladders(bench: &Bench, f: &Finding) -> impl Iterator<Item = Ladder> {
    changes_of(f.code).iter().flat_map(move |change| changes::ladders(*change, bench, f))
}

/// The kinds of change that a check names.
fn changes_of(code: &str) -> &'static [Change] {
    checks::of(code).map_or(&[], |check| check.fixed_by)
}
