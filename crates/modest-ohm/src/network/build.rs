//! From the plan to its network: two vertices a node, one branch an element.
use modest_ohm_solve::network::{Branch, Law, Lies, Network};

use super::layout::{ConductorInfo, Layout, PinInfo, Terminals};
use super::layout::{ConverterAt, DemandAt};
use super::state::{Draw, State, draw};
use super::strips::ends;
use crate::plan::driver::Driver;
use crate::plan::kinds::converter::ConverterKind;
use crate::plan::kinds::run::{Diode, RunKind};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::cable::{Cable, Conductor};
use crate::plan::wiring::driven::Side;
use crate::plan::wiring::feed::{Feed, NodeId, NodeRef};
use crate::quantity::figure::{Corner, Role};
use crate::topology::run::Run;

/// Two ideal leads side by side would leave their shares undefined; no cable is better than this, Ω.
const LEAST_OHMS: f64 = 1e-9;

/// Builds the network of a plan in a state.
pub(crate) fn build(plan: &Plan, state: &State<'_>) -> (Network, Layout) {
    let mut b = Builder {
        plan,
        state,
        net: Network { branches: Vec::with_capacity(128), ..Network::default() },
        layout: Layout::default(),
        tapped: tapped(plan),
        feed_points: Vec::new(),
    };
    b.nodes();
    b.feed_points();
    b.sources();
    b.runs();
    b.boards();
    b.loads();
    b.strips();
    b.grounds();
    b.links();
    b.clamps();
    b.isolated_grounds();
    (b.net, b.layout)
}

/// Per node: whether something names it as its feed, return or tie.
fn tapped(plan: &Plan) -> Vec<bool> {
    let feeds = plan.bare_feeds().flat_map(|f| std::iter::once(f.from.id).chain(f.back.as_ref().map(|b| b.to.id)));
    let ties = plan.grounds.iter().flat_map(|g| &g.between).chain(plan.links.iter().flat_map(|l| &l.between));
    let across = plan.clamps.iter().map(|c| &c.across).chain(plan.capacitors.iter().map(|c| &c.across));
    let mut tapped = vec![false; plan.nodes.len()];
    for id in feeds.chain(ties.chain(across).map(|node| node.id)) {
        // What names nothing is a problem of the text.
        tapped.get_mut(id.0).into_iter().for_each(|tapped| *tapped = true);
    }
    tapped
}

pub(crate) struct Builder<'a> {
    pub(crate) plan: &'a Plan,
    pub(crate) state: &'a State<'a>,
    pub(crate) net: Network,
    pub(crate) layout: Layout,
    pub(crate) tapped: Vec<bool>,
    /// Per strip, per injection.
    pub(crate) feed_points: Vec<Vec<Terminals>>,
}

impl Builder<'_> {
    pub(crate) fn vertex(&mut self) -> usize {
        self.net.vertices += 1;
        self.net.vertices - 1
    }

    pub(crate) fn terminals(&mut self) -> Terminals {
        Terminals { plus: self.vertex(), minus: self.vertex() }
    }

    pub(crate) fn branch(&mut self, from: usize, to: usize, law: Law) -> usize {
        self.net.branches.push(Branch { from, to, law });
        self.net.branches.len() - 1
    }

    /// Every node gets its own +; what shares a − with its feed shares the vertex.
    fn nodes(&mut self) {
        for i in 0..self.plan.nodes.len() {
            let terminals = match self.plan.nodes[i].kind {
                NodeKind::Converter(c) => {
                    // The output's − is the input's −, unless it is isolated.
                    let input = self.terminals();
                    self.layout.converters.push(ConverterAt { input, intake: usize::MAX, output: usize::MAX });
                    let plus = self.vertex();
                    let minus = if self.plan.converters[c].is_isolated() { self.vertex() } else { input.minus };
                    Terminals { plus, minus }
                }
                NodeKind::BoardOutput(c) => {
                    let input = self.plan.node_id(NodeKind::BoardInput(c)).map_or(0, |id| id.0);
                    Terminals { plus: self.vertex(), minus: self.layout.nodes[input].minus }
                }
                _ => self.terminals(),
            };
            self.layout.nodes.push(terminals);
        }
    }

    /// A strip's `start` or `end` is the feed point there, if it has one.
    fn feed_points(&mut self) {
        for (i, strip) in self.plan.strips.iter().enumerate() {
            let points: Vec<Terminals> = strip.injections.iter().map(|_| self.terminals()).collect();
            for (kind, at_m) in ends(i, strip) {
                let at = strip.injections.iter().position(|inj| (inj.at_m - at_m).abs() < 1e-9);
                if let (Some(q), Some(id)) = (at, self.plan.node_id(kind)) {
                    self.layout.nodes[id.0] = points[q];
                }
            }
            self.feed_points.push(points);
        }
    }

    pub(crate) fn node(&self, id: NodeId) -> Terminals {
        self.layout.nodes[id.0]
    }

    pub(crate) fn at(&self, kind: NodeKind) -> Terminals {
        self.plan.node_id(kind).map_or(Terminals { plus: 0, minus: 0 }, |id| self.node(id))
    }

    fn sources(&mut self) {
        let corner = self.state.corner;
        for (i, s) in self.plan.supplies.iter().enumerate() {
            let t = self.at(NodeKind::Supply(i));
            let law = Law::Source {
                emf: s.voltage.at(corner, Role::Source).get(),
                ohms: s.resistance.at(corner, Role::Resistance).get(),
                limit: s.limit.as_ref().map_or(f64::INFINITY, |l| l.low.get()),
                sinks: s.sinks,
            };
            let on = self.state.demands.supplies_on[i];
            let branch = self.branch(t.minus, t.plus, if on { law } else { Law::OPEN });
            self.layout.supplies.push(branch);
            if on {
                self.net.supplies.push(branch);
            }
            self.net.source_minus.push(t.minus);
        }
    }

    fn runs(&mut self) {
        let corner = self.state.corner;
        for (i, run) in self.plan.branches.iter().enumerate() {
            let to = self.at(NodeKind::Branch(i));
            let (open, throw) = self.state.demands.runs[i];
            let feed = run.switch().and_then(|s| s.throws.get(throw)).map_or(&run.feed, |(_, feed)| feed);
            let ends = match &run.kind {
                // A diode sits behind its cable.
                RunKind::Diode(_) | RunKind::Switch(_) | RunKind::Limiter(_) => {
                    Terminals { plus: self.vertex(), minus: to.minus }
                }
                RunKind::Stage(at) => match self.plan.drivers[at.driver].side {
                    Side::High => Terminals { plus: self.vertex(), minus: to.minus },
                    Side::Low => Terminals { plus: to.plus, minus: self.vertex() },
                },
                _ => to,
            };
            let contact_ohms = run.contact().map_or(0.0, |c| c.ohms(corner));
            let info = self.feed_through(&run.name.text, Run::Branch(i), feed, contact_ohms, ends);
            if open.plus {
                self.net.branches[info.0].law = Law::OPEN;
            }
            if open.minus {
                self.net.branches[info.1].law = Law::OPEN;
            }
            let element = self.element(&run.kind, ends, to);
            let stage = element.filter(|_| matches!(run.kind, RunKind::Stage(_)));
            self.layout.through.push(stage.unwrap_or(info.0));
            self.layout.elements.push(element);
        }
        self.converters();
    }

    /// The branch between the end of a run's lead and its node: a diode, a contact,
    /// a stage.
    fn element(&mut self, kind: &RunKind, ends: Terminals, to: Terminals) -> Option<usize> {
        let corner = self.state.corner;
        match kind {
            RunKind::Diode(d) => {
                let (from, to) = if d.reversed { (to.plus, ends.plus) } else { (ends.plus, to.plus) };
                let law = diode(d, corner, Lies::InFeed);
                Some(self.branch(from, to, law))
            }
            RunKind::Switch(s) => {
                let contact = fixed(s.resistance.at(corner, Role::Resistance).get());
                Some(self.branch(ends.plus, to.plus, contact))
            }
            RunKind::Limiter(l) => {
                let warm = fixed(l.warm.at(corner, Role::Resistance).get());
                Some(self.branch(ends.plus, to.plus, warm))
            }
            RunKind::Stage(at) => {
                let driver = &self.plan.drivers[at.driver];
                let (from, to, lies) = match driver.side {
                    Side::High => (ends.plus, to.plus, Lies::InFeed),
                    Side::Low => (to.minus, ends.minus, Lies::InReturn),
                };
                Some(self.branch(from, to, stage(driver, corner, lies)))
            }
            _ => None,
        }
    }

    fn converters(&mut self) {
        let corner = self.state.corner;
        for (i, c) in self.plan.converters.iter().enumerate() {
            let input = self.layout.converters[i].input;
            self.feed(&c.name.text, Run::Converter(i), &c.feed, input);
            let out = self.at(NodeKind::Converter(i));
            let (volts, ohms) =
                (c.output.at(corner, Role::Source).get(), c.resistance.at(corner, Role::Resistance).get());
            let limit = c.limit.as_ref().map_or(f64::INFINITY, |l| l.low.get());
            let (intake, output) = if c.kind == ConverterKind::Linear {
                let dropout = c.dropout.at(corner, Role::Resistance).get();
                let law = Law::Regulator { common: out.minus, volts, ohms, dropout, limit };
                let output = self.branch(input.plus, out.plus, law);
                let amps = c.own_current.at(corner, Role::Demand).get();
                (self.branch(input.plus, input.minus, Law::ConstantCurrent { amps, knee: 1.0 }), output)
            } else {
                let law = Law::Source { emf: volts, ohms, limit, sinks: false };
                let output = self.branch(out.minus, out.plus, law);
                let law = Law::ConverterInput {
                    output,
                    efficiency: c.efficiency.at(corner, Role::LoadOpposite).get(),
                    quiescent_w: c.quiescent.at(corner, Role::Demand).get(),
                };
                (self.branch(input.plus, input.minus, law), output)
            };
            self.layout.converters[i] = ConverterAt { input, intake, output };
        }
    }

    fn links(&mut self) {
        for link in &self.plan.links {
            let [a, b] = [self.node(link.between[0].id), self.node(link.between[1].id)];
            let law = if link.closed {
                fixed(link.resistance.at(self.state.corner, Role::Resistance).get())
            } else {
                Law::OPEN
            };
            let branch = self.branch(a.plus, b.plus, law);
            self.layout.links.push(branch);
        }
        self.module_jumpers();
    }

    fn clamps(&mut self) {
        for clamp in &self.plan.clamps {
            let at = self.node(clamp.across.id);
            let law = diode(&clamp.diode, self.state.corner, Lies::Across);
            // The cathode belongs at +.
            let (from, to) = if clamp.diode.reversed { (at.plus, at.minus) } else { (at.minus, at.plus) };
            let branch = self.branch(from, to, law);
            self.layout.clamps.push(branch);
        }
    }

    /// The − of an isolated output is 0 V of its own group, unless something ties it.
    fn isolated_grounds(&mut self) {
        for (i, _) in self.plan.converters.iter().enumerate().filter(|(_, c)| c.is_isolated()) {
            let minus = self.at(NodeKind::Converter(i)).minus;
            self.net.source_minus.push(minus);
        }
    }

    fn loads(&mut self) {
        for (i, load) in self.plan.loads.iter().enumerate() {
            let mut members = Vec::with_capacity(load.count);
            for m in 0..load.count {
                let t = self.terminals();
                self.feed(&load.member(m), Run::Load(i), &load.feed, t);
                let law = match draw(load, &self.state.demands.loads[i][m], self.state.corner) {
                    Draw::Nothing => Law::ConstantCurrent { amps: 0.0, knee: 1.0 },
                    Draw::Amps(amps) => Law::ConstantCurrent { amps, knee: load.knee_v() },
                    Draw::Watts(watts) => Law::ConstantPower { watts },
                    Draw::Ohms(ohms) => Law::Resistive { siemens: 1.0 / ohms },
                    Draw::Leds(vf, ohms) => Law::LedString { vf, siemens: 1.0 / ohms.max(LEAST_OHMS) },
                };
                members.push(DemandAt { at: t, branch: self.branch(t.plus, t.minus, law) });
            }
            self.layout.loads.push(members);
        }
    }

    fn grounds(&mut self) {
        for (i, g) in self.plan.grounds.iter().enumerate() {
            let [a, mut b] = [self.node(g.between[0].id).minus, self.node(g.between[1].id).minus];
            if let Some(t) = g.load.and_then(|l| Some(self.layout.loads.get(l)?.first()?.at)) {
                b = t.minus;
            }
            let law = match (&g.cable, &g.resistance) {
                (_, Some(r)) => fixed(r.at(self.state.corner, Role::Resistance).get()),
                (Some(cable), None) => self.conductor(Some(cable), |c| &c.back, 0.0),
                (None, None) => fixed(0.0),
            };
            let back = self.branch(a, b, law);
            self.layout.conductors.push(ConductorInfo {
                name: g.name.text.clone(),
                run: Run::Ground(i),
                feed: None,
                back,
            });
        }
    }

    /// The vertex that is connected to a node's `rail`; of a pin one that all its loads share, behind the pin's
    /// resistance.
    fn behind_pin(&mut self, at: &NodeRef, rail: usize) -> usize {
        let Some(pin) = &at.pin else { return rail };
        let open = at.name.span.filter(|_| pin.is_open());
        let same = |p: &&PinInfo| (p.board, &p.pin, p.open, p.rail) == (pin.board, &pin.pin, open, rail);
        if let Some(known) = self.layout.pins.iter().find(same) {
            return known.vertex;
        }
        let vertex = self.vertex();
        let ohms = self.plan.boards[pin.board].pins.ohms.at(self.state.corner, Role::Resistance).get();
        let branch = self.branch(rail, vertex, fixed(ohms));
        let (board, pin) = (pin.board, pin.pin.clone());
        self.layout.pins.push(PinInfo { board, pin, open, rail, vertex, branch });
        vertex
    }

    /// Both conductors of a feed, from its node to the terminals it feeds; their branches.
    pub(crate) fn feed(&mut self, name: &str, run: Run, feed: &Feed, to: Terminals) -> (usize, usize) {
        self.feed_through(name, run, feed, 0.0, to)
    }

    /// As [`feed`](Self::feed), with a contact in each conductor in addition to those of its cable.
    fn feed_through(&mut self, name: &str, run: Run, feed: &Feed, contact_ohms: f64, to: Terminals) -> (usize, usize) {
        let (out, back_to, cable) = self.feed_only(feed, contact_ohms, to.plus);
        let back_to = feed.back.as_ref().map_or(back_to, |b| self.behind_pin(&b.to, back_to));
        let law = self.conductor(cable, |c| &c.back, contact_ohms);
        // The return counts in the same direction as the feed: its current is negative.
        let back = self.branch(back_to, to.minus, law);
        self.layout.conductors.push(ConductorInfo { name: name.to_owned(), run, feed: Some(out), back });
        (out, back)
    }

    /// The feed conductor only, to a +; where its return goes, and over which cable.
    pub(crate) fn feed_only<'f>(
        &mut self,
        feed: &'f Feed,
        contact_ohms: f64,
        plus: usize,
    ) -> (usize, usize, Option<&'f Cable>) {
        let from = self.node(feed.from.id);
        let fuse_ohms = feed.fuse.as_ref().map_or(0.0, |f| f.resistance.at(self.state.corner, Role::Resistance).get());
        let law = self.conductor(feed.cable.as_ref(), |c| &c.feed, fuse_ohms + contact_ohms);
        let start = self.behind_pin(&feed.from, from.plus);
        let out = self.branch(start, plus, law);
        match &feed.back {
            Some(back) => (out, self.node(back.to.id).minus, back.cable.as_ref()),
            None => (out, from.minus, feed.cable.as_ref()),
        }
    }

    /// A conductor with its contacts, and what else of fixed resistance lies in it.
    pub(crate) fn conductor(&self, cable: Option<&Cable>, which: fn(&Cable) -> &Conductor, other_ohms: f64) -> Law {
        let (corner, warmest) = (self.state.corner, self.plan.warmest_c());
        let Some(cable) = cable else { return fixed(other_ohms) };
        let wire = cable.ohms(which(cable), self.plan.ambient_c(corner), corner);
        let ohms = (wire.ohms + other_ohms + cable.contact_ohms(corner)).max(LEAST_OHMS);
        if wire.rise == 0.0 {
            return Law::Conductor { ohms, rise: 0.0, ampacity: f64::INFINITY };
        }
        let ampacity = cable.ampacity(warmest).filter(|a| *a > 0.0).unwrap_or(f64::INFINITY);
        Law::Conductor { ohms, rise: if ampacity.is_finite() { wire.rise * wire.ohms / ohms } else { 0.0 }, ampacity }
    }
}

/// A diode's law in a corner; its drop goes with the conductors, its reverse voltage against them.
pub(crate) fn diode(d: &Diode, corner: Corner, lies: Lies) -> Law {
    Law::Diode {
        vf: d.vf.at(corner, Role::Resistance).get(),
        ohms: d.resistance.at(corner, Role::Resistance).get(),
        reverse: d.reverse.as_ref().map_or(f64::INFINITY, |r| r.at(corner, Role::Resistance).get()),
        lies,
    }
}

/// What a stage that is on drops in a corner: with the conductors.
fn stage(driver: &Driver, corner: Corner, lies: Lies) -> Law {
    let ohms = driver.ohms.at(corner, Role::Resistance).get();
    match driver.drop.as_ref().map(|d| d.at(corner, Role::Resistance).get()).filter(|vf| *vf > 0.0) {
        Some(vf) => Law::Diode { vf, ohms, reverse: f64::INFINITY, lies },
        None => fixed(ohms),
    }
}

pub(crate) fn fixed(ohms: f64) -> Law {
    Law::Conductor { ohms: ohms.max(LEAST_OHMS), rise: 0.0, ampacity: f64::INFINITY }
}
