//! profile-not-offered and profile-power: what is asked of a negotiated source against what it lists.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::negotiated::{Negotiation, Offer};
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Volts};
use crate::size::supply::UNMARKED_A;
use crate::verdict::compare::at_most;

fn list(n: &Negotiation) -> String {
    let each: Vec<String> = n.profiles.iter().map(|p| format!("{} {}", p.volts, p.current)).collect();
    each.join(", ")
}

pub(crate) fn not_offered(context: &Context<'_>, sink: &mut Sink) {
    for supply in &context.plan.supplies {
        let (name, Some(n)) = (&supply.name.text, &supply.negotiation) else { continue };
        let wanted = n.selected.typical;
        match n.offer {
            Offer::Offered(profile) => {
                sink.pass(name, format!("{wanted} at {} is in its list", profile.current));
            }
            Offer::NotKnown => sink.unknown(
                name,
                supply.name.span,
                format!(
                    "`{name}` is asked for {wanted}, which sources may leave out and often do; its list is not given"
                ),
                "list what its label says: `profiles = [\"5 V 3 A\", \"9 V 3 A\", \"12 V 3 A\"]`",
            ),
            Offer::NotOffered => {
                // Stepping down takes less current and finds more converters than stepping up.
                let volts = || n.profiles.iter().map(|p| p.volts);
                let lower = |a: Volts, b: Volts| if b < a { b } else { a };
                let higher = |a: Volts, b: Volts| if b > a { b } else { a };
                let next = volts().filter(|v| *v > wanted).reduce(lower).or_else(|| volts().reduce(higher));
                let ask = next.map_or_else(String::new, |v| format!("ask for {v}, with a converter behind it, or "));
                sink.find(
                    Draft::fault((name, supply.name.span))
                        .says(format!("`{name}` is asked for {wanted} and lists {}: 5.00 V arrives", list(n)))
                        .judged_as_given("selected", wanted, &n.selected.origin)
                        .with("arrives", Volts::new(5.0))
                        .cure(format!("{ask}take a source that lists {wanted}")),
                );
            }
        }
    }
}

pub(crate) fn power(context: &Context<'_>, sink: &mut Sink) {
    for supply in &context.plan.supplies {
        let (name, Some(n)) = (&supply.name.text, &supply.negotiation) else { continue };
        let (Some(asks), Offer::Offered(profile)) = (&n.asks, n.offer) else { continue };
        let lead = if n.marked_cable { f64::INFINITY } else { UNMARKED_A };
        let gives = Amps::new(profile.current.get().min(lead));
        if at_most(asks.typical.get(), gives.get()) {
            sink.pass(name, format!("{} of {gives}", asks.typical));
            continue;
        }
        let by_lead = profile.current.get() > lead && at_most(asks.typical.get(), profile.current.get());
        let (why, cure) = if by_lead {
            (
                format!("its lead gives {gives} without an electronic mark"),
                "take a lead marked for 5 A and say so: `marked-cable = true`".to_owned(),
            )
        } else {
            let volts = n.selected.typical;
            (
                format!("lists {} at {volts}", profile.current),
                format!("ask for {gives} or less, or for higher volts, or take a source of more power"),
            )
        };
        sink.find(
            Draft::fault((name, supply.name.span))
                .says(format!("`{name}` is asked for {} and {why}", asks.typical))
                .judged_as_given("asks", asks.typical, &asks.origin)
                .at_most("gives", gives, &Origin::Computed)
                .cure(cure),
        );
    }
}
