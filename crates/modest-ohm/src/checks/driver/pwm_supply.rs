//! pwm-unsuited: what needs a steady supply behind a stage that chops it.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Figure;
use crate::quantity::units::Hertz;
use crate::solved::drivers::channel::{Channel, channels};
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    // What PWM does to contacts is another check's matter.
    for channel in channels(plan).iter().filter(|c| !c.driver.kind.is_contact()) {
        let Some(pwm) = &channel.driver.pwm else { continue };
        for i in plan.loads_behind(channel.run) {
            let load = &plan.loads[i];
            match unsuited(load) {
                Some(why) => {
                    let ask = "if its datasheet allows it, write `pwm-supply = \"may\"`";
                    sink.find(draft(&load.name, channel, pwm, why).task(ask));
                }
                None => sink.pass(&load.name.text, || "its supply may be switched by PWM".into()),
            }
        }
        for strip in channel.strips().map(|s| &plan.strips[s]).filter(|s| !s.pixel.plain) {
            let why = "its pixels lose their data in every gap";
            sink.find(draft(&strip.name, channel, pwm, (Severity::Fault, why)));
        }
    }
}

/// Why a load does not suit PWM in its supply.
fn unsuited(load: &Load) -> Option<(Severity, &'static str)> {
    if load.pwm_supply.unwrap_or(!load.wants_steady_supply()) {
        return None;
    }
    Some(match load.nature {
        Some(Nature::Servo) => (Severity::Fault, "its electronics restart with every pulse"),
        Some(Nature::Heater) => (Severity::Caution, "it works only with less than 10 % ripple"),
        _ => (Severity::Caution, "its electronics need a steady supply"),
    })
}

fn draft(name: &Name, channel: &Channel<'_>, pwm: &Figure<Hertz>, (severity, why): (Severity, &'static str)) -> Draft {
    Draft::of(severity, name)
        .says(format!("{} switches the supply of `{}` at {}: {why}", channel.words(), name.text, pwm.typical))
        .given("pwm", pwm.typical, &pwm.origin)
}
