//! Every feed of a plan, and where nodes are declared.

use std::borrow::Cow;

use super::Plan;
use super::node::NodeKind;
use crate::plan::wiring::feed::{Feed, NodeId};

impl Plan {
    /// Where a node's item is declared.
    pub(crate) fn declared_at(&self, id: NodeId) -> crate::source::Span {
        match self.nodes[id.0].kind {
            NodeKind::Supply(i) => self.supplies[i].name.span,
            NodeKind::Branch(i) => self.branches[i].name.span,
            NodeKind::Converter(i) => self.converters[i].name.span,
            NodeKind::BoardInput(i) | NodeKind::BoardOutput(i) => self.boards[i].name.span,
            NodeKind::StripStart(i) | NodeKind::StripEnd(i) => self.strips[i].name.span,
        }
    }

    /// Every feed of the plan, in the order of [`feeds`](Self::feeds).
    pub(crate) fn bare_feeds(&self) -> impl Iterator<Item = &Feed> {
        let nodes = self.branches.iter().map(|b| &b.feed).chain(self.converters.iter().map(|c| &c.feed));
        let boards = self.boards.iter().filter_map(|b| b.feed.as_ref());
        let shifters = self.shifters.iter().map(|s| &s.feed).chain(self.shifters.iter().filter_map(|s| s.low.as_ref()));
        let strips = self.strips.iter().flat_map(|s| {
            let joins = s.rows.iter().flat_map(|r| &r.joins);
            s.injections.iter().map(|i| &i.feed).chain(joins)
        });
        nodes.chain(boards).chain(shifters).chain(self.loads.iter().map(|l| &l.feed)).chain(strips)
    }

    /// Every feed of the plan with the name of what it feeds and, for what is a node, its id.
    pub(crate) fn feeds(&self) -> Vec<(Cow<'_, str>, &Feed, Option<NodeId>)> {
        let mut feeds = Vec::new();
        for (i, b) in self.branches.iter().enumerate() {
            feeds.push((b.name.text.as_str().into(), &b.feed, self.node_id(NodeKind::Branch(i))));
        }
        for (i, c) in self.converters.iter().enumerate() {
            feeds.push((c.name.text.as_str().into(), &c.feed, self.node_id(NodeKind::Converter(i))));
        }
        for (i, c) in self.boards.iter().enumerate() {
            if let Some(feed) = &c.feed {
                feeds.push((c.name.text.as_str().into(), feed, self.node_id(NodeKind::BoardInput(i))));
            }
        }
        feeds.extend(self.shifters.iter().map(|s| (s.name.text.as_str().into(), &s.feed, None)));
        let lows =
            self.shifters.iter().filter_map(|s| Some((format!("{}.low", s.name.text).into(), s.low.as_ref()?, None)));
        feeds.extend(lows);
        feeds.extend(self.loads.iter().map(|l| (l.name.text.as_str().into(), &l.feed, None)));
        for (i, s) in self.strips.iter().enumerate() {
            let node = self.node_id(NodeKind::StripStart(i));
            feeds.extend(
                s.injections
                    .iter()
                    .enumerate()
                    .map(|(q, inj)| (format!("{}.inject[{q}]", s.name.text).into(), &inj.feed, node)),
            );
            let joins = s.rows.iter().flat_map(|r| r.joins.iter().enumerate());
            feeds.extend(joins.map(|(k, join)| (format!("{}.join[{k}]", s.name.text).into(), join, None)));
        }
        feeds
    }
}
