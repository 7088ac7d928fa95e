//! local-capacitor: what needs a capacitor beside it and has none.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::wiring::cable::Cable;
use crate::quantity::units::{Farads, Metres};
use crate::verdict::compare::{at_least, at_most};

/// A cable of more inductance between makes the capacitor useless, m (typical of what sheets of stepper drivers ask: 5
/// cm).
const BESIDE_M: f64 = 0.10;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for load in &plan.loads {
        let Some(wanted) = &load.local_capacitor else { continue };
        let name = &load.name.text;
        let at = load.feed.from.id;
        let there = plan.capacitors.iter().filter(|c| c.across.id == at);
        let farads = Farads::new(there.map(|c| c.capacitance.low.get()).sum::<f64>().max(0.0));
        let lead = Metres::new(load.feed.cable.as_ref().and_then(Cable::length_m).unwrap_or(0.0));
        let enough = at_least(farads.get(), wanted.low.get());
        if enough && at_most(lead.get(), BESIDE_M) {
            sink.pass(name, || format!("{farads} beside it; {} required", wanted.low));
            continue;
        }
        let has = if enough {
            format!("its cable from there is {lead} long; beyond {} the capacitor is useless", Metres::new(BESIDE_M))
        } else {
            format!("{farads} is fitted")
        };
        sink.find(
            Draft::caution(&load.name)
                .says(format!("`{name}` needs {} beside it; {has}", wanted.low))
                .judged("capacitance", farads)
                .at_least("required", wanted.low, &wanted.origin)
                .with("cable_length", lead),
        );
    }
}
