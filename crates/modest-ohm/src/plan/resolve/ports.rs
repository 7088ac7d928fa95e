//! Ports of boards given out: `from = "crane.out"` takes the next free one of the family.

use std::collections::BTreeSet;

use crate::plan::kinds::run::RunKind;
use crate::plan::kinds::shortage::Shortage;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::{NodeId, NodeRef};
use crate::source::Span;

/// The ports of one family.
struct Family {
    /// `crane.out`.
    name: String,
    board: usize,
    family: String,
    ports: Vec<NodeId>,
}

/// Gives out ports; families in the order of the plan.
pub(crate) struct Ports {
    families: Vec<Family>,
    used: BTreeSet<NodeId>,
}

impl Ports {
    /// `taken` lists the nodes that feeds name themselves.
    pub fn of(plan: &Plan, taken: impl Iterator<Item = NodeId>) -> Self {
        let mut families: Vec<Family> = Vec::new();
        for (i, run) in plan.branches.iter().enumerate() {
            let RunKind::Port(port) = &run.kind else { continue };
            let Some(node) = plan.node_id(NodeKind::Branch(i)) else { continue };
            let name = format!("{}.{}", plan.boards[port.board].name.text, port.family);
            match families.iter_mut().find(|f| f.name == name) {
                Some(family) => family.ports.push(node),
                None => {
                    families.push(Family { name, board: port.board, family: port.family.clone(), ports: vec![node] })
                }
            }
        }
        Self { families, used: taken.collect() }
    }

    /// True if the name is that of a family.
    pub fn is_family(&self, name: &str) -> bool {
        self.families.iter().any(|f| f.name == name)
    }

    /// The next free port of the family that a reference names; the last one, with a shortage, where none is free.
    pub fn give(&mut self, reference: &mut NodeRef, consumer: &str, declared: Span) -> Option<Shortage> {
        let family = self.families.iter().find(|f| f.name == reference.name.text)?;
        if let Some(free) = family.ports.iter().find(|p| !self.used.contains(p)) {
            reference.id = *free;
            self.used.insert(*free);
            return None;
        }
        reference.id = *family.ports.last()?;
        Some(Shortage {
            board: family.board,
            family: family.family.clone(),
            wanted_by: consumer.to_owned(),
            span: reference.name.span.unwrap_or(declared),
        })
    }
}
