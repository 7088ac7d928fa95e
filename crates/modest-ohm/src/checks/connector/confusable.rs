//! connector-mix-up: connectors of one family at nodes of different voltages.

use super::meets::{connectors, own_contacts, runs};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::names::lead_name;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::Volts;
use crate::source::Span;
use crate::topology::conductors::feed_of;
use crate::topology::rail::nominal_volts;
use crate::verdict::compare::at_most;

/// Nodes whose voltage differs by no more than this share are one rail for what is plugged into them.
const APART: f64 = 0.1;

/// A connector that shows at a node.
struct Shown<'a> {
    family: &'a str,
    at: &'a str,
    span: Span,
    volts: f64,
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut shown: Vec<Shown<'_>> = Vec::new();
    for (i, name, connector) in connectors(plan) {
        let half = connector.halves.iter().flatten().find_map(|h| h.family.as_deref());
        let family = half.or(connector.contact.family.as_deref());
        let volts = plan.node_id(NodeKind::Branch(i)).and_then(|id| nominal_v(plan, id));
        if let (Some(family), Some(volts)) = (family, volts) {
            shown.push(Shown { family, at: &name.text, span: name.span, volts });
        }
    }
    for (name, _, contact, _) in own_contacts(plan, context.layout) {
        let lead = runs(context.layout).into_iter().find(|(info, _)| lead_name(plan, info) == name);
        let volts = lead.and_then(|(info, _)| nominal_v(plan, feed_of(plan, info.run)?.from.id));
        if let (Some(family), Some(volts)) = (contact.family.as_deref(), volts) {
            shown.push(Shown { family, at: name, span: contact.span, volts });
        }
    }
    let mut told: Vec<&str> = Vec::new();
    for (i, one) in shown.iter().enumerate() {
        if told.contains(&one.family) {
            continue;
        }
        told.push(one.family);
        let of_family: Vec<&Shown<'_>> = shown[i..].iter().filter(|s| s.family == one.family).collect();
        let lowest = of_family.iter().copied().reduce(|a, b| if b.volts < a.volts { b } else { a }).unwrap_or(one);
        let highest = of_family.iter().copied().reduce(|a, b| if b.volts > a.volts { b } else { a }).unwrap_or(one);
        let (low, high) = (Volts::new(lowest.volts), Volts::new(highest.volts));
        if at_most(high.get() - low.get(), APART * high.get()) {
            sink.pass(one.at, || format!("{} carries {low} .. {high}", one.family));
            continue;
        }
        sink.find(
            Draft::caution((highest.at, highest.span))
                .says(format!(
                    "{} is used at `{}` with {high} and at `{}` with {low}: the two mate",
                    one.family, highest.at, lowest.at
                ))
                .judged("high", high)
                .with("low", low)
                .task(
                    "use another connector family for one of them, or mark and key them so that they cannot be \
                    swapped",
                ),
        );
    }
}

/// The nominal voltage of the source that feeds a node over conductors.
fn nominal_v(plan: &Plan, id: NodeId) -> Option<f64> {
    nominal_volts(plan, plan.root(id)).map(|volts| volts.typical.get())
}
