//! cranking-reset: what the dip of a vehicle's supply while its engine starts does to converters and boards.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::converter::Converter;
use crate::plan::kinds::supply::SupplyKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Volts;
use crate::topology::rail::way_up;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

/// To what a net dips for a second while a warm engine starts (ISO 16750-2, 4.6.3): 12 V and 24 V systems.
const DIP_12_V: f64 = 6.0;
const DIP_24_V: f64 = 8.0;

const DIP: Origin = Origin::Default("ISO 16750-2, 4.6.3: starting profile");

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, supply) in plan.supplies.iter().enumerate() {
        let SupplyKind::Vehicle { volts } = supply.kind else { continue };
        let dip = Volts::new(if volts == 24 { DIP_24_V } else { DIP_12_V });
        let source = plan.node_id(NodeKind::Supply(i));
        let own = parts(plan).into_iter().filter(|(_, from, _)| way_up(plan, *from).last().copied() == source);
        let (mut resets, holds): (Vec<_>, Vec<_>) =
            own.partition(|(.., least)| exceeds(least.typical.get(), dip.get()));
        holds.iter().for_each(|(name, _, least)| sink.pass(&name.text, || format!("needs {}", least.typical)));
        // What needs most is named first.
        resets.sort_by(|a, b| b.2.typical.get().total_cmp(&a.2.typical.get()));
        // Most plans may restart with the engine; one that says it has to run on may not.
        let severity = if supply.vehicle.through_cranking { Severity::Fault } else { Severity::Advisory };
        for (name, _, least) in &resets {
            let message = format!(
                "during cranking `{}` dips to {dip} for about a second; `{}` needs {} and restarts",
                supply.name.text, name.text, least.typical
            );
            sink.find(
                Draft::of(severity, *name)
                    .says(message)
                    .judged("dip", dip)
                    .at_least("needs", least.typical, &least.origin)
                    .given("profile", dip, &DIP)
                    .listed_with(&supply.name.text),
            );
        }
    }
}

/// Converters and boards with the least input that they work at.
fn parts(plan: &Plan) -> Vec<(&Name, NodeId, Figure<Volts>)> {
    let least_of = |c: &Converter| {
        let least = Volts::new(c.input_minimum(c.output.typical.get()));
        Figure::exact(least, c.input.as_ref().map_or(Origin::Computed, |i| i.origin.clone()))
    };
    let converters = plan.converters.iter().map(|c| (&c.name, c.feed.from.id, least_of(c)));
    let boards = plan.boards.iter().filter_map(|c| {
        let least = c.brown_out.as_ref().or(c.recommended.as_ref())?;
        Some((&c.name, c.feed.as_ref()?.from.id, Figure::exact(least.low, least.origin.clone())))
    });
    converters.chain(boards).collect()
}
