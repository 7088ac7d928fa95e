//! terminal-overfilled: wires in a connector against its places.

use super::meets::{connectors, leads_at};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::wiring::contact::LeadEnd;
use crate::quantity::units::Fraction;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, name, connector) in connectors(plan) {
        let Some(ways) = connector.ways else { continue };
        let places = ways * connector.wires;
        let (mut wires, mut twins, mut from) = (0, 0, Vec::new());
        for lead in leads_at(plan, context.layout, i) {
            let many = lead.count * lead.cable.parallel;
            // Two wires in one ferrule take one place.
            if lead.made() == Some(LeadEnd::TwinFerrule) {
                twins += many;
            } else {
                wires += many;
            }
            from.push(if many == 1 { format!("`{}`", lead.name) } else { format!("{many} of `{}`", lead.name) });
        }
        let taken = wires + usize::div_ceil(twins, 2);
        if taken <= places {
            sink.pass(&name.text, || format!("{taken} of {places} places"));
            continue;
        }
        let each = if connector.wires == 1 { String::new() } else { format!(" of {} wires each", connector.wires) };
        sink.find(
            Draft::caution(name)
                .says(format!(
                    "{taken} wires of each conductor go into `{}`, which has {ways} place{}{each}: {}",
                    name.text,
                    if ways == 1 { "" } else { "s" },
                    from.join(", ")
                ))
                .judged("filled", Fraction::new(taken as f64 / places as f64)),
        );
    }
}
