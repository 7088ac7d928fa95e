//! How much light a path can carry: which uncapped strips overload what, and the largest cap that cures it.

use crate::checks::Context;
use crate::network::{Boards, Layout, Run, State, build, cases};
use crate::plan::{NodeId, NodeKind, Plan};
use crate::quantity::{Amps, Corner, Figure, Fraction, Origin, Role};
use crate::ratings::{cable_of, contact_limit_of, fuse_of, return_cable_of};
use crate::review::outcome::Snapshot;
use crate::solve::{Limits, Workspace, solve};

/// Strip copper may turn this much into heat at a feed point, W/m (open strip, typical).
const COPPER_W_PER_M: f64 = 5.0;

/// A cap is found to this share of full light.
const CAP_STEP: f64 = 2e-4;
/// A cap is named in steps of this.
const ROUND_CAP_A: f64 = 0.05;
/// What is beyond its limit by less than this is rounding.
const ROUNDING: f64 = 1e-9;

/// Strips that overload something together.
#[derive(Clone, Debug)]
pub(crate) struct Cause {
    pub strips: Vec<usize>,
    /// The element furthest beyond its limit: name, amps through it, amps it may carry.
    pub element: (String, f64, f64),
    pub corner: Corner,
    /// The largest nominal current of the strips together that keeps everything within its limit.
    pub cap_a: Option<f64>,
    /// The share of full light it leaves, 0 to 1.
    pub level: f64,
}

/// Something with a continuous limit.
#[derive(Clone, Debug)]
struct Element {
    name: String,
    on: On,
    amps: f64,
    usable: f64,
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum On {
    Node(NodeId),
    Run(Run),
    Copper(usize),
}

/// Groups of uncapped strips whose full white exceeds their path.
pub(crate) fn cap_causes(context: &Context<'_>) -> Vec<Cause> {
    let plan = context.plan;
    let uncapped: Vec<usize> = (0..plan.strips.len()).filter(|i| !plan.is_capped(*i) && !plan.strips[*i].pixel.plain).collect();
    if uncapped.is_empty() {
        return Vec::new();
    }
    let over = over_at_full(context);
    if over.is_empty() {
        return Vec::new();
    }
    let dark = over_elements(plan, &uncapped, 0.0);
    // What is over in the dark too is not the strips' doing.
    let over: Vec<(Element, Corner)> =
        over.into_iter().filter(|(e, _)| dark.as_ref().is_ok_and(|d| !d.iter().any(|(x, _)| x.on == e.on))).collect();
    let paths: Vec<(usize, Vec<On>)> = uncapped.iter().map(|i| (*i, path_of(plan, *i))).collect();
    let mut groups: Vec<(Vec<usize>, Vec<usize>)> = Vec::new();
    for (strip, path) in &paths {
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
        .into_iter()
        .filter_map(|(strips, elements)| {
            let (worst, corner) = elements
                .iter()
                .map(|e| &over[*e])
                .max_by(|a, b| (a.0.amps / a.0.usable).total_cmp(&(b.0.amps / b.0.usable)))?;
            let watched: Vec<On> = strips.iter().flat_map(|s| path_of(plan, *s)).collect();
            let sum = |f: fn(&crate::plan::Strip) -> f64| strips.iter().map(|s| f(&plan.strips[*s])).sum::<f64>();
            let (dark_a, full_a) = (sum(crate::plan::Strip::nominal_dark_a), sum(crate::plan::Strip::nominal_full_a));
            let level_of = |cap: f64| (cap - dark_a) / (full_a - dark_a);
            let cap_a = cap_for(plan, &strips, &watched).and_then(|level| {
                // Caps are set in round numbers: down to the next step, unless the one above holds too.
                let found = dark_a + level * (full_a - dark_a);
                let above = ((found + CAP_STEP * (full_a - dark_a)) / ROUND_CAP_A).floor() * ROUND_CAP_A;
                let holds = |cap: f64| fullest(plan, &strips, level_of(cap), &watched) <= 1.0 + ROUNDING;
                let below = (found / ROUND_CAP_A).floor() * ROUND_CAP_A;
                let cap = if above > below && holds(above) { above } else { below };
                Some(cap).filter(|c| *c > dark_a)
            });
            let level = cap_a.map_or(0.0, level_of);
            Some(Cause {
                strips,
                element: (worst.name.clone(), worst.amps, worst.usable),
                corner: *corner,
                cap_a,
                level,
            })
        })
        .collect()
}

/// The share of a group's cap that one of its strips gets: by its nominal current.
pub(crate) fn share_of(plan: &Plan, cause: &Cause, strip: usize) -> Option<Amps> {
    let s = &plan.strips[strip];
    cause.cap_a.map(|_| Amps::new(s.nominal_dark_a() + cause.level * (s.nominal_full_a() - s.nominal_dark_a())))
}

fn over_at_full(context: &Context<'_>) -> Vec<(Element, Corner)> {
    let mut over: Vec<(Element, Corner)> = Vec::new();
    for o in context.outcomes.iter().filter(|o| o.case.name == "worst") {
        match &o.sustained {
            Ok(s) => keep_worst(&mut over, elements(context.plan, context.layout, s, o.corner), o.corner),
            // Without a solution every supply on the way counts as exceeded.
            Err(_) => keep_worst(&mut over, supplies_only(context.plan), o.corner),
        }
    }
    over
}

fn supplies_only(plan: &Plan) -> Vec<Element> {
    (0..plan.supplies.len())
        .filter_map(|i| {
            let name = format!("the feed from `{}`", plan.supplies[i].name.text);
            let usable = plan.supplies[i].current.as_ref().map_or(f64::INFINITY, |c| c.low.get());
            plan.node_id(NodeKind::Supply(i)).map(|id| Element { name, on: On::Node(id), amps: f64::INFINITY, usable })
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

/// What everything carries in *worst* with these strips at a level, per corner; an error where there is no solution.
fn solved_at(plan: &Plan, strips: &[usize], light: f64) -> Result<Vec<(Vec<Element>, Corner)>, ()> {
    let Some(mut case) = cases(plan).into_iter().find(|c| c.name == "worst") else { return Err(()) };
    for s in strips {
        case.demands.set_light(*s, &Figure::exact(Fraction::new(light), Origin::Computed));
    }
    let mut workspace = Workspace::default();
    let mut solved = Vec::new();
    for corner in Corner::ALL {
        let (net, layout) = build(plan, &State { corner, boards: Boards::Mean, demands: &case.demands });
        let solution = solve(&net, Limits::LIFTED, &mut workspace).map_err(|_| ())?;
        solved.push((elements(plan, &layout, &Snapshot { net, solution }, corner), corner));
    }
    Ok(solved)
}

/// What is beyond its limit in *worst* with these strips at a level.
fn over_elements(plan: &Plan, strips: &[usize], light: f64) -> Result<Vec<(Element, Corner)>, ()> {
    let mut over = Vec::new();
    for (elements, corner) in solved_at(plan, strips, light)? {
        keep_worst(&mut over, elements, corner);
    }
    Ok(over)
}

/// The largest common level of these strips that keeps everything watched within its limits in every corner.
///
/// The load of the fullest element rises almost linearly with the level, so the place where it meets its limit is
/// guessed from both ends of the bracket; each guess is put a little to one side, in turn, so that the bracket closes.
fn cap_for(plan: &Plan, strips: &[usize], watched: &[On]) -> Option<f64> {
    let over = |level: f64| fullest(plan, strips, level, watched) - 1.0;
    let (mut low, mut high) = ((0.0, over(0.0)), (1.0, over(1.0)));
    if low.1 > ROUNDING {
        return None;
    }
    for turn in 0..40 {
        let width = high.0 - low.0;
        if width <= CAP_STEP {
            break;
        }
        let share = if high.1.is_finite() && turn % 8 != 7 { -low.1 / (high.1 - low.1) } else { 0.5 };
        let aside = if turn % 2 == 0 { -0.4 } else { 0.4 } * CAP_STEP;
        let level = (low.0 + share * width + aside).clamp(low.0 + 0.2 * CAP_STEP, high.0 - 0.2 * CAP_STEP);
        let value = over(level);
        if value > ROUNDING { high = (level, value) } else { low = (level, value.min(0.0)) }
    }
    Some(low.0)
}

/// The largest share of its limit that anything watched carries, over the corners; infinite without a solution.
fn fullest(plan: &Plan, strips: &[usize], level: f64, watched: &[On]) -> f64 {
    let Ok(solved) = solved_at(plan, strips, level) else { return f64::INFINITY };
    let shares = solved.iter().flat_map(|(elements, _)| elements).filter(|e| watched.contains(&e.on));
    shares.map(|e| e.amps / e.usable).fold(0.0, f64::max)
}

fn elements(plan: &Plan, layout: &Layout, s: &Snapshot, corner: Corner) -> Vec<Element> {
    let mut out = Vec::new();
    let headroom = |own: &Option<Figure<Fraction>>| 1.0 - own.as_ref().unwrap_or(&plan.policy.headroom).typical.get();
    for (i, supply) in plan.supplies.iter().enumerate() {
        if let (Some(rating), Some(id)) = (&supply.current, plan.node_id(NodeKind::Supply(i))) {
            let usable = rating.low.get() * headroom(&supply.headroom);
            out.push(Element {
                name: format!("`{}`", supply.name.text),
                on: On::Node(id),
                amps: s.solution.current[layout.supplies[i]],
                usable,
            });
        }
    }
    for (i, c) in plan.converters.iter().enumerate() {
        if let (Some(rating), Some(id)) = (&c.current, plan.node_id(NodeKind::Converter(i))) {
            let usable = rating.low.get() * headroom(&c.headroom);
            out.push(Element {
                name: format!("`{}`", c.name.text),
                on: On::Node(id),
                amps: s.solution.current[layout.converters[i].2],
                usable,
            });
        }
    }
    let ambient = plan.warmest_c();
    for info in &layout.conductors {
        let feed = info.feed.map_or(0.0, |b| s.solution.current[b].abs());
        let back = s.solution.current[info.back].abs();
        let on = On::Run(info.run);
        if let Some(usable) = cable_of(plan, info.run).and_then(|c| c.ampacity(ambient)) {
            out.push(Element { name: format!("the lead to `{}`", info.name), on, amps: feed, usable });
        }
        if let Some(usable) = return_cable_of(plan, info.run).and_then(|c| c.ampacity(ambient)) {
            out.push(Element { name: format!("the return of `{}`", info.name), on, amps: back, usable });
        }
        if let Some(fuse) = fuse_of(plan, info.run) {
            let usable = fuse.continuous_a(ambient);
            out.push(Element { name: format!("the fuse of `{}`", info.name), on, amps: feed, usable });
        }
        if let Some(usable) = contact_limit_of(plan, info.run) {
            out.push(Element { name: format!("the contacts of `{}`", info.name), on, amps: feed.max(back), usable });
        }
    }
    for (i, strip) in plan.strips.iter().enumerate() {
        let ohms = strip.copper_feed.at(corner, Role::Resistance).get()
            + strip.copper_return.at(corner, Role::Resistance).get();
        let l = &s.solution.strips[i];
        let amps = l.copper_max_feed_a.max(l.copper_max_return_a);
        let name = format!("the copper of `{}`", strip.name.text);
        out.push(Element { name, on: On::Copper(i), amps, usable: (COPPER_W_PER_M / ohms).sqrt() });
    }
    out
}

/// Everything a strip's current flows through.
fn path_of(plan: &Plan, strip: usize) -> Vec<On> {
    let mut path = vec![On::Copper(strip)];
    for (q, injection) in plan.strips[strip].injections.iter().enumerate() {
        path.push(On::Run(Run::Injection(strip, q)));
        for id in plan.path_up(injection.feed.from.id) {
            path.push(On::Node(id));
            match plan.nodes[id.0].kind {
                NodeKind::Branch(i) => path.push(On::Run(Run::Branch(i))),
                NodeKind::Converter(i) => path.push(On::Run(Run::Converter(i))),
                NodeKind::BoardInput(i) => path.push(On::Run(Run::Controller(i))),
                NodeKind::StripStart(i) | NodeKind::StripEnd(i) => {
                    path.push(On::Copper(i));
                    path.extend((0..plan.strips[i].injections.len()).map(|q| On::Run(Run::Injection(i, q))));
                }
                _ => {}
            }
        }
    }
    path
}
