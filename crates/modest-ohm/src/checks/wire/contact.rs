//! contact-overloaded: wanted continuous current against what a plug, terminal, header or breadboard row carries.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::names::lead_name;
use crate::plan::Contact;
use crate::quantity::Amps;
use crate::ratings::contacts_of;
use crate::text::Span;

/// Below this a contact of which nothing is known passes without a word.
const WORTH_ASKING_A: f64 = 0.5;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut nameless: Vec<(String, Span)> = Vec::new();
    let mut seen = Vec::new();
    for info in &context.layout.conductors {
        if seen.contains(&info.run) || !context.alive(info.back) {
            continue;
        }
        seen.push(info.run);
        let contacts: Vec<&Contact> = contacts_of(plan, info.run).collect();
        let members: Vec<_> = context.layout.conductors.iter().filter(|c| c.run == info.run).collect();
        let wanted = context.worst_sustained(|s| {
            let amps = |c: &&crate::network::ConductorInfo| {
                let feed = c.feed.map_or(0.0, |b| s.solution.current[b].abs());
                feed.max(s.solution.current[c.back].abs())
            };
            members.iter().map(amps).fold(0.0, f64::max)
        });
        let (Some(wanted), false) = (wanted, contacts.is_empty()) else { continue };
        let (name, amps) = (lead_name(plan, info), Amps::new(wanted.value));
        let weakest = contacts.iter().filter_map(|c| Some((c.rating_a()?, *c)));
        let weakest = weakest.reduce(|a, b| if b.0 < a.0 { b } else { a });
        if let Some(unrated) = contacts.iter().find(|c| c.rating.is_none() && wanted.value > WORTH_ASKING_A) {
            nameless.push((format!("{} of `{name}`", unrated.name), unrated.span));
        }
        let Some((carries, contact)) = weakest else { continue };
        let limit = Amps::new(carries);
        if amps.get() <= carries * (1.0 + 1e-9) {
            if context.all_sustained() {
                sink.pass(name, format!("{amps} of {limit}"));
            }
            continue;
        }
        let Some(rating) = &contact.rating else { continue };
        sink.find(Draft {
            severity: Severity::Danger,
            subject: name,
            span: contact.span,
            at: Some(&wanted),
            message: format!(
                "`{name}` takes {amps} through {}, and each conductor of that carries {limit}",
                contact.words()
            ),
            cures: vec![cure(contact, amps)],
            evidence: vec![Evidence::computed("wanted", amps), Evidence::new("rating", limit, &rating.origin)],
        });
    }
    if let Some((first, span)) = nameless.first() {
        let names: Vec<&str> = nameless.iter().map(|(n, _)| n.as_str()).collect();
        let message = format!("more than 0.5 A goes through contacts of which nothing is known: {}", names.join(", "));
        let subject = first.rsplit('`').nth(1).unwrap_or(first);
        sink.unknown(subject, *span, message, "give what one contact carries: `current = \"3 A\"`, or name a class");
    }
}

fn cure(contact: &Contact, amps: Amps) -> String {
    let Some(one) = contact.rating.as_ref().map(|r| r.low.get()).filter(|a| *a > 0.0) else {
        return "take a contact that carries it".into();
    };
    let many = (amps.get() / one).ceil();
    if many <= 4.0 {
        format!("take a joint whose contacts carry {amps}, or {many:.0} contacts side by side (`contacts = {many:.0}`)")
    } else {
        format!("take a joint whose contacts carry {amps}: feed it past this one")
    }
}
