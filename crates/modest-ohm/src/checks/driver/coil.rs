//! relay-coil: what a coil gets against what it pulls in at, warm, and what it withstands.

use crate::derived::consumers::vehicle_lasting;
use crate::derived::context::{Context, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::figures::Relay;
use crate::plan::kinds::scenario::Scenario;
use crate::quantity::range::Range;
use crate::quantity::units::{Celsius, Fraction, Volts};
use crate::size::relay::CoilNeed;
use crate::solved::outcome::Outcome;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

/// A coil that gets this much more than it stands continuously gets hot, and ages (typical).
const NEARLY: f64 = 1.10;

/// The share of its rated voltage that a coil stands: what is stated, else 130 % at 23 °C, falling to 110 % at 85 °C
/// (typical).
fn stood(relay: &Relay, air_c: f64) -> Fraction {
    if !relay.most.origin.is_assumed() {
        return relay.most.low;
    }
    let warmer = ((air_c - 23.0) / (85.0 - 23.0)).clamp(0.0, 1.0);
    Fraction::new(relay.most.low.get() - 0.20 * warmer)
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for driver in &plan.drivers {
        let (Some(relay), Some(load)) = (driver.relay(), driver.load) else { continue };
        let (name, span) = (&driver.name.text, driver.name.span);
        let Some(coil) = &relay.coil else {
            let message = format!("cannot check the coil of `{name}`: its rated voltage is not given");
            sink.unknown(name, span, message, "write `coil = \"5 V\"`, or set `part`");
            continue;
        };
        let Some(t) = context.layout.loads[load].first().map(|d| d.at) else { continue };
        let volts = |o: &Outcome| o.actual.as_ref().ok()?.volts(t);
        // While it rests there is nothing at it: what counts is while it is on.
        let on = |o: &&Outcome| o.case.scenario != Scenario::Idle;
        let (Some((low, least)), Some((high, most))) = (
            worst_of(context.outcomes.iter().filter(on), |o| volts(o).map(|v| -v)),
            worst_of(context.outcomes.iter().filter(on), volts),
        ) else {
            continue;
        };
        // On a vehicle 9 V and 16 V last minutes: what heats a coil, or finds it warm, is 14.8 V and 10.5 V.
        let lasting = vehicle_lasting(plan, load);
        let (got, top) = (Volts::new(-least), Volts::new(most * lasting.high));
        let need = |gets: Volts, warm_c: f64| CoilNeed {
            rated: coil.typical,
            coil: Range::new(gets, top),
            pull_in: relay.pull_in.high,
            most: stood(relay, plan.warmest_c()),
            warm: Celsius::new(warm_c),
        };
        let cold = crate::size::relay::coil(&need(got, plan.warmest_c()));
        let lasts = Volts::new(got.get() * lasting.low);
        let state = crate::size::relay::coil(&need(lasts, plan.warmest_c() + relay.coil_rise.high.get()));
        // Where it is too little even cold, that is what counts.
        let share = if cold.enough { lasting.low } else { 1.0 };
        let (state, got, how) = if cold.enough { (state, lasts, "when warm") } else { (cold, got, "even cold") };
        let (wants, stands) = (state.pulls_in, state.max);
        if state.too_much {
            let little = at_most(top.get(), NEARLY * stands.get());
            let severity = if little { Severity::Caution } else { Severity::Danger };
            sink.find(
                Draft::of(severity, (name, span))
                    .at(&context.worst_at(high, top.get(), |o| volts(o).map(|v| v * lasting.high)))
                    .says(format!("the coil of `{name}` is at {top}; rated {stands}"))
                    .judged("coil", top)
                    .at_most("rating", stands, &relay.most.origin),
            );
        } else if !state.enough {
            let severity = if cold.enough { Severity::Caution } else { Severity::Fault };
            sink.find(
                Draft::of(severity, (name, span))
                    .at(&context.worst_at(low, got.get(), |o| volts(o).map(|v| v * share)))
                    .says(format!("the coil of `{name}` is at {got}: {how} it may not pull in below {wants}"))
                    .judged("coil", got)
                    .at_least("pulls_in", wants, &relay.pull_in.origin),
            );
        } else if context.all_actual() {
            sink.pass(name, || format!("{got} .. {top}; pulls in at {wants}, rated {stands}"));
        }
    }
}
