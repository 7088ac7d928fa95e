//! What a node carries and what it may carry; which cable a conductor is.

use super::conductors::{cable_of, contact_limit_of, fuse_of, return_cable_of};
use super::run::Run;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::units::Amps;

/// The word for a kind of node.
pub(crate) fn kind_word(plan: &Plan, kind: NodeKind) -> &'static str {
    match kind {
        NodeKind::Supply(_) => "supply",
        NodeKind::Branch(i) => plan.branches[i].word(),
        NodeKind::Converter(_) => "converter",
        NodeKind::BoardInput(_) => "board input",
        NodeKind::BoardOutput(_) => "board output",
        NodeKind::StripStart(_) | NodeKind::StripEnd(_) => "strip end",
    }
}

/// What a node may carry continuously: a rating; for a run the smallest of fuse × load factor and derated ampacity; for
/// a board's output its regulator's limit less the board's own mean. `None` where nothing is known.
pub(crate) fn node_limit(plan: &Plan, kind: NodeKind) -> Option<Amps> {
    match kind {
        NodeKind::Supply(i) => plan.supplies[i].current.as_ref().map(|c| c.low),
        NodeKind::Converter(i) => plan.converters[i].current.as_ref().map(|c| c.low),
        NodeKind::Branch(i) => {
            let run = &plan.branches[i];
            let fuse = run.feed.fuse.as_ref().map(|f| f.continuous_a(plan.warmest_c()));
            let wire = run.feed.cable.as_ref().and_then(|c| c.ampacity(plan.warmest_c()));
            let own = match &run.kind {
                RunKind::Switch(s) => s.rating.as_ref(),
                RunKind::Limiter(l) => l.rating.as_ref(),
                RunKind::Diode(d) => d.rating.as_ref(),
                RunKind::Port(p) => p.limit.as_ref(),
                RunKind::Stage(at) => plan.drivers[at.driver].current.as_ref(),
                _ => None,
            };
            let own = own.map(|f| f.low.get());
            let contact = contact_limit_of(plan, Run::Branch(i));
            [fuse, wire, own, contact].into_iter().flatten().reduce(f64::min).map(Amps::new)
        }
        NodeKind::BoardInput(i) => {
            let feed = plan.boards[i].feed.as_ref()?;
            let fuse = feed.fuse.as_ref().map(|f| f.continuous_a(plan.warmest_c()));
            let wire = feed.cable.as_ref().and_then(|c| c.ampacity(plan.warmest_c()));
            let contact = contact_limit_of(plan, Run::Board(i));
            [fuse, wire, contact].into_iter().flatten().reduce(f64::min).map(Amps::new)
        }
        NodeKind::BoardOutput(i) => {
            let c = &plan.boards[i];
            let limit = c.regulator.as_ref()?.limit.as_ref()?.low.get();
            // What the board itself takes goes through its logic regulator.
            let own = c.logic_regulator().map_or(0.0, |_| c.mean.high.get());
            Some(Amps::new((limit - own).max(0.0)))
        }
        NodeKind::StripStart(_) | NodeKind::StripEnd(_) => None,
    }
}

/// What bounds the current of a cable.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum CableLimit {
    /// Its fuse, by its load factor.
    Fuse,
    /// The ampacity of its wire.
    Wire,
    /// A contact that it passes.
    Contact,
}

impl CableLimit {
    /// In one word, as in tables and JSON: `fuse`, `wire`, `contact`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Fuse => "fuse",
            Self::Wire => "wire",
            Self::Contact => "contact",
        }
    }
}

/// What a cable may carry continuously in air of this temperature: the least of fuse × load factor, wire and contacts;
/// and which of them it is.
pub(crate) fn lead_limit(plan: &Plan, run: Run, air_c: f64) -> (Option<Amps>, Option<CableLimit>) {
    let fuse = fuse_of(plan, run).map(|f| (f.continuous_a(air_c), CableLimit::Fuse));
    let wires = cable_of(plan, run).into_iter().chain(return_cable_of(plan, run));
    let wire = wires.filter_map(|c| c.ampacity(air_c)).reduce(f64::min).map(|a| (a, CableLimit::Wire));
    let contact = contact_limit_of(plan, run).map(|a| (a, CableLimit::Contact));
    let least = [fuse, wire, contact].into_iter().flatten().reduce(|a, b| if b.0 < a.0 { b } else { a });
    (least.map(|(a, _)| Amps::new(a)), least.map(|(_, what)| what))
}
