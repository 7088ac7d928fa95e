//! Data lines hop by hop: sender's levels, receiver's thresholds, and the ground between them.

use crate::network::{Layout, Terminals};
use crate::plan::{Data, DataLead, NodeId, NodeKind, Plan, Stage, Strip, Threshold};
use crate::quantity::{Figure, Ohms, Volts};
use crate::review::{LinkRow, Snapshot};

/// One end of a hop.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum End {
    /// A pin of a controller.
    Pin(usize),
    Shifter(usize),
    /// A strip's first pixel as receiver, its last as sender.
    Strip(usize),
}

impl End {
    /// The nodes that feed it over its own leads; a strip has one an injection.
    pub fn hangs_on(self, plan: &Plan) -> Vec<NodeId> {
        match self {
            End::Pin(c) => plan.node_id(NodeKind::BoardInput(c)).into_iter().collect(),
            End::Shifter(s) => vec![plan.shifters[s].feed.from.id],
            End::Strip(s) => plan.strips[s].injections.iter().map(|q| q.feed.from.id).collect(),
        }
    }
}

/// A signal from one part to the next.
#[derive(Clone, Debug)]
pub(crate) struct Hop {
    pub from: End,
    pub to: End,
    /// Names as shown: `keeper.io27`, `lift`, `shoreline`.
    pub names: (String, String),
    /// The strip whose data line it belongs to.
    pub strip: usize,
}

/// All hops of all data lines.
pub(crate) fn hops(plan: &Plan) -> Vec<Hop> {
    let mut hops = Vec::new();
    for (i, strip) in plan.strips.iter().enumerate() {
        let Some(data) = &strip.data else { continue };
        let sender = match (&data.pin, &data.after) {
            (Some(pin), _) => (End::Pin(pin.controller), pin.name.text.clone()),
            (None, Some((name, before))) => (End::Strip(*before), format!("{}.end", name.text)),
            (None, None) => continue,
        };
        let receiver = (End::Strip(i), strip.name.text.clone());
        let mut hop = |from: (End, String), to: (End, String)| {
            hops.push(Hop { from: from.0, to: to.0, names: (from.1, to.1), strip: i });
        };
        let mut sender = sender;
        for (name, stage) in &data.through {
            match stage {
                Stage::Shifter(s) => {
                    let middle = (End::Shifter(*s), name.text.clone());
                    hop(sender, middle.clone());
                    sender = middle;
                }
                // From one end of a pair to the other no level has to be met.
                Stage::Pair(p) => {
                    let pair = &plan.pairs[*p];
                    hop(sender, (End::Shifter(pair.near), format!("{}.near", name.text)));
                    sender = (End::Shifter(pair.far), format!("{}.far", name.text));
                }
            }
        }
        hop(sender, receiver);
    }
    hops
}

/// What drives a data lead.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Driver {
    Pin,
    /// The last pixel of a strip.
    Pixel,
    /// A shifter or the far end of a pair; of a shifter its index.
    Buffer(Option<usize>),
}

/// One data lead on the way to a strip.
#[derive(Clone, Debug)]
pub(crate) struct Leg<'p> {
    pub from: String,
    pub to: String,
    pub driver: Driver,
    /// `None` where nothing is said.
    pub length_m: Option<f64>,
    pub series: Option<&'p Figure<Ohms>>,
}

/// The data leads on the way to a strip, in the order of the data; without what lies inside pairs.
pub(crate) fn legs<'p>(plan: &'p Plan, strip: &'p Strip, data: &'p Data) -> Vec<Leg<'p>> {
    let (mut driver, mut from) = match (&data.pin, &data.after) {
        (Some(pin), _) => (Driver::Pin, pin.name.text.clone()),
        (None, Some((before, _))) => (Driver::Pixel, format!("{}.end", before.text)),
        (None, None) => return Vec::new(),
    };
    let mut legs = Vec::new();
    for (name, stage) in &data.through {
        let (input, next): (&DataLead, Driver) = match stage {
            Stage::Shifter(s) => (&plan.shifters[*s].input, Driver::Buffer(Some(*s))),
            Stage::Pair(p) => (&plan.shifters[plan.pairs[*p].near].input, Driver::Buffer(None)),
        };
        let length_m = input.length.as_ref().map(|l| l.typical.get());
        let to = name.text.clone();
        legs.push(Leg { from, to: to.clone(), driver, length_m, series: input.series.as_ref() });
        (driver, from) = (next, to);
    }
    let length_m = data.cable.as_ref().and_then(crate::plan::Cable::length_m);
    legs.push(Leg { from, to: strip.name.text.clone(), driver, length_m, series: data.series.as_ref() });
    legs
}

/// Supply and ground of one end in a solved state.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Supplied {
    pub vdd: f64,
    pub ground: f64,
}

/// Supply volts and ground of an end; `receiver` picks a strip's first pixel, else its last.
pub(crate) fn supplied(plan: &Plan, layout: &Layout, end: End, receiver: bool, s: &Snapshot) -> Option<Supplied> {
    let at = |t: Terminals| {
        s.solution.alive[t.plus]
            .then(|| Supplied { vdd: s.solution.across(t.plus, t.minus), ground: s.solution.potential[t.minus] })
    };
    match end {
        End::Pin(c) => {
            let kind = if plan.controllers[c].logic_regulator().is_some() {
                NodeKind::BoardOutput(c)
            } else {
                NodeKind::BoardInput(c)
            };
            at(layout.nodes[plan.node_id(kind)?.0])
        }
        End::Shifter(i) => at(layout.shifters[i].0),
        End::Strip(i) => {
            let l = &s.solution.strips[i];
            l.alive.then_some(if receiver {
                Supplied { vdd: l.first_v, ground: l.minus_first }
            } else {
                Supplied { vdd: l.last_v, ground: l.minus_last }
            })
        }
    }
}

/// VOH and VOL a sender gives at a supply voltage: stated, else a CMOS output into a CMOS input.
pub(crate) fn levels(plan: &Plan, hop: &Hop, vdd: f64) -> (Figure<Volts>, Figure<Volts>) {
    let data = plan.strips[hop.strip].data.as_ref();
    // Stated levels are those of the last sender before the strip.
    let stated = data.filter(|_| matches!(hop.to, End::Strip(_)));
    let range = |low: f64, high: f64| Figure {
        low: Volts::new(low),
        typical: Volts::new((low + high) / 2.0),
        high: Volts::new(high),
        origin: crate::plan::cmos_default(),
        bare: false,
    };
    let voh = stated.and_then(|d| d.voh.clone()).unwrap_or_else(|| range(vdd - 0.1, vdd));
    let vol = stated.and_then(|d| d.vol.clone()).unwrap_or_else(|| range(0.0, 0.1));
    (voh, vol)
}

/// VIH and VIL of a receiver.
pub(crate) fn thresholds(plan: &Plan, end: End) -> (Option<&Threshold>, Option<&Threshold>) {
    match end {
        End::Pin(_) => (None, None),
        End::Shifter(i) => (plan.shifters[i].vih.as_ref(), plan.shifters[i].vil.as_ref()),
        End::Strip(i) => {
            let (pixel, data) = (&plan.strips[i].pixel, plan.strips[i].data.as_ref());
            let vih = data.and_then(|d| d.vih.as_ref()).or(pixel.vih.as_ref());
            (vih, data.and_then(|d| d.vil.as_ref()).or(pixel.vil.as_ref()))
        }
    }
}

/// The hop's margins in one state (electrical reference, "Boards, pins and levels").
pub(crate) fn link_row(plan: &Plan, layout: &Layout, hop: &Hop, s: &Snapshot) -> Option<LinkRow> {
    let sender = supplied(plan, layout, hop.from, false, s)?;
    let receiver = supplied(plan, layout, hop.to, true, s)?;
    let (voh, vol) = levels(plan, hop, sender.vdd);
    let (vih, vil) = thresholds(plan, hop.to);
    let shift = receiver.ground - sender.ground;
    let vih = vih.map(|t| t.at(receiver.vdd));
    Some(LinkRow {
        from: hop.names.0.clone(),
        to: hop.names.1.clone(),
        vdd: Volts::new(receiver.vdd),
        vih: vih.map(Volts::new),
        shift: Volts::new(shift),
        high_margin: vih.map(|v| Volts::new(voh.low.get() - shift - v)),
        low_margin: vil.map(|t| Volts::new(t.at(receiver.vdd) - vol.high.get() + shift)),
        over_margin: Volts::new(receiver.vdd + 0.3 - (voh.high.get() - shift)),
        below_margin: Volts::new(vol.low.get() - shift + 0.3),
    })
}
