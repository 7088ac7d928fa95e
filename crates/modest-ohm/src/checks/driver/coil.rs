//! relay-coil: what a coil gets against what it pulls in at, warm, and what it stands.

use crate::checks::context::{Context, Worst, worst_of};
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::quantity::Volts;
use crate::review::Outcome;

/// The change of copper's resistance per kelvin (IEC 60028), and the temperature of relays' sheets, °C.
const COPPER: f64 = 0.0039;
const SHEET_C: f64 = 23.0;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for driver in &plan.drivers {
        let (Some(relay), Some(load)) = (driver.relay(), driver.load) else { continue };
        let (name, span) = (&driver.name.text, driver.name.span);
        let Some(coil) = &relay.coil else {
            let message = format!("the volts of the coil of `{name}` are not given");
            sink.unknown(name, span, message, "give `coil = \"5 V\"`, or name its class with `part`");
            continue;
        };
        let Some((t, _)) = context.layout.loads[load].first() else { continue };
        let volts = |o: &Outcome| {
            let s = o.actual.as_ref().ok()?;
            (s.solution.alive[t.plus] && s.solution.alive[t.minus]).then(|| s.solution.across(t.plus, t.minus))
        };
        // While it rests there is nothing at it: what counts is while it is on.
        let on = |o: &&Outcome| o.case.name != "idle";
        let (Some((low, least)), Some((high, most))) = (
            worst_of(context.outcomes.iter().filter(on), |o| volts(o).map(|v| -v)),
            worst_of(context.outcomes.iter().filter(on), volts),
        ) else {
            continue;
        };
        let warmer = (plan.warmest_c() + relay.coil_rise.high.get() - SHEET_C).max(0.0);
        let wants = Volts::new(relay.pull_in.high.get() * coil.typical.get() * (1.0 + COPPER * warmer));
        let stands = Volts::new(relay.most.low.get() * coil.typical.get());
        let (got, top) = (Volts::new(-least), Volts::new(most));
        let (severity, at, message, cure, evidence) = if top.get() > stands.get() * (1.0 + 1e-9) {
            (
                Severity::Danger,
                Worst::at(high, most),
                format!("the coil of `{name}` gets {top} and stands {stands}"),
                format!("take one with a coil for more, or a resistor before it; it is made for {}", coil.typical),
                vec![Evidence::computed("coil", top), Evidence::new("stands", stands, &relay.most.origin)],
            )
        } else if got.get() < wants.get() * (1.0 - 1e-9) {
            (
                Severity::Fault,
                Worst::at(low, got.get()),
                format!("the coil of `{name}` gets {got} and need not pull in below {wants}, warm"),
                format!("feed it {wants} or more, or take one with a coil for less; it is made for {}", coil.typical),
                vec![Evidence::computed("coil", got), Evidence::new("pulls_in", wants, &relay.pull_in.origin)],
            )
        } else {
            if context.all_actual() {
                sink.pass(name, format!("{got} .. {top}, pulls in at {wants} and stands {stands}"));
            }
            continue;
        };
        sink.find(Draft { severity, subject: name, span, at: Some(&at), message, cures: vec![cure], evidence });
    }
}
