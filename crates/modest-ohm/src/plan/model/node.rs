//! The nodes of a plan: what a `from` can name.

use super::Plan;
use crate::plan::kinds::run::RunKind;
use crate::plan::wiring::feed::NodeId;

/// A node and what makes it.
#[derive(Clone, Debug)]
pub(crate) struct PlanNode {
    pub name: String,
    pub kind: NodeKind,
}

/// Index into the plan's list of that kind.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum NodeKind {
    Supply(usize),
    Branch(usize),
    Converter(usize),
    BoardInput(usize),
    BoardOutput(usize),
    StripStart(usize),
    StripEnd(usize),
}

impl Plan {
    /// The nodes of a plan in the order: supplies, branches, converters, boards, strips.
    pub(crate) fn list_nodes(&self) -> Vec<PlanNode> {
        let mut nodes = Vec::new();
        let mut push = |name: String, kind| nodes.push(PlanNode { name, kind });
        for (i, s) in self.supplies.iter().enumerate() {
            push(s.name.text.clone(), NodeKind::Supply(i));
        }
        for (i, b) in self.branches.iter().enumerate() {
            push(b.name.text.clone(), NodeKind::Branch(i));
        }
        for (i, c) in self.converters.iter().enumerate() {
            push(c.name.text.clone(), NodeKind::Converter(i));
        }
        for (i, c) in self.boards.iter().enumerate() {
            push(format!("{}.{}", c.name.text, c.terminal), NodeKind::BoardInput(i));
            if let Some(regulator) = &c.regulator {
                push(format!("{}.{}", c.name.text, regulator.output), NodeKind::BoardOutput(i));
            }
        }
        for (i, s) in self.strips.iter().enumerate() {
            push(format!("{}.start", s.name.text), NodeKind::StripStart(i));
            push(format!("{}.end", s.name.text), NodeKind::StripEnd(i));
        }
        nodes
    }

    pub(crate) fn node_id(&self, kind: NodeKind) -> Option<NodeId> {
        let converters = self.supplies.len() + self.branches.len();
        let boards = converters + self.converters.len();
        let strips = self.nodes.len().checked_sub(2 * self.strips.len())?;
        // The order of `list_nodes`; a board has one node or two.
        let at = match kind {
            NodeKind::Supply(i) => i,
            NodeKind::Branch(i) => self.supplies.len() + i,
            NodeKind::Converter(i) => converters + i,
            NodeKind::StripStart(i) => strips + 2 * i,
            NodeKind::StripEnd(i) => strips + 2 * i + 1,
            _ => boards + self.nodes.get(boards..strips)?.iter().position(|n| n.kind == kind)?,
        };
        self.nodes.get(at).filter(|n| n.kind == kind).map(|_| NodeId(at))
    }

    /// The driver that a name means, and what the name says beyond that: `tide-switch`, `array.3`; `stage.2` is the
    /// second of counted ones, where there is one of that name.
    pub(crate) fn driver_of<'n>(&self, name: &'n str) -> Option<(usize, Option<&'n str>)> {
        let index = |own: &str| self.drivers.iter().position(|d| d.name.text == own);
        index(name).map(|i| (i, None)).or_else(|| {
            let (own, rest) = name.rsplit_once('.')?;
            Some((index(own)?, Some(rest)))
        })
    }

    /// Where an item of a name is declared.
    pub(crate) fn declared(&self, item: &str) -> Option<crate::source::Span> {
        let node = self.nodes.iter().position(|n| n.name.split('.').next() == Some(item));
        let load = self.loads.iter().map(|l| &l.name).chain(self.shifters.iter().map(|s| &s.name));
        let other = load.chain(self.enclosures.iter().map(|h| &h.name)).chain(self.capacitors.iter().map(|c| &c.name));
        let other = other.chain(self.firmware_limits.iter().map(|c| &c.name));
        let own = other.chain(self.links.iter().map(|l| &l.name)).chain(self.clamps.iter().map(|c| &c.name));
        own.into_iter().find(|n| n.text == item).map(|n| n.span).or_else(|| Some(self.declared_at(NodeId(node?))))
    }

    /// The nodes that feed a node directly.
    pub(crate) fn feeders(&self, id: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        let (mut one, mut board, mut strip) = (None, None, None);
        match self.nodes[id.0].kind {
            NodeKind::Supply(_) => {}
            NodeKind::Branch(i) => one = Some(self.branches[i].feed.from.id),
            NodeKind::Converter(i) => one = Some(self.converters[i].feed.from.id),
            NodeKind::BoardInput(i) => board = Some(i),
            NodeKind::BoardOutput(i) => one = self.node_id(NodeKind::BoardInput(i)),
            NodeKind::StripStart(i) | NodeKind::StripEnd(i) => strip = Some(&self.strips[i]),
        }
        let board = board.into_iter().flat_map(|i| self.board_feeders(i));
        let strip = strip.into_iter().flat_map(|s| s.injections.iter().map(|i| i.feed.from.id));
        one.into_iter().chain(board).chain(strip)
    }

    /// What feeds a board: its main terminal's feed, else its other terminals.
    fn board_feeders(&self, board: usize) -> impl Iterator<Item = NodeId> + '_ {
        let main = self.boards[board].feed.iter().map(|f| f.from.id);
        main.chain(self.terminals_of(board).filter_map(|run| self.node_id(NodeKind::Branch(run))))
    }

    /// The runs to a board's further terminals that belong to its main rail: USB and the unregulated input.
    pub(crate) fn terminals_of(&self, board: usize) -> impl Iterator<Item = usize> + '_ {
        let own = &self.boards[board];
        self.branches
            .iter()
            .enumerate()
            .filter(move |(_, b)| {
                matches!(b.kind, RunKind::Terminal { board: of } if of == board)
                    && (own.is_usb(&b.name.text) || own.is_unregulated(&b.name.text))
            })
            .map(|(i, _)| i)
    }

    /// The supply, converter or board output whose terminals feed a node over conductors only.
    pub(crate) fn root(&self, id: NodeId) -> NodeId {
        let mut at = id;
        // A chain of runs can be thousands long; a circle is a problem of the text, and ends here too.
        for _ in 0..=self.nodes.len() {
            let above = match self.nodes[at.0].kind {
                NodeKind::Supply(_) | NodeKind::Converter(_) | NodeKind::BoardOutput(_) => None,
                NodeKind::BoardInput(i) if self.boards[i].feed.is_none() => None,
                _ => self.feeders(at).next(),
            };
            match above {
                Some(from) => at = from,
                None => break,
            }
        }
        at
    }

    /// What feeds a board's main terminal over conductors only.
    pub(crate) fn root_of_board(&self, board: usize) -> NodeId {
        self.node_id(NodeKind::BoardInput(board)).map_or(NodeId(0), |id| self.root(id))
    }

    /// The highest voltage that a node's source gives, before anything is lost on the way, V.
    pub(crate) fn highest_of(&self, id: NodeId) -> f64 {
        match self.nodes[self.root(id).0].kind {
            NodeKind::Supply(i) => self.supplies[i].voltage.high.get(),
            NodeKind::Converter(i) => self.converters[i].output.high.get(),
            NodeKind::BoardOutput(i) => self.boards[i].regulator.as_ref().map_or(5.0, |r| r.voltage.high.get()),
            _ => 5.0,
        }
    }

    /// Whether a node is on the way from another to its supplies; a node is on its own.
    pub(crate) fn is_behind(&self, id: NodeId, above: NodeId) -> bool {
        self.any_up(id, |node| *node == above)
    }

    /// Whether something holds of a node on the way from one to its supplies.
    pub(crate) fn any_up(&self, id: NodeId, mut is: impl FnMut(&NodeId) -> bool) -> bool {
        let mut at = id;
        // Most ways are chains, and need no record of visited nodes. A circle is a problem of the text.
        for _ in 0..=self.nodes.len() {
            if is(&at) {
                return true;
            }
            let mut above = self.feeders(at).filter(|id| id.0 < self.nodes.len());
            match (above.next(), above.next()) {
                (None, _) => return false,
                (Some(one), None) => at = one,
                _ => return self.path_up(at).iter().skip(1).any(is),
            }
        }
        false
    }

    /// All nodes on the way from a node to its supplies, itself included, each once, converters passed through.
    pub(crate) fn path_up(&self, id: NodeId) -> Vec<NodeId> {
        let mut path = Vec::with_capacity(8);
        path.push(id);
        let mut passed = vec![false; self.nodes.len()];
        let mut is_new = |at: NodeId| passed.get_mut(at.0).is_some_and(|passed| !std::mem::replace(passed, true));
        is_new(id);
        let mut i = 0;
        while i < path.len() {
            for feeder in self.feeders(path[i]) {
                if is_new(feeder) {
                    path.push(feeder);
                }
            }
            i += 1;
        }
        path
    }
}
