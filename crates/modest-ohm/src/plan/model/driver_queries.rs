//! Which runs and loads a driver switches.

use crate::plan::driver::Driver;
use crate::plan::wiring::driven::StageRun;

impl super::Plan {
    /// The driver channel that a run is.
    pub(crate) fn stage_of_run(&self, run: usize) -> Option<(&Driver, StageRun)> {
        let crate::plan::kinds::run::RunKind::Stage(at) = &self.branches[run].kind else { return None };
        Some((&self.drivers[at.driver], *at))
    }

    /// The runs that a driver's channels are.
    pub(crate) fn runs_of(&self, driver: usize) -> impl Iterator<Item = (usize, StageRun)> + '_ {
        self.branches.iter().enumerate().filter_map(move |(i, b)| match &b.kind {
            crate::plan::kinds::run::RunKind::Stage(at) if at.driver == driver => Some((i, *at)),
            _ => None,
        })
    }

    /// The node against whose − a channel's input counts.
    pub(crate) fn ground_of_driver(&self, driver: usize, channel: usize) -> Option<crate::plan::wiring::feed::NodeId> {
        if let Some(load) = self.drivers[driver].load {
            return Some(self.loads[load].feed.from.id);
        }
        let (run, _) = self.runs_of(driver).find(|(_, at)| at.channel == channel)?;
        let feed = &self.branches[run].feed;
        Some(feed.back.as_ref().map_or(feed.from.id, |b| b.to.id))
    }

    /// The loads behind a run that is a stage.
    pub(crate) fn loads_behind(&self, run: usize) -> impl Iterator<Item = usize> + '_ {
        let node = self.node_id(super::node::NodeKind::Branch(run));
        self.loads.iter().enumerate().filter(move |(_, l)| Some(l.feed.from.id) == node).map(|(i, _)| i)
    }
}
