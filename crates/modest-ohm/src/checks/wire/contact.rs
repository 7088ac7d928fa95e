//! contact-overloaded: wanted continuous current against what a plug, terminal, header or breadboard row carries.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::layout::ConductorInfo;
use crate::network::names::lead_name;
use crate::network::switched_feed::feed_in;
use crate::plan::model::Plan;
use crate::plan::wiring::contact::Contact;
use crate::quantity::units::Amps;
use crate::solved::outcome::Outcome;
use crate::source::Span;
use crate::topology::conductors::{cable_of, contacts_in};
use crate::topology::run::Run;
use crate::verdict::compare::at_most;
use crate::verdict::severity::Severity;

/// Below this a contact of which nothing is known passes without a word.
const WORTH_ASKING_A: f64 = 0.5;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    super::header::run(context, sink);
    super::holder::run(context, sink);
    let plan = context.plan;
    let mut nameless: Vec<(String, Span)> = Vec::new();
    let mut seen = Vec::new();
    for info in &context.layout.conductors {
        if seen.contains(&info.run) || !context.alive(info.back) {
            continue;
        }
        seen.push(info.run);
        let members: Vec<_> = context.layout.conductors.iter().filter(|c| c.run == info.run).collect();
        let amps = |o: &Outcome| {
            let s = o.sustained.as_ref().ok()?;
            let of = |c: &&ConductorInfo| {
                let feed = c.feed.map_or(0.0, |b| s.amps(b).abs());
                feed.max(s.amps(c.back).abs())
            };
            Some(members.iter().map(of).fold(0.0, f64::max))
        };
        let name = lead_name(plan, info);
        let unrated = worst_of(context.continuous(), |o| {
            contacts(plan, info.run, o).find(|c| c.rating.is_none()).and(amps(o)).filter(|a| *a > WORTH_ASKING_A)
        });
        if let Some(contact) = unrated.and_then(|(o, _)| contacts(plan, info.run, o).find(|c| c.rating.is_none())) {
            nameless.push((format!("{} of `{name}`", contact.name), contact.span));
        }
        // The weakest contact where it is most loaded: a change-over switch has its own on each throw.
        let share = |o: &Outcome| Some(amps(o)? / weakest(plan, info.run, o)?.0);
        let Some((o, _)) = worst_of(context.continuous(), share) else { continue };
        let (Some(wanted), Some((carries, contact))) = (amps(o), weakest(plan, info.run, o)) else { continue };
        let wanted = Worst::at(o, wanted);
        let (amps, limit) = (Amps::new(wanted.value), Amps::new(carries));
        if at_most(amps.get(), carries) {
            if context.all_sustained() {
                sink.pass(name, || format!("{amps} of {limit}"));
            }
            continue;
        }
        let Some(rating) = &contact.rating else { continue };
        let severity =
            if at_most(amps.get(), contact.bears.share() * carries) { Severity::Caution } else { Severity::Danger };
        sink.find(
            Draft::of(severity, (name, contact.span))
                .at(&wanted)
                .says(format!("`{name}` carries {amps} through {}; rated {limit} per conductor", contact.words()))
                .judged("demand", amps)
                .at_most("rating", limit, &rating.origin),
        );
    }
    if let Some((first, span)) = nameless.first() {
        let names: Vec<&str> = nameless.iter().map(|(n, _)| n.as_str()).collect();
        let message = format!(
            "cannot check contacts that carry more than 0.5 A, their rating is not given: {}",
            names.join(", ")
        );
        let subject = first.rsplit('`').nth(1).unwrap_or(first);
        sink.unknown(subject, *span, message, "write the rating of one contact: `current = \"3 A\"`, or set `part`");
    }
}

/// The contacts of a run in an outcome.
fn contacts<'p>(plan: &'p Plan, run: Run, o: &Outcome) -> impl Iterator<Item = &'p Contact> + use<'p> {
    contacts_in(plan, run, feed_in(plan, run, &o.case.demands), cable_of(plan, run))
}

/// What the weakest of them carries continuously, A, and which it is.
fn weakest<'p>(plan: &'p Plan, run: Run, o: &Outcome) -> Option<(f64, &'p Contact)> {
    let rated = contacts(plan, run, o).filter_map(|c| Some((c.rating_a()?, c)));
    rated.reduce(|a, b| if b.0 < a.0 { b } else { a })
}
