//! wire-end-unsuitable: how a cable end is made against what holds in its connector.

use super::meets::{connectors, leads_at, made, own_contacts};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::wiring::contact::{Contact, LeadEnd};
use crate::source::Span;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let (plan, layout) = (context.plan, context.layout);
    for (i, name, connector) in connectors(plan) {
        for lead in leads_at(plan, layout, i) {
            let into = format!("`{}`", name.text);
            judge(sink, lead.name, lead.made(), &connector.contact, &into, lead.cable.span);
        }
    }
    for (name, cable, contact, end) in own_contacts(plan, layout) {
        if let Some(end) = end {
            judge(sink, name, made(cable, end), contact, &contact.words(), cable.span);
        }
    }
}

fn judge(sink: &mut Sink, name: &str, end: Option<LeadEnd>, contact: &Contact, into: &str, span: Span) {
    let (Some(end), false) = (end, contact.takes.is_empty()) else { return };
    if contact.takes.contains(&end) {
        sink.pass(name, || format!("{} in {into}", end.word()));
        return;
    }
    let why = match end {
        LeadEnd::Soldered => "solder creeps under pressure; the contact loosens and heats up",
        LeadEnd::Bare => "loose strands spread, break and touch their neighbours",
        LeadEnd::Solid => "a single solid wire works loose in it",
        _ => "it does not hold in it",
    };
    sink.find(Draft::caution((name, span)).says(format!("`{name}` has a {} end in {into}: {why}", end.word())));
}
