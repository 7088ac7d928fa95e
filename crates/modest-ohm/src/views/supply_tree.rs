//! The supply tree for pictures: every node and consumer with what feeds it, what flows, and what is wrong with it.

use crate::derived::consumers::shifter_word;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::{Feed, NodeId};
use crate::quantity::units::{Amps, Volts};
use crate::review::Review;
use crate::solved::outcome::Outcome;
use crate::topology::ratings::{kind_word, node_limit};
use crate::topology::run::Run;
use crate::verdict::severity::Severity;

/// What one thing of the tree is.
#[derive(Clone, Debug)]
pub struct TreeItem {
    /// Its name.
    pub name: String,
    /// `supply`, `converter`, `branch`, `strip`, `load` ….
    pub kind: &'static str,
    /// What feeds it, by its place in the list; `None` for a source.
    pub parent: Option<usize>,
    /// Lowest voltage across it in the scenario, over all corners.
    pub voltage: Option<Volts>,
    /// The largest current that it takes, or, a source, gives, over all corners, source limits lifted.
    pub current: Option<Amps>,
    /// What flows into it over its feed; of a converter that is another current than it gives.
    pub intake: Option<Amps>,
    /// What it may carry continuously.
    pub limit: Option<Amps>,
    /// The worst finding on it: severity and code.
    pub trouble: Option<(Severity, &'static str)>,
    /// True where nothing feeds it.
    pub dead: bool,
}

/// A link between two things of the tree.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct TreeLink {
    /// Its name.
    pub name: String,
    /// The two things that it joins, by their place in the list.
    pub between: [usize; 2],
    /// Whether it is closed.
    pub closed: bool,
    /// The worst finding on it.
    pub trouble: Option<(Severity, &'static str)>,
}

/// The tree of a plan in one scenario.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct SupplyTree {
    /// The scenario.
    pub scenario: Scenario,
    /// Sources first, each followed by what it feeds, depth first.
    pub items: Vec<TreeItem>,
    /// Links.
    pub links: Vec<TreeLink>,
}

/// Something that is connected to a node and is none itself.
struct Leaf<'a> {
    name: String,
    kind: &'static str,
    feed: &'a Feed,
    run: Run,
    subject: &'a str,
}

impl Review {
    /// The supply tree in a scenario; `None` for a name that is no scenario.
    #[must_use]
    pub fn supply_tree(&self, scenario: impl Into<Scenario>) -> Option<SupplyTree> {
        let scenario = scenario.into();
        let outcomes: Vec<&Outcome> = self.outcomes.iter().filter(|o| o.case.scenario == scenario).collect();
        if outcomes.is_empty() {
            return None;
        }
        let mut items: Vec<TreeItem> = Vec::new();
        let mut place: Vec<Option<usize>> = vec![None; self.plan.nodes.len()];
        let leaves = self.leaves();
        for (name, _) in self.tree() {
            let Some(id) = self.plan.nodes.iter().position(|n| n.name == name) else { continue };
            let parent = self.plan.feeders(NodeId(id)).next().and_then(|up| self.item_of(up, &place));
            place[id] = Some(items.len());
            items.push(self.node_item(id, parent, &outcomes));
        }
        for leaf in &leaves {
            let parent = self.item_of(leaf.feed.from.id, &place);
            items.push(self.leaf_item(leaf, parent, &outcomes));
        }
        let (order, items) = depth_first(items);
        let links = self.plan.links.iter().filter_map(|l| {
            let end = |id: NodeId| self.item_of(id, &place).map(|old| order[old]);
            Some(TreeLink {
                name: l.name.text.clone(),
                between: [end(l.between[0].id)?, end(l.between[1].id)?],
                closed: l.closed,
                trouble: self.trouble(&l.name.text, false),
            })
        });
        let links = links.collect();
        Some(SupplyTree { scenario, items, links })
    }

    /// The item that a node is drawn as; a strip's end is what feeds the strip.
    fn item_of(&self, id: NodeId, place: &[Option<usize>]) -> Option<usize> {
        match self.plan.nodes[id.0].kind {
            NodeKind::StripStart(_) | NodeKind::StripEnd(_) => {
                self.plan.feeders(id).next().and_then(|up| self.item_of(up, place))
            }
            _ => place[id.0],
        }
    }

    fn leaves(&self) -> Vec<Leaf<'_>> {
        let plan = &self.plan;
        let mut leaves: Vec<Leaf<'_>> = Vec::new();
        for (i, s) in plan.shifters.iter().enumerate() {
            let name = s.name.text.clone();
            leaves.push(Leaf {
                name,
                kind: shifter_word(plan, i),
                feed: &s.feed,
                run: Run::Shifter(i),
                subject: &s.name.text,
            });
        }
        for (i, s) in plan.strips.iter().enumerate() {
            for (q, injection) in s.injections.iter().enumerate() {
                let name =
                    if s.injections.len() == 1 { s.name.text.clone() } else { format!("{}.inject[{q}]", s.name.text) };
                let run = Run::Injection(i, q);
                leaves.push(Leaf { name, kind: s.word(), feed: &injection.feed, run, subject: &s.name.text });
            }
        }
        for (i, l) in plan.loads.iter().enumerate() {
            let count = if l.count > 1 { format!(" × {}", l.count) } else { String::new() };
            let name = format!("{}{count}", l.name.text);
            leaves.push(Leaf { name, kind: "load", feed: &l.feed, run: Run::Load(i), subject: &l.name.text });
        }
        leaves
    }

    fn node_item(&self, id: usize, parent: Option<usize>, outcomes: &[&Outcome]) -> TreeItem {
        let node = &self.plan.nodes[id];
        let t = self.layout.nodes[id];
        let mut volts: Option<f64> = None;
        let (mut amps, mut dead): (Option<f64>, bool) = (None, true);
        for o in outcomes {
            if let Ok(s) = o.actual.as_ref()
                && s.solution.alive[t.plus]
                && s.solution.alive[t.minus]
            {
                let here = s.solution.across(t.plus, t.minus);
                volts = Some(volts.map_or(here, |v| v.min(here)));
            }
            if let Ok(s) = o.wanted.as_ref() {
                dead &= !s.is_fed(t);
                let here = s.current_of(node.kind);
                amps = Some(amps.map_or(here, |a| a.max(here)));
            } else {
                dead = false;
            }
        }
        TreeItem {
            name: node.name.clone(),
            kind: self.word_of(node.kind),
            parent,
            voltage: volts.map(Volts::new),
            current: amps.map(Amps::new),
            intake: self.intake(node.kind, outcomes).or(amps.map(Amps::new)),
            limit: node_limit(&self.plan, node.kind),
            trouble: self.trouble(&node.name, matches!(node.kind, NodeKind::BoardInput(_))),
            dead,
        }
    }

    /// The largest current in the feed of a converter.
    fn intake(&self, kind: NodeKind, outcomes: &[&Outcome]) -> Option<Amps> {
        let NodeKind::Converter(i) = kind else { return None };
        let feed = self.layout.conductors.iter().find(|c| c.run == Run::Converter(i))?.feed?;
        let solved = outcomes.iter().filter_map(|o| o.wanted.as_ref().ok());
        solved.map(|s| s.amps(feed)).reduce(f64::max).map(Amps::new)
    }

    fn word_of(&self, kind: NodeKind) -> &'static str {
        match kind {
            NodeKind::Supply(i) => self.plan.supplies[i].kind.word(),
            kind => kind_word(&self.plan, kind),
        }
    }

    fn leaf_item(&self, leaf: &Leaf<'_>, parent: Option<usize>, outcomes: &[&Outcome]) -> TreeItem {
        let infos: Vec<_> = self.layout.conductors.iter().filter(|c| c.run == leaf.run).collect();
        let feeds: Vec<usize> = infos.iter().filter_map(|c| c.feed).collect();
        let mut volts: Option<f64> = None;
        let (mut amps, mut dead) = (None::<f64>, true);
        for o in outcomes {
            if let Ok(s) = o.wanted.as_ref() {
                let here: f64 = feeds.iter().map(|b| s.amps(*b)).sum();
                amps = Some(amps.map_or(here, |a| a.max(here)));
                dead &= !feeds.iter().any(|b| s.alive(*b));
            } else {
                dead = false;
            }
            let Ok(s) = o.actual.as_ref() else { continue };
            let lowest = match leaf.run {
                Run::Injection(i, _) if s.solution.strips[i].alive => Some(s.solution.strips[i].lowest.0),
                Run::Injection(..) => None,
                _ => infos.iter().filter_map(|c| self.across_ends(c, s)).reduce(f64::min),
            };
            if let Some(here) = lowest {
                volts = Some(volts.map_or(here, |v| v.min(here)));
            }
        }
        let (lead, _) = crate::topology::ratings::lead_limit(&self.plan, leaf.run, self.plan.warmest_c());
        TreeItem {
            name: leaf.name.clone(),
            kind: leaf.kind,
            parent,
            voltage: volts.map(Volts::new),
            current: amps.map(Amps::new),
            intake: amps.map(Amps::new),
            limit: lead.map(|a| a * feeds.len().max(1) as f64),
            trouble: self.trouble(leaf.subject, false),
            dead,
        }
    }

    /// Voltage at the far end of a conductor pair.
    fn across_ends(
        &self,
        info: &crate::network::layout::ConductorInfo,
        s: &crate::solved::outcome::Snapshot,
    ) -> Option<f64> {
        let feed = &s.net.branches[info.feed?];
        let back = &s.net.branches[info.back];
        let alive = s.solution.alive[feed.to] && s.solution.alive[back.to];
        alive.then(|| s.solution.across(feed.to, back.to))
    }

    /// The worst finding on a name; a finding on a whole board shows at its main terminal.
    fn trouble(&self, name: &str, is_board: bool) -> Option<(Severity, &'static str)> {
        let own = self.findings.iter().filter(|f| f.accepted.is_none() && f.severity >= Severity::Caution);
        let board = name.split('.').next().filter(|_| is_board);
        let hits = own.flat_map(|f| {
            let head = std::iter::once((f.severity, f.code, f.subject.as_str()));
            head.chain(f.also.iter().map(|c| (c.severity, c.code, c.subject.as_str())))
        });
        // A strip's cables are named by its feed points.
        let is_lead = |rest: &str| rest.starts_with('[') || rest.starts_with(".inject[");
        let of = |subject: &str| {
            subject == name || Some(subject) == board || subject.strip_prefix(name).is_some_and(is_lead)
        };
        hits.filter(|(_, _, subject)| of(subject)).max_by_key(|(severity, ..)| *severity).map(|(s, code, _)| (s, code))
    }
}

/// Items in the order of the tree, parents renumbered; and where each old place went.
fn depth_first(items: Vec<TreeItem>) -> (Vec<usize>, Vec<TreeItem>) {
    let mut children: Vec<Vec<usize>> = vec![Vec::new(); items.len()];
    for (i, item) in items.iter().enumerate() {
        if let Some(parent) = item.parent {
            children[parent].push(i);
        }
    }
    let mut order = vec![0; items.len()];
    let mut sequence = Vec::with_capacity(items.len());
    let mut waiting: Vec<usize> = (0..items.len()).rev().filter(|i| items[*i].parent.is_none()).collect();
    while let Some(i) = waiting.pop() {
        order[i] = sequence.len();
        sequence.push(i);
        waiting.extend(children[i].iter().rev());
    }
    let moved = |i: &usize| {
        let mut item = items[*i].clone();
        item.parent = item.parent.map(|p| order[p]);
        item
    };
    let sorted = sequence.iter().map(moved).collect();
    (order, sorted)
}
