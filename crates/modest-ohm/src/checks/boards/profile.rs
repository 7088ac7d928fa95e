//! profile-not-offered and profile-power: what is asked of a negotiated source against what it lists.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::negotiated::{Negotiation, Offer};
use crate::plan::kinds::supply::Supply;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Volts};
use crate::size::supply::UNMARKED_A;
use crate::topology::parts::{Part, parts};
use crate::topology::rail::way_up;
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
                let cure = other_profile(context, supply, n, wanted);
                sink.find(
                    Draft::fault((name, supply.name.span))
                        .says(format!("`{name}` is set to {wanted} but offers {}: it supplies 5 V", list(n)))
                        .judged_as_given("selected", wanted, &n.selected.origin)
                        .with("arrives", Volts::new(5.0))
                        .cures(cure),
                );
            }
        }
    }
}

/// The profiles that the source lists and all that is connected to it withstands: the one that suits it, else one with
/// a converter behind it; another source only where the wanted voltage harm nothing.
fn other_profile(context: &Context<'_>, supply: &Supply, n: &Negotiation, wanted: Volts) -> Vec<String> {
    let plan = context.plan;
    let own = plan.supplies.iter().position(|s| s.name.text == supply.name.text);
    let node = own.and_then(|i| plan.node_id(NodeKind::Supply(i)));
    let on_it = || parts(plan).into_iter().filter(|p| node.is_some_and(|n| way_up(plan, p.from).contains(&n)));
    let stands = on_it().filter_map(|p| p.stands).fold(f64::INFINITY, f64::min);
    let volts = || n.profiles.iter().map(|p| p.volts).filter(|v| at_most(v.get(), stands));
    let (lower, higher) =
        (|a: Volts, b: Volts| if b < a { b } else { a }, |a: Volts, b: Volts| if b > a { b } else { a });
    let mut cures = Vec::new();
    if at_most(wanted.get(), stands) {
        // Stepping down takes less current and finds more converters than stepping up.
        let next = volts().filter(|v| *v > wanted).reduce(lower).or_else(|| volts().reduce(higher));
        cures.extend(next.map(|v| format!("set it to {v} and add a converter: `selected = \"{v}\"`")));
        cures.push(format!("or use a source that offers {wanted}"));
    } else {
        // The selected voltage would destroy what is fed from it.
        let next = volts().reduce(higher);
        cures
            .extend(next.map(|v| format!("set it to {v}, which everything it feeds withstands: `selected = \"{v}\"`")));
        cures.push(format!("{} withstands {}", list_of(on_it(), stands), Volts::new(stands)));
    }
    cures
}

/// The part that withstands least, by name.
fn list_of<'p>(mut parts: impl Iterator<Item = Part<'p>>, stands: f64) -> String {
    let weakest = parts.find(|p| p.stands.is_some_and(|v| at_most(v, stands)));
    weakest.map_or_else(|| "what it feeds".into(), |p| format!("`{}`", p.name.text))
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
        let (why, cure) = if by_lead {
            (
                format!("its cable has no electronic marker and is rated {gives}"),
                "use a cable marked for 5 A and write `marked-cable = true`".to_owned(),
            )
        } else {
            let volts = n.selected.typical;
            (
                format!("offers {} at {volts}", profile.current),
                format!("request {gives} or less, select a higher voltage, or use a source of higher power"),
            )
        };
        sink.find(
            Draft::fault((name, supply.name.span))
                .says(format!("`{name}` must supply {}; it {why}", asks.typical))
                .judged_as_given("requested", asks.typical, &asks.origin)
                .at_most("rating", gives, &Origin::Computed)
                .cure(cure),
        );
    }
}
