//! The ways from a cable up to the sources that feed it, with the resistance and the fuses on each.

use crate::plan::kinds::battery::Battery;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::feed::{Feed, NodeId};
use crate::plan::wiring::fuse::Fuse;
use crate::quantity::figure::{Corner, Figure, Role};
use crate::quantity::units::Volts;
use crate::topology::conductors::{feed_of, fuse_of};
use crate::topology::run::Run;

/// More ways than this into one cable are not followed.
const MOST_WAYS: usize = 64;

/// One way from a source to the far end of a cable.
#[derive(Clone, Debug)]
pub(crate) struct Direction {
    /// The source, or what its + is called.
    pub source: NodeId,
    pub gives: Gives,
    /// The cable itself, then what feeds it, up to the source.
    pub runs: Vec<Run>,
}

/// What a source gives into a short circuit.
#[derive(Clone, Debug)]
pub(crate) struct Gives {
    pub volts: Figure<Volts>,
    /// Its own resistance where it is largest and smallest, Ω.
    pub ohms: (f64, f64),
    pub limit: Limit,
}

/// Where a source stops.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Limit {
    /// Between these, A; a hiccup whose cycle is known counts by its r.m.s. current.
    Between(f64, f64),
    /// Only its resistance holds it.
    None,
    /// Nothing says.
    Unknown,
}

/// All ways into a cable.
pub(crate) fn ways_of(plan: &Plan, run: Run) -> Vec<Direction> {
    let is_open = matches!(run, Run::Branch(i) if is_parted(plan, i));
    let feed = feed_of(plan, run).filter(|_| !is_open);
    feed.map_or_else(Vec::new, |feed| climb(plan, feed.from.id, run))
}

/// True for a run that the plan says is disconnected; a switch may be closed one day.
fn is_parted(plan: &Plan, branch: usize) -> bool {
    plan.branches[branch].open.any() && plan.branches[branch].switch().is_none()
}

/// A step of the climb. Chains of runs can be thousands long, so that it keeps its own stack.
enum Step {
    /// Goes on at a node.
    At(NodeId),
    /// Done with a node.
    Leave(NodeId),
    /// Passes a run on the way up, and comes back over it.
    Up(Run),
    Down,
}

fn climb(plan: &Plan, from: NodeId, run: Run) -> Vec<Direction> {
    let (mut ways, mut runs): (Vec<Direction>, Vec<Run>) = (Vec::new(), vec![run]);
    // The nodes that it has come by.
    let mut passed = vec![false; plan.nodes.len()];
    let mut steps = vec![Step::At(from)];
    while let Some(step) = steps.pop() {
        let at = match step {
            Step::Leave(at) => {
                passed[at.0] = false;
                continue;
            }
            Step::Up(run) => {
                runs.push(run);
                continue;
            }
            Step::Down => {
                runs.pop();
                continue;
            }
            Step::At(at) => at,
        };
        // A node twice is a circle: rails that links join meet in circles.
        if ways.len() >= MOST_WAYS || passed[at.0] {
            continue;
        }
        passed[at.0] = true;
        let mut next = Vec::new();
        if is_source(plan, at) {
            ways.extend(gives(plan, at).map(|gives| Direction { source: at, gives, runs: runs.clone() }));
        }
        for (run, feed) in feeds_of(plan, at) {
            next.extend([Step::Up(run), Step::At(feed.from.id), Step::Down]);
        }
        // A closed link brings in what feeds its other end: boards stacked, supplies side by side.
        for link in plan.links.iter().filter(|l| l.closed) {
            match link.between.each_ref().map(|n| n.id) {
                [a, b] if a == at => next.push(Step::At(b)),
                [a, b] if b == at => next.push(Step::At(a)),
                _ => {}
            }
        }
        next.push(Step::Leave(at));
        steps.extend(next.into_iter().rev());
    }
    ways
}

/// A boost cannot hold a short: its choke and its diode lead from input to output. What lies behind it is fed by what
/// feeds it, unless its datasheet says that it limits.
fn is_source(plan: &Plan, at: NodeId) -> bool {
    match plan.nodes[at.0].kind {
        NodeKind::Converter(i) => !plan.converters[i].passes_shorts(),
        kind => matches!(kind, NodeKind::Supply(_) | NodeKind::BoardOutput(_)),
    }
}

/// The runs that feed a node into a short circuit, with their feeds.
fn feeds_of(plan: &Plan, at: NodeId) -> Vec<(Run, &Feed)> {
    match plan.nodes[at.0].kind {
        NodeKind::Branch(i) if !is_parted(plan, i) => vec![(Run::Branch(i), &plan.branches[i].feed)],
        NodeKind::BoardInput(i) => {
            let own = plan.boards[i].feed.iter().map(|feed| (Run::Board(i), feed));
            own.chain(plan.terminals_of(i).map(|run| (Run::Branch(run), &plan.branches[run].feed))).collect()
        }
        NodeKind::StripStart(i) | NodeKind::StripEnd(i) => {
            let injections = plan.strips[i].injections.iter().enumerate();
            injections.map(|(q, injection)| (Run::Injection(i, q), &injection.feed)).collect()
        }
        NodeKind::Converter(i) if plan.converters[i].passes_shorts() => {
            vec![(Run::Converter(i), &plan.converters[i].feed)]
        }
        _ => Vec::new(),
    }
}

/// Beyond its rating a regulated source gives up to 1.5 × it where nothing else is said (typical).
const TYPICAL_LIMIT: f64 = 1.5;

fn gives(plan: &Plan, source: NodeId) -> Option<Gives> {
    let own = |figure: &Figure<crate::quantity::units::Ohms>| (figure.high.get(), figure.low.get());
    Some(match plan.nodes[source.0].kind {
        NodeKind::Supply(i) => {
            let s = &plan.supplies[i];
            let rms = s.hiccup.as_ref().map_or(1.0, |cycle| cycle.share().sqrt());
            let limit = match &s.limit {
                Some(limit) => Limit::Between(limit.low.get() * rms, limit.high.get() * rms),
                None if s.kind.is_stiff() || s.resistance.low.get() > 0.0 => Limit::None,
                None => Limit::Unknown,
            };
            let (mut volts, mut ohms) = (s.voltage.clone(), own(&s.resistance));
            // A short meets a full battery at rest, and the resistance of its first milliseconds.
            if let (Some((emf, short)), true) =
                (s.battery.as_ref().and_then(Battery::in_short), s.resistance.origin.is_assumed())
            {
                volts.high = Volts::new(emf.min(volts.high.get()));
                ohms.1 = short;
            }
            Gives { volts, ohms, limit }
        }
        NodeKind::Converter(i) => {
            let c = &plan.converters[i];
            let limit = match &c.limit {
                Some(l) if c.limit_is_stated => Limit::Between(l.low.get(), l.high.get()),
                Some(l) => Limit::Between(l.low.get(), TYPICAL_LIMIT * l.high.get()),
                None => Limit::Unknown,
            };
            Gives { volts: c.output.clone(), ohms: own(&c.resistance), limit }
        }
        NodeKind::BoardOutput(i) => {
            let r = plan.boards[i].regulator.as_ref()?;
            let limit =
                r.limit.as_ref().map_or(Limit::Unknown, |l| Limit::Between(l.low.get(), TYPICAL_LIMIT * l.high.get()));
            Gives { volts: r.voltage.clone(), ohms: (0.0, 0.0), limit }
        }
        _ => return None,
    })
}

impl Direction {
    /// The fuses on it with the run at whose beginning each lies, from the cable up.
    pub fn fuses<'p>(&self, plan: &'p Plan) -> impl Iterator<Item = (Run, &'p Fuse)> {
        self.runs.iter().filter_map(|run| Some((*run, fuse_of(plan, *run)?)))
    }

    /// The fuse that opens first: that of the smallest current from which it opens; of equals the nearest.
    pub fn guard<'p>(&self, plan: &'p Plan) -> Option<(Run, &'p Fuse)> {
        self.fuses(plan).reduce(|a, b| if b.1.opens_a() < a.1.opens_a() { b } else { a })
    }

    /// What flows into a short circuit at the cable's far end where it is least, A: sources low, wires at their
    /// insulation's temperature, fuses and contacts included; and never more than the source surely gives.
    pub fn least_a(&self, plan: &Plan) -> f64 {
        let flows = self.short_a(plan, &self.runs, Corner::Low, true);
        match self.gives.limit {
            Limit::Between(lo, _) => flows.min(lo),
            _ => flows,
        }
    }

    /// What flows into a short circuit right behind the beginning of a cable of the way where it is most, A: sources
    /// high, wires cold, and never more than the source may give.
    pub fn most_a(&self, plan: &Plan, behind: Run) -> f64 {
        let from = self.runs.iter().position(|r| *r == behind).map_or(0, |i| i + 1);
        let flows = self.short_a(plan, &self.runs[from..], Corner::Hot, false);
        match self.gives.limit {
            Limit::Between(_, hi) => flows.min(hi),
            _ => flows,
        }
    }

    /// As [`most_a`](Self::most_a), right behind the fuse at a cable's beginning: the fuse itself and its holder are in
    /// the loop.
    pub fn most_through(&self, plan: &Plan, at: Run) -> f64 {
        const HOLDER_OHMS: f64 = 0.002;
        let flows = self.most_a(plan, at);
        let fuse = fuse_of(plan, at).map_or(0.0, |f| f.resistance.at(Corner::Hot, Role::Resistance).get());
        let emf = self.gives.volts.at(Corner::Hot, Role::Source).get();
        match self.gives.limit {
            Limit::Between(_, hi) if flows >= hi => flows,
            // Beside what limits it already.
            _ => emf / (emf / flows.max(1e-9) + fuse + HOLDER_OHMS),
        }
    }

    fn short_a(&self, plan: &Plan, runs: &[Run], corner: Corner, warm: bool) -> f64 {
        let emf = self.gives.volts.at(corner, Role::Source).get();
        let own = if warm { self.gives.ohms.0 } else { self.gives.ohms.1 };
        let (mut drop, mut ohms) = (0.0, own);
        for run in runs {
            let (vf, r) = series(plan, *run, corner, warm);
            drop += vf;
            ohms += r;
        }
        (emf - drop).max(0.0) / ohms.max(1e-9)
    }
}

/// Diode voltage and resistance of a run, feed and return together.
fn series(plan: &Plan, run: Run, corner: Corner, warm: bool) -> (f64, f64) {
    let Some(feed) = feed_of(plan, run) else { return (0.0, 0.0) };
    let of = |cable: Option<&Cable>, is_return: bool| {
        let Some(cable) = cable else { return 0.0 };
        let conductor = if is_return { &cable.back } else { &cable.feed };
        let wire = cable.ohms(conductor, plan.ambient_c(corner), corner);
        wire.ohms * if warm { 1.0 + wire.rise } else { 1.0 } + cable.contact_ohms(corner)
    };
    let back = feed.back.as_ref().map_or(feed.cable.as_ref(), |b| b.cable.as_ref());
    let fuse = feed.fuse.as_ref().map_or(0.0, |f| f.resistance.at(corner, Role::Resistance).get());
    let leads = of(feed.cable.as_ref(), false) + of(back, true) + fuse;
    let Run::Branch(i) = run else { return (0.0, leads) };
    let at = |ohms: &Figure<crate::quantity::units::Ohms>| ohms.at(corner, Role::Resistance).get();
    match &plan.branches[i].kind {
        RunKind::Connector(_) | RunKind::Rail(_) | RunKind::Bridge(_) => {
            (0.0, leads + 2.0 * plan.branches[i].contact().map_or(0.0, |c| c.ohms(corner)))
        }
        RunKind::Switch(s) => (0.0, leads + at(&s.resistance)),
        RunKind::Limiter(l) => (0.0, leads + at(&l.warm)),
        RunKind::Stage(s) => {
            let driver = &plan.drivers[s.driver];
            let drop = driver.drop.as_ref().map_or(0.0, |d| d.at(corner, Role::Resistance).get());
            (drop, leads + at(&driver.ohms))
        }
        RunKind::Diode(d) => (d.vf.at(corner, Role::Resistance).get(), leads + at(&d.resistance)),
        _ => (0.0, leads),
    }
}
