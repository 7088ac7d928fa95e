//! How long batteries last: the solved currents integrated until the first consumer stops.

use crate::plan::kinds::scenario::Scenario;
use modest_ohm_solve::network::{Law, Network};
use modest_ohm_solve::solve::{Limits, Solution, Workspace, solve, solve_from};

use super::batteries::feeding_together;
use super::consumers::{Consumer, consumers};
use crate::network::build::build;
use crate::network::layout::Layout;
use crate::network::state::{Boards, Case, Demands, State};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Corner, Role};
use crate::quantity::units::{Fraction, Seconds};
use crate::solved::outcome::Outcome;

/// The discharge of a battery in one scenario, every figure at its nominal.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct RuntimeRow {
    /// The battery.
    pub battery: String,
    /// The scenario.
    pub scenario: Scenario,
    /// Time from full until the first consumer stops or the battery is empty.
    pub lasts: Seconds,
    /// What ends it.
    pub end: DischargeEnd,
    /// The battery's charge at that moment.
    pub left: Fraction,
}

/// What ends a discharge.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum DischargeEnd {
    /// A consumer or converter no longer works.
    Stops(String),
    /// The cut-off of this battery acts.
    CutOff(String),
    /// There is no working voltage any more.
    Collapse,
    /// Nothing; the battery is empty.
    Empty,
}

impl DischargeEnd {
    /// One of `consumer`, `cut-off`, `collapse`, `empty`.
    #[must_use]
    pub fn word(&self) -> &'static str {
        match self {
            Self::Stops(_) => "consumer",
            Self::CutOff(_) => "cut-off",
            Self::Collapse => "collapse",
            Self::Empty => "empty",
        }
    }

    /// What stops first.
    #[must_use]
    pub fn consumer(&self) -> Option<&str> {
        if let Self::Stops(name) = self { Some(name) } else { None }
    }
}

impl std::fmt::Display for DischargeEnd {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::Stops(name) => f.pad(name),
            Self::CutOff(battery) => f.pad(&format!("cut-off of {battery}")),
            Self::Collapse => f.pad("its supply collapses"),
            Self::Empty => f.pad("nothing; it is empty"),
        }
    }
}

/// Below this nothing is drawn: the battery's own discharge decides.
const NO_LOAD_A: f64 = 1e-6;

/// More steps than any discharge takes that comes to an end.
const MOST_STEPS: usize = 400;

/// This share of the steps is enough to know the mean current, on which only the charge depends.
const ROUGH: f64 = 0.25;

/// Seconds, charges left, what ended it, coulombs taken.
type March = (f64, Vec<f64>, DischargeEnd, Vec<f64>);

/// Steps over the whole charge; fewer where a solve is dear. Twenty are within 3e-5 of eighty for two robots of forty
/// parts (measured), far inside the spread of any cell.
fn steps(plan: &Plan) -> f64 {
    let pixels: usize = plan.strips.iter().map(crate::plan::strip::Strip::work).sum();
    match pixels {
        0..5_000 => 20.0,
        5_000..50_000 => 16.0,
        _ => 8.0,
    }
}

/// A plan's batteries as they run down.
struct Discharge<'a> {
    plan: &'a Plan,
    layout: Layout,
    /// Boards at their mean, for the charge taken: the states that PWM goes through, each with its share of the time;
    /// the first has everything on.
    mean: Vec<(f64, Network)>,
    /// Boards at peak current, for what stops.
    peak: Network,
    parts: Vec<Consumer<'a>>,
    case: &'a Case,
    /// Indices of the batteries whose discharge is known.
    batteries: Vec<usize>,
    workspace: Workspace,
    /// Per network, the mean ones first: its last solution. One step of a discharge is near the next.
    last: Vec<Option<Solution>>,
}

/// The runtimes of a plan in a lasting scenario: one a battery whose cell and charge are known and that gives current.
pub(crate) fn runtimes(plan: &Plan, case: &Case) -> Vec<RuntimeRow> {
    let batteries: Vec<usize> = (0..plan.supplies.len())
        .filter(|i| {
            let own = plan.supplies[*i].battery.as_ref();
            let air_c = plan.ambient.typical.get();
            case.demands.supplies_on[*i]
                && own.is_some_and(|b| b.cell.is_some() && b.charge_ah(0.1).is_some() && !b.is_below_its_figures(air_c))
        })
        .collect();
    feeding_together(plan, &batteries).into_iter().flat_map(|group| of_group(plan, case, group)).collect()
}

/// What converters limit is reported of the converter: a battery sags by its own resistance and the cables.
fn lift_converters(net: &mut Network, layout: &Layout) {
    let regulators = layout.boards.iter().filter_map(|c| c.regulator);
    for branch in layout.converters.iter().map(|c| c.output).chain(regulators) {
        if let Law::Source { limit, .. } | Law::Regulator { limit, .. } = &mut net.branches[branch].law {
            *limit = f64::INFINITY;
        }
    }
}

fn of_group(plan: &Plan, case: &Case, batteries: Vec<usize>) -> Vec<RuntimeRow> {
    let built = |boards| build(plan, &State { corner: Corner::Typical, boards, demands: &case.demands });
    let (first, layout) = built(Boards::Mean);
    let mut peak = if case.bursts { built(Boards::Peak).0 } else { first.clone() };
    lift_converters(&mut peak, &layout);
    let state = |demands: &Demands| build(plan, &State { corner: Corner::Typical, boards: Boards::Mean, demands }).0;
    let mut mean: Vec<(f64, Network)> =
        case.demands.pulses(plan).iter().map(|(share, demands)| (*share, state(demands))).collect();
    if mean.is_empty() {
        mean.push((1.0, first));
    }
    mean.iter_mut().for_each(|(_, net)| lift_converters(net, &layout));
    let parts = consumers(plan, &layout);
    let last = vec![None; mean.len() + 1];
    let mut run = Discharge { plan, layout, mean, peak, parts, case, batteries, workspace: Workspace::default(), last };
    run.whole()
}

impl Discharge<'_> {
    fn whole(&mut self) -> Vec<RuntimeRow> {
        let full = vec![1.0; self.batteries.len()];
        // Where even the full batteries find no working voltage nothing starts.
        let Ok(first) = self.at(&full) else { return self.rows(0.0, &full, &DischargeEnd::Collapse) };
        // The charge depends on the mean current, which is known at the end: once more with that.
        let mut mean: Vec<f64> = first.amps;
        let mut rows = Vec::new();
        // Two batteries on one rail take turns: each step follows what they give at its start.
        let fine = steps(self.plan) * if self.batteries.len() > 1 { 2.0 } else { 1.0 };
        for (steps, crossing) in [(ROUGH * fine, 0.1), (fine, 1e-4)] {
            if mean.iter().all(|a| *a <= NO_LOAD_A) {
                return Vec::new();
            }
            let Some((seconds, charges, end, taken)) = self.march(&full, &mean, steps, crossing) else {
                return Vec::new();
            };
            rows = self.rows(seconds, &charges, &end);
            if seconds > 0.0 {
                mean = taken.iter().map(|coulombs| coulombs / seconds).collect();
            }
        }
        let drawn: Vec<bool> = mean.iter().map(|a| *a > NO_LOAD_A).collect();
        let mut drawn = drawn.into_iter();
        rows.retain(|_| drawn.next().unwrap_or(true));
        rows
    }

    fn rows(&self, seconds: f64, charges: &[f64], end: &DischargeEnd) -> Vec<RuntimeRow> {
        let row = |(i, left): (&usize, &f64)| RuntimeRow {
            battery: self.plan.supplies[*i].name.text.clone(),
            scenario: self.case.scenario.clone(),
            lasts: Seconds::new(seconds),
            end: end.clone(),
            left: Fraction::new(*left),
        };
        self.batteries.iter().zip(charges).map(row).collect()
    }

    /// From full to the first stop by the midpoint rule, the last step to `crossing` of itself; nothing where the batteries
    /// come to give nothing.
    fn march(&mut self, full: &[f64], mean: &[f64], steps: f64, crossing: f64) -> Option<March> {
        let coulombs: Vec<f64> = self
            .batteries
            .iter()
            .zip(mean)
            .map(|(i, amps)| {
                self.plan.supplies[*i].battery.as_ref().and_then(|b| b.charge_ah(*amps)).unwrap_or(0.0) * 3600.0
            })
            .collect();
        let largest_step = 1.0 / steps;
        let (mut seconds, mut charges, mut taken) = (0.0, full.to_vec(), vec![0.0; full.len()]);
        let mut here = match self.at(&charges) {
            Ok(here) => here,
            Err(()) => return Some((0.0, charges, DischargeEnd::Collapse, taken)),
        };
        if let Some(end) = here.stopped {
            return Some((0.0, charges, end, taken));
        }
        for _ in 0..MOST_STEPS {
            if charges.iter().any(|c| *c <= 1e-9) {
                return Some((seconds, charges, DischargeEnd::Empty, taken));
            }
            // Another source has taken over: they last continuously.
            if here.amps.iter().all(|a| *a <= NO_LOAD_A) {
                return None;
            }
            // The one that falls fastest sets the pace, and ends exactly at empty.
            let rate = |amps: &[f64]| -> Vec<f64> { amps.iter().zip(&coulombs).map(|(a, q)| a.max(0.0) / q).collect() };
            let now = rate(&here.amps);
            let fastest = now.iter().fold(0.0f64, |m, r| m.max(*r));
            if fastest * largest_step == 0.0 {
                return None;
            }
            let to_empty = now.iter().zip(&charges).map(|(r, c)| c / r.max(1e-300)).fold(f64::INFINITY, f64::min);
            let dt = (largest_step / fastest).min(to_empty);
            let after = |share: f64, rates: &[f64]| -> Vec<f64> {
                charges.iter().zip(rates).map(|(c, r)| (c - share * dt * r).max(0.0)).collect()
            };
            // Where the feed collapses before the middle of the step, the rates of its start lead to the end.
            let rates = self.flows(&after(0.5, &now)).map_or(now, |amps| rate(&amps));
            let there = self.at(&after(1.0, &rates));
            let share = match &there {
                Ok(there) if there.stopped.is_none() => 1.0,
                _ => self.crossing(crossing, |share| after(share, &rates)),
            };
            let next = after(share, &rates);
            seconds += share * dt;
            for (i, taken) in taken.iter_mut().enumerate() {
                *taken += (charges[i] - next[i]) * coulombs[i];
            }
            charges = next;
            match there {
                Ok(state) => match state.stopped {
                    None => here = state,
                    Some(end) => return Some((seconds, charges, end, taken)),
                },
                Err(()) => return Some((seconds, charges, DischargeEnd::Collapse, taken)),
            }
        }
        // It creeps towards where another source takes over.
        None
    }

    /// The share of a step at which the first consumer stops, to `fine`.
    fn crossing(&mut self, fine: f64, charges: impl Fn(f64) -> Vec<f64>) -> f64 {
        let (mut runs, mut stops) = (0.0, 1.0);
        while stops - runs > fine {
            let middle = 0.5 * (runs + stops);
            if self.at(&charges(middle)).is_ok_and(|s| s.stopped.is_none()) {
                runs = middle;
            } else {
                stops = middle;
            }
        }
        runs
    }

    /// What flows at these charges, and what has stopped; an error where there is no solution.
    fn at(&mut self, charges: &[f64]) -> Result<Moment, ()> {
        let amps = self.flows(charges)?;
        let on = if self.case.bursts { self.mean.len() } else { 0 };
        if self.case.bursts {
            self.solve(on)?;
        }
        let on = self.last[on].as_ref().ok_or(())?;
        Ok(Moment { stopped: self.stopped(on), amps })
    }

    /// What the batteries give on average at these charges; an error where there is no solution.
    fn flows(&mut self, charges: &[f64]) -> Result<Vec<f64>, ()> {
        for (i, charge) in self.batteries.iter().zip(charges) {
            let Some((volts, ohms)) = self.plan.supplies[*i].battery.as_ref().and_then(|b| b.at_charge(*charge)) else {
                continue;
            };
            for net in self.mean.iter_mut().map(|(_, net)| net).chain([&mut self.peak]) {
                if let Law::Source { emf, ohms: own, .. } = &mut net.branches[self.layout.supplies[*i]].law {
                    *emf = volts.get();
                    // A stated resistance is of the pack as it is.
                    if self.plan.supplies[*i].resistance.origin.is_assumed() {
                        *own = ohms.get();
                    }
                }
            }
        }
        let mut amps = vec![0.0; self.batteries.len()];
        for n in 0..self.mean.len() {
            self.solve(n)?;
            let share = self.mean[n].0;
            let Some(solved) = &self.last[n] else { continue };
            for (amps, i) in amps.iter_mut().zip(&self.batteries) {
                *amps += share * solved.current[self.layout.supplies[*i]];
            }
        }
        Ok(amps)
    }

    /// Solves one of the networks: the mean ones by their number, then the one with boards at peak current.
    fn solve(&mut self, n: usize) -> Result<(), ()> {
        let net = self.mean.get(n).map_or(&self.peak, |(_, net)| net);
        let solved = match &self.last[n] {
            Some(last) => solve_from(net, Limits::IN_FORCE, last, &mut self.workspace),
            None => solve(net, Limits::IN_FORCE, &mut self.workspace),
        };
        self.last[n] = Some(solved.map_err(|_| ())?);
        Ok(())
    }

    /// Whether a node is fed, converters passed through, by one of the batteries.
    fn on_battery(&self, node: NodeId) -> bool {
        let is_battery = |id: &NodeId| match self.plan.nodes[id.0].kind {
            NodeKind::Supply(i) => self.batteries.contains(&i),
            _ => false,
        };
        self.plan.any_up(node, is_battery)
    }

    /// The first consumer, in the order of the plan, that no longer works.
    fn stopped(&self, s: &Solution) -> Option<DischargeEnd> {
        let across = |t: crate::network::layout::Terminals| {
            (s.alive[t.plus] && s.alive[t.minus]).then(|| s.across(t.plus, t.minus))
        };
        for (c, input) in self.plan.converters.iter().zip(self.layout.converters.iter().map(|c| c.input)) {
            if !self.on_battery(c.feed.from.id) {
                continue;
            }
            let set = c.output.at(Corner::Typical, Role::Source).get();
            if across(input).is_some_and(|v| v < c.input_minimum(set)) {
                return Some(DischargeEnd::Stops(c.name.text.clone()));
            }
        }
        for part in self.parts.iter().filter(|p| self.on_battery(p.hangs_on)) {
            let lowest = part.lowest_in(&self.layout, self.case, s);
            if let (Some(lowest), Some(minimum)) = (lowest, &part.minimum)
                && lowest < minimum.typical.get()
            {
                return Some(DischargeEnd::Stops(part.name.clone()));
            }
        }
        for (i, strip) in self.plan.strips.iter().enumerate() {
            let works = strip.pixel.works.as_ref().map(|w| w.typical.get());
            let lit = self.case.demands.lights(i);
            let on_battery = strip.injections.iter().any(|q| self.on_battery(q.feed.from.id));
            if on_battery && s.strips[i].alive && lit && works.is_some_and(|w| s.strips[i].lowest.0 < w) {
                return Some(DischargeEnd::Stops(strip.name.text.clone()));
            }
        }
        for i in &self.batteries {
            let supply = &self.plan.supplies[*i];
            let branch = self.layout.supplies[*i];
            let cut_off = supply.battery.as_ref().and_then(|b| b.cut_off.as_ref());
            let t = self.plan.node_id(NodeKind::Supply(*i)).map(|id| self.layout.nodes[id.0]);
            if let (Some(cut_off), Some(t)) = (cut_off, t)
                && s.current[branch] > NO_LOAD_A
                && across(t).is_some_and(|v| v < cut_off.typical.get())
            {
                return Some(DischargeEnd::CutOff(supply.name.text.clone()));
            }
        }
        None
    }
}

/// One moment of a discharge.
struct Moment {
    amps: Vec<f64>,
    stopped: Option<DischargeEnd>,
}

/// The lasting scenarios of a review, each once.
pub(crate) fn lasting(outcomes: &[Outcome]) -> impl Iterator<Item = &Case> {
    outcomes
        .iter()
        .filter(|o| o.corner == Corner::Typical && o.case.continuous && !o.case.programming)
        .map(|o| &*o.case)
}
