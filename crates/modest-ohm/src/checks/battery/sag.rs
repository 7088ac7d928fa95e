//! battery-stops-early: a consumer stops while the battery should still work.

use crate::derived::context::{Context, Worst};
use crate::derived::discharge::DischargeEnd;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::quantity::figure::Corner;
use crate::quantity::units::Fraction;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let rows = context.runtimes();
    for supply in &context.plan.supplies {
        let Some(battery) = &supply.battery else { continue };
        let name = &supply.name.text;
        let own = rows.iter().filter(|r| r.battery == *name && r.end != DischargeEnd::Empty);
        // The scenario in which it stops with the most charge left.
        let early = own.reduce(|a, b| if b.left.get() > a.left.get() { b } else { a });
        let until = battery.until.typical;
        let Some(early) = early.filter(|r| r.left.get() > until.get() + 1e-6) else {
            let assumed = supply.resistance.origin.is_assumed();
            if assumed && battery.is_below_its_figures(context.plan.ambient.low.get()) {
                let usual = "cell data end at −10 °C";
                sink.unknown(
                    name,
                    supply.name.span,
                    format!("cannot check the voltage of `{name}` at {}: {usual}", context.plan.ambient.low),
                    "measure the pack under load at that temperature and write its `resistance`",
                );
            } else if rows.iter().any(|r| r.battery == *name) && context.all_actual() {
                sink.pass(name, || format!("everything works down to {until} charge"));
            }
            continue;
        };
        let at = Worst::lasting(early.left.get(), early.scenario.clone(), Corner::Typical);
        let left = Fraction::new(early.left.get());
        let (never, stops) = match &early.end {
            DischargeEnd::Stops(consumer) => (format!("`{consumer}` does not work"), format!("`{consumer}` stops")),
            DischargeEnd::CutOff(battery) => {
                let acts = format!("the cut-off of `{battery}` acts");
                (acts.clone(), acts)
            }
            _ => ("the supply collapses".into(), "the supply collapses".into()),
        };
        let message = if early.lasts.get() == 0.0 {
            format!("{never} even with `{name}` fully charged")
        } else {
            format!("{stops} at {left} charge of `{name}`; the reserve is {until}")
        };
        sink.find(Draft::fault(&supply.name).at(&at).says(message).judged("left", left).at_most(
            "reserve",
            until,
            &battery.until.origin,
        ));
    }
}
