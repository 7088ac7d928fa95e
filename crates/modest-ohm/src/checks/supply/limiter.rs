//! inrush-limiter: an NTC limiter's continuous current, and the energy of the inrush through it.

use crate::derived::closing;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::limiter::Limiter;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::contact::Bears;
use crate::plan::wiring::name::Name;
use crate::quantity::units::{Amps, Farads, Fraction, Joules, Ohms};
use crate::topology::rail::way_up;
use crate::verdict::compare::{at_most, exceeds, is_below};
use crate::verdict::severity::Severity;

/// Below this share of its rating it does not get warm, and keeps much of its cold resistance (typical).
const STAYS_COLD: f64 = 0.3;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (i, branch) in context.plan.branches.iter().enumerate() {
        let RunKind::Limiter(limiter) = &branch.kind else { continue };
        let (Some(element), Some(own)) = (context.layout.elements[i], context.plan.node_id(NodeKind::Branch(i))) else {
            continue;
        };
        let amps = context.worst_sustained(|s| s.amps(element).abs());
        let carried = amps.is_some_and(|at| carries(context, sink, &branch.name, limiter, &at));
        let charged = charges(context, sink, &branch.name, limiter, own);
        if !carried && !charged && context.all_sustained() {
            sink.pass(&branch.name.text, || "it is rated for its current and its inrush".into());
        }
    }
}

/// Says whether its continuous current is wrong for it.
fn carries(
    context: &Context<'_>,
    sink: &mut Sink,
    name: &Name,
    limiter: &Limiter,
    at: &crate::derived::context::Worst,
) -> bool {
    let (amps, text) = (Amps::new(at.value), &name.text);
    let Some(rating) = &limiter.rating else {
        let message = format!("cannot check limiter `{text}` ({amps}): its continuous rating is not given");
        sink.unknown(text, name.span, message, "write the datasheet value: `current = \"4 A\"`");
        return true;
    };
    if exceeds(amps.get(), rating.low.get()) {
        let little = at_most(amps.get(), Bears::Contact.share() * rating.low.get());
        sink.find(
            Draft::of(if little { Severity::Caution } else { Severity::Danger }, name)
                .at(at)
                .says(format!("limiter `{text}` carries {amps}; rated {}", rating.low))
                .judged("carries", amps)
                .at_most("rating", rating.low, &rating.origin),
        );
        return true;
    }
    if amps.get() > 0.0 && is_below(amps.get(), STAYS_COLD * rating.typical.get()) && context.all_sustained() {
        sink.find(
            Draft::advisory(name)
                .at(at)
                .says(format!(
                    "limiter `{text}` carries {} of its {}: it stays cool and keeps much of its cold {}",
                    Fraction::new(amps.get() / rating.typical.get()),
                    rating.typical,
                    limiter.cold.typical
                ))
                .judged("carries", amps)
                .given("rating", rating.typical, &rating.origin),
        );
        return true;
    }
    false
}

/// Says whether the capacitors behind it bring more energy than it withstands.
fn charges(
    context: &Context<'_>,
    sink: &mut Sink,
    name: &Name,
    limiter: &Limiter,
    own: crate::plan::wiring::feed::NodeId,
) -> bool {
    let (plan, text) = (context.plan, &name.text);
    let Some(energy) = &limiter.energy else { return false };
    let behind = closing::behind(plan, own);
    let farads = |stated: bool| behind.iter().filter(|c| c.stated || !stated).map(|c| c.farads).sum::<f64>();
    let Some(at) = context.worst_actual(|o| o.case.continuous, |_, s| s.volts_at(*way_up(plan, own).last()?)) else {
        return false;
    };
    let joules = |farads: f64| 0.5 * farads * at.value * at.value;
    let (sure, all) = (joules(farads(true)), joules(farads(false)));
    let most = energy.low.get();
    let (severity, joules, from) = match () {
        () if exceeds(sure, most) => (Severity::Fault, sure, farads(true)),
        () if exceeds(all, most) => (Severity::Caution, all, farads(false)),
        () => return false,
    };
    sink.find(
        Draft::of(severity, name)
            .at(&at)
            .says(format!(
                "charging {} through limiter `{text}` dissipates {}; rated {}",
                Farads::new(from),
                Joules::new(joules),
                energy.low
            ))
            .judged("inrush", Joules::new(joules))
            .at_most("energy", energy.low, &energy.origin)
            .with("cold", Ohms::new(limiter.cold.low.get())),
    );
    true
}
