//! relay-contact: what a contact breaks, by the kind of load and its volts.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::figures::Relay;
use crate::plan::kinds::load::Nature;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Volts};
use crate::size::relay::{ContactLoad, contact_dc, contact_share};
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::outcome::Outcome;
use crate::verdict::compare::at_most;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for channel in channels(context.plan) {
        let Some(relay) = channel.driver.relay() else { continue };
        judge(context, sink, &channel, relay);
    }
}

/// What hangs on a channel, of several what leaves least of the rating.
fn load_of(plan: &Plan, channel: &Channel<'_>) -> (ContactLoad, &'static str) {
    let loads = plan.loads_behind(channel.run).map(|i| match plan.loads[i].nature {
        Some(Nature::Motor) => (ContactLoad::Motor, "a motor"),
        Some(Nature::Coil) => (ContactLoad::Coil, "a coil"),
        Some(Nature::Lamp) => (ContactLoad::Lamp, "a lamp"),
        Some(Nature::Electronics | Nature::Servo) => (ContactLoad::Capacitive, "electronics, whose capacitors charge"),
        _ => (ContactLoad::Resistive, "no coil, lamp or capacitor"),
    });
    let node = plan.node_id(NodeKind::Branch(channel.run));
    let converter = plan.converters.iter().any(|c| Some(c.feed.from.id) == node);
    let board = plan.controllers.iter().any(|c| c.feed.as_ref().map(|f| f.from.id) == node);
    let other =
        (converter || board).then_some((ContactLoad::Capacitive, "a converter or a board, whose capacitors charge"));
    let share = |l: ContactLoad| contact_share(l, false).get();
    let none = (ContactLoad::Resistive, "no coil, lamp or capacitor");
    loads.chain(other).fold(none, |a, b| if share(b.0) < share(a.0) { b } else { a })
}

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>, relay: &Relay) {
    let (plan, name) = (context.plan, channel.name());
    let flows = |o: &Outcome| channel.amps(o.sustained.as_ref().ok()?);
    let Some((o, amps)) = worst_of(context.continuous(), flows) else { return };
    if amps <= 1e-9 {
        return;
    }
    let volts = |o: &Outcome| channel.holds_v(o.actual.as_ref().ok()?);
    let most_v = worst_of(context.outcomes.iter(), volts).map_or(0.0, |(_, v)| v);
    let carries = Amps::new(amps);
    let Some(rating) = &channel.driver.current else {
        let message = format!("{} switches {carries}; what its contacts may switch is not given", channel.words());
        sink.unknown(name, channel.span(), message, "give `current`, or name its class with `part`");
        return;
    };
    let (load, kind) = load_of(plan, channel);
    let Some(may) = contact_dc(rating.low, relay.dc_volts.low, Volts::new(most_v), load) else {
        let message = format!(
            "{} switches {} of direct current; what its contacts break above {} is not given",
            channel.words(),
            Volts::new(most_v),
            relay.dc_volts.low
        );
        sink.unknown(name, channel.span(), message, "give `dc-volts` and `current` from its sheet");
        return;
    };
    if at_most(carries.get(), may.get()) {
        if context.all_sustained() {
            sink.pass(name, format!("{carries} of {may}, for {kind}"));
        }
        return;
    }
    sink.find(
        Draft::danger((name, channel.span()))
            .at(&Worst::at(o, amps))
            .says(format!(
                "the contact of `{name}` switches {carries} of {}, and of its {} only {may} are left for that",
                channel.behind_words(),
                rating.low
            ))
            .judged("switches", carries)
            .at_most("may", may, &Origin::Default("a share of its rating, by the kind of load and the volts"))
            .given("rating", rating.low, &rating.origin)
            .cure(format!("take a relay for {} or more", Amps::new(amps / contact_share(load, false).get())))
            .cure("or a MOSFET with a diode across the load"),
    );
}
