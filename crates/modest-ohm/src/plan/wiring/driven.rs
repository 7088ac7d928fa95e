//! What a load is switched by, and which run of the plan a driver channel is.

use crate::text::Named;
use modest_ohm_derive::Figures;

/// Where a stage lies.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Side {
    /// In the return: between the load and −.
    Low,
    /// In the feed: between + and the load.
    High,
}

/// Which of a relay's contacts; anything else has one.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Contacts {
    /// Closed while the coil pulls; of a semiconductor while it is on.
    Open,
    /// Closed while the coil rests.
    Closed,
}

/// What a stage is named by: a load's `driver`.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Driven {
    pub by: Named,
    pub contacts: Contacts,
    /// Driver and channel, once names are resolved.
    pub at: Option<(usize, usize)>,
}

/// A channel in a run of the plan.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) struct StageRun {
    pub driver: usize,
    pub channel: usize,
    pub contacts: Contacts,
}
