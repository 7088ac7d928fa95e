//! A strip of a plan fed in one way after the other.

use crate::plan::kinds::scenario::Scenario;
use modest_ohm_solve::solve::{Limits, Workspace, solve, solve_pixels};

use crate::derived::context::Context;
use crate::derived::firmware_limit::share_of;
use crate::network::build::build;
use crate::network::demands::cases;
use crate::network::layout::Layout;
use crate::network::state::{Boards, Case, State};
use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::plan::strip::inject::Injection;
use crate::plan::wiring::cable::{Cable, cable_of_size};
use crate::plan::wiring::fuse::blade_fuse;
use crate::quantity::figure::{Corner, Figure, Origin};
use crate::quantity::units::Amps;
use crate::size::injection::gaps_of;
use crate::size::placing::Gaps;
use crate::solved::colour_shift::{Figures, colour_shift, shift_with};
use crate::solved::outcome::{Lift, solve_all};
use crate::tables::wire::WireSize;
use crate::topology::panel_map::Beside;
use crate::topology::run::Run;

/// Pixels and parts that the search for one number of feed points may go through.
const SEARCH_WORK: usize = 40_000_000;

/// A cable whose length the plan does not say is taken as this long, m.
const UNSAID_M: f64 = 0.5;

/// How long the lead to a place is.
#[derive(Clone, Debug)]
pub(crate) struct LeadRule {
    fixed_m: f64,
    from_m: f64,
    beside: Beside,
}

impl LeadRule {
    pub fn length_m(&self, at_m: f64) -> f64 {
        self.fixed_m + self.beside.apart_m(at_m, self.from_m)
    }
}

/// A lead to a feed point as it is tried.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct TriedLead {
    pub size: WireSize,
    /// The rating of a blade fuse at its beginning: a small one loses as much as a metre of wire.
    pub fuse: Option<Amps>,
}

impl TriedLead {
    pub fn bare(size: WireSize) -> Self {
        Self { size, fuse: None }
    }
}

/// What a set of feed points makes of the strip in all lasting scenarios and corners.
pub(crate) struct Found {
    pub lowest_v: f64,
    pub scenario: Scenario,
    pub corner: Corner,
    /// How much weaker the colour that suffers most is, with every figure at its worst, and at its nominal.
    pub shift: f64,
    pub shift_nominal: f64,
    pub copper_w_per_m: f64,
    /// Per feed point, the largest continuously.
    pub currents: Vec<f64>,
    pub strip_a: f64,
}

pub(crate) struct Trial<'a> {
    pub plan: &'a Plan,
    pub strip: usize,
    /// The plan, its strip fed as is being tried, with the firmware limits that it lacks.
    pub variant: Plan,
    pub with_limit: Option<Amps>,
    pub lead: LeadRule,
    pub size: WireSize,
    /// Where it may be fed: its cut marks and its ends, m.
    pub grid: Vec<f64>,
    /// The best set of one feed point less, on the grid.
    pub fewer: Vec<usize>,
    cases: Vec<Case>,
    /// The state in which the strip is lowest: index of the case, corner.
    at: (usize, Corner),
    workspace: Workspace,
}

/// The size of the plan's own first lead.
pub(crate) fn planned_size(strip: &Strip) -> Option<WireSize> {
    strip.injections.iter().find_map(|q| q.feed.cable.as_ref()?.size)
}

impl<'a> Trial<'a> {
    pub fn new(plan: &'a Plan, strip: usize, size: WireSize) -> Option<Self> {
        let own = &plan.strips[strip];
        let first = own.injections.first()?;
        let fixed_m = first.feed.cable.as_ref().map_or(UNSAID_M, |c| c.length_m().unwrap_or(UNSAID_M));
        let mut variant = plan.clone();
        let with_limit = set_limits(plan, strip, &mut variant);
        let lit: Vec<Case> =
            cases(plan).into_iter().filter(|c| c.continuous && !c.programming && c.demands.lights(strip)).collect();
        let grid = grid_of(plan, own);
        let lead = LeadRule { fixed_m, from_m: first.at_m, beside: Beside::of(plan, strip) };
        let mut trial = Self {
            plan,
            strip,
            variant,
            with_limit,
            lead,
            size,
            grid,
            fewer: Vec::new(),
            cases: lit,
            at: (0, Corner::Low),
            workspace: Workspace::default(),
        };
        let middle = trial.grid[trial.grid.len() / 2];
        let found = trial.solve_all(&[middle], &[TriedLead::bare(size)])?;
        let case = trial.cases.iter().position(|c| c.scenario == found.scenario)?;
        trial.at = (case, found.corner);
        Some(trial)
    }

    pub fn pixels(&self) -> usize {
        self.plan.strips.iter().map(crate::plan::strip::Strip::work).sum::<usize>() + 100 * self.plan.nodes.len()
    }

    pub fn cable(&self, at_m: f64, size: WireSize) -> Cable {
        let span = self.plan.strips[self.strip].name.span;
        cable_of_size(span, self.lead.length_m(at_m), size)
    }

    fn feed_at(&mut self, places: &[f64], leads: &[TriedLead]) {
        let Some(first) = self.plan.strips[self.strip].injections.first() else { return };
        let injections = places.iter().zip(leads).map(|(x, lead)| {
            let mut feed = first.feed.clone();
            feed.cable = Some(self.cable(*x, lead.size));
            feed.fuse = lead.fuse.map(|rating| blade_fuse(first.span, rating));
            Injection { span: first.span, at_m: *x, feed }
        });
        let injections = injections.collect();
        self.variant.strips[self.strip].injections = injections;
    }

    /// The lowest pixel of each gap between feed points, in the state in which the strip was lowest.
    pub fn gaps(&mut self, at: &[usize]) -> Gaps {
        let places: Vec<f64> = at.iter().map(|i| self.grid[*i]).collect();
        self.feed_at(&places, &vec![TriedLead::bare(self.size); places.len()]);
        let (case, corner) = self.at;
        let case = &self.cases[case];
        let boards = if case.bursts { Boards::Peak } else { Boards::Mean };
        let (net, _) = build(&self.variant, &State { corner, boards, demands: &case.demands });
        let solution = solve_pixels(&net, Limits::LIFTED, &mut self.workspace).ok()?;
        let solved = &solution.strips[self.strip];
        let density = self.variant.strips[self.strip].density.typical.get();
        solved.alive.then(|| gaps_of(&solved.v, &places, density))
    }

    /// As planned, or otherwise fed, in all lasting scenarios in which the strip is lit, in all corners.
    pub fn solve_all(&mut self, places: &[f64], leads: &[TriedLead]) -> Option<Found> {
        self.feed_at(places, leads);
        let variant = self.variant.clone();
        self.solve_variant(&variant)
    }

    pub fn solve_variant(&mut self, variant: &Plan) -> Option<Found> {
        let strip = &variant.strips[self.strip];
        let mut found: Option<Found> = None;
        for case in &self.cases {
            for corner in Corner::ALL {
                let boards = if case.bursts { Boards::Peak } else { Boards::Mean };
                let (net, layout) = build(variant, &State { corner, boards, demands: &case.demands });
                let solution = solve(&net, Limits::LIFTED, &mut self.workspace).ok()?;
                let solved = &solution.strips[self.strip];
                if !solved.alive {
                    return None;
                }
                let amps = currents(&layout, self.strip, strip.injections.len(), &solution.current);
                let shift = colour_shift(strip, solved).0;
                let now = found.get_or_insert_with(|| Found {
                    lowest_v: f64::INFINITY,
                    scenario: case.scenario.clone(),
                    corner,
                    shift: 0.0,
                    shift_nominal: 0.0,
                    copper_w_per_m: 0.0,
                    currents: vec![0.0; amps.len()],
                    strip_a: 0.0,
                });
                if solved.lowest.0 < now.lowest_v {
                    (now.lowest_v, now.scenario, now.corner) = (solved.lowest.0, case.scenario.clone(), corner);
                }
                now.shift = now.shift.max(shift);
                if corner == Corner::Typical {
                    let nominal = shift_with(strip, solved, Figures::Nominal).0;
                    now.shift_nominal = now.shift_nominal.max(nominal);
                }
                now.copper_w_per_m = now.copper_w_per_m.max(solved.copper_max_w_per_m);
                now.strip_a = now.strip_a.max(solved.current_a);
                now.currents.iter_mut().zip(&amps).for_each(|(most, a)| *most = most.max(*a));
            }
        }
        found
    }
}

/// What flows in each feed point's lead, in its fuller conductor.
fn currents(layout: &Layout, strip: usize, count: usize, current: &[f64]) -> Vec<f64> {
    let of = |q: usize| {
        let infos = layout.conductors.iter().filter(|c| c.run == Run::Injection(strip, q));
        let most = |b: usize| current[b].abs();
        infos.map(|c| c.feed.map_or(0.0, most).max(most(c.back))).fold(0.0, f64::max)
    };
    (0..count).map(of).collect()
}

/// The plan with a strip that loses nothing along its copper and its cables: what it then draws is what it draws at
/// most, however it is fed, and only what lies before its feed points can be exceeded.
fn well_fed(plan: &Plan, strip: usize) -> Plan {
    let mut plan = plan.clone();
    let own = &mut plan.strips[strip];
    own.copper_feed = own.copper_feed.scaled(NO_COPPER);
    own.copper_return = own.copper_return.scaled(NO_COPPER);
    for q in &mut own.injections {
        (q.feed.cable, q.feed.fuse) = (None, None);
    }
    plan
}

const NO_COPPER: f64 = 1e-3;

/// A strip that exceeds what lies before its feed points for want of a firmware limit, or by one that is too high, is
/// planned with the firmware limit that it needs; what its copper and its cables carry is judged with the new feed
/// points.
fn set_limits(plan: &Plan, strip: usize, variant: &mut Plan) -> Option<Amps> {
    let plan = &well_fed(plan, strip);
    let (layout, outcomes) = solve_all(plan, Lift::None);
    let context = Context::new(plan, &layout, &outcomes);
    let cause = context.causes().iter().find(|c| c.strips.contains(&strip) && c.limit_a.is_some())?;
    variant.firmware_limits.retain(|c| !c.strips.iter().any(|(_, i)| cause.strips.contains(i)));
    for s in &cause.strips {
        variant.strips[*s].firmware_limit =
            share_of(plan, cause, *s).map(|firmware_limit| Figure::exact(firmware_limit, Origin::Computed));
    }
    share_of(plan, cause, strip)
}

/// Where the tiles of a panel are fed: where each begins, and at its last pixel.
fn tile_ends(strip: &Strip) -> Vec<f64> {
    let tiles = strip.rows.as_ref().map_or(1, |r| r.count);
    let tile_m = strip.length.typical.get() / tiles as f64;
    let last_m = tile_m - 0.5 / strip.density.typical.get();
    (0..tiles).flat_map(|t| [0.0, last_m].map(|x| t as f64 * tile_m + x)).collect()
}

/// The cut marks of a strip, its ends included; thinned out where the plan is so large that not all can be tried.
fn grid_of(plan: &Plan, strip: &Strip) -> Vec<f64> {
    if strip.is_panel {
        return tile_ends(strip);
    }
    let length = strip.length.typical.get();
    let every = strip.marks.as_ref().map_or(length, |m| m.every.typical.get()).max(1e-4);
    let marks = (length / every + 1e-6).floor() as usize;
    let work = plan.strips.iter().map(crate::plan::strip::Strip::work).sum::<usize>()
        + 100 * (plan.nodes.len() + plan.loads.len());
    let most = (SEARCH_WORK / work.max(1) / 20).clamp(8, 20_000);
    let stride = (marks / most + 1).max(1);
    let mut grid: Vec<f64> = (0..=marks).step_by(stride).map(|k| (k as f64 * every).min(length)).collect();
    if length - grid[grid.len() - 1] > 1e-6 {
        grid.push(length);
    }
    grid
}
