//! What a driver's channels do in a solved state: what drives them, what they carry, what they drop, how warm they get.

use crate::plan::driver::Driver;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::driven::{Side, StageRun};
use crate::solved::outcome::Snapshot;

/// A channel that something is connected to.
#[derive(Clone, Copy)]
pub(crate) struct Channel<'p> {
    pub plan: &'p Plan,
    pub driver: &'p Driver,
    pub at: StageRun,
    /// The run that it is.
    pub run: usize,
}

/// Every channel that something is connected to, in the order of the plan's drivers.
pub(crate) fn channels(plan: &Plan) -> Vec<Channel<'_>> {
    let each = |d: usize| plan.runs_of(d).map(move |(run, at)| Channel { plan, driver: &plan.drivers[d], at, run });
    (0..plan.drivers.len()).flat_map(each).collect()
}

impl<'p> Channel<'p> {
    pub fn name(&self) -> &'p str {
        &self.plan.branches[self.run].name.text
    }

    /// "the MOSFET `tide-switch`".
    pub fn words(&self) -> String {
        format!("the {} `{}`", self.driver.kind.words(), self.name())
    }

    pub fn span(&self) -> crate::source::Span {
        self.driver.span_of(self.at.channel)
    }

    /// The names of what is fed from it.
    pub fn behind(&self) -> Vec<&'p str> {
        let plan = self.plan;
        let mut names: Vec<&str> = plan.loads_behind(self.run).map(|i| plan.loads[i].name.text.as_str()).collect();
        names.extend(self.strips().map(|s| plan.strips[s].name.text.as_str()));
        names
    }

    /// In words: `tide`, or `red` and `green`.
    pub fn behind_words(&self) -> String {
        let names: Vec<String> = self.behind().iter().map(|n| format!("`{n}`")).collect();
        names.join(", ")
    }

    /// The strips of which it switches a colour, or all.
    pub fn strips(&self) -> impl Iterator<Item = usize> + 'p {
        let plan = self.plan;
        let node = plan.node_id(NodeKind::Branch(self.run));
        plan.strips
            .iter()
            .enumerate()
            .filter(move |(_, s)| {
                let colour = s.switched.iter().any(|w| w.node.as_ref().map(|n| n.id) == node);
                colour || s.injections.iter().any(|q| Some(q.feed.from.id) == node)
            })
            .map(|(i, _)| i)
    }

    /// What flows through it, A, positive the way it conducts.
    pub fn amps(&self, s: &Snapshot) -> Option<f64> {
        let branch = s.layout.elements[self.run]?;
        s.alive(branch).then(|| s.amps(branch))
    }

    /// What it drops, V.
    pub fn drop_v(&self, s: &Snapshot) -> Option<f64> {
        let branch = s.layout.elements[self.run]?;
        s.alive(branch).then(|| s.drop_v(branch))
    }

    /// The voltage that it holds off while it is open: those of the node that it is connected to.
    pub fn holds_v(&self, s: &Snapshot) -> Option<f64> {
        s.volts_at(self.plan.branches[self.run].feed.from.id)
    }

    /// True where it lies in the return.
    pub fn is_low_side(&self) -> bool {
        self.driver.side == Side::Low
    }
}
