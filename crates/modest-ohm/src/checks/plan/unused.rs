//! unused: supplies, runs, converters, shifters and parts that nothing uses, links that nothing flows through.
use std::collections::BTreeSet;

use modest_ohm_solve::Groups;
use modest_ohm_solve::network::Law;

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::name::Name;
use crate::plan::wiring::through::Stage;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let used = used_nodes(plan);
    let mut judge = |name: &Name, what: &str, is_used: bool| {
        if is_used {
            sink.pass(&name.text, || "used".into());
            return;
        }
        sink.find(Draft::caution(name).says(format!("nothing uses {what} `{}`", name.text)));
    };
    let node_used = |kind| plan.node_id(kind).is_some_and(|id| used.contains(&id));
    for (i, s) in plan.supplies.iter().enumerate() {
        judge(&s.name, "supply", node_used(NodeKind::Supply(i)));
    }
    for (i, b) in plan.branches.iter().enumerate() {
        // Spare ports and halves of bus bars are no finding.
        if matches!(b.kind, RunKind::Cable | RunKind::Switch(_) | RunKind::Diode(_) | RunKind::Limiter(_))
            && !b.name.text.contains('.')
        {
            judge(&b.name, b.word(), node_used(NodeKind::Branch(i)));
        }
    }
    // A regulator that a module has is no part of its own.
    for (i, c) in plan.converters.iter().enumerate().filter(|(_, c)| !c.name.text.contains('.')) {
        judge(&c.name, "converter", node_used(NodeKind::Converter(i)));
    }
    let through = |stage: Stage| {
        let data = plan.strips.iter().filter_map(|s| s.data.as_ref());
        let loads = plan.loads.iter().filter_map(|l| l.signal.as_ref()).map(|s| &s.line);
        let lines = loads.chain(plan.wires.iter().map(|w| &w.line)).chain(plan.drivers.iter().map(|d| &d.line));
        let through = data.flat_map(|d| &d.through).chain(lines.flat_map(|l| &l.through));
        through.into_iter().any(|(_, s)| *s == stage)
    };
    for (i, s) in plan.shifters.iter().enumerate() {
        // The ends of a pair are used as it is.
        if !plan.pairs.iter().any(|p| p.near == i || p.far == i) {
            judge(&s.name, "shifter", through(Stage::Shifter(i)));
        }
    }
    for (i, p) in plan.pairs.iter().enumerate() {
        judge(&p.name, "differential-pair", through(Stage::Pair(i)));
    }
    for (i, d) in plan.drivers.iter().enumerate() {
        let named = |text: &str| plan.driver_of(text).is_some_and(|(driver, _)| driver == i);
        let on_mains = plan.mains.iter().flat_map(|m| &m.through).any(|t| named(&t.text));
        let behind = plan.runs_of(i).any(|(run, _)| node_used(NodeKind::Branch(run)));
        let colours = plan.strips.iter().flat_map(|s| &s.switched).any(|s| named(&s.by.text));
        judge(&d.name, "driver", on_mains || behind || colours);
    }
    for part in &plan.unused_parts {
        judge(part, "part", false);
    }
    links(context, sink);
}

/// The nodes that something is connected to.
fn used_nodes(plan: &Plan) -> BTreeSet<NodeId> {
    plan.feeds()
        .iter()
        .flat_map(|(_, f, _)| std::iter::once(f.from.id).chain(f.back.as_ref().map(|b| b.to.id)))
        .chain(
            plan.branches
                .iter()
                .flat_map(|b| b.switch().into_iter().flat_map(|s| s.throws.iter()).map(|(_, f)| f.from.id)),
        )
        .chain(plan.links.iter().flat_map(|l| l.between.iter().map(|n| n.id)))
        .collect()
}

/// Links that no current can flow through: in addition to them nothing joins their ends, not even the −.
fn links(context: &Context<'_>, sink: &mut Sink) {
    let closed = context.plan.links.iter().zip(&context.layout.links).filter(|(l, _)| l.closed);
    for (link, branch) in closed {
        let Some(in_a_loop) = in_a_loop(context, *branch) else { return };
        let (name, what) = (&link.name.text, link.what.word());
        if in_a_loop {
            sink.pass(name, || "has a return path".into());
            continue;
        }
        let [a, b] = link.between.each_ref().map(|n| n.name.text.as_str());
        sink.find(Draft::caution((name, link.name.span)).says(format!(
            "nothing flows through {what} `{name}`: nothing else joins `{a}` and `{b}`, not even their \
                    grounds"
        )));
    }
}

fn is_open(law: &Law) -> bool {
    matches!(law, Law::ConstantCurrent { amps, .. } if *amps == 0.0)
}

/// Whether anything else joins a branch's ends in some scenario; `None` where none is solved.
fn in_a_loop(context: &Context<'_>, branch: usize) -> Option<bool> {
    let solved = context.outcomes.iter().filter_map(|o| o.wanted.as_ref().or(o.actual.as_ref()).ok());
    let loops = solved.map(|s| {
        let mut groups = Groups::new(s.net.vertices);
        let others = s.net.branches.iter().enumerate().filter(|(i, b)| *i != branch && !is_open(&b.law));
        others.for_each(|(_, b)| groups.join(b.from, b.to));
        let ports = s.net.ladders.iter().flat_map(|l| l.ports.iter().map(|p| (l.ports[0].plus, p)));
        ports.for_each(|(first, p)| {
            groups.join(first, p.plus);
            groups.join(first, p.minus);
        });
        groups.together(s.net.branches[branch].from, s.net.branches[branch].to)
    });
    loops.reduce(|a, b| a || b)
}
