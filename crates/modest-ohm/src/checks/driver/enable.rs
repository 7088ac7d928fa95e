//! enable-open and bridge-logic: a bridge whose enable nobody holds, or whose logic is fed not at all or twice.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::channels::Enable;
use crate::plan::driver::figures::Jumper;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for driver in context.plan.drivers.iter().filter(|d| d.bridge().is_some()) {
        for channel in &driver.channels {
            if !matches!(channel.enable, Enable::Open) {
                sink.pass(&channel.name, "its enable is held or driven".into());
                continue;
            }
            sink.find(
                Draft::fault((&channel.name, channel.span))
                    .says(format!(
                        "the enable of `{}` is joined to nothing: its motor does not run, or now and then",
                        channel.name
                    ))
                    .cure("put its jumper in, `enable = \"held\"`, or let a pin drive it: `enable = \"keeper.io5\"`"),
            );
        }
    }
}

pub(crate) fn logic(context: &Context<'_>, sink: &mut Sink) {
    for driver in &context.plan.drivers {
        let Some(bridge) = driver.bridge() else { continue };
        let name = &driver.name.text;
        let (severity, message, cure) = match (bridge.regulator, bridge.logic_fed) {
            (Jumper::In, true) => (
                Severity::Danger,
                format!(
                    "the logic supply of the bridge `{name}` feeds its 5 V terminal, which is an output \
                     while its jumper is in"
                ),
                "take the jumper out, `regulator-jumper = \"out\"`, or let its own regulator feed \
                 its logic: no `logic` in `from`",
            ),
            (Jumper::Out | Jumper::None, false) if bridge.logic.is_some() => (
                Severity::Fault,
                format!("nothing feeds the logic of the bridge `{name}`"),
                "feed it, `from = { motor = \"deck\", logic = \"five\" }`, or put the jumper of its regulator in",
            ),
            _ => {
                sink.pass(name, "its logic is fed once".into());
                continue;
            }
        };
        sink.find(Draft::of(severity, &driver.name).says(message).cure(cure));
    }
}
