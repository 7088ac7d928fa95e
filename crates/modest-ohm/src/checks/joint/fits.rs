//! wire-does-not-fit: a conductor's size against what its joint takes.

use super::meets::{joints, leads_at, own_contacts};
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
    for (i, name, joint) in joints(plan) {
        for lead in leads_at(plan, layout, i) {
            judge(sink, lead.name, lead.cable, &joint.contact, &format!("`{}`", name.text), lead.cable.span);
        }
    }
    for (name, cable, contact, _) in own_contacts(plan, layout) {
        judge(sink, name, cable, contact, &contact.words(), contact.span);
    }
}

fn judge(sink: &mut Sink, name: &str, cable: &Cable, contact: &Contact, into: &str, span: Span) {
    let (Some(size), Some((thinnest, thickest))) = (cable.size, contact.conductors) else { return };
    let (severity, limit, what, cure) = if size.area_mm2() > thickest.area_mm2() * ROUNDING {
        (Severity::Fault, thickest, "does not go into", "take a larger joint, or a thinner wire on the last piece")
    } else if size.area_mm2() * ROUNDING < thinnest.area_mm2() {
        (
            Severity::Caution,
            thinnest,
            "is not held in",
            "take a smaller joint, a ferrule of its size, or a thicker wire",
        )
    } else {
        sink.pass(name, format!("{} in {into}", size.name()));
        return;
    };
    sink.find(
        Draft::of(severity, (name, span))
            .says(format!(
                "{} of `{name}` {what} {into}, which takes {} .. {}",
                WireSize::name(size),
                thinnest.name(),
                thickest.name()
            ))
            .cure(format!("{cure} ({} at the limit)", limit.name())),
    );
}
