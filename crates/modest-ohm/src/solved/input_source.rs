//! What arrives at an input pin: its source, divider, pulls and leakage as one Thevenin source, at every corner.

use arrayvec::ArrayVec;

use super::outcome::Snapshot;
use super::zener::Zener;
use crate::network::layout::{Layout, Terminals};
use crate::plan::kinds::input::{Input, Source as InputSource};
use crate::plan::model::Plan;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Ohms, Quantity};
use crate::tables::input::PROTECTION_V;
use crate::topology::buses::logic_node;

/// What an input's source does.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Does {
    /// A contact is closed, an open collector conducts, a swing is high.
    On,
    /// A contact or an open collector is open, a swing is low.
    Off,
}

/// Which end of all tolerances is looked for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Side {
    Most,
    Least,
}

/// Voltage at an open pin against its board's ground, and what they come through.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Arrives {
    pub volts: f64,
    pub ohms: f64,
}

/// Volts through resistance, each from least to most.
#[derive(Clone, Copy, Debug)]
pub(super) struct Arm {
    pub(super) volts: (f64, f64),
    pub(super) ohms: (f64, f64),
    /// A resistor of the plan in it: its name, and its lower tolerance, Ω.
    pub(super) resistor: Option<(&'static str, f64)>,
}

/// All arms of a pin: its source, the lower resistor of a divider, its pull, and the board's two resistors on the pin.
pub(super) type Arms = ArrayVec<Arm, 5>;

/// No arm is better than this, Ω.
const LEAST_OHMS: f64 = 1e-3;

impl Arm {
    fn new(volts: (f64, f64), ohms: &[Option<&Figure<Ohms>>]) -> Self {
        let sum = |end: fn(&Figure<Ohms>) -> f64| ohms.iter().flatten().map(|f| end(f)).sum::<f64>().max(LEAST_OHMS);
        Self { volts, ohms: (sum(|f| f.low.get()), sum(|f| f.high.get())), resistor: None }
    }

    fn with(mut self, what: &'static str, resistor: Option<&Figure<Ohms>>) -> Self {
        self.resistor = resistor.map(|r| (what, r.low.get()));
        self
    }
}

fn ends<Q: Quantity>(f: &Figure<Q>) -> (f64, f64) {
    (f.low.si(), f.high.si())
}

/// The states of what drives an input, and of the board that reads it.
#[derive(Clone, Copy)]
pub(crate) struct States<'s> {
    pub there: &'s Snapshot,
    pub here: &'s Snapshot,
}

/// An input's network in two solved states: that of what drives it, and that of the board that reads it.
pub(crate) struct Front<'a> {
    pub plan: &'a Plan,
    pub layout: &'a Layout,
    pub input: &'a Input,
}

impl<'a> Front<'a> {
    pub fn board(&self) -> usize {
        self.input.pin.at.board
    }

    /// The rail that its pin runs on.
    fn logic(&self) -> Option<Terminals> {
        logic_node(self.plan, self.board()).map(|id| self.layout.nodes[id.0])
    }

    /// The supply of its pin; `None` while the board is off.
    pub fn vdd(&self, s: &Snapshot) -> Option<f64> {
        let t = self.logic()?;
        s.volts(t)
    }

    /// The + of a node against the board's ground.
    fn plus_of(&self, id: NodeId, s: &Snapshot) -> Option<f64> {
        let (t, own) = (self.layout.nodes.get(id.0)?, self.logic()?);
        s.solution.alive[t.plus].then(|| s.solution.potential[t.plus] - s.solution.potential[own.minus])
    }

    /// The ground that a swing counts from, against the board's.
    pub fn shift(&self, s: &Snapshot) -> f64 {
        let InputSource::Swing { ground: Some(ground), .. } = &self.input.source else { return 0.0 };
        let Some(own) = self.logic() else { return 0.0 };
        let there = self.layout.nodes.get(ground.id.0).map_or(own.minus, |t| t.minus);
        s.solution.potential[there] - s.solution.potential[own.minus]
    }

    /// True for a node that moves together with the board's own rail.
    fn is_own(&self, id: NodeId) -> bool {
        let own = logic_node(self.plan, self.board()).map(|id| self.plan.root(id));
        self.plan.nodes.get(id.0).is_some() && Some(self.plan.root(id)) == own
    }

    /// The nodes that drive it and are not the board's own rail; of a swing the one whose ground it counts from.
    pub fn drivers(&self) -> Vec<NodeId> {
        let source = match &self.input.source {
            InputSource::Contact { to, .. } => to.as_ref(),
            InputSource::Swing { ground, .. } => ground.as_ref(),
            InputSource::OpenCollector { .. } => None,
        };
        let pull = self.input.pull.as_ref().and_then(|p| p.to.as_ref());
        let other = |id: &NodeId| self.plan.nodes.get(id.0).is_some() && !self.is_own(*id);
        source.into_iter().chain(pull).map(|n| n.id).filter(other).collect()
    }

    /// Whether something else than the board's own rail drives it.
    pub fn is_driven_from_elsewhere(&self) -> bool {
        matches!(self.input.source, InputSource::Swing { .. }) || !self.drivers().is_empty()
    }

    /// The resistors between the source and the pin.
    fn line(&self) -> Option<&Figure<Ohms>> {
        self.input.divider.as_ref().map(|d| &d.top).or(self.input.series.as_ref())
    }

    /// The resistor that the pin itself, or the board, has to a + or to ground, and the one that the plan gives it.
    fn pull(&self) -> Option<&'a Figure<Ohms>> {
        let pull = self.input.pull.as_ref()?;
        Some(pull.ohms.as_ref().unwrap_or(&self.plan.boards[self.board()].pins.internal_pull))
    }

    /// All that the pin is connected to; `here` is `None` while the board is off, and its rail at its ground.
    pub(super) fn arms(
        &self,
        does: Does,
        s: &Snapshot,
        here: Option<&Snapshot>,
        volts: Option<(f64, f64)>,
    ) -> Option<Arms> {
        let vdd = || here.map_or(Some(0.0), |s| self.vdd(s));
        let mut arms = Arms::new();
        let line = self.line();
        let what = if self.input.divider.is_some() { "top" } else { "series" };
        match (&self.input.source, does) {
            (InputSource::Contact { to, ohms, .. }, Does::On) => {
                let at = match to {
                    Some(to) => self.plus_of(to.id, s)?,
                    None => 0.0,
                };
                arms.push(Arm::new((at, at), &[Some(ohms), line]).with(what, line));
            }
            (InputSource::OpenCollector { low }, Does::On) => {
                arms.push(Arm::new(ends(low), &[line]).with(what, line));
            }
            (InputSource::Contact { .. } | InputSource::OpenCollector { .. }, Does::Off) => {}
            (InputSource::Swing { low, high, ohms, .. }, _) => {
                let rail = vdd().unwrap_or(0.0);
                let own = if does == Does::On { high.ends(rail) } else { low.ends(rail) };
                let (least, most) = volts.unwrap_or(own);
                let shift = self.shift(s);
                let volts = (least + shift, most + shift);
                arms.push(Arm::new(volts, &[Some(ohms), line]).with(what, line));
            }
        }
        if let Some(divider) = &self.input.divider {
            let bottom = Some(&divider.bottom);
            arms.push(Arm::new((0.0, 0.0), &[bottom]).with("bottom", bottom));
        }
        if let Some(ohms) = self.pull() {
            let at = match self.input.pull.as_ref().and_then(|p| p.to.as_ref()) {
                Some(to) if self.is_own(to.id) => here.map_or(Some(0.0), |s| self.plus_of(to.id, s))?,
                Some(to) => self.plus_of(to.id, s)?,
                None if self.input.pulls_up() => vdd()?,
                None => 0.0,
            };
            let own = self.input.pull.as_ref().and_then(|p| p.ohms.as_ref());
            arms.push(Arm::new((at, at), &[Some(ohms)]).with("pull", own));
        }
        let listed = &self.plan.boards[self.board()].pins.list;
        if let Some(pin) = self.input.pin.at.index.and_then(|i| listed.get(i)) {
            if let Some(up) = &pin.pull_up {
                let vdd = vdd()?;
                arms.push(Arm::new((vdd, vdd), &[Some(up)]));
            }
            if let Some(down) = &pin.pull_down {
                arms.push(Arm::new((0.0, 0.0), &[Some(down)]));
            }
        }
        Some(arms)
    }

    /// True where nothing holds the pin while its source is open.
    pub fn floats(&self) -> bool {
        let held_by_source = matches!(self.input.source, InputSource::Swing { .. });
        let pin = self.input.pin.at.index.and_then(|i| self.plan.boards[self.board()].pins.list.get(i));
        let board = pin.is_some_and(|p| p.pull_up.is_some() || p.pull_down.is_some());
        !held_by_source && !board && self.input.pull.is_none() && self.input.divider.is_none()
    }

    /// What arrives at the pin at one end of all tolerances; `None` where nothing holds it, or what drives it is off.
    pub fn arrives(&self, does: Does, side: Side, states: States<'_>) -> Option<Arrives> {
        let arms = self.arms(does, states.there, Some(states.here), None)?;
        if arms.is_empty() {
            return None;
        }
        let sign = if side == Side::Most { 1.0 } else { -1.0 };
        let zener = self.zener(side);
        choices(&arms, side, self.input.leak.high.get())
            .map(|a| zener.map_or(a, |z| Arrives { volts: z.holds(a.volts, a.ohms), ..a }))
            .reduce(|a, b| if sign * b.volts > sign * a.volts { b } else { a })
    }

    /// Its Zener diode at the end of its tolerance that lets most, or least, arrive.
    fn zener(&self, side: Side) -> Option<Zener> {
        self.input.clamp.as_ref().map(|c| Zener::at_end(c, side == Side::Most))
    }

    /// What the board has between the header and the chip's protection, Ω.
    pub fn inside(&self) -> Option<f64> {
        let pins = &self.plan.boards[self.board()].pins.list;
        Some(pins.get(self.input.pin.at.index?)?.series.as_ref()?.low.get())
    }

    /// What its protection carries at most where it holds the pin at `held` voltage: into it (`Side::Most`), or out of
    /// it below ground; A. `volts` are those of a transient in place of its swing's.
    pub fn protection_a(
        &self,
        does: Does,
        side: Side,
        states: States<'_>,
        held: f64,
        volts: Option<(f64, f64)>,
    ) -> Option<f64> {
        let arms = self.arms(does, states.there, Some(states.here), volts)?;
        Some(self.protection_of(&arms, side, held))
    }

    /// The same while the board is off and what drives it is on: its protection then holds the pin a diode above its
    /// dead rail, and feeds that; A.
    pub fn dead_rail_a(&self, does: Does, there: &Snapshot) -> Option<f64> {
        let arms = self.arms(does, there, None, None)?;
        Some(self.protection_of(&arms, Side::Most, PROTECTION_V))
    }

    fn protection_of(&self, arms: &[Arm], side: Side, held: f64) -> f64 {
        let zener = self.zener(Side::Most);
        if let Some(inside) = self.inside() {
            let through = |a: Arrives| {
                let a = zener.map_or(a, |z| Arrives { volts: z.holds(a.volts, a.ohms), ohms: 0.0 });
                (if side == Side::Most { a.volts - held } else { held - a.volts }) / (a.ohms + inside)
            };
            return choices(arms, side, self.input.leak.high.get()).map(through).fold(0.0, f64::max);
        }
        // Each arm gives or takes by itself: what gives gives most through its least resistance, what takes takes least
        // through its most.
        let amps = |arm: &Arm| {
            let above = if side == Side::Most { arm.volts.1 - held } else { held - arm.volts.0 };
            above / if above > 0.0 { arm.ohms.0 } else { arm.ohms.1 }
        };
        // A Zener diode takes its share above ground; below it, it conducts forward, as early as the protection does.
        let taken = match (zener, side) {
            (None, _) => 0.0,
            (Some(z), Side::Most) => z.amps(held),
            (Some(_), Side::Least) => f64::INFINITY,
        };
        (arms.iter().map(amps).sum::<f64>() + self.input.leak.high.get() - taken).max(0.0)
    }

    /// What flows through a closed contact at least, A.
    pub fn wetting_a(&self, s: &Snapshot) -> Option<f64> {
        let InputSource::Contact { to, .. } = &self.input.source else { return None };
        let from = match (to, self.input.pull.as_ref().and_then(|p| p.to.as_ref())) {
            (Some(to), _) => self.plus_of(to.id, s)?,
            (None, Some(rail)) => self.plus_of(rail.id, s)?,
            (None, None) => self.vdd(s)?,
        };
        let line = self.line().map_or(0.0, |r| r.high.get());
        let rest = match &self.input.divider {
            Some(divider) => divider.bottom.high.get(),
            None => self.pull()?.high.get(),
        };
        Some(from / (line + rest).max(LEAST_OHMS))
    }
}

/// What some arms make together, at every choice of the ends of their resistance. The node's voltage moves one way with
/// every volt and every ohm, so that the extremes lie at the ends; voltage all go with the side that is looked for.
fn choices(arms: &[Arm], side: Side, leak: f64) -> impl Iterator<Item = Arrives> {
    let sign = if side == Side::Most { 1.0 } else { -1.0 };
    (0..1usize << arms.len()).map(move |choice| {
        let (mut amps, mut siemens) = (0.0, 0.0);
        for (i, arm) in arms.iter().enumerate() {
            let ohms = if choice >> i & 1 == 0 { arm.ohms.0 } else { arm.ohms.1 };
            let volts = if side == Side::Most { arm.volts.1 } else { arm.volts.0 };
            amps += volts / ohms;
            siemens += 1.0 / ohms;
        }
        let ohms = 1.0 / siemens;
        Arrives { volts: amps / siemens + sign * leak * ohms, ohms }
    })
}

/// Current that voltage behind resistance drive into the protection of an input whose supply is at `vdd`, A.
pub(crate) fn clamp_a(arrives: Arrives, vdd: f64) -> f64 {
    ((arrives.volts - vdd - PROTECTION_V) / arrives.ohms.max(LEAST_OHMS)).max(0.0)
}
