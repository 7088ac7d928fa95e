//! Firmware limits.

use crate::derived::firmware_limit::share_of;
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::trial::Bench;
use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::plan::wiring::feed::NodeId;

/// Shares of the limit that the corners allow: in a combination of tolerances a little less may be left.
const OF_LIMIT: [f64; 5] = [1.0, 0.98, 0.95, 0.9, 0.8];
/// Shares of full white for what no path decides, such as the heat of a strip's copper.
const OF_FULL: [f64; 6] = [0.8, 0.65, 0.5, 0.4, 0.3, 0.2];
/// Firmware limits are written in steps of this.
const STEP_A: f64 = 0.05;
/// Strips that are tried by themselves.
const STRIPS: usize = 4;

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let plan = &bench.plan;
    let context = bench.context();
    let mut ladders: Vec<Ladder> = Vec::new();
    // What the finding's own part may carry: strips that pass it need not pay for what limits others.
    if let Some((judged, limit)) =
        f.comparison().filter(|(judged, limit)| judged.unit == "A" && limit.value < judged.value)
    {
        let strips = strips_through(bench, &f.subject);
        let share = limit.value / judged.value;
        let own = |part: &f64| {
            let full = |s: &usize| (*s, now_a(plan, *s) * share * part);
            of(bench, &strips.iter().map(full).collect::<Vec<_>>())
        };
        if !strips.is_empty() {
            ladders.push(Ladder::rising(OF_LIMIT.iter().filter_map(own)));
        }
    }
    for cause in context.causes().iter().filter(|c| c.limit_a.is_some()) {
        let rung = |share: &f64| {
            let set = |s: &usize| Some((*s, share_of(plan, cause, *s)?.get() * share));
            of(bench, &cause.strips.iter().filter_map(set).collect::<Vec<_>>())
        };
        ladders.push(Ladder::rising(OF_LIMIT.iter().filter_map(rung)));
    }
    if ladders.is_empty() {
        let strips = strips_of(bench, f);
        for s in strips.iter().take(STRIPS) {
            let full = plan.strips[*s].nominal_full_a();
            ladders.push(Ladder::rising(OF_FULL.iter().filter_map(|share| of(bench, &[(*s, full * share)]))));
        }
        if strips.len() > 1 {
            let all = |share: &f64| {
                of(bench, &strips.iter().map(|s| (*s, plan.strips[*s].nominal_full_a() * share)).collect::<Vec<_>>())
            };
            ladders.push(Ladder::rising(OF_FULL.iter().filter_map(all)));
        }
    }
    ladders
}

/// What a strip draws at most, as the firmware counts, A.
fn now_a(plan: &Plan, strip: usize) -> f64 {
    let s = &plan.strips[strip];
    s.firmware_limit.as_ref().map_or(s.nominal_full_a(), |limit| limit.typical.get())
}

/// The strips whose feeds pass a node.
fn strips_through(bench: &Bench, node: &str) -> Vec<usize> {
    let plan = &bench.plan;
    let Some(id) = plan.nodes.iter().position(|n| n.name == node).map(NodeId) else { return Vec::new() };
    let passes =
        |s: &Strip| s.injections.iter().any(|i| i.feed.from.id == id || plan.path_up(i.feed.from.id).contains(&id));
    let strips = plan.strips.iter().enumerate().filter(|(_, s)| !s.pixel.plain && passes(s));
    strips.map(|(i, _)| i).collect()
}

/// Strips of the items that a finding is about, and those that these feed.
fn strips_of(bench: &Bench, f: &Finding) -> Vec<usize> {
    let is_pixels = |s: &Strip| !s.pixel.plain;
    let items = bench.items_of(f);
    let mut names: Vec<&str> = items.iter().map(|item| item.name).collect();
    let mut at = 0;
    while at < names.len() {
        let below: Vec<&str> = bench.sheet().below(names[at]).map(|item| item.name).collect();
        for name in below {
            if !names.contains(&name) {
                names.push(name);
            }
        }
        at += 1;
    }
    let strips = bench.plan.strips.iter().enumerate();
    strips.filter(|(_, s)| is_pixels(s) && names.contains(&s.name.text.as_str())).map(|(i, _)| i).collect()
}

/// The limits of some strips, written where the plan has them.
fn of(bench: &Bench, limits: &[(usize, f64)]) -> Option<Candidate> {
    let mut edits: Vec<Edit> = Vec::new();
    let mut shared: Vec<(usize, f64)> = Vec::new();
    for (s, amps) in limits {
        let name = &bench.plan.strips[*s].name.text;
        let common = bench.plan.firmware_limits.iter().position(|l| l.strips.iter().any(|(_, i)| i == s));
        if let Some(common) = common {
            match shared.iter_mut().find(|(known, _)| *known == common) {
                Some((_, sum)) => *sum += amps,
                None => shared.push((common, *amps)),
            }
            continue;
        }
        let item = bench.sheet().item(name)?;
        edits.push(Edit::text(item.key("firmware-limit"), &in_steps(*amps)?));
    }
    for (common, amps) in shared {
        let item = bench.sheet().item(&bench.plan.firmware_limits[common].name.text)?;
        edits.push(Edit::text(item.key("current"), &in_steps(amps)?));
    }
    Some(Candidate::new("Set a firmware limit, in the firmware too", edits))
}

/// A limit as it is written, rounded down; `None` for one that is too small to be one.
pub(super) fn in_steps(amps: f64) -> Option<String> {
    let hundredths = if amps > 10.0 * STEP_A { 100.0 * STEP_A } else { 1.0 };
    let rounded = (amps * 100.0 / hundredths * (1.0 + 1e-9)).floor() * hundredths / 100.0;
    let text = format!("{rounded:.2}");
    (rounded > 0.0).then(|| format!("{} A", text.trim_end_matches('0').trim_end_matches('.')))
}
