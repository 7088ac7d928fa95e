//! How much light a path can carry: which strips overload what, for want of a firmware limit or by one that is too
//! high, and the largest firmware limit that fixes it.

use std::sync::Arc;

use crate::plan::kinds::scenario::Scenario;
use modest_ohm_solve::solve::{Limits, Solution, Workspace, solve, solve_from};

use super::context::Context;
use super::path::{Element, On, elements, path_of};
use crate::network::build::build;
use crate::network::demands::cases;
use crate::network::state::{Boards, Case, State};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::{Corner, Figure, Origin};
use crate::quantity::units::{Amps, Fraction};
use crate::solved::outcome::{Outcome, Snapshot};

/// A firmware limit is found to this share of full light.
const LIGHT_STEP: f64 = 2e-4;
/// A firmware limit is named in steps of this.
const ROUND_LIMIT_A: f64 = 0.05;
/// Solves that finding a firmware limit takes.
const LIMIT_SOLVES: usize = 60;
/// What is beyond its limit by less than this is rounding.
const ROUNDING: f64 = 1e-9;

/// Strips that overload something together.
#[derive(Clone, Debug)]
pub(crate) struct Cause {
    pub strips: Vec<usize>,
    /// True where firmware limits are set on all of them, and are too high.
    pub limited: bool,
    /// The element furthest beyond its limit: name, current through it, current it may carry.
    pub element: (String, f64, f64),
    /// True where something is beyond what it may carry without any headroom.
    pub beyond_rating: bool,
    pub corner: Corner,
    /// The largest nominal current of the strips together that keeps everything within its limit.
    pub limit_a: Option<f64>,
    /// The share of full light it leaves, 0 to 1.
    pub level: f64,
}

/// Groups of strips that exceed their path: those without a firmware limit at full white, and those whose firmware
/// limits are too high.
pub(crate) fn limit_causes(context: &Context<'_>) -> Vec<Cause> {
    let plan = context.plan;
    let addressable = (0..plan.strips.len()).filter(|i| !plan.strips[*i].pixel.plain);
    let (limited, unlimited): (Vec<usize>, Vec<usize>) = addressable.partition(|i| plan.has_firmware_limit(*i));
    let over = over_at_full(context);
    if over.is_empty() {
        return Vec::new();
    }
    let mut causes = causes_among(context, &unlimited, &over, false);
    // What strips without a limit exceed too is reported once, by them.
    let told: Vec<On> = causes.iter().flat_map(|c| &c.strips).flat_map(|s| path_of(plan, *s)).collect();
    let rest: Vec<(Element, Corner)> = over.into_iter().filter(|(e, _)| !told.contains(&e.on)).collect();
    causes.extend(causes_among(context, &limited, &rest, true));
    causes
}

fn causes_among(context: &Context<'_>, strips: &[usize], over: &[(Element, Corner)], limited: bool) -> Vec<Cause> {
    let plan = context.plan;
    if strips.is_empty() || over.is_empty() {
        return Vec::new();
    }
    let dark = over_elements(&mut Levels::new(context, plan, strips), 0.0);
    // What is over in the dark too is not the strips' doing.
    let lit = |e: &Element| dark.as_ref().is_ok_and(|d| !d.iter().any(|(x, _)| x.on == e.on));
    let over: Vec<&(Element, Corner)> = over.iter().filter(|(e, _)| lit(e)).collect();
    let free = unlimited(plan, strips);
    let mut first = true;
    let cause = |(strips, elements): (Vec<usize>, Vec<usize>)| {
        let (worst, corner) = elements
            .iter()
            .map(|e| over[*e])
            .max_by(|a, b| (a.0.amps / a.0.usable).total_cmp(&(b.0.amps / b.0.usable)))?;
        // The first cause is always followed up, however large the plan.
        let searched = context.in_full && (context.may_try(LIMIT_SOLVES) || first);
        first = false;
        let found = if searched { largest_limit(&mut Levels::new(context, &free, &strips)) } else { None };
        let (limit_a, level) = found.map_or((None, 0.0), |(firmware_limit, level)| (Some(firmware_limit), level));
        Some(Cause {
            strips,
            limited,
            element: (worst.name.clone(), worst.amps, worst.usable),
            beyond_rating: elements.iter().any(|e| over[*e].0.amps > over[*e].0.rating * (1.0 + ROUNDING)),
            corner: *corner,
            limit_a,
            level,
        })
    };
    groups_over(plan, strips, &over).into_iter().filter_map(cause).collect()
}

/// The plan without the firmware limits of these strips.
fn unlimited(plan: &Plan, strips: &[usize]) -> Plan {
    let mut free = plan.clone();
    for i in strips {
        free.strips[*i].firmware_limit = None;
    }
    free.firmware_limits.retain(|c| !c.strips.iter().any(|(_, i)| strips.contains(i)));
    free
}

/// Strips that share an exceeded element, with the elements.
fn groups_over(plan: &Plan, strips: &[usize], over: &[&(Element, Corner)]) -> Vec<(Vec<usize>, Vec<usize>)> {
    let mut groups: Vec<(Vec<usize>, Vec<usize>)> = Vec::new();
    for strip in strips {
        let path = path_of(plan, *strip);
        let mine: Vec<usize> = (0..over.len()).filter(|e| path.contains(&over[*e].0.on)).collect();
        if mine.is_empty() {
            continue;
        }
        let (mut strips, mut elements) = (vec![*strip], mine);
        // Groups that share an element are one.
        groups.retain(|(s, e)| {
            let shared = e.iter().any(|x| elements.contains(x));
            if shared {
                strips.extend(s);
                elements.extend(e);
            }
            !shared
        });
        strips.sort_unstable();
        elements.sort_unstable();
        elements.dedup();
        groups.push((strips, elements));
    }
    groups
}

/// The largest nominal current of strips together, in round numbers, that keeps everything on their way within its
/// limits, and the share of full light that it leaves; nothing where even the dark is too much.
fn largest_limit(levels: &mut Levels<'_>) -> Option<(f64, f64)> {
    let (plan, strips) = (levels.plan, levels.strips);
    let watched: Vec<On> = strips.iter().flat_map(|s| path_of(plan, *s)).collect();
    let dark_a = plan.nominal_of(strips, crate::plan::strip::Strip::nominal_dark_a);
    let full_a = plan.nominal_of(strips, crate::plan::strip::Strip::nominal_full_a);
    let level_of = |firmware_limit: f64| (firmware_limit - dark_a) / (full_a - dark_a);
    let level = limit_for(levels, &watched)?;
    // Firmware limits are set in round numbers: down to the next step, unless the one above holds too.
    let found = dark_a + level * (full_a - dark_a);
    let above = ((found + LIGHT_STEP * (full_a - dark_a)) / ROUND_LIMIT_A).floor() * ROUND_LIMIT_A;
    let mut holds = |firmware_limit: f64| fullest(levels, level_of(firmware_limit), &watched) <= 1.0 + ROUNDING;
    let below = (found / ROUND_LIMIT_A).floor() * ROUND_LIMIT_A;
    let firmware_limit = if above > below && holds(above) { above } else { below };
    (firmware_limit > dark_a).then(|| (firmware_limit, level_of(firmware_limit)))
}

/// What a firmware limit that is set leaves unused.
#[derive(Clone, Debug)]
pub(crate) struct Spare {
    pub strips: Vec<usize>,
    /// The firmware limits that are set, together.
    pub set_a: f64,
    /// What the way carries: the largest firmware limit, or full white.
    pub carries_a: f64,
    /// Shares of full light at the one and at the other.
    pub light: (f64, f64),
}

/// How much of what their way carries the firmware limits use, firmware limit by firmware limit; nothing where a
/// firmware limit is exceeded or nothing is known.
pub(crate) fn spare_limits(context: &Context<'_>) -> Vec<Spare> {
    let plan = context.plan;
    let mut firmware_limits: Vec<(Vec<usize>, f64)> = Vec::new();
    for firmware_limit in plan.firmware_limits.iter().filter(|c| c.split.is_empty()) {
        firmware_limits
            .push((firmware_limit.strips.iter().map(|(_, i)| *i).collect(), firmware_limit.current.typical.get()));
    }
    let own = plan.strips.iter().enumerate();
    firmware_limits.extend(own.filter_map(|(i, s)| Some((vec![i], s.firmware_limit.as_ref()?.typical.get()))));
    let mut spare = Vec::new();
    for (strips, set_a) in firmware_limits {
        if context.causes().iter().any(|c| c.strips.iter().any(|s| strips.contains(s))) {
            continue;
        }
        let full_a = plan.nominal_of(&strips, crate::plan::strip::Strip::nominal_full_a);
        let dark_a = plan.nominal_of(&strips, crate::plan::strip::Strip::nominal_dark_a);
        let carries_a = room_of(context, &strips).and_then(|r| r.carries_a);
        let light = |a: f64| ((a - dark_a) / (full_a - dark_a)).clamp(0.0, 1.0);
        spare.extend(carries_a.map(|carries_a| Spare {
            strips,
            set_a,
            carries_a,
            light: (light(set_a), light(carries_a)),
        }));
    }
    spare
}

/// How much current of some strips together their way carries, whatever firmware limits are set.
#[derive(Clone, Debug)]
pub(crate) struct Room {
    /// The largest firmware limit, or full white; nothing where even the dark is too much.
    pub carries_a: Option<f64>,
    /// What meets its limit first: name, and what it may carry, A; nothing where full white is carried.
    pub binding: Option<(String, f64)>,
}

/// The room of some strips; `None` once one review has tried enough.
pub(crate) fn room_of(context: &Context<'_>, strips: &[usize]) -> Option<Room> {
    if !context.may_try(LIMIT_SOLVES) {
        return None;
    }
    let plan = context.plan;
    let free = unlimited(plan, strips);
    let watched: Vec<On> = strips.iter().flat_map(|s| path_of(plan, *s)).collect();
    let levels = &mut Levels::new(context, &free, strips);
    if fullest(levels, 1.0, &watched) <= 1.0 + ROUNDING {
        let full_a = plan.nominal_of(strips, crate::plan::strip::Strip::nominal_full_a);
        return Some(Room { carries_a: Some(full_a), binding: None });
    }
    let found = largest_limit(levels);
    // What is the fullest at the largest firmware limit, or in the dark, is what binds.
    let level = found.map_or(0.0, |(_, level)| level);
    let solved = levels.solved(level).unwrap_or_default();
    let elements = solved.into_iter().flat_map(|(elements, _)| elements).filter(|e| watched.contains(&e.on));
    let binding = elements.max_by(|a, b| (a.amps / a.usable).total_cmp(&(b.amps / b.usable)));
    let binding = binding.map(|e| (e.name, e.usable));
    Some(Room { carries_a: found.map(|(firmware_limit, _)| firmware_limit), binding })
}

/// The share of a group's firmware limit that one of its strips gets: by its nominal current.
pub(crate) fn share_of(plan: &Plan, cause: &Cause, strip: usize) -> Option<Amps> {
    let s = &plan.strips[strip];
    cause.limit_a.map(|_| Amps::new(s.nominal_dark_a() + cause.level * (s.nominal_full_a() - s.nominal_dark_a())))
}

fn over_at_full(context: &Context<'_>) -> Vec<(Element, Corner)> {
    let mut over: Vec<(Element, Corner)> = Vec::new();
    for o in context.outcomes.iter().filter(|o| o.case.scenario == Scenario::Worst) {
        match o.sustained.as_ref() {
            Ok(s) => keep_worst(&mut over, elements(context.plan, s), o.corner),
            // Without a solution every supply on the way counts as exceeded.
            Err(_) => keep_worst(&mut over, supplies_only(context.plan), o.corner),
        }
    }
    over
}

fn supplies_only(plan: &Plan) -> Vec<Element> {
    (0..plan.supplies.len())
        .filter_map(|i| {
            let name = format!("the supply path from `{}`", plan.supplies[i].name.text);
            let usable = plan.supplies[i].current.as_ref().map_or(f64::INFINITY, |c| c.low.get());
            plan.node_id(NodeKind::Supply(i)).map(|id| Element {
                name,
                on: On::Node(id),
                amps: f64::INFINITY,
                usable,
                rating: usable,
            })
        })
        .collect()
}

fn keep_worst(over: &mut Vec<(Element, Corner)>, elements: Vec<Element>, corner: Corner) {
    for e in elements.into_iter().filter(|e| e.amps > e.usable * (1.0 + ROUNDING) || e.amps.is_infinite()) {
        match over.iter_mut().find(|(x, _)| x.on == e.on && x.name == e.name) {
            Some(kept) if kept.0.amps / kept.0.usable >= e.amps / e.usable => {}
            Some(kept) => *kept = (e, corner),
            None => over.push((e, corner)),
        }
    }
}

/// Strips of a plan at one level after the other, each solved from the one before.
struct Levels<'a> {
    plan: &'a Plan,
    strips: &'a [usize],
    /// The scenario *worst*.
    case: Option<Case>,
    workspace: Workspace,
    /// Per corner the last solution.
    near: [Option<Solution>; Corner::ALL.len()],
    /// Levels that have been solved.
    known: Vec<(f64, Carried)>,
}

/// What everything carries, per corner; an error where there is no solution.
type Carried = Result<Vec<(Vec<Element>, Corner)>, ()>;

impl<'a> Levels<'a> {
    /// `plan` has the parts of the context's, which is where the first level is solved from.
    fn new(context: &Context<'_>, plan: &'a Plan, strips: &'a [usize]) -> Self {
        let case = cases(plan).into_iter().find(|c| c.scenario == Scenario::Worst);
        let near = Corner::ALL.map(|corner| {
            let is_it = |o: &&Outcome| o.case.scenario == Scenario::Worst && o.corner == corner;
            Some(context.outcomes.iter().find(is_it)?.sustained.as_ref().ok()?.solution.as_ref().clone())
        });
        Self { plan, strips, case, workspace: Workspace::default(), near, known: Vec::new() }
    }

    /// What everything carries in *worst* with the strips at a level.
    fn solved(&mut self, light: f64) -> Carried {
        if let Some((_, known)) = self.known.iter().find(|(level, _)| *level == light) {
            return known.clone();
        }
        let carried = self.solve(light);
        self.known.push((light, carried.clone()));
        carried
    }

    fn solve(&mut self, light: f64) -> Carried {
        let case = self.case.as_mut().ok_or(())?;
        for s in self.strips {
            case.demands.set_light(*s, &Figure::exact(Fraction::new(light), Origin::Computed));
        }
        let mut solved = Vec::new();
        for (corner, near) in Corner::ALL.into_iter().zip(&mut self.near) {
            let (net, layout) = build(self.plan, &State { corner, boards: Boards::Mean, demands: &case.demands });
            let solution = match near {
                Some(near) => solve_from(&net, Limits::LIFTED, near, &mut self.workspace),
                None => solve(&net, Limits::LIFTED, &mut self.workspace),
            };
            let solution = solution.map_err(|_| ())?;
            *near = Some(solution.clone());
            let state = Snapshot::new(net, Limits::LIFTED, solution, Arc::new(layout));
            solved.push((elements(self.plan, &state), corner));
        }
        Ok(solved)
    }
}

/// What is beyond its limit in *worst* with these strips at a level.
fn over_elements(levels: &mut Levels<'_>, light: f64) -> Result<Vec<(Element, Corner)>, ()> {
    let mut over = Vec::new();
    for (elements, corner) in levels.solved(light)? {
        keep_worst(&mut over, elements, corner);
    }
    Ok(over)
}

/// The largest common level of these strips that keeps everything watched within its limits in every corner.
///
/// The load of the fullest element rises almost linearly with the level, so the place where it meets its limit is
/// guessed from both ends of the bracket; each guess is put a little to one side, in turn, so that the bracket closes.
fn limit_for(levels: &mut Levels<'_>, watched: &[On]) -> Option<f64> {
    let mut over = |level: f64| fullest(levels, level, watched) - 1.0;
    let (mut low, mut high) = ((0.0, over(0.0)), (1.0, over(1.0)));
    if low.1 > ROUNDING {
        return None;
    }
    for turn in 0..40 {
        let width = high.0 - low.0;
        if width <= LIGHT_STEP {
            break;
        }
        let share = if high.1.is_finite() && turn % 8 != 7 { -low.1 / (high.1 - low.1) } else { 0.5 };
        let aside = if turn % 2 == 0 { -0.4 } else { 0.4 } * LIGHT_STEP;
        let level = (low.0 + share * width + aside).clamp(low.0 + 0.2 * LIGHT_STEP, high.0 - 0.2 * LIGHT_STEP);
        let value = over(level);
        if value > ROUNDING { high = (level, value) } else { low = (level, value.min(0.0)) }
    }
    Some(low.0)
}

/// The largest share of its limit that anything watched carries, over the corners; infinite without a solution.
fn fullest(levels: &mut Levels<'_>, level: f64, watched: &[On]) -> f64 {
    let Ok(solved) = levels.solved(level) else { return f64::INFINITY };
    let shares = solved.iter().flat_map(|(elements, _)| elements).filter(|e| watched.contains(&e.on));
    shares.map(|e| e.amps / e.usable).fold(0.0, f64::max)
}
