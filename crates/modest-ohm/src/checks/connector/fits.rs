//! wire-size-mismatch: a conductor's size against what its connector takes.

use super::meets::{connectors, leads_at, own_contacts};
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::contact::Contact;
use crate::source::Span;
use crate::tables::wire::WireSize;
use crate::verdict::severity::Severity;

/// Sizes of two systems never agree to the last digit (1.5 mm² and 15 AWG, 2.5 mm² and 13 AWG).
const ROUNDING: f64 = 1.01;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let (plan, layout) = (context.plan, context.layout);
    for (i, name, connector) in connectors(plan) {
        for lead in leads_at(plan, layout, i) {
            judge(sink, lead.name, lead.cable, &connector.contact, &format!("`{}`", name.text), lead.cable.span);
        }
    }
    for (name, cable, contact, _) in own_contacts(plan, layout) {
        judge(sink, name, cable, contact, &contact.words(), contact.span);
    }
}

fn judge(sink: &mut Sink, name: &str, cable: &Cable, contact: &Contact, into: &str, span: Span) {
    let (Some(size), Some((thinnest, thickest))) = (cable.size, contact.conductors) else { return };
    let (severity, what) = if size.area_mm2() > thickest.area_mm2() * ROUNDING {
        (Severity::Fault, "is too thick for")
    } else if size.area_mm2() * ROUNDING < thinnest.area_mm2() {
        (Severity::Caution, "is too thin for")
    } else {
        sink.pass(name, || format!("{} in {into}", size.name()));
        return;
    };
    sink.find(Draft::of(severity, (name, span)).says(format!(
        "{} of `{name}` {what} {into}, which accepts {} .. {}",
        WireSize::name(size),
        thinnest.name(),
        thickest.name()
    )));
}
