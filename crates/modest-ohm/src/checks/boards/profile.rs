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
                sink.pass(name, || format!("{wanted} at {} is offered", profile.current));
            }
            Offer::NotKnown => sink.unknown(
                name,
                supply.name.span,
                format!("`{name}` is set to {wanted}, which many sources do not offer; its profiles are not given"),
                "write what its label lists: `profiles = [\"5 V 3 A\", \"9 V 3 A\", \"12 V 3 A\"]`",
            ),
            Offer::NotOffered => {
                sink.find(
                    Draft::fault((name, supply.name.span))
                        .says(format!("`{name}` is set to {wanted} but offers {}: it supplies 5 V", list(n)))
                        .judged_as_given("selected", wanted, &n.selected.origin)
                        .with("arrives", Volts::new(5.0)),
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
            sink.pass(name, || format!("{} of {gives}", asks.typical));
            continue;
        }
        let by_lead = profile.current.get() > lead && at_most(asks.typical.get(), profile.current.get());
        let why = if by_lead {
            format!("its cable has no electronic marker and is rated {gives}")
        } else {
            let volts = n.selected.typical;
            format!("offers {} at {volts}", profile.current)
        };
        sink.find(
            Draft::fault((name, supply.name.span))
                .says(format!("`{name}` must supply {}; it {why}", asks.typical))
                .judged_as_given("requested", asks.typical, &asks.origin)
                .at_most("rating", gives, &Origin::Computed),
        );
    }
}
