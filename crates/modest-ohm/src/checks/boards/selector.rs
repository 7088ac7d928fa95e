//! selector-mismatch: the voltage a device's selector stands at, against those of the rail that feeds it.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Figure;
use crate::quantity::units::Volts;
use crate::topology::rail::nominal_volts;
use crate::verdict::compare::at_most;

/// A selector means a rail of nominally this voltage: 5 V and 5.1 V are the same, 12 V and 14.4 V are not (our own
/// figure).
const SAME_SHARE: f64 = 0.10;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let boards = plan.boards.iter().enumerate().map(|(i, c)| (&c.name, &c.selected, plan.root_of_board(i)));
    let loads = plan.loads.iter().map(|l| (&l.name, &l.selected, plan.root(l.feed.from.id)));
    for (name, selected, root) in boards.chain(loads) {
        let Some(selected) = selected else { continue };
        judge(plan, sink, name, selected, root);
    }
}

/// What is asked of a negotiated source: what arrives today may be the 5 V of one that does not list it, and the next
/// one does.
fn asked(plan: &Plan, root: NodeId) -> Option<Figure<Volts>> {
    let NodeKind::Supply(i) = plan.nodes[root.0].kind else { return None };
    plan.supplies[i].negotiation.as_ref().map(|n| n.selected.clone())
}

fn judge(plan: &Plan, sink: &mut Sink, name: &Name, selected: &Figure<Volts>, root: NodeId) {
    let Some(rail) = asked(plan, root).or_else(|| nominal_volts(plan, root)) else { return };
    let ratio = rail.typical.get() / selected.typical.get();
    if at_most((ratio - 1.0).abs(), SAME_SHARE) {
        sink.pass(&name.text, || format!("set to {}, supplied with {}", selected.typical, rail.typical));
        return;
    }
    sink.find(
        Draft::danger(name)
            .says(format!(
                "`{}` is set to {} and supplied with {} from `{}`",
                name.text, selected.typical, rail.typical, plan.nodes[root.0].name
            ))
            .judged_as_given("selected", selected.typical, &selected.origin)
            .given("rail", rail.typical, &rail.origin)
            .task(format!(
                "set its selector to {} before power-on, or supply it with {}",
                rail.typical, selected.typical
            )),
    );
}
