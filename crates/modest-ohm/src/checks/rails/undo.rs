//! Plans without one of the mistakes that this family finds: what is gone in them follows from the mistake.

use crate::findings::finding::Finding;
use crate::plan::kinds::run::{Open, RunKind};
use crate::plan::model::Plan;

pub(crate) fn open_link(plan: &mut Plan, finding: &Finding) -> bool {
    let name = finding.subject.as_str();
    plan.links.iter_mut().find(|l| l.name.text == name).map(|l| l.closed = false).is_some()
}

/// A source that the links by which it meets others no longer join to them.
pub(crate) fn part_from_others(plan: &mut Plan, finding: &Finding) -> bool {
    let source = finding.subject.as_str();
    let pairs = plan.joined_sources();
    let own = pairs.iter().filter(|p| p.sources.iter().any(|s| s.name == source));
    let links: Vec<usize> = own.flat_map(|p| p.links.iter().copied()).collect();
    links.iter().for_each(|l| plan.links[*l].closed = false);
    !links.is_empty()
}

pub(crate) fn turn_diode(plan: &mut Plan, finding: &Finding) -> bool {
    let name = finding.subject.as_str();
    let run = plan.branches.iter_mut().find(|b| b.name.text == name);
    let diode = run.and_then(|b| match &mut b.kind {
        RunKind::Diode(d) => Some(d),
        _ => None,
    });
    diode.map(|d| d.reversed = false).is_some()
}

/// Which link feeds it back stands in the message; all are opened at once.
pub(crate) fn open_links(plan: &mut Plan, _: &Finding) -> bool {
    let closed = plan.links.iter().any(|l| l.closed);
    plan.links.iter_mut().for_each(|l| l.closed = false);
    closed
}

pub(crate) fn bridge_half(plan: &mut Plan, finding: &Finding) -> bool {
    let half = plan.branches.iter_mut().find(|b| b.name.text == finding.subject);
    half.map(|b| b.open = Open::NOT).is_some()
}

pub(crate) fn remove_clamp(plan: &mut Plan, finding: &Finding) -> bool {
    let before = plan.clamps.len();
    plan.clamps.retain(|c| c.name.text != finding.subject);
    plan.clamps.len() < before
}
