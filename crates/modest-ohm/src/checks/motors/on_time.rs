//! on-time: what may not go on continuously, and nothing in the plan that ends it.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::network::state::Member;
use crate::plan::kinds::scenario::{LoadState, Scenario};
use crate::plan::model::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::format::duration;
use crate::quantity::units::Seconds;

/// Contacts that do not last a year are worth a word.
const YEAR_S: f64 = 365.25 * 86_400.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, load) in plan.loads.iter().enumerate() {
        let (name, limits) = (&load.name.text, &load.limits);
        let (message, evidence) = if limits.never_dry {
            (format!("pump `{name}` must not run dry, and nothing stops it when it does"), Vec::new())
        } else if let Some(most) = limits.on_time.as_ref().filter(|_| lasts(context, i)) {
            let message =
                format!("`{name}` may be on for {} at a time, and a scenario leaves it on", duration(most.low));
            (message, vec![Evidence::judged_as_given("on_time", most.low, &most.origin)])
        } else {
            continue;
        };
        if let Some(by) = &limits.watched_by {
            sink.pass(name, || format!("`{}` stops it", by.text));
            continue;
        }
        sink.find(Draft::advisory((name, load.name.span)).says(message).facts(evidence));
    }
    contacts(plan, sink);
}

/// True where a load is on in a scenario of the maker's, or in *typical*.
fn lasts(context: &Context<'_>, load: usize) -> bool {
    let on = |m: &Member| !matches!(m, Member::State(LoadState::Off | LoadState::Idle));
    context.continuous().any(|o| o.case.scenario != Scenario::Worst && o.case.demands.loads[load].iter().any(on))
}

/// How long contacts last at the rate that they are switched.
fn contacts(plan: &Plan, sink: &mut Sink) {
    for driver in &plan.drivers {
        let Some(relay) = driver.relay() else { continue };
        let (Some(life), Some(rate)) = (relay.life, &relay.per_hour) else { continue };
        let name = &driver.name.text;
        let lasts = Seconds::new(life as f64 / rate.high.get().max(1e-12));
        if lasts.get() >= YEAR_S {
            sink.pass(name, || format!("its contacts last {}", duration(lasts)));
            continue;
        }
        sink.find(
            Draft::advisory(&driver.name)
                .says(format!(
                    "the contacts of `{name}` last {life} operations; at {} that is {}",
                    rate.typical,
                    duration(lasts)
                ))
                .judged("lasts", lasts)
                .at_least("year", Seconds::new(YEAR_S), &Origin::Computed),
        );
    }
}
