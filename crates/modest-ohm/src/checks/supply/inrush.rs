//! inrush: what charging capacitors asks of contacts, and how long it takes a source at its limit.

use crate::derived::closing::{self, Capacitance};
use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::{Corner, Origin};
use crate::quantity::units::{Amps, Farads, Fraction, Seconds};
use crate::size::capacitor::charging_time;
use crate::solved::outcome::Outcome;
use crate::topology::rail::way_up;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

/// A supply that is still at its limit after this may switch off and try again: 20 .. 100 ms, with the ramp at its
/// start (typical; by simulation a start takes 0.8 of C·V/I).
const HICCUP_S: f64 = 0.027;
const NEVER_S: f64 = 0.140;
const RAMP: f64 = 0.8;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    contacts(context, sink);
    starts(context, sink);
}

/// The corner with the highest voltage and the smallest resistances, everything idle.
fn stiffest<'c>(context: &'c Context<'_>) -> Option<&'c Outcome> {
    context.outcomes.iter().find(|o| o.case.scenario == Scenario::Idle && o.corner == Corner::High && o.actual.is_ok())
}

/// A contact stands the heat of a tenth of a second at its rating, or of 10 ms at what it may close on (typical).
const RATED_S: f64 = 0.1;
const MAKING_S: f64 = 0.010;
/// Less energy than this only sparks, J.
const SPARK_J: f64 = 0.010;
/// Beyond so many times what welds it a relay sticks at once.
const STICKS: f64 = 10.0;
/// Below this in sum capacitors that only a class says there are do not count, F.
const WORTH_F: f64 = 470e-6;

/// What charges behind each contact, by I²t: V²·C/(2·R).
fn contacts(context: &Context<'_>, sink: &mut Sink) {
    let Some(outcome) = stiffest(context) else { return };
    for contact in closing::contacts(context.plan) {
        let Some(rating) = contact.rating else { continue };
        let all = closing::behind(context.plan, contact.node);
        let stated: Vec<Capacitance> = all.iter().copied().filter(|c| c.stated).collect();
        let welds = contact.making.map_or(RATED_S * rating * rating, |m| MAKING_S * m * m);
        let over = |capacitors: &[Capacitance]| {
            let closes = closing::closing(context, outcome, &contact, capacitors)?;
            (closes.energy().get() >= SPARK_J && closes.i2t() > welds).then_some(closes)
        };
        let known = over(&stated);
        let assumed: f64 = all.iter().map(|c| c.farads).sum();
        let typical = || over(&all).filter(|_| assumed >= WORTH_F);
        let (closes, severity, why) = match known {
            Some(closes) if contact.is_relay && closes.i2t() > STICKS * welds => (closes, Severity::Fault, ""),
            Some(closes) => (closes, Severity::Caution, ""),
            None => match typical() {
                Some(closes) => (closes, Severity::Caution, ", typical of what is connected there"),
                None => {
                    sink.pass(contact.name, || "the charging current behind it does not weld it".into());
                    continue;
                }
            },
        };
        let (peak, i2t) = (closes.peak(), closes.i2t());
        let does = if severity == Severity::Fault { "it welds closed" } else { "its contacts may weld" };
        sink.find(
            Draft::of(severity, (contact.name, contact.span))
                .at(&Worst::at(outcome, i2t))
                .says(format!(
                    "closing `{}` charges {}{why}: {peak} peak, {} of what its contacts withstand: {does}",
                    contact.name,
                    closes.capacitance,
                    Fraction::new(i2t / welds)
                ))
                .judged("welding", Fraction::new(i2t / welds))
                .at_most("rating", Fraction::new(1.0), &Origin::Default("a tenth of a second at its rating (typical)"))
                .with("peak", peak)
                .with("capacitance", closes.capacitance)
                .with("resistance", closes.ohms),
        );
    }
}

/// C·V/(I_lim − I_load) against the time a hiccuping supply waits.
fn starts(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, supply) in plan.supplies.iter().enumerate() {
        let (Some(limit), true) = (&supply.limit, supply.hiccups) else { continue };
        let Some(own) = plan.node_id(NodeKind::Supply(i)) else { continue };
        let on_it = plan.capacitors.iter().filter(|c| way_up(plan, c.across.id).last() == Some(&own));
        let farads: f64 = on_it.map(|c| c.capacitance.high.get()).sum();
        if farads == 0.0 {
            continue;
        }
        let name = &supply.name.text;
        let starts = || context.outcomes.iter().filter(|o| o.case.scenario == Scenario::Start);
        let load = worst_of(starts(), |o| Some(o.wanted.as_ref().ok()?.current_of(NodeKind::Supply(i))));
        let load = load.map_or(0.0, |(_, amps)| amps.max(0.0));
        let known = starts().all(|o| o.wanted.is_ok());
        let (volts, left) = (supply.voltage.high.get(), limit.low.get() - load);
        let time = charging_time(Farads::new(RAMP * farads), supply.voltage.high, limit.low, Amps::new(load));
        let seconds = time.unwrap_or(Seconds::new(f64::MAX));
        if at_most(seconds.get(), HICCUP_S) {
            if known {
                sink.pass(name, || format!("its capacitors are charged after {seconds}"));
            }
            continue;
        }
        let total = Farads::new(farads);
        let how = if left > 0.0 { format!("takes {seconds}") } else { "never ends".to_owned() };
        let most = Farads::new((HICCUP_S * left / (RAMP * volts)).max(0.0));
        let mut evidence = vec![
            Evidence::judged("capacitance", total),
            Evidence::at_most("limit", limit.low, &limit.origin),
            Evidence::computed("load", Amps::new(load)),
            Evidence::context(
                "waits",
                Seconds::new(HICCUP_S),
                &Origin::Default("27 ms: a hiccup delay of 20 ms .. 100 ms and a ramp (typical)"),
            ),
        ];
        if left > 0.0 {
            evidence.push(Evidence::computed("time", seconds));
            evidence.push(Evidence::computed("enough_capacitance", most));
        }
        sink.find(
            Draft::of(if at_most(seconds.get(), NEVER_S) { Severity::Caution } else { Severity::Fault }, &supply.name)
                .says(format!(
                    "`{name}` limits at {}, of which its load draws {}: charging {total} {how}; it shuts down after \
                    {}",
                    limit.low,
                    Amps::new(load),
                    Seconds::new(HICCUP_S)
                ))
                .facts(evidence),
        );
    }
}
