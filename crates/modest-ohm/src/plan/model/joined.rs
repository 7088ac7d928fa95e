//! Which sources are joined at +, and by what.

use modest_ohm_solve::Groups;

use super::Plan;
use super::node::NodeKind;
use crate::plan::kinds::board::Inputs;
use crate::plan::kinds::run::RunKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Figure;
use crate::quantity::units::Volts;
use crate::source::Span;
use crate::verdict::compare::exceeds;

/// Something that holds voltage between its terminals.
#[derive(Clone, Debug)]
pub(crate) struct Source {
    pub node: NodeId,
    pub name: String,
    pub volts: Figure<Volts>,
    pub is_battery: bool,
    pub span: Span,
}

/// Two sources whose + are joined over conductors.
#[derive(Clone, Debug)]
pub(crate) struct Pair {
    pub sources: [Source; 2],
    /// The closed links each of which, opened, parts them.
    pub links: Vec<usize>,
}

/// Two sources whose nominal voltage differs by no more than this share count as equal (our own figure: the tolerance
/// of an adapter).
const EQUAL_SHARE: f64 = 0.05;

impl Pair {
    /// Whether they may not meet: another voltage, or a battery that the other one would charge unasked.
    pub fn differ(&self) -> bool {
        let [a, b] = &self.sources;
        let (va, vb) = (a.volts.typical.get(), b.volts.typical.get());
        exceeds((va - vb).abs(), EQUAL_SHARE * va.max(vb)) || a.is_battery != b.is_battery
    }
}

impl Plan {
    /// Everything that holds voltage of its own.
    pub(crate) fn sources(&self) -> Vec<Source> {
        let mut sources = Vec::new();
        for (id, node) in self.nodes.iter().enumerate() {
            let (volts, is_battery) = match node.kind {
                NodeKind::Supply(i) => {
                    (&self.supplies[i].voltage, self.supplies[i].battery.as_ref().is_some_and(|_| true))
                }
                NodeKind::Converter(i) => (&self.converters[i].output, false),
                NodeKind::BoardOutput(i) => match &self.boards[i].regulator {
                    Some(r) => (&r.voltage, false),
                    None => continue,
                },
                NodeKind::BoardInput(i) => {
                    let own = &self.boards[i];
                    let fed = self.terminals_of(i).any(|r| own.is_unregulated(&self.branches[r].name.text));
                    match &own.unregulated {
                        Some(u) if fed => (&u.makes, false),
                        _ => continue,
                    }
                }
                _ => continue,
            };
            let node_id = NodeId(id);
            sources.push(Source {
                node: node_id,
                name: node.name.clone(),
                volts: volts.clone(),
                is_battery,
                span: self.declared_at(node_id),
            });
        }
        sources
    }

    /// Every two sources that are joined at + as the plan stands.
    pub(crate) fn joined_sources(&self) -> Vec<Pair> {
        let sources = self.sources();
        let mut all = self.plus_groups(None);
        let mut pairs = Vec::new();
        for (i, a) in sources.iter().enumerate() {
            for b in &sources[i + 1..] {
                if all.together(a.node.0, b.node.0) {
                    pairs.push(Pair { sources: [a.clone(), b.clone()], links: Vec::new() });
                }
            }
        }
        if pairs.is_empty() {
            return pairs;
        }
        for (l, _) in self.links.iter().enumerate().filter(|(_, l)| l.closed) {
            let mut without = self.plus_groups(Some(l));
            for pair in &mut pairs {
                let [a, b] = &pair.sources;
                if !without.together(a.node.0, b.node.0) {
                    pair.links.push(l);
                }
            }
        }
        pairs
    }

    /// Nodes whose + are joined over conductors; what strips join is their own checks' matter.
    fn plus_groups(&self, without: Option<usize>) -> Groups {
        let mut groups = Groups::new(self.nodes.len());
        for (i, run) in self.branches.iter().enumerate() {
            let through = match &run.kind {
                RunKind::Diode(d) => d.fet && !d.reversed,
                _ => true,
            };
            if let (Some(id), true, false) = (self.node_id(NodeKind::Branch(i)), through, run.open.plus) {
                groups.join(id.0, run.feed.from.id.0);
            }
        }
        for (i, board) in self.boards.iter().enumerate() {
            let Some(own) = self.node_id(NodeKind::BoardInput(i)) else { continue };
            if let Some(feed) = &board.feed {
                groups.join(own.0, feed.from.id.0);
            }
            // One that selects between USB and an unregulated input has its main terminal behind both.
            let behind = board.inputs == Inputs::Selects
                && board.unregulated.is_some()
                && !self.terminals_of(i).any(|r| board.is_unregulated(&self.branches[r].name.text));
            if board.inputs == Inputs::Joined || behind {
                for run in self.terminals_of(i).filter(|r| board.is_usb(&self.branches[*r].name.text)) {
                    self.node_id(NodeKind::Branch(run)).into_iter().for_each(|n| groups.join(n.0, own.0));
                }
            }
        }
        for (l, link) in self.links.iter().enumerate() {
            if link.closed && Some(l) != without {
                groups.join(link.between[0].id.0, link.between[1].id.0);
            }
        }
        groups
    }
}
