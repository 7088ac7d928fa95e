//! Which lead ends meet which connectors.

use crate::network::layout::{ConductorInfo, Layout};
use crate::network::names::lead_name;
use crate::plan::kinds::connector::Connector;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::contact::{Contact, LeadEnd};
use crate::plan::wiring::name::Name;
use crate::topology::conductors::feed_of;
use crate::topology::run::Run;

/// A cable with the number of its kind: the members of a count each have one.
pub(crate) struct LeadAt<'a> {
    pub name: &'a str,
    pub cable: &'a Cable,
    /// Which of its ends is here: 0 the source's, 1 the load's.
    pub end: usize,
    pub count: usize,
}

impl LeadAt<'_> {
    /// How the end is made, where the plan says.
    pub fn made(&self) -> Option<LeadEnd> {
        made(self.cable, self.end)
    }
}

/// How an end of a cable is made, where the plan says; a bare end of one wire is solid.
pub(crate) fn made(cable: &Cable, end: usize) -> Option<LeadEnd> {
    match cable.ends[end] {
        Some(LeadEnd::Bare) if cable.solid => Some(LeadEnd::Solid),
        other => other,
    }
}

/// All connectors of a plan that are nodes, by the index of their run.
pub(crate) fn connectors(plan: &Plan) -> impl Iterator<Item = (usize, &Name, &Connector)> {
    plan.branches.iter().enumerate().filter_map(|(i, b)| Some((i, &b.name, b.connector()?)))
}

/// The cables whose ends go into a connector: its own, and those that it feeds.
pub(crate) fn leads_at<'a>(plan: &'a Plan, layout: &'a Layout, connector: usize) -> Vec<LeadAt<'a>> {
    let node = plan.node_id(NodeKind::Branch(connector));
    let mut leads = Vec::new();
    for (info, count) in runs(layout) {
        let Some(feed) = feed_of(plan, info.run) else { continue };
        let name = lead_name(plan, info);
        if let Some(cable) = &feed.cable {
            if info.run == Run::Branch(connector) {
                leads.push(LeadAt { name, cable, end: 1, count });
            }
            if Some(feed.from.id) == node {
                leads.push(LeadAt { name, cable, end: 0, count });
            }
        }
    }
    leads
}

/// Contacts that a cable names itself, with the cable; `None` for one on its way, the end for one that it ends in.
pub(crate) fn own_contacts<'a>(
    plan: &'a Plan,
    layout: &'a Layout,
) -> Vec<(&'a str, &'a Cable, &'a Contact, Option<usize>)> {
    let mut out = Vec::new();
    for (info, _) in runs(layout) {
        let Some(feed) = feed_of(plan, info.run) else { continue };
        let name = lead_name(plan, info);
        let back = feed.back.as_ref().and_then(|b| b.cable.as_ref());
        for cable in feed.cable.iter().chain(back) {
            out.extend(cable.connectors.iter().map(|c| (name, cable, c, None)));
            let ends = cable.into.iter().enumerate();
            out.extend(ends.filter_map(|(end, c)| Some((name, cable, c.as_ref()?, Some(end)))));
        }
    }
    out
}

/// Every run once, with how many equal leads it is.
pub(crate) fn runs(layout: &Layout) -> Vec<(&ConductorInfo, usize)> {
    let mut out: Vec<(&ConductorInfo, usize)> = Vec::new();
    for info in &layout.conductors {
        match out.iter_mut().find(|(seen, _)| seen.run == info.run) {
            Some((_, count)) => *count += 1,
            None => out.push((info, 1)),
        }
    }
    out
}
