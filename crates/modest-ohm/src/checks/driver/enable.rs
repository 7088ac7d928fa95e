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
                sink.pass(&channel.name, || "its enable is driven or tied".into());
                continue;
            }
            sink.find(Draft::fault((&channel.name, channel.span)).says(format!(
                "the enable input of `{}` is open: its motor does not run, or runs at random",
                channel.name
            )));
        }
    }
}

pub(crate) fn logic(context: &Context<'_>, sink: &mut Sink) {
    for driver in &context.plan.drivers {
        let Some(bridge) = driver.bridge() else { continue };
        let name = &driver.name.text;
        let (severity, message) = match (bridge.regulator, bridge.logic_fed) {
            (Jumper::In, true) => (
                Severity::Danger,
                format!(
                    "the logic supply of bridge `{name}` feeds its 5 V terminal, which is an output while its jumper \
                    is fitted"
                ),
            ),
            (Jumper::Out | Jumper::None, false) if bridge.logic.is_some() => {
                (Severity::Fault, format!("bridge `{name}` has no logic supply"))
            }
            _ => {
                sink.pass(name, || "its logic has one supply".into());
                continue;
            }
        };
        sink.find(Draft::of(severity, &driver.name).says(message));
    }
}
