//! relay-coil: what a coil gets against what it pulls in at, warm, and what it stands.

use crate::derived::consumers::vehicle_lasting;
use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::driver::figures::Relay;
use crate::plan::kinds::scenario::Scenario;
use crate::quantity::range::Range;
use crate::quantity::units::{Celsius, Fraction, Volts};
use crate::size::relay::CoilNeed;
use crate::solved::outcome::Outcome;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

/// A coil that gets this much more than it stands for ever gets hot, and ages (typical).
const NEARLY: f64 = 1.10;

/// The share of its rated volts that a coil stands: what is stated, else 130 % at 23 °C, falling to 110 % at 85 °C
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
        // On a vehicle 9 V and 16 V last minutes: what heats a coil, or finds it warm, is 14.8 V and 10.5 V.
        let lasting = vehicle_lasting(plan, load);
        let (got, top) = (Volts::new(-least), Volts::new(most * lasting.high));
        let need = |gets: Volts, warm_c: f64| CoilNeed {
            rated: coil.typical,
            gets: Range::new(gets, top),
            pull_in: relay.pull_in.high,
            most: stood(relay, plan.warmest_c()),
            warm: Celsius::new(warm_c),
        };
        let cold = crate::size::relay::coil(&need(got, plan.warmest_c()));
        let lasts = Volts::new(got.get() * lasting.low);
        let state = crate::size::relay::coil(&need(lasts, plan.warmest_c() + relay.coil_rise.high.get()));
        // Where it is too little even cold, that is what counts.
        let (state, got, how) = if cold.enough { (state, lasts, "once it is warm") } else { (cold, got, "even cold") };
        let (wants, stands) = (state.pulls_in, state.stands);
        let (severity, at, message, cure, evidence) = if state.too_much {
            let little = at_most(top.get(), NEARLY * stands.get());
            (
                if little { Severity::Caution } else { Severity::Danger },
                Worst::at(high, most),
                format!("the coil of `{name}` gets {top} and stands {stands}"),
                format!("take one with a coil for more, or a resistor before it; it is made for {}", coil.typical),
                vec![Evidence::judged("coil", top), Evidence::at_most("stands", stands, &relay.most.origin)],
            )
        } else if !state.enough {
            (
                if cold.enough { Severity::Caution } else { Severity::Fault },
                Worst::at(low, got.get()),
                format!("the coil of `{name}` gets {got}, and {how} may not pull in below {wants}"),
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
