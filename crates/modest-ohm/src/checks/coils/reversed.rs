//! flyback-reversed: a diode that conducts while its load is on.

use crate::derived::coils::{all_switched, highest_v};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::flyback::Flyback;
use crate::quantity::units::Volts;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for what in all_switched(context.plan) {
        let (channel, name) = (what.channel, what.name);
        let Some(Flyback::Diode(diode)) = what.path else { continue };
        let bidirectional = channel.driver.bridge().is_some();
        if !bidirectional && !diode.reversed {
            sink.pass(name, || "its cathode is at the positive".into());
            continue;
        }
        let volts = Volts::new(highest_v(context, &channel).map_or(0.0, |(_, v)| v));
        let message = if bidirectional {
            format!(
                "`{name}` is driven in both directions by {} and has a diode across it: in one direction that is a \
                short circuit of {volts}",
                channel.words()
            )
        } else {
            format!("the diode across `{name}` is reversed: when switched on it is a short circuit of {volts}")
        };
        sink.find(Draft::danger((name, diode.span)).says(message).judged("supply", volts));
    }
}
