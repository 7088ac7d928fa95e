//! relay-logic: a module's jumper between logic and coils, and inputs that pull in while the board starts.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::driver::figures::{Jumper, Relay};
use crate::plan::driver::{Driver, DriverKind};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::pins::{AtBoot, Level};
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::Volts;
use crate::topology::rail::nominal_volts;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for driver in plan.drivers.iter().filter(|d| d.kind == DriverKind::RelayModule) {
        let Some(relay) = driver.relay() else { continue };
        jumper(plan, sink, driver, relay);
        boot(plan, sink, driver);
    }
}

/// The jumper joins the supply of the inputs and that of the coils.
fn jumper(plan: &Plan, sink: &mut Sink, driver: &Driver, relay: &Relay) {
    let name = &driver.name.text;
    let (Some(logic), Some(load)) = (&relay.logic, driver.load) else { return };
    let coil = plan.loads[load].feed.from.id;
    let (a, b) = (plan.root(logic.from.id), plan.root(coil));
    // A side whose own wire is open is fed through the jumper, and nothing meets.
    let open = |from: NodeId| {
        plan.any_up(from, |id| match plan.nodes[id.0].kind {
            NodeKind::Branch(i) => plan.branches[i].open.plus && plan.branches[i].switch().is_none(),
            _ => false,
        })
    };
    if relay.jumper != Jumper::In || a == b || open(logic.from.id) || open(coil) {
        sink.pass(name, || "its logic and coil supplies are not two joined rails".into());
        return;
    }
    // What each is made for: solved, both have what the stronger one makes of them.
    let volts = |id: NodeId| nominal_volts(plan, id).map_or(Volts::new(0.0), |v| v.typical);
    let (logic_v, coil_v) = (volts(a), volts(b));
    sink.find(
        Draft::danger((name, driver.name.span))
            .says(format!(
                "the jumper of relay module `{name}` joins `{}` ({logic_v}) and `{}` ({coil_v})",
                plan.nodes[a.0].name, plan.nodes[b.0].name
            ))
            .judged("logic", logic_v)
            .with("coils", coil_v),
    );
}

/// An input that is on while its pin is low, on a pin that is low, or pulses, before the firmware sets it.
fn boot(plan: &Plan, sink: &mut Sink, driver: &Driver) {
    for channel in &driver.channels {
        for pin in &channel.pins {
            let board = &plan.boards[pin.at.board];
            let Some(listed) = pin.at.index.and_then(|i| board.pins.list.get(i)) else { continue };
            let on = match (listed.boot, driver.active_low) {
                (AtBoot::At(Level::Low), true) | (AtBoot::At(Level::High), false) => "is held there",
                (AtBoot::Pulses, _) => "pulses",
                _ => {
                    sink.pass(&channel.name, || format!("`{}` leaves it off at power-on", pin.name.text));
                    continue;
                }
            };
            if driver.rests_off == Some(false) {
                sink.pass(&channel.name, || "it is meant to be on at power-on".into());
                continue;
            }
            let side = if driver.active_low { "low" } else { "high" };
            sink.find(Draft::fault((&channel.name, channel.span)).says(format!(
                "`{}` is on while its pin is {side}, and {} {on} until the firmware sets it: the relay pulls \
                        in at every power-on",
                channel.name,
                plan.pin_words(&pin.at)
            )));
        }
    }
}
