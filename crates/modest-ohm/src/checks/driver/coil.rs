//! relay-coil: what a coil gets against what it pulls in at, warm, and what it stands.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::quantity::range::Range;
use crate::quantity::units::{Celsius, Volts};
use crate::size::relay::CoilNeed;
use crate::solved::outcome::Outcome;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for driver in &plan.drivers {
        let (Some(relay), Some(load)) = (driver.relay(), driver.load) else { continue };
        let (name, span) = (&driver.name.text, driver.name.span);
        let Some(coil) = &relay.coil else {
            let message = format!("the volts of the coil of `{name}` are not given");
            sink.unknown(name, span, message, "give `coil = \"5 V\"`, or name its class with `part`");
            continue;
        };
        let Some(t) = context.layout.loads[load].first().map(|d| d.at) else { continue };
        let volts = |o: &Outcome| {
            let s = o.actual.as_ref().ok()?;
            s.volts(t)
        };
        // While it rests there is nothing at it: what counts is while it is on.
        let on = |o: &&Outcome| o.case.scenario != Scenario::Idle;
        let (Some((low, least)), Some((high, most))) = (
            worst_of(context.outcomes.iter().filter(on), |o| volts(o).map(|v| -v)),
            worst_of(context.outcomes.iter().filter(on), volts),
        ) else {
            continue;
        };
        let (got, top) = (Volts::new(-least), Volts::new(most));
        let state = crate::size::relay::coil(&CoilNeed {
            rated: coil.typical,
            gets: Range::new(got, top),
            pull_in: relay.pull_in.high,
            most: relay.most.low,
            warm: Celsius::new(plan.warmest_c() + relay.coil_rise.high.get()),
        });
        let (wants, stands) = (state.pulls_in, state.stands);
        let (severity, at, message, cure, evidence) = if state.too_much {
            (
                Severity::Danger,
                Worst::at(high, most),
                format!("the coil of `{name}` gets {top} and stands {stands}"),
                format!("take one with a coil for more, or a resistor before it; it is made for {}", coil.typical),
                vec![Evidence::judged("coil", top), Evidence::at_most("stands", stands, &relay.most.origin)],
            )
        } else if !state.enough {
            (
                Severity::Fault,
                Worst::at(low, got.get()),
                format!("the coil of `{name}` gets {got} and need not pull in below {wants}, warm"),
                format!("feed it {wants} or more, or take one with a coil for less; it is made for {}", coil.typical),
                vec![Evidence::judged("coil", got), Evidence::at_least("pulls_in", wants, &relay.pull_in.origin)],
            )
        } else {
            if context.all_actual() {
                sink.pass(name, format!("{got} .. {top}, pulls in at {wants} and stands {stands}"));
            }
            continue;
        };
        sink.find(Draft::of(severity, (name, span)).at(&at).says(message).facts(evidence).cure(cure));
    }
}
