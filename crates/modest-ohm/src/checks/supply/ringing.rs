//! plug-in-ringing: a contact that closes on ceramic capacitors over a cable: the voltage swings far above the
//! source's.

use crate::derived::closing::{self, Capacitance};
use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Corner, Figure};
use crate::quantity::units::{Farads, Volts};
use crate::size::closing::Closing;
use crate::topology::rail::way_up;
use crate::verdict::compare::exceeds;

/// Class 2 ceramics have about half of their capacitance left at their rail's voltage (typical 20 .. 50 %).
const BIASED: f64 = 0.5;
/// An electrolytic capacitor of so many times the ceramic one, with about the impedance of the loop, damps it.
const DAMPS: f64 = 4.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let stiff = |o: &&crate::solved::outcome::Outcome| {
        o.case.scenario == Scenario::Idle && o.corner == Corner::High && o.actual.is_ok()
    };
    let Some(outcome) = context.outcomes.iter().find(stiff) else { return };
    let plan = context.plan;
    for contact in closing::contacts(plan) {
        // What only a class of loads may have inside is not known to be ceramic.
        let stated: Vec<Capacitance> = closing::behind(plan, contact.node).into_iter().filter(|c| c.stated).collect();
        let rings = |capacitors: &[Capacitance]| {
            let closes = closing::closing(context, outcome, &contact, capacitors)?;
            let capacitance = Farads::new(BIASED * closes.capacitance.get());
            Some(Closing { capacitance, ..closes })
        };
        let Some(loop_) = rings(&stated) else { continue };
        let z0 = (loop_.inductance.get() / loop_.capacitance.get().max(1e-15)).sqrt();
        let (ceramic, electrolytic): (Vec<_>, Vec<_>) = stated.iter().partition(|c| c.esr < z0.min(LOW_OHMS));
        let ceramic_f: f64 = ceramic.iter().map(|c: &&Capacitance| c.farads).sum();
        let damps = |c: &&Capacitance| c.farads >= DAMPS * ceramic_f && c.esr >= 0.5 * z0 && c.esr <= 1.5 * z0;
        let clamped = plan.clamps.iter().any(|c| way_up(plan, c.across.id).contains(&contact.node));
        if ceramic.is_empty() || electrolytic.iter().any(damps) || clamped {
            sink.pass(contact.name, || "closes on nothing that rings".into());
            continue;
        }
        let ceramic: Vec<Capacitance> = ceramic.into_iter().copied().collect();
        let Some(closes) = rings(&ceramic) else { continue };
        let Some((name, span, most)) = weakest(plan, contact.node) else { continue };
        let peak = closes.swings_to();
        if !exceeds(peak.get(), most.typical.get()) {
            sink.pass(contact.name, || format!("rings up to {peak}; rated {}", most.typical));
            continue;
        }
        let top = Volts::new(2.5 * closes.volts.get());
        sink.find(
            Draft::caution((name, span))
                .at(&Worst::at(outcome, peak.get()))
                .says(format!(
                    "closing `{}` makes {} ring to about {peak} at `{name}`, up to {top}; rated {}",
                    contact.name, closes.volts, most.typical
                ))
                .judged("swings_to", peak)
                .at_most("maximum", most.typical, &most.origin)
                .with("inductance", closes.inductance)
                .with("resistance", closes.ohms),
        );
    }
}

/// Capacitors of less are ceramic or film, Ω.
const LOW_OHMS: f64 = 0.05;

/// Of what is fed through a node the part that withstands least.
fn weakest(plan: &Plan, node: NodeId) -> Option<(&str, crate::source::Span, Figure<Volts>)> {
    let behind = |at: NodeId| way_up(plan, at).contains(&node);
    let converters = plan.converters.iter().filter(|c| behind(c.feed.from.id));
    let converters = converters.map(|c| (c.name.text.as_str(), c.name.span, c.input_maximum()));
    let boards = plan.boards.iter().filter(|c| c.feed.as_ref().is_some_and(|f| behind(f.from.id)));
    let boards = boards.filter_map(|c| Some((c.name.text.as_str(), c.name.span, c.absolute.clone()?)));
    let loads = plan.loads.iter().filter(|l| behind(l.feed.from.id) && !l.is_plain());
    let loads = loads.filter_map(|l| Some((l.name.text.as_str(), l.name.span, l.absolute_maximum()?)));
    converters.chain(boards).chain(loads).min_by(|a, b| a.2.typical.get().total_cmp(&b.2.typical.get()))
}
