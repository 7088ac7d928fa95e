//! enable-open and bridge-logic: a bridge whose enable nobody holds, or whose logic is fed not at all or twice.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::Driver;
use crate::plan::driver::channels::Enable;
use crate::plan::driver::figures::Jumper;
use crate::plan::model::Plan;
use crate::topology::buses::logic_node;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for driver in context.plan.drivers.iter().filter(|d| d.bridge().is_some()) {
        for channel in &driver.channels {
            if !matches!(channel.enable, Enable::Open) {
                sink.pass(&channel.name, || "its enable is driven or tied".into());
                continue;
            }
            sink.find(
                Draft::fault((&channel.name, channel.span))
                    .says(format!(
                        "the enable input of `{}` is open: its motor does not run, or runs at random",
                        channel.name
                    ))
                    .cure("fit its jumper, `enable = \"jumper\"`, or drive it from a pin: `enable = \"keeper.io5\"`"),
            );
        }
    }
}

pub(crate) fn logic(context: &Context<'_>, sink: &mut Sink) {
    for driver in &context.plan.drivers {
        let Some(bridge) = driver.bridge() else { continue };
        let name = &driver.name.text;
        let supply = logic_supply(context.plan, driver);
        let (severity, message, cure) = match (bridge.regulator, bridge.logic_fed) {
            (Jumper::In, true) => (
                Severity::Danger,
                format!(
                    "the logic supply of bridge `{name}` feeds its 5 V terminal, which is an output while its jumper \
                    is fitted"
                ),
                "remove the jumper, `regulator-jumper = \"out\"`, or let its regulator supply the logic: no `logic` \
                in `from`"
                    .to_owned(),
            ),
            (Jumper::Out | Jumper::None, false) if bridge.logic.is_some() => {
                (Severity::Fault, format!("bridge `{name}` has no logic supply"), supply)
            }
            _ => {
                sink.pass(name, || "its logic has one supply".into());
                continue;
            }
        };
        sink.find(Draft::of(severity, &driver.name).says(message).cure(cure));
    }
}

/// What to write so that a bridge's logic is powered: the rail that the pins driving it run on, whose levels it then
/// reads.
fn logic_supply(plan: &Plan, driver: &Driver) -> String {
    let board = driver.channels.iter().flat_map(|c| &c.pins).map(|p| p.at.board).next();
    let logic = board.and_then(|b| logic_node(plan, b)).map_or("…", |id| plan.nodes[id.0].name.as_str());
    let inlet = plan.branches.iter().find(|b| b.name.text == format!("{}.motor", driver.name.text));
    let motor = inlet.map_or("…", |b| b.feed.from.name.text.as_str());
    let jumper = match driver.bridge().map(|b| b.regulator) {
        Some(Jumper::Out) => "; or fit the jumper of its regulator, `regulator-jumper = \"in\"`",
        _ => "",
    };
    format!("write `from = {{ motor = \"{motor}\", logic = \"{logic}\" }}`{jumper}")
}
