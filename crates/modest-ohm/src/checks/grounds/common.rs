//! ground-not-common: every signal with the − of its sender and of its receiver.

use modest_ohm_solve::Groups;

use crate::checks::shared::joined::joined;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::Source as InputSource;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::source::Span;
use crate::topology::signals::{End, hops};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let Some(mut groups) = joined(context) else { return };
    for hop in hops(plan) {
        // An optocoupler has no ground to share; what the plan does not show has none either.
        if hop.opto(plan).is_some() || matches!(hop.to, End::Outside(_)) {
            continue;
        }
        let (subject, span) = hop.item(plan);
        let (from, to) = hop.words(plan);
        judge(
            context,
            sink,
            &mut groups,
            subject,
            span,
            (&from, &hop.from.hangs_on(plan)),
            (&to, &hop.to.hangs_on(plan)),
        );
    }
    for input in plan.inputs.iter().filter(|i| i.pin.at.board < plan.boards.len()) {
        // A contact keeps its own loop.
        let InputSource::Swing { ground: Some(ground), .. } = &input.source else { continue };
        let board = End::Pin(input.pin.at.board).hangs_on(plan);
        let from = format!("`{}`", ground.name.text);
        let to = plan.pin_words(&input.pin.at);
        judge(context, sink, &mut groups, &input.name.text, input.name.span, (&from, &[ground.id]), (&to, &board));
    }
    for sensor in &plan.sensors {
        let (Some(bus), Some(load)) = (plan.buses.get(sensor.bus.1), plan.loads.get(sensor.load)) else { continue };
        let Some((_, pin)) = bus.lines.first().filter(|(_, p)| p.at.board < plan.boards.len()) else {
            continue;
        };
        let board = End::Pin(pin.at.board).hangs_on(plan);
        let (from, to) = (format!("`{}`", bus.name.text), format!("`{}`", sensor.name.text));
        judge(
            context,
            sink,
            &mut groups,
            &sensor.name.text,
            sensor.name.span,
            (&from, &board),
            (&to, &[load.feed.from.id]),
        );
    }
}

fn judge(
    context: &Context<'_>,
    sink: &mut Sink,
    groups: &mut Groups,
    subject: &str,
    span: Span,
    from: (&str, &[NodeId]),
    to: (&str, &[NodeId]),
) {
    let plan = context.plan;
    let minus = |id: &NodeId| context.layout.nodes.get(id.0).map(|t| t.minus);
    let (a, b): (Vec<usize>, Vec<usize>) =
        (from.1.iter().filter_map(minus).collect(), to.1.iter().filter_map(minus).collect());
    if a.is_empty() || b.is_empty() {
        return;
    }
    if a.iter().any(|a| b.iter().any(|b| groups.together(*a, *b))) {
        sink.pass(subject, || format!("{} and {} share a ground", from.0, to.0));
        return;
    }
    let (near, far) = (root_name(plan, from.1), root_name(plan, to.1));
    sink.find(Draft::fault((subject, span)).says(format!(
        "the signal from {} to {} has no ground reference: nothing joins the grounds of `{near}` and `{far}`",
        from.0, to.0
    )));
}

/// The source of the ground that some nodes hang on.
fn root_name<'p>(plan: &'p Plan, nodes: &[NodeId]) -> &'p str {
    let Some(first) = nodes.first() else { return "" };
    let mut root = plan.root(*first);
    // Of a board's output, or a converter that is not isolated, the supply.
    loop {
        let up = match plan.nodes[root.0].kind {
            NodeKind::Supply(_) => break,
            NodeKind::Converter(i) if plan.converters[i].is_isolated() => break,
            _ => plan.feeders(root).next().map(|id| plan.root(id)),
        };
        match up.filter(|id| *id != root) {
            Some(id) => root = id,
            None => break,
        }
    }
    &plan.nodes[root.0].name
}
