//! Signals hop by hop: pixel data, control cables of loads, wires from board to board.

use super::buses::{logic_is_unknown, logic_node};
use crate::plan::driver::channels::Enable;
use crate::plan::driver::figures::Jumper;
use crate::plan::kinds::shifter::Sends;
use crate::plan::kinds::signal_lines::{Line as SignalLine, Opto};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::plan::wiring::name::Name;
use crate::plan::wiring::pin::PinAt;
use crate::plan::wiring::through::Stage;
use crate::quantity::figure::Figure;
use crate::quantity::units::Ohms;
use crate::source::Span;
use crate::text::Named;

/// Which supply of a shifter: its only one or that of its high side, or that of its low side.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Rail {
    Main,
    Low,
}

/// At which sides a signal comes into a shifter and goes out of it.
pub(crate) fn rails(plan: &Plan, shifter: usize, sender: End, receiver: End) -> (Rail, Rail) {
    let (up, down) = ((Rail::Low, Rail::Main), (Rail::Main, Rail::Low));
    let shifter = &plan.shifters[shifter];
    let Some(low) = &shifter.low else { return (Rail::Main, Rail::Main) };
    match shifter.sends {
        Sends::Up => up,
        Sends::Down => down,
        // A two-way one as the supplies of both ends have it.
        Sends::Both => {
            let (low, high) = (Some(plan.root(low.from.id)), Some(plan.root(shifter.feed.from.id)));
            let (from, to) = (sender.root(plan), receiver.root(plan));
            if from != low && (to == low || from == high) { down } else { up }
        }
    }
}

/// One end of a hop.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum End {
    /// A pin of a board.
    Pin(usize),
    /// A shifter at the side of one of its supplies.
    Shifter(usize, Rail),
    /// A strip's first pixel as receiver, its last as sender.
    Strip(usize),
    /// The control input of a member of a load.
    Load(usize, usize),
    /// A channel of a driver.
    Driver(usize, usize),
    /// Something that the plan does not show, at the end of a wire.
    Outside(usize),
}

impl Hop<'_> {
    /// True for an input of a bridge whose logic has no supply: its thresholds are those of nothing.
    pub fn is_dead(&self, plan: &Plan) -> bool {
        let Of::Driver(d, _) = self.of else { return false };
        plan.drivers[d].bridge().is_some_and(|b| b.logic.is_some() && b.regulator != Jumper::In && !b.logic_fed)
    }

    /// True for a wire whose senders only pull it low.
    pub fn is_open_drain(&self, plan: &Plan) -> bool {
        matches!(self.of, Of::Wire(w) if plan.wires[w].open_drain)
    }
}

impl End {
    /// The board whose pin it is, where the voltage of its pins are not known.
    pub fn unknown_volts(self, plan: &Plan) -> Option<usize> {
        let End::Pin(board) = self else { return None };
        logic_is_unknown(plan, board).then_some(board)
    }

    /// The nodes that feed it over its own cables; a strip has one an injection.
    pub fn hangs_on(self, plan: &Plan) -> Vec<NodeId> {
        match self {
            End::Pin(c) => plan.node_id(NodeKind::BoardInput(c)).into_iter().collect(),
            End::Shifter(s, rail) => {
                let low = plan.shifters[s].low.as_ref().filter(|_| rail == Rail::Low);
                vec![low.unwrap_or(&plan.shifters[s].feed).from.id]
            }
            End::Strip(s) => plan.strips[s].injections.iter().map(|q| q.feed.from.id).collect(),
            End::Load(l, _) => vec![plan.loads[l].feed.from.id],
            End::Driver(d, c) => plan.ground_of_driver(d, c).into_iter().collect(),
            End::Outside(_) => Vec::new(),
        }
    }

    /// What its supply comes from over conductors only: two ends with the same one move together.
    pub fn root(self, plan: &Plan) -> Option<NodeId> {
        match self {
            End::Pin(c) if plan.boards[c].logic_regulator().is_some() => logic_node(plan, c),
            End::Pin(c) => Some(plan.root_of_board(c)),
            other => other.hangs_on(plan).first().map(|id| plan.root(*id)),
        }
    }
}

/// What a hop is part of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Of {
    /// The data line of a strip.
    Strip(usize),
    /// The control lead of a load.
    Load(usize),
    /// What drives a channel.
    Driver(usize, usize),
    Wire(usize),
}

/// A signal from one part to the next.
#[derive(Clone, Debug)]
pub(crate) struct Hop<'p> {
    pub from: End,
    pub to: End,
    /// Names as shown: `keeper.io27`, `lift`, `shoreline`.
    pub names: (String, String),
    pub of: Of,
    /// The pins at its ends.
    pub pins: (Option<&'p PinAt>, Option<&'p PinAt>),
    /// The resistor in its cable.
    pub series: Option<&'p Figure<Ohms>>,
    /// What its receiver draws while it is high, A.
    pub draws: f64,
}

impl Hop<'_> {
    /// The nodes that feed its ends.
    pub fn feeds(&self, plan: &Plan) -> Vec<NodeId> {
        let mut feeds = self.from.hangs_on(plan);
        feeds.extend(self.to.hangs_on(plan));
        feeds
    }

    /// The item whose signal it is, of a load its member, and where that is written.
    pub fn item<'h>(&'h self, plan: &'h Plan) -> (&'h str, Span) {
        let at = |name: &'h Name, span: Option<Span>| (name.text.as_str(), span.unwrap_or(name.span));
        match self.of {
            Of::Load(i) if matches!(self.to, End::Load(..)) => {
                let (_, span) = at(&plan.loads[i].name, plan.loads[i].signal.as_ref().map(|s| s.line.span));
                (&self.names.1, span)
            }
            Of::Strip(i) => at(&plan.strips[i].name, plan.strips[i].data.as_ref().map(|d| d.span)),
            Of::Load(i) => at(&plan.loads[i].name, plan.loads[i].signal.as_ref().map(|s| s.line.span)),
            Of::Driver(d, c) => (plan.drivers[d].channels[c].name.as_str(), plan.drivers[d].span_of(c)),
            Of::Wire(i) => at(&plan.wires[i].name, None),
        }
    }

    /// Where it starts and where it ends, in words: a pin with its position in the header.
    pub fn words(&self, plan: &Plan) -> (String, String) {
        let word = |name: &str, pin: Option<&PinAt>| pin.map_or_else(|| format!("`{name}`"), |pin| plan.pin_words(pin));
        (word(&self.names.0, self.pins.0), word(&self.names.1, self.pins.1))
    }

    /// The optocoupler that receives it.
    pub fn opto<'p>(&self, plan: &'p Plan) -> Option<&'p Opto> {
        match self.to {
            End::Load(l, _) => plan.loads[l].signal.as_ref()?.input.opto.as_ref(),
            End::Driver(d, _) => plan.drivers[d].input.opto.as_ref(),
            End::Outside(w) => plan.wires[w].input.opto.as_ref(),
            _ => None,
        }
    }

    /// True where levels are what its receiver needs: a base or a gate needs a current or voltage of its own, and a
    /// check of its own looks at it.
    pub fn wants_levels(&self, plan: &Plan) -> bool {
        match self.to {
            End::Driver(d, _) => plan.drivers[d].takes_levels(),
            _ => true,
        }
    }

    /// True where both ends move together with one supply.
    pub fn is_on_one_rail(&self, plan: &Plan) -> bool {
        self.from.root(plan).is_some_and(|root| self.to.root(plan) == Some(root))
    }
}

/// A part on the way of a signal.
struct Point<'p> {
    end: End,
    name: String,
    pin: Option<&'p PinAt>,
    draws: f64,
}

impl<'p> Point<'p> {
    fn new(end: End, name: impl Into<String>) -> Self {
        Self { end, name: name.into(), pin: None, draws: 0.0 }
    }

    fn pin(plan: &Plan, pin: &'p crate::plan::wiring::pin::PinRef) -> Self {
        Self { pin: Some(&pin.at), ..Self::new(End::Pin(pin.at.board), plan.pin_name(&pin.at)) }
    }
}

/// All hops of all signals; pixel data first.
pub(crate) fn hops(plan: &Plan) -> Vec<Hop<'_>> {
    let mut hops = Vec::new();
    for (i, strip) in plan.strips.iter().enumerate() {
        let Some(data) = &strip.data else { continue };
        let sender = match (&data.pin, &data.after) {
            (Some(pin), _) => Point::pin(plan, pin),
            (None, Some((name, before))) => Point::new(End::Strip(*before), format!("{}.end", name.text)),
            (None, None) => continue,
        };
        let receiver = Point::new(End::Strip(i), strip.name.text.clone());
        chain(plan, &mut hops, Of::Strip(i), sender, &data.through, receiver, data.series.as_ref());
    }
    for (i, load) in plan.loads.iter().enumerate() {
        let Some(signal) = &load.signal else { continue };
        let draws = signal.input.draws.as_ref().map_or(0.0, |d| d.high.get());
        for m in 0..load.count {
            let Some(pin) = signal.pins.get(m).or(signal.pins.first()) else { continue };
            let receiver = Point { draws, ..Point::new(End::Load(i, m), load.member(m)) };
            line(plan, &mut hops, Of::Load(i), Point::pin(plan, pin), &signal.line, receiver);
        }
    }
    for (d, driver) in plan.drivers.iter().enumerate() {
        let draws = driver.input.draws.as_ref().map_or(0.0, |d| d.high.get());
        for (c, channel) in driver.channels.iter().enumerate() {
            let enable = if let Enable::Pin(pin) = &channel.enable { Some(pin) } else { None };
            for pin in channel.pins.iter().chain(enable) {
                let receiver = Point { draws, ..Point::new(End::Driver(d, c), channel.name.clone()) };
                line(plan, &mut hops, Of::Driver(d, c), Point::pin(plan, pin), &driver.line, receiver);
            }
        }
    }
    for (i, wire) in plan.wires.iter().enumerate() {
        let receiver = || match &wire.to {
            Some(pin) => Point::pin(plan, pin),
            None => {
                let draws = wire.input.draws.as_ref().map_or(0.0, |d| d.high.get());
                Point { draws, ..Point::new(End::Outside(i), wire.name.text.clone()) }
            }
        };
        line(plan, &mut hops, Of::Wire(i), Point::pin(plan, &wire.pin), &wire.line, receiver());
        if (wire.bidirectional || wire.open_drain) && wire.to.is_some() {
            let mut through = wire.line.through.clone();
            through.reverse();
            let back = Point::pin(plan, &wire.pin);
            chain(plan, &mut hops, Of::Wire(i), receiver(), &through, back, wire.line.series.as_ref());
        }
    }
    // What could not be resolved is a problem of the text.
    hops.retain(|h| ![h.from, h.to].iter().any(|e| matches!(e, End::Pin(c) if *c >= plan.boards.len())));
    hops
}

fn line<'p>(plan: &'p Plan, hops: &mut Vec<Hop<'p>>, of: Of, from: Point<'p>, line: &'p SignalLine, to: Point<'p>) {
    chain(plan, hops, of, from, &line.through, to, line.series.as_ref());
}

/// From the sender through its stages to the receiver; `series` is in the last lead.
fn chain<'p>(
    plan: &'p Plan,
    hops: &mut Vec<Hop<'p>>,
    of: Of,
    sender: Point<'p>,
    through: &[(Named, Stage)],
    receiver: Point<'p>,
    series: Option<&'p Figure<Ohms>>,
) {
    let mut hop = |from: Point<'p>, to: &Point<'p>, series| {
        let (names, pins) = ((from.name, to.name.clone()), (from.pin, to.pin));
        hops.push(Hop { from: from.end, to: to.end, names, of, pins, series, draws: to.draws });
    };
    let ends = (sender.end, receiver.end);
    let mut sender = sender;
    for (name, stage) in through {
        match stage {
            Stage::Shifter(s) => {
                let Some(shifter) = plan.shifters.get(*s) else { return };
                let (input, output) = rails(plan, *s, ends.0, ends.1);
                hop(sender, &Point::new(End::Shifter(*s, input), name.text.clone()), shifter.input.series.as_ref());
                sender = Point::new(End::Shifter(*s, output), name.text.clone());
            }
            // From one end of a pair to the other no level has to be met.
            Stage::Pair(p) => {
                let Some(pair) = plan.pairs.get(*p) else { return };
                let near = Point::new(End::Shifter(pair.near, Rail::Main), format!("{}.near", name.text));
                hop(sender, &near, plan.shifters[pair.near].input.series.as_ref());
                sender = Point::new(End::Shifter(pair.far, Rail::Main), format!("{}.far", name.text));
            }
        }
    }
    hop(sender, &receiver, series);
}
