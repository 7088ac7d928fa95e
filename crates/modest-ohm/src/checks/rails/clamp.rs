//! clamp-conducts: a clamp that conducts at the voltage its rail can have.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::quantity::units::{Amps, Volts, Watts};
use crate::solved::currents::LEAK_A;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (clamp, branch) in plan.clamps.iter().zip(&context.layout.clamps) {
        let name = &clamp.name.text;
        let node = &clamp.across.name.text;
        let Some(standoff) = &clamp.diode.reverse else { continue };
        let worst = context.worst_actual(|_| true, |_, s| s.volts_at(clamp.across.id).map(|_| s.amps(*branch).abs()));
        let Some(worst) = worst else { continue };
        let highest = context.worst_actual(|_| true, |_, s| s.volts_at(clamp.across.id));
        let volts = Volts::new(highest.map_or(0.0, |w| w.value));
        if worst.value <= LEAK_A {
            if context.all_actual() {
                sink.pass(name, || format!("{volts} of {}", standoff.low));
            }
            continue;
        }
        let amps = Amps::new(worst.value);
        let heat = context.worst_actual(|_| true, |_, s| Some((s.amps(*branch) * s.drop_v(*branch)).abs()));
        let watts = Watts::new(heat.map_or(0.0, |w| w.value));
        let why = if clamp.diode.reversed {
            format!("is reversed on `{node}`: it conducts {amps} forwards, {watts}")
        } else {
            format!("conducts at {}; `{node}` reaches {volts} or more: {amps} flows, {watts}", standoff.low)
        };
        sink.find(
            Draft::danger(&clamp.name)
                .at(&worst)
                .says(format!("clamp `{name}` {why}"))
                .judged("through", amps)
                .with("heat", watts)
                .given("clamps", standoff.low, &standoff.origin),
        );
    }
}
