//! What a node's current is made of, and the order of a plan's nodes as a tree.

use crate::network::layout::BoardAt;
use crate::network::layout::ConductorInfo;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::Amps;
use crate::review::Review;
use crate::solved::outcome::Snapshot;
use crate::topology::run::Run;

/// Smaller parts are rounding.
const WORTH_A: f64 = 1e-9;

/// Everything that leaves a node's + in addition to what feeds it.
pub(crate) fn parts_of(plan: &Plan, id: usize, s: &Snapshot) -> Vec<(String, Amps)> {
    let plus = s.layout.nodes[id].plus;
    let mut parts: Vec<(String, Amps)> = Vec::new();
    let mut add = |name: String, branch: usize| {
        let b = &s.net.branches[branch];
        let amps = match (s.layout.behind(b.from) == plus, b.to == plus) {
            (true, false) => s.amps(branch),
            (false, true) => -s.amps(branch),
            _ => return,
        };
        if amps.abs() > WORTH_A {
            parts.push((name, Amps::new(amps)));
        }
    };
    for info in &s.layout.conductors {
        // What comes in over the node's own feed is the sum, not a part of it.
        if let Some(feed) = info.feed.filter(|f| s.layout.behind(s.net.branches[*f].from) == plus) {
            add(info.name.clone(), feed);
        }
    }
    for (link, branch) in plan.links.iter().zip(&s.layout.links) {
        add(link.name.text.clone(), *branch);
    }
    for (clamp, branch) in plan.clamps.iter().zip(&s.layout.clamps) {
        add(clamp.name.text.clone(), *branch);
    }
    if matches!(plan.nodes[id].kind, NodeKind::Branch(_)) {
        // What a further terminal brings into its board.
        for (board, inlets) in plan.boards.iter().zip(&s.layout.inlets) {
            inlets.joins().for_each(|join| add(format!("{}.{}", board.name.text, board.terminal), join));
        }
    }
    if let NodeKind::BoardInput(i) = plan.nodes[id].kind {
        let board = &plan.boards[i];
        let BoardAt { own, regulator, .. } = s.layout.boards[i];
        add(format!("{} itself", board.name.text), own);
        if let (Some(branch), Some(regulator)) = (regulator, &board.regulator) {
            add(format!("{}.{}", board.name.text, regulator.output), branch);
        }
        // Without a feed of its own what comes in by the other terminals is the sum, not a part of it.
        if board.feed.is_some() {
            if let Some(usb) = &s.layout.inlets[i].usb {
                add(format!("{}.usb", board.name.text), usb.join);
            }
            if let (Some((_, branch)), Some(unregulated)) = (&s.layout.inlets[i].unregulated, &board.unregulated) {
                add(format!("{}.{}", board.name.text, unregulated.terminal), *branch);
            }
        }
    }
    parts.extend(colours_behind(plan, id, s));
    parts
}

/// The colours of strips that leave through a stage: they come in by their strip's own feed.
fn colours_behind(plan: &Plan, id: usize, s: &Snapshot) -> Vec<(String, Amps)> {
    let is_stage = matches!(plan.nodes[id].kind, NodeKind::Branch(i) if plan.stage_of_run(i).is_some());
    let minus = s.layout.nodes[id].minus;
    let through = |info: &&ConductorInfo| {
        matches!(info.run, Run::Injection(strip, _) if plan.strips[strip].is_fan())
            && s.net.branches[info.back].from == minus
    };
    let those = s.layout.conductors.iter().filter(|_| is_stage).filter(through);
    // A return counts the other way round.
    let all = those.map(|info| (info.name.clone(), Amps::new(-s.amps(info.back))));
    all.filter(|(_, amps)| amps.get().abs() > WORTH_A).collect()
}

impl Review {
    /// All nodes but strip ends in the order of the tree of rails, each with its depth: a source first, then what it
    /// feeds.
    #[must_use]
    pub fn tree(&self) -> Vec<(String, usize)> {
        let plan = &self.plan;
        let count = plan.nodes.len();
        let feeder: Vec<Option<NodeId>> = (0..count).map(|id| plan.feeders(NodeId(id)).next()).collect();
        let mut children: Vec<Vec<usize>> = vec![Vec::new(); count];
        for (id, up) in feeder.iter().enumerate() {
            if let Some(up) = up {
                children[up.0].push(id);
            }
        }
        let mut out = Vec::new();
        let mut waiting: Vec<(usize, usize)> =
            (0..count).rev().filter(|id| feeder[*id].is_none()).map(|id| (id, 0)).collect();
        while let Some((id, depth)) = waiting.pop() {
            let is_strip = matches!(plan.nodes[id].kind, NodeKind::StripStart(_) | NodeKind::StripEnd(_));
            if !is_strip {
                out.push((plan.nodes[id].name.clone(), depth));
            }
            let below = if is_strip { depth } else { depth + 1 };
            waiting.extend(children[id].iter().rev().map(|child| (*child, below)));
        }
        out
    }
}
