//! What is asked of every build: which findings still stand, and how bad the quantity is that each of them judges.

use crate::checks;
use crate::derived::solves::Solves;
use crate::findings::evidence::EvidenceRole;
use crate::findings::finding::Finding;
use crate::network::layout::Layout;
use crate::plan::model::Plan;
use crate::review::Review;
use crate::solved::aim::{Aim, Quantity, aims};
use crate::solved::outcome::{Lift, Outcome};
use crate::verdict::severity::Severity;

/// Values are of one quantity where they are alike to this share: rounding is far less, and so is coincidence.
const SAME: f64 = 1e-9;

/// A finding that is sought in every build.
#[derive(Clone, Debug)]
pub(crate) struct Asked<'a> {
    pub finding: &'a Finding,
    /// The quantity that it judges, where it is one of a solved state, and an outcome of its scenario.
    aim: Option<(Aim, &'a Outcome)>,
}

/// Whether it is a verdict on how something works, in a solved state: of these the share of builds is given. Never of
/// danger: that it burns in only 3 of 100 builds comforts nobody.
pub(crate) fn is_asked(f: &Finding) -> bool {
    let works = matches!(f.severity, Severity::Fault | Severity::Caution);
    works && f.accepted.is_none() && f.corner.is_some() && checks::solves(f.code) == Solves::Nothing
}

impl<'a> Asked<'a> {
    pub fn of(review: &'a Review, finding: &'a Finding) -> Self {
        Self { finding, aim: aim_of(review, finding) }
    }

    /// How bad the quantity is in a build: the worst of its scenario.
    pub fn badness(&self, outcomes: &[Outcome]) -> Option<f64> {
        let (aim, there) = self.aim.as_ref()?;
        let bad =
            outcomes.iter().filter(|o| o.is_case_of(there)).filter_map(|o| aim.badness(aim.which.of(o).as_ref().ok()?));
        bad.reduce(f64::max)
    }
}

/// The quantity whose value a finding judges; of several with that value the one that is its subject's.
fn aim_of<'a>(review: &'a Review, f: &Finding) -> Option<(Aim, &'a Outcome)> {
    let (judged, limit) = f.comparison()?;
    let largest = limit.role == EvidenceRole::AtMost;
    let there = |o: &&Outcome| Some(&o.case.scenario) == f.scenario.as_ref() && Some(o.corner) == f.corner;
    let held = f.mix.as_ref().map(|mix| mix.held(&review.plan));
    for there in review.outcomes.iter().filter(there) {
        let moved;
        let o = match &held {
            Some(plan) => {
                moved = there.in_variant(plan, Lift::None, &mut Default::default()).0;
                &moved
            }
            None => there,
        };
        let Some(s) = o.wanted.as_ref().or(o.actual.as_ref()).ok() else { continue };
        let is_it = |aim: &Aim| {
            let bad = aim.which.of(o).as_ref().ok().and_then(|s| aim.badness(s));
            aim.unit() == judged.unit
                && aim.largest == largest
                && bad.is_some_and(|bad| (bad.abs() - judged.value.abs()).abs() <= SAME * judged.value.abs())
        };
        let same: Vec<Aim> = aims(&review.layout, s).into_iter().filter(is_it).collect();
        let own = |aim: &&Aim| is_of(&review.plan, &review.layout, aim.what, &f.subject);
        if let Some(aim) = same.iter().find(own).or(same.first()) {
            return Some((*aim, there));
        }
    }
    None
}

/// Whether a quantity is that of a part.
fn is_of(plan: &Plan, layout: &Layout, what: Quantity, subject: &str) -> bool {
    let item = |name: &str| name.split(['.', '[']).next() == subject.split(['.', '[']).next();
    let place = |all: &[usize], branch: usize| all.iter().position(|b| *b == branch);
    match what {
        Quantity::Current(branch) | Quantity::Heat(branch) => {
            let converters: Vec<usize> = layout.converters.iter().map(|c| c.output).collect();
            let own = layout.conductors.iter().find(|c| c.feed.unwrap_or(c.back) == branch);
            own.is_some_and(|c| c.name == subject || item(&c.name))
                || place(&layout.supplies, branch).is_some_and(|i| item(&plan.supplies[i].name.text))
                || place(&converters, branch).is_some_and(|i| item(&plan.converters[i].name.text))
        }
        Quantity::Voltage(at) => {
            let node = layout.nodes.iter().position(|t| *t == at).map(|i| &plan.nodes[i].name);
            let load = layout.loads.iter().position(|l| l.iter().any(|m| m.at == at)).map(|i| &plan.loads[i].name.text);
            let board = layout.boards.iter().position(|b| b.main == at).map(|i| &plan.boards[i].name.text);
            [node, load, board].into_iter().flatten().any(|name| item(name))
        }
        Quantity::LowestPixel(i) => item(&plan.strips[i].name.text),
    }
}
