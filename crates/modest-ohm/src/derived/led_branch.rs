//! What a branch of LEDs may carry, and the least resistor that keeps it there.

use crate::plan::kinds::led::Led;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::pin::PinAt;
use crate::quantity::units::{Amps, Ohms};
use crate::size::series::{Series, next_larger};

/// What a branch may carry continuously: its LEDs, and the share of the pin that it is connected to.
pub(crate) fn branch_a(plan: &Plan, led: &Led) -> Amps {
    let load = &plan.loads[led.load];
    let (out, into) = load.feed.pins();
    let own = led.current.low.get() * led.parallel as f64;
    let of_pin = |pin: &PinAt, sinks: bool| {
        let limit = plan.boards[pin.board].pins.limits(pin.index, sinks).0?;
        Some(limit.low.get() / load.count.max(1) as f64)
    };
    let pins = [out.and_then(|pin| of_pin(pin, false)), into.and_then(|pin| of_pin(pin, true))];
    Amps::new(pins.into_iter().flatten().fold(own, f64::min))
}

/// The next larger E24 value, 5 % of tolerance counted, at which a branch carries no more than `most` where its rail is
/// highest and its LEDs drop least.
pub(crate) fn least_ohms(plan: &Plan, led: &Led, most: Amps) -> Option<Ohms> {
    let load = &plan.loads[led.load];
    let rail = highest_v(plan, plan.root(load.feed.from.id))?;
    let drop = led.vf.low.get() * led.in_series as f64;
    let (out, into) = load.feed.pins();
    let pin_ohms: f64 = [out, into].iter().flatten().map(|p| plan.boards[p.board].pins.ohms.low.get()).sum();
    // All that are connected to a pin come through its resistance together.
    let ohms = (rail - drop) / most.get() - pin_ohms * load.count.max(1) as f64;
    next_larger(Ohms::new(ohms.max(1.0) / 0.95), Series::E24)
}

/// The highest voltage of what feeds a node over conductors only.
fn highest_v(plan: &Plan, root: crate::plan::wiring::feed::NodeId) -> Option<f64> {
    match plan.nodes.get(root.0)?.kind {
        NodeKind::Supply(i) => Some(plan.supplies[i].voltage.high.get()),
        NodeKind::Converter(i) => Some(plan.converters[i].output.high.get()),
        NodeKind::BoardOutput(i) => plan.boards[i].regulator.as_ref().map(|r| r.voltage.high.get()),
        _ => None,
    }
}
