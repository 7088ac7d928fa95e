//! input-floating: inputs that nothing holds.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::Source as InputSource;
use crate::plan::model::Plan;
use crate::plan::pins::Has;
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
        let to_plus = matches!(input.source, InputSource::Contact { to: Some(_), .. });
        let ability = if to_plus { crate::plan::pins::Ability::PullDown } else { crate::plan::pins::Ability::PullUp };
        let pins = &plan.boards[input.pin.at.board].pins;
        let own = input.pin.at.index.and_then(|i| pins.can(i, ability)) == Some(Has::Yes);
        let mut cures = vec![format!(
            "add a pull resistor to {}: `pull = \"10 kΩ\"`",
            if to_plus { "ground" } else { "the rail that powers its pin" }
        )];
        if own {
            cures.push("or enable the pin's own in the firmware and write `pull = \"internal\"`".into());
        }
        sink.find(
            Draft::caution(&input.name)
                .says(format!(
                    "{} floats while the {} of `{name}` is open",
                    context.plan.pin_words(&input.pin.at),
                    input.source.word()
                ))
                .cures(cures),
        );
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
            Draft::caution(&wire.name)
                .says(format!("signal `{name}` has no pull-up: its drivers only pull low"))
                .cure("add a pull-up: `pull = \"10 kΩ\"`"),
        );
    }
}
