//! relay-contact: what a contact breaks, by the kind of load and its voltage.

use crate::derived::context::{Context, Worst, worst_of};
use crate::derived::flyback_path::path_of;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::figures::Relay;
use crate::plan::kinds::flyback::Flyback;
use crate::plan::kinds::load::{Load, Nature};
use crate::plan::model::Plan;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Volts};
use crate::size::relay::{ContactLoad, contact_breaks, contact_makes};
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::outcome::Outcome;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for channel in channels(context.plan) {
        let Some(relay) = channel.driver.relay() else { continue };
        judge(context, sink, &channel, relay);
    }
}

/// What is behind a channel, of several what starts with most.
fn load_of(plan: &Plan, channel: &Channel<'_>) -> (ContactLoad, bool) {
    let loads: Vec<&Load> = plan.loads_behind(channel.run).map(|i| &plan.loads[i]).collect();
    let kind = |l: &&Load| match l.nature {
        Some(Nature::Motor) => ContactLoad::Motor,
        Some(Nature::Coil) => ContactLoad::Coil,
        Some(Nature::Lamp) => ContactLoad::Lamp,
        Some(Nature::Electronics | Nature::Servo) => ContactLoad::Capacitive,
        _ => ContactLoad::Resistive,
    };
    let undamped = loads.iter().any(|l| {
        let damped = matches!(path_of(channel, l), Some(f) if !matches!(f, Flyback::Nothing));
        l.nature == Some(Nature::Coil) && !damped
    });
    let worst = loads.iter().map(kind).fold(ContactLoad::Resistive, |a, b| if b.start() > a.start() { b } else { a });
    (worst, undamped)
}

/// An undamped coil draws its arc out: so much of what a contact breaks is left (typical).
const UNDAMPED: f64 = 0.3;

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, relay: &Relay) {
    let name = channel.name();
    let flows = |o: &Outcome| channel.amps(o.sustained.as_ref().ok()?);
    let Some((o, amps)) = worst_of(context.continuous(), flows) else { return };
    if amps <= 1e-9 {
        return;
    }
    let volts = |o: &Outcome| channel.holds_v(o.actual.as_ref().ok()?);
    let most_v = worst_of(context.outcomes.iter(), volts).map_or(0.0, |(_, v)| v);
    let carries = Amps::new(amps);
    let Some(rating) = &channel.driver.current else {
        let message =
            format!("cannot check the contacts of {} ({carries}): their rating is not given", channel.words());
        sink.unknown(name, channel.span(), message, "write `current`, or set `part`");
        return;
    };
    let (load, undamped) = load_of(context.plan, channel);
    let share = contact_breaks(relay.dc_volts.low, Volts::new(most_v)).get() * if undamped { UNDAMPED } else { 1.0 };
    let may = rating.low * share;
    if !at_most(carries.get(), may.get()) {
        let arc = if may < rating.low {
            let undamped = if undamped { " an undamped coil" } else { "" };
            format!(", and breaks {may} of{undamped} at {}: the arc may not extinguish", Volts::new(most_v))
                .replace("of at", "at")
        } else {
            String::new()
        };
        sink.find(
            Draft::danger((name, channel.span()))
                .at(&context.worst_at(o, amps, flows))
                .says(format!(
                    "the contact of `{name}` switches {carries} of {}; rated {}{arc}",
                    channel.behind_words(),
                    rating.low
                ))
                .judged("switches", carries)
                .at_most("rating", may, &rating.origin)
                .with("voltage", Volts::new(most_v)),
        );
        return;
    }
    closes(context, sink, channel, relay, rating.low, load, (o, carries, may));
}

/// What it closes on: the start that the plan states or assumes, for a lamp that of a cold filament.
fn closes(
    context: &Context<'_>,
    sink: &mut Sink,
    channel: &Channel<'_>,
    relay: &Relay,
    rating: Amps,
    load: ContactLoad,
    (o, carries, may): (&Outcome, Amps, Amps),
) {
    let name = channel.name();
    let starts = |o: &Outcome| channel.amps(o.wanted.as_ref().ok()?);
    let start = worst_of(context.outcomes.iter(), starts);
    let of_lamps: f64 = context.plan.loads_behind(channel.run).map(|i| cold_a(context, i)).sum();
    let (at, peak) = start.map_or((o, carries.get()), |(o, a)| (o, a));
    let peak = Amps::new(peak.max(of_lamps));
    let makes = contact_makes(rating, relay.making.as_ref().map(|m| m.low), load, false);
    let severity = if at_most(peak.get(), makes.get()) {
        if context.all_sustained() {
            sink.pass(name, || format!("{carries} of {may}, closes on {peak} of {makes}"));
        }
        return;
    } else if at_most(peak.get(), 2.0 * makes.get()) {
        Severity::Caution
    } else {
        Severity::Fault
    };
    let comes = if severity == Severity::Fault { "it may weld" } else { "it wears quickly" };
    let origin = relay
        .making
        .as_ref()
        .map_or(Origin::Default("three times the rating, typical of contacts"), |m| m.origin.clone());
    sink.find(
        Draft::of(severity, (name, channel.span()))
            .at(&Worst::at(at, peak.get()))
            .says(format!(
                "the contact of `{name}` closes on {peak} when {} starts; rated {makes}: {comes}",
                channel.behind_words()
            ))
            .judged("closes_on", peak)
            .at_most("making_current", makes, &origin)
            .given("rating", rating, &origin),
    );
}

/// What a cold filament takes: 12 times its running current (typical), where no start is stated.
fn cold_a(context: &Context<'_>, load: usize) -> f64 {
    let own = &context.plan.loads[load];
    if own.nature != Some(Nature::Lamp) || own.demand.has_surge() {
        return 0.0;
    }
    let runs = context.worst_sustained(|s| s.current_into(load)).map_or(0.0, |w| w.value);
    ContactLoad::Lamp.start() * runs
}
