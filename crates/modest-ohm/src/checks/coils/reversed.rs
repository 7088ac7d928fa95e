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
        let both_ways = channel.driver.bridge().is_some();
        if !both_ways && !diode.reversed {
            sink.pass(name, "its diode's cathode is at the +".into());
            continue;
        }
        let volts = Volts::new(highest_v(context, &channel).map_or(0.0, |(_, v)| v));
        let (message, cure) = if both_ways {
            (
                format!(
                    "`{name}` is driven both ways by {} and has a diode across it: one way that is a \
                     short of {volts}",
                    channel.words()
                ),
                "take the diode away: a bridge has its own".to_owned(),
            )
        } else {
            (
                format!(
                    "the cathode of the diode across `{name}` is at its −: whenever it is on the diode \
                     is a short of {volts}"
                ),
                "turn it: the cathode, its ring, belongs at the +".to_owned(),
            )
        };
        sink.find(Draft::danger((name, diode.span)).says(message).judged("supply", volts).cure(cure));
    }
}
