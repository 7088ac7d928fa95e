//! end-unsuited: how a lead end is made against what holds in its joint.

use super::meets::{joints, leads_at, made, own_contacts};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::wiring::contact::{Contact, LeadEnd};
use crate::source::Span;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let (plan, layout) = (context.plan, context.layout);
    for (i, name, joint) in joints(plan) {
        for lead in leads_at(plan, layout, i) {
            let into = format!("`{}`", name.text);
            judge(sink, lead.name, lead.made(), &joint.contact, &into, lead.cable.span);
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
        sink.pass(name, format!("{} in {into}", end.word()));
        return;
    }
    let why = match end {
        LeadEnd::Soldered => "solder creeps under pressure, and the contact gets loose and hot",
        LeadEnd::Bare => "loose strands spread, break and touch their neighbours",
        LeadEnd::Solid => "one stiff wire works loose there",
        _ => "it does not hold there",
    };
    let holds: Vec<&str> = contact.takes.iter().map(|t| t.word()).collect();
    sink.find(
        Draft::caution((name, span))
            .says(format!("a {} end of `{name}` goes into {into}: {why}", end.word()))
            .cure(format!("what holds there: {}", holds.join(", "))),
    );
}
