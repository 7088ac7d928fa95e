//! isolation-broken: both sides of an isolated converter, or of a module that is to isolate, on one ground.

use crate::checks::shared::joined::joined;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::source::Span;

/// Two sides that are to have no ground in common.
struct Apart {
    name: String,
    span: Span,
    sides: [NodeId; 2],
}

fn wished(plan: &Plan) -> Vec<Apart> {
    let converters = plan.converters.iter().enumerate().filter(|(_, c)| c.is_isolated()).filter_map(|(i, c)| {
        let out = plan.node_id(NodeKind::Converter(i))?;
        Some(Apart { name: c.name.text.clone(), span: c.name.span, sides: [c.feed.from.id, out] })
    });
    let drivers = plan.drivers.iter().filter(|d| d.isolates).flat_map(|d| {
        let boards = d.channels.iter().flat_map(|c| &c.pins).map(|p| p.at.board);
        let board = boards.filter(|c| *c < plan.boards.len()).find_map(|c| plan.node_id(NodeKind::BoardInput(c)));
        let own = d.load.map(|l| plan.loads[l].feed.from.id);
        let at = plan.drivers.iter().position(|o| o.name.text == d.name.text);
        let run = at.and_then(|at| plan.runs_of(at).next()).map(|(run, _)| plan.branches[run].feed.from.id);
        board.zip(own.or(run)).map(|(a, b)| Apart { name: d.name.text.clone(), span: d.name.span, sides: [a, b] })
    });
    converters.chain(drivers).collect()
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let Some(mut groups) = joined(context) else { return };
    for apart in wished(plan) {
        let [a, b] = apart.sides.map(|id| context.layout.nodes[id.0].minus);
        if !groups.together(a, b) {
            sink.pass(&apart.name, || "its sides have no common ground".into());
            continue;
        }
        let ties: Vec<String> = plan.grounds.iter().map(|g| format!("`{}`", g.name.text)).collect();
        let by =
            if ties.is_empty() { "one supply feeds both".to_owned() } else { format!("joined by {}", ties.join(", ")) };
        sink.find(
            Draft::caution((&apart.name, apart.span))
                .says(format!("`{}` isolates two sides, but they share a ground: {by}", apart.name)),
        );
    }
}
