//! unfed: what is fed through a run that is disconnected, a switch that stays open, a link that is cut.

use crate::checks::shared::joined::joined;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::{Branch, RunKind};
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;

/// Something that needs a feed.
struct Consumer {
    name: String,
    from: NodeId,
    fed: bool,
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let consumers = consumers(context);
    for (i, run) in plan.branches.iter().enumerate().filter(|(_, b)| b.open.any()) {
        // Of a bus bar speaks the check of that name.
        if matches!(run.kind, RunKind::Bridge(_)) {
            continue;
        }
        let node = plan.node_id(NodeKind::Branch(i));
        let behind = names(&consumers, |c| node.is_some_and(|n| plan.is_behind(c.from, n)));
        let Some(behind) = behind else { continue };
        sink.find(Draft::fault(&run.name).says(format!("{behind} no power: {}", words(run))));
    }
    for (i, board) in plan.boards.iter().enumerate() {
        let own = plan.node_id(NodeKind::BoardInput(i));
        let cut = plan.links.iter().find(|l| !l.closed && l.between.iter().any(|n| Some(n.id) == own));
        let dead = own.is_some_and(|n| !context.alive_at(context.layout.nodes[n.0].plus));
        if let (Some(link), true, Some(own)) = (cut, dead && board.feed.is_none(), own) {
            let behind = names(&consumers, |c| plan.is_behind(c.from, own));
            let Some(behind) = behind else { continue };
            sink.find(Draft::fault(&board.name).says(format!(
                "{behind} no power: the {} `{}` is cut",
                link.what.word(),
                link.name.text
            )));
        }
    }
    no_return(context, sink);
    for c in consumers.iter().filter(|c| c.fed) {
        sink.pass(&c.name, || "fed".into());
    }
}

/// Boards whose + comes over a link and whose − comes over nothing.
fn no_return(context: &Context<'_>, sink: &mut Sink) {
    let (plan, layout) = (context.plan, context.layout);
    let Some(mut groups) = joined(context) else { return };
    for (i, board) in plan.boards.iter().enumerate().filter(|(_, c)| c.feed.is_none()) {
        let own = plan.node_id(NodeKind::BoardInput(i));
        let link = plan.links.iter().find(|l| l.closed && l.between.iter().any(|n| Some(n.id) == own));
        let (Some(link), Some(own)) = (link, own) else { continue };
        let (main, name) = (layout.nodes[own.0], &board.name.text);
        let grounded = plan.nodes.iter().enumerate().any(|(id, node)| {
            matches!(node.kind, NodeKind::Supply(_) | NodeKind::Converter(_))
                && groups.together(main.minus, layout.nodes[id].minus)
        });
        if grounded || !context.alive_at(main.plus) {
            continue;
        }
        sink.find(Draft::fault(&board.name).says(format!(
            "board `{name}` has no power: its positive comes over the {} `{}`, its return over nothing",
            link.what.word(),
            link.name.text
        )));
    }
}

/// Why what is fed through a run is dead, and what to do.
fn words(run: &Branch) -> String {
    let name = &run.name.text;
    match run.kind {
        RunKind::Switch(_) => format!("switch `{name}` is open in every scenario"),
        RunKind::Terminal { .. } => format!("section `{name}` has no supply of its own"),
        _ => format!("branch `{name}` is disconnected"),
    }
}

/// The dead consumers that something holds for, as the start of a sentence; `None` where there is none.
fn names(consumers: &[Consumer], holds: impl Fn(&Consumer) -> bool) -> Option<String> {
    let behind: Vec<String> =
        consumers.iter().filter(|c| !c.fed && holds(c)).map(|c| format!("`{}`", c.name)).collect();
    let verb = if behind.len() == 1 { "has" } else { "have" };
    (!behind.is_empty()).then(|| format!("{} {verb}", behind.join(", ")))
}

fn consumers(context: &Context<'_>) -> Vec<Consumer> {
    let (plan, layout) = (context.plan, context.layout);
    let own = |kind| plan.node_id(kind).unwrap_or(NodeId(0));
    let mut out: Vec<Consumer> = Vec::new();
    for (load, members) in plan.loads.iter().zip(&layout.loads) {
        if let Some(t) = members.first().map(|d| d.at) {
            out.push(Consumer { name: load.name.text.clone(), from: load.feed.from.id, fed: is_fed(context, t) });
        }
    }
    for (i, (c, t)) in plan.boards.iter().zip(layout.boards.iter().map(|b| b.main)).enumerate() {
        out.push(Consumer { name: c.name.text.clone(), from: own(NodeKind::BoardInput(i)), fed: is_fed(context, t) });
    }
    for (s, t) in plan.shifters.iter().zip(layout.shifters.iter().map(|d| d.at)) {
        out.push(Consumer { name: s.name.text.clone(), from: s.feed.from.id, fed: is_fed(context, t) });
    }
    for (i, s) in plan.strips.iter().enumerate() {
        let wanted = context.outcomes.iter().filter_map(|o| o.wanted.as_ref().ok());
        let fed = wanted.into_iter().any(|o| o.solution.strips[i].alive);
        if let Some(first) = s.injections.first() {
            out.push(Consumer { name: s.name.text.clone(), from: first.feed.from.id, fed });
        }
    }
    out
}

fn is_fed(context: &Context<'_>, t: crate::network::layout::Terminals) -> bool {
    context.alive_at(t.plus) && context.alive_at(t.minus)
}
