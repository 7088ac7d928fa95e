//! input-floating: inputs that nothing holds.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::model::Plan;
use crate::solved::input_source::Front;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for input in &plan.inputs {
        let name = &input.name.text;
        let front = Front { plan, layout: context.layout, input };
        if !front.floats() {
            sink.pass(name, || "never floats".into());
            continue;
        }
        sink.find(Draft::caution(&input.name).says(format!(
            "{} floats while the {} of `{name}` is open",
            context.plan.pin_words(&input.pin.at),
            input.source.word()
        )));
    }
    open_drains(plan, sink);
}

/// A wire that its senders only pull low.
fn open_drains(plan: &Plan, sink: &mut Sink) {
    for wire in plan.wires.iter().filter(|w| w.open_drain) {
        let name = &wire.name.text;
        if wire.pull.is_some() {
            sink.pass(name, || "it has a pull-up".into());
            continue;
        }
        sink.find(
            Draft::caution(&wire.name).says(format!("signal `{name}` has no pull-up: its drivers only pull low")),
        );
    }
}
