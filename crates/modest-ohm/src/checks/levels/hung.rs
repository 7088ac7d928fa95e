//! pin-overvoltage, of what is fed from a higher rail on a pin: LEDs and loads that it sinks, the pull-up of a
//! P-channel gate.

use super::over::{Most, judge};
use crate::derived::context::Context;
use crate::findings::sink::Sink;
use crate::network::layout::Terminals;
use crate::plan::driver::DriverKind;
use crate::plan::driver::figures::GateDriver;
use crate::plan::kinds::load::Demand;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::pin::PinAt;
use crate::solved::drivers::channel::{Channel, channels};
use crate::solved::drivers::drive::drive_of;
use crate::solved::input_source::{Arrives, clamp_a};
use crate::topology::buses::logic_node;
use crate::topology::signals::End;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    sinks(context, sink);
    for channel in channels(context.plan).iter().filter(|c| c.driver.kind == DriverKind::Pmos) {
        gate(context, sink, channel);
    }
}

/// What comes through `ohms` from the + of a node, less a drop in V, to a pin while that is off.
fn from_rail(context: &Context<'_>, from: NodeId, pin: &PinAt, (drop, ohms): (f64, f64)) -> Option<Most> {
    let plan = context.plan;
    let Terminals { plus, .. } = context.layout.nodes[from.0];
    let logic = logic_node(plan, pin.board).map(|id| context.layout.nodes[id.0])?;
    let top = plan.boards[pin.board].pins.stands(pin.index);
    let mut most = Most::default();
    for o in context.outcomes {
        let Ok(s) = o.actual.as_ref() else { continue };
        if !(s.solution.alive[plus] && s.solution.alive[logic.plus]) {
            continue;
        }
        let volts = s.solution.potential[plus] - s.solution.potential[logic.minus] - drop;
        let (arrives, vdd) = (Arrives { volts, ohms }, s.solution.across(logic.plus, logic.minus));
        most.sees(o, arrives, clamp_a(arrives, vdd), vdd, top);
    }
    Some(most)
}

/// LEDs and loads from a higher rail into a pin: while the pin is off the rail comes through them.
fn sinks(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for load in &plan.loads {
        let (None, Some(pin)) = load.feed.pins() else { continue };
        let (drop, resistor) = match &load.demand {
            Demand::Leds(d) => (d.vf.low.get() + d.diode.as_ref().map_or(0.0, |v| v.low.get()), d.ohms.low.get()),
            Demand::Resistance(r) => (0.0, r.peak.low.get()),
            // What electronics let through while they are off is not known; their supply is the pin's.
            _ => continue,
        };
        let ohms = (resistor / load.count.max(1) as f64).max(1.0);
        let Some(most) = from_rail(context, load.feed.from.id, pin, (drop, ohms)) else { continue };
        let top = plan.boards[pin.board].pins.stands(pin.index);
        let what = || format!("while off, `{}` outputs {}", load.name.text, plan.pin_words(pin));
        judge(context, sink, &load.name.text, load.name.span, &what, top, &most);
    }
}

/// The pull-up of a P-channel gate goes to its source: on a pin without a transistor between it lifts the pin to that
/// rail.
fn gate(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>) {
    let plan = context.plan;
    let Some(fet) = channel.driver.fet().filter(|f| matches!(f.gate, GateDriver::Pin)) else { return };
    let (Some(pull), Some(drive)) = (&fet.pull, drive_of(plan, channel.at.driver, channel.at.channel)) else { return };
    let (End::Pin(_), Some(pin)) = (drive.hop.from, drive.hop.pins.0) else { return };
    let series = [fet.series.as_ref(), drive.hop.series].into_iter().flatten().map(|r| r.low.get()).sum::<f64>();
    let from = plan.branches[channel.run].feed.from.id;
    let Some(most) = from_rail(context, from, pin, (0.0, (pull.low.get() + series).max(1.0))) else { return };
    let top = plan.boards[pin.board].pins.stands(pin.index);
    let what = || format!("the pull-up at the gate of `{}` reaches {}", channel.name(), plan.pin_words(pin));
    judge(context, sink, channel.name(), channel.span(), &what, top, &most);
}
