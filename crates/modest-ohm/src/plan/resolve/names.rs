//! What the names of a plan stand for, and the nearest one where a name is none.

use std::collections::HashMap;

use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;
use crate::text::problem::Problem;
use crate::text::{Named, nearest};

/// What the plan's names stand for.
pub(crate) struct Names {
    pub nodes: HashMap<String, NodeId>,
    pub node_names: Vec<String>,
    /// Name, kind, index.
    pub things: Vec<(String, &'static str, usize)>,
}

impl Names {
    pub fn of(plan: &Plan) -> Self {
        let mut things = Vec::new();
        let mut list = |kind: &'static str, names: Vec<&String>| {
            things.extend(names.into_iter().enumerate().map(|(i, n)| (n.clone(), kind, i)));
        };
        list("supply", plan.supplies.iter().map(|s| &s.name.text).collect());
        for (i, run) in plan.branches.iter().enumerate() {
            let kind = match run.kind {
                crate::plan::kinds::run::RunKind::Stage(_) => "driver",
                _ if run.switch().is_some() => "switch",
                _ => "branch",
            };
            things.push((run.name.text.clone(), kind, i));
        }
        let mut list = |kind: &'static str, names: Vec<&String>| {
            things.extend(names.into_iter().enumerate().map(|(i, n)| (n.clone(), kind, i)));
        };
        list("converter", plan.converters.iter().map(|s| &s.name.text).collect());
        list("board", plan.boards.iter().map(|s| &s.name.text).collect());
        list("shifter", plan.shifters.iter().map(|s| &s.name.text).collect());
        list("differential-pair", plan.pairs.iter().map(|p| &p.name.text).collect());
        list("strip", plan.strips.iter().map(|s| &s.name.text).collect());
        list("firmware-limit", plan.firmware_limits.iter().map(|s| &s.name.text).collect());
        list("bus", plan.buses.iter().map(|s| &s.name.text).collect());
        list("load", plan.loads.iter().map(|s| &s.name.text).collect());
        Self {
            nodes: plan.nodes.iter().enumerate().map(|(i, n)| (n.name.clone(), NodeId(i))).collect(),
            node_names: plan.nodes.iter().map(|n| n.name.clone()).collect(),
            things,
        }
    }

    pub fn node(&self, name: &Named) -> Result<NodeId, Problem> {
        if let Some(id) = self.nodes.get(&name.text) {
            return Ok(*id);
        }
        let mut own: Vec<&str> =
            self.node_names.iter().filter(|n| n.split('.').next() == Some(&name.text)).map(String::as_str).collect();
        let help = if let Some((_, kind, _)) = self.things.iter().find(|(n, _, _)| *n == name.text) {
            if own.is_empty() {
                format!("{kind} tables feed nothing")
            } else {
                own.sort_unstable();
                format!("`{}` is a {kind}; name one of its nodes: {}", name.text, own.join(", "))
            }
        } else {
            match nearest(&name.text, self.node_names.iter().map(String::as_str)) {
                Some(near) => format!("did you mean `{near}`?"),
                None => format!("nodes of this plan: {}", some_of(&self.node_names)),
            }
        };
        Err(Problem::undeclared(name, "node", help))
    }

    pub fn thing(&self, name: &Named, kind: &'static str) -> Result<usize, Problem> {
        if let Some((_, _, i)) = self.things.iter().find(|(n, k, _)| *n == name.text && *k == kind) {
            return Ok(*i);
        }
        let of_kind: Vec<String> =
            self.things.iter().filter(|(_, k, _)| *k == kind).map(|(n, _, _)| n.clone()).collect();
        let help = match nearest(&name.text, of_kind.iter().map(String::as_str)) {
            Some(near) => format!("did you mean `{near}`?"),
            None if of_kind.is_empty() => format!("the plan has no {kind}"),
            None => format!("{kind}s of this plan: {}", some_of(&of_kind)),
        };
        Err(Problem::undeclared(name, kind, help))
    }
}

pub(crate) fn some_of(names: &[String]) -> String {
    let shown: Vec<&str> = names.iter().take(12).map(String::as_str).collect();
    let more = if names.len() > 12 { ", …" } else { "" };
    format!("{}{more}", shown.join(", "))
}
