//! series-diode-reversed: a diode in a feed that shows the wrong way.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, run) in plan.branches.iter().enumerate() {
        let Some(diode) = run.diode() else { continue };
        let name = &run.name.text;
        if !diode.reversed {
            sink.pass(name, || "conducts towards its load".into());
            continue;
        }
        let behind = plan.node_id(NodeKind::Branch(i)).map_or_else(Vec::new, |id| behind(plan, id));
        let what = match behind.as_slice() {
            [] => "what it feeds has".to_owned(),
            [one] => format!("`{one}` has"),
            names => format!("{} have", names.iter().map(|n| format!("`{n}`")).collect::<Vec<_>>().join(", ")),
        };
        let keeps = if diode.fet { "the MOSFET `" } else { "the diode `" };
        sink.find(
            Draft::fault(&run.name)
                .says(format!(
                    "{keeps}{name}` is reversed: its cathode faces the source `{}`, so {what} no power",
                    run.feed.from.name.text
                ))
                .given("forward", diode.vf.typical, &diode.vf.origin),
        );
    }
}

/// What is fed through a node.
pub(crate) fn behind(plan: &Plan, node: NodeId) -> Vec<String> {
    let mut names: Vec<String> = Vec::new();
    for (name, feed, _) in plan.feeds() {
        let name = name.into_owned();
        if plan.is_behind(feed.from.id, node) && !names.contains(&name) {
            names.push(name);
        }
    }
    names
}
