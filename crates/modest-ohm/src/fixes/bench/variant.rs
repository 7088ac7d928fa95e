//! A plan with some edits: read once, solved and checked as far as somebody asks.

use std::sync::{Arc, OnceLock};

use super::sheet::Sheet;
use crate::checks;
use crate::derived::context::{Context, Derived};
use crate::edit::{Edit, apply};
use crate::findings::finding::Finding;
use crate::network::layout::Layout;
use crate::network::names::lead_name;
use crate::plan::model::Plan;
use crate::quantity::figure::Corner;
use crate::review::verdicts::{InCorners, Verdicts, in_corners};
use crate::solved::outcome::{Outcome, solve_later};

/// A plan and what is known of it.
pub(crate) struct Variant {
    pub plan: Arc<Plan>,
    layout: Arc<Layout>,
    outcomes: Vec<Outcome>,
    sheet: OnceLock<Sheet>,
    derived: Arc<Derived>,
    raw: OnceLock<InCorners>,
    corners: OnceLock<Verdicts>,
    all: OnceLock<Verdicts>,
}

impl Variant {
    /// A plan whose states are searched from those of a similar plan, or from its own.
    pub fn of(plan: Plan, near: &[Outcome]) -> Self {
        let plan = Arc::new(plan);
        let (layout, outcomes) = solve_later(&plan, near);
        let (sheet, raw, corners, all) = (OnceLock::new(), OnceLock::new(), OnceLock::new(), OnceLock::new());
        Self { plan, layout, outcomes, sheet, derived: Arc::default(), raw, corners, all }
    }

    /// The same plan with some edits; `None` where it cannot be read.
    pub fn with(&self, edits: &[Edit]) -> Option<Self> {
        let text = apply(self.plan.source.text(), edits).ok()?;
        Some(Self::of(Plan::from_toml(&text).ok()?, &self.outcomes))
    }

    pub fn sheet(&self) -> &Sheet {
        self.sheet.get_or_init(|| Sheet::of(&self.plan))
    }

    /// What the checks see.
    pub fn context(&self) -> Context<'_> {
        Context::with(&self.plan, &self.layout, &self.outcomes, Arc::clone(&self.derived))
    }

    /// What the cable to an item carries continuously, A; of several the most.
    pub fn carried(&self, item: &str) -> f64 {
        let context = self.context();
        let is_its =
            |name: &str| name.strip_prefix(item).is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '[']));
        let conductors = self.layout.conductors.iter().filter(|info| is_its(lead_name(&self.plan, info)));
        let branches: Vec<usize> = conductors.filter_map(|info| info.feed).collect();
        let states = context.continuous().filter_map(|o| o.sustained.as_ref().ok());
        states.flat_map(|s| branches.iter().map(|b| s.amps(*b).abs())).fold(0.0, f64::max)
    }

    /// What is found in the four corners.
    pub fn in_corners(&self) -> &Verdicts {
        self.corners.get_or_init(|| self.raw().alone(&self.plan, &self.outcomes))
    }

    fn raw(&self) -> &InCorners {
        self.raw.get_or_init(|| in_corners(&self.plan, &self.layout, &self.outcomes))
    }

    /// All that is found.
    pub fn found(&self) -> &Verdicts {
        self.all.get_or_init(|| self.raw().and_between(&self.plan, &self.layout, &self.outcomes))
    }

    /// What the check of a finding finds on its part in the state in which it was found; of one that names no state
    /// in all of them.
    pub fn of_check(&self, f: &Finding) -> Option<Finding> {
        let is_there = |o: &&Outcome| Some(&o.case.scenario) == f.scenario.as_ref() && Some(o.corner) == f.corner;
        let mut states: Vec<Outcome> = self.outcomes.iter().filter(is_there).cloned().collect();
        let typical: Vec<Outcome> = states
            .iter()
            .filter_map(|o| self.outcomes.iter().find(|t| t.corner == Corner::Typical && t.is_case_of(o)).cloned())
            .collect();
        states.extend(typical);
        let states = if states.is_empty() { &self.outcomes } else { &states };
        let found = checks::found_of(&self.plan, &self.layout, states, &[f.code], &[f.subject.as_str()]);
        found.into_iter().filter(|g| g.code == f.code && g.subject == f.subject).max_by_key(|g| g.severity)
    }
}
