//! Levels of a hop in a solved state: what its sender gives, what its receiver needs and stands, and the ground
//! between.

use super::outcome::Snapshot;
use crate::network::layout::Terminals;
use crate::plan::model::Plan;
use crate::plan::wiring::threshold::Threshold;
use crate::quantity::figure::Figure;
use crate::quantity::units::Volts;
use crate::topology::buses::logic_node;
use crate::topology::signals::{End, Hop, Of, Rail};

/// Supply and ground of one end in a solved state.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Supplied {
    pub vdd: f64,
    pub ground: f64,
}

/// Supply voltage and ground of an end; `receiver` picks a strip's first pixel, else its last.
pub(crate) fn supplied(plan: &Plan, end: End, receiver: bool, s: &Snapshot) -> Option<Supplied> {
    let at = |t: Terminals| {
        s.solution.alive[t.plus]
            .then(|| Supplied { vdd: s.solution.across(t.plus, t.minus), ground: s.solution.potential[t.minus] })
    };
    match end {
        End::Pin(c) => at(s.layout.nodes[logic_node(plan, c)?.0]),
        End::Shifter(i, rail) => {
            let low = s.layout.shifter_lows[i].filter(|_| rail == Rail::Low);
            at(low.unwrap_or(s.layout.shifters[i].at))
        }
        End::Strip(i) => {
            let l = &s.solution.strips[i];
            l.alive.then_some(if receiver {
                Supplied { vdd: l.first_v, ground: l.minus_first }
            } else {
                Supplied { vdd: l.last_v, ground: l.minus_last }
            })
        }
        End::Load(l, m) => at(s.layout.loads[l].get(m)?.at),
        End::Driver(d, _) => at(s.layout.loads.get(plan.drivers[d].load?)?.first()?.at),
        End::Outside(_) => None,
    }
}

/// Supply and ground of a hop's receiver; what the plan does not show counts as having its sender's.
pub(crate) fn receiver_of(plan: &Plan, hop: &Hop<'_>, s: &Snapshot) -> Option<Supplied> {
    match hop.to {
        End::Outside(_) => supplied(plan, hop.from, false, s),
        // Without a supply of its own its input counts against its −.
        End::Driver(d, c) if plan.drivers[d].load.is_none() => {
            let node = s.layout.nodes.get(plan.ground_of_driver(d, c)?.0)?;
            let vdd = supplied(plan, hop.from, false, s)?.vdd;
            s.solution.alive[node.minus].then(|| Supplied { vdd, ground: s.solution.potential[node.minus] })
        }
        to => supplied(plan, to, true, s),
    }
}

/// VOH and VOL a sender gives at a supply voltage: stated, else VDD − R_out·I, of a CMOS output into a CMOS input
/// VDD − 0.1 V and 0.1 V.
pub(crate) fn levels(plan: &Plan, hop: &Hop<'_>, vdd: f64) -> (Figure<Volts>, Figure<Volts>) {
    // Stated levels are those of the last sender before the strip.
    let data = match (hop.of, hop.to) {
        (Of::Strip(i), End::Strip(_)) => plan.strips[i].data.as_ref(),
        _ => None,
    };
    let range = |low: f64, high: f64| Figure {
        low: Volts::new(low),
        typical: Volts::new((low + high) / 2.0),
        high: Volts::new(high),
        origin: crate::plan::wiring::threshold::cmos_default(),
        bare: false,
    };
    let ohms = match hop.from {
        End::Pin(c) => plan.boards[c].pins.ohms.high.get(),
        _ => 0.0,
    };
    let drop = (hop.draws * (ohms + hop.series.map_or(0.0, |r| r.high.get()))).max(0.1);
    let voh = data.and_then(|d| d.voh.clone()).unwrap_or_else(|| range(vdd - drop, vdd));
    let vol = data.and_then(|d| d.vol.clone()).unwrap_or_else(|| range(0.0, 0.1));
    (voh, vol)
}

/// VIH and VIL of a receiver.
pub(crate) fn thresholds<'p>(plan: &'p Plan, hop: &Hop<'_>) -> (Option<&'p Threshold>, Option<&'p Threshold>) {
    match hop.to {
        End::Pin(c) => (plan.boards[c].pins.vih.as_ref(), plan.boards[c].pins.vil.as_ref()),
        End::Shifter(i, _) => (plan.shifters[i].vih.as_ref(), plan.shifters[i].vil.as_ref()),
        End::Strip(i) => {
            let (pixel, data) = (&plan.strips[i].pixel, plan.strips[i].data.as_ref());
            let vih = data.and_then(|d| d.vih.as_ref()).or(pixel.vih.as_ref());
            (vih, data.and_then(|d| d.vil.as_ref()).or(pixel.vil.as_ref()))
        }
        End::Load(l, _) => {
            let input = plan.loads[l].signal.as_ref().map(|s| &s.input);
            (input.and_then(|i| i.vih.as_ref()), input.and_then(|i| i.vil.as_ref()))
        }
        End::Driver(d, _) => (plan.drivers[d].input.vih.as_ref(), plan.drivers[d].input.vil.as_ref()),
        End::Outside(w) => (plan.wires[w].input.vih.as_ref(), plan.wires[w].input.vil.as_ref()),
    }
}

/// The absolute maximum of a receiver's input, where a datasheet gives one of its own.
pub(crate) fn top_of<'p>(plan: &'p Plan, hop: &Hop<'p>) -> Option<&'p Figure<Volts>> {
    match hop.to {
        End::Pin(c) => plan.boards[c].pins.stands(hop.pins.1.and_then(|p| p.index)),
        End::Shifter(i, _) => plan.shifters[i].input_volts.as_ref(),
        End::Strip(i) => plan.strips[i].pixel.input_volts.as_ref(),
        End::Load(l, _) => plan.loads[l].signal.as_ref().and_then(|s| s.input.volts.as_ref()),
        End::Driver(d, _) => plan.drivers[d].input.volts.as_ref(),
        End::Outside(w) => plan.wires[w].input.volts.as_ref(),
    }
}
