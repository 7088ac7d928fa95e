//! Which further feed lifts a strip: tried on a copy of the plan and solved, so that the numbers are real.

use modest_ohm_solve::solve::{Limits, StripSolution, Workspace, solve};

use crate::derived::context::{Context, Worst};
use crate::derived::firmware_limit::share_of;
use crate::network::build::build;
use crate::network::state::{Boards, State};
use crate::plan::model::Plan;
use crate::plan::strip::inject::Injection;
use crate::plan::wiring::cable::cable_of_size;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Volts;
use crate::solved::colour_shift::{colour_shift, shift_that_shows};
use crate::tables::wire::WireSize;
use crate::topology::panel_map::Beside;

/// Less than this is no help.
const WORTH_V: f64 = 0.01;
/// A feed point that gains less than this share of the rated voltage is soldered for nothing (our own figure).
pub(crate) const GAINS: f64 = 0.02;

/// The fewest further feed points, of the plain choices end and middle, that lift the strip out of the finding.
pub(crate) fn feed_that_cures(context: &Context<'_>, strip: usize, worst: &Worst) -> Option<String> {
    let plan = context.plan;
    let s = &plan.strips[strip];
    let first = s.injections.first()?;
    let length = s.length.typical.get();
    let works = s.pixel.works.as_ref()?.typical.get();
    let taken = |x: f64| s.injections.iter().any(|inj| (inj.at_m - x).abs() < 0.05 * length);
    let choices: [&[f64]; 3] = [&[1.0], &[0.5, 1.0], &[0.25, 0.5, 0.75, 1.0]];
    // As its own cable, where that is one for the pads: neither thinner than usual there, nor too thick to solder.
    let own = first.feed.cable.as_ref().and_then(|c| c.size);
    let pads = plan.wire_for_pads(own);
    let size = own.filter(|own| suits_pads(own.area_mm2(), pads) && plan.policy.metric.is_none()).unwrap_or(pads);
    let lead_m = first.feed.cable.as_ref().and_then(crate::plan::wiring::cable::Cable::length_m).unwrap_or(0.0);
    let beside = Beside::of(plan, strip);
    // A strip that also lacks its firmware limit is judged with it: two fixes that only work together are reported
    // together.
    let mut limited: Plan = plan.clone();
    let cause = context.causes().iter().find(|c| c.strips.contains(&strip) && c.limit_a.is_some());
    for s in cause.map_or(&[][..], |c| &c.strips) {
        limited.strips[*s].firmware_limit = cause
            .and_then(|c| share_of(plan, c, *s))
            .map(|firmware_limit| Figure::exact(firmware_limit, Origin::Computed));
    }
    let with = if cause.is_some() { "with its firmware limit set, " } else { "" };
    let now = solved(context, plan, strip, worst)?.lowest.0;
    let mut best: Option<(f64, String)> = None;
    for shares in choices {
        let points: Vec<f64> = shares.iter().map(|f| f * length).filter(|x| !taken(*x)).collect();
        if points.is_empty() {
            continue;
        }
        let mut variant: Plan = limited.clone();
        for x in &points {
            let mut feed = first.feed.clone();
            // The further feed runs along the strip beside it, in a size that is easy to solder.
            feed.cable = Some(cable_of_size(first.span, lead_m + beside.apart_m(*x, first.at_m), size));
            variant.strips[strip].injections.push(Injection { span: first.span, at_m: *x, feed });
        }
        let Some(then) = solved(context, &variant, strip, worst) else { continue };
        let (lowest, shift) = (then.lowest.0, colour_shift(s, &then).0);
        let rated = s.voltage.as_ref().map_or(now, |v| v.typical.get());
        if lowest < now + GAINS * rated {
            continue;
        }
        let cured = lowest >= works && shift <= shift_that_shows(s).worst;
        let places: Vec<String> = points.iter().map(|x| s.place_in_words(*x)).collect();
        let words = format!(
            "{with}{}feed it also at {} over {}: lowest {} then {}",
            if cured { "" } else { "helps, but is not enough: " },
            places.join(" and "),
            size.name(),
            s.unit(),
            Volts::new(lowest)
        );
        if cured {
            return Some(words);
        }
        if lowest > best.as_ref().map_or(now, |(v, _)| *v) + WORTH_V {
            best = Some((lowest, words));
        }
    }
    best.map(|(_, words)| words)
}

/// A strip of a variant in the state in which the finding was worst.
fn solved(context: &Context<'_>, variant: &Plan, strip: usize, worst: &Worst) -> Option<StripSolution> {
    let outcome = context.outcome(worst)?;
    let boards = if outcome.case.bursts { Boards::Peak } else { Boards::Mean };
    let (net, _) = build(variant, &State { corner: outcome.corner, boards, demands: &outcome.case.demands });
    let mut solution = solve(&net, Limits::IN_FORCE, &mut Workspace::default()).ok()?;
    (strip < solution.strips.len() && solution.strips[strip].alive).then(|| solution.strips.swap_remove(strip))
}

/// Wires thicker than this do not go on the pads of a strip (usual practice).
const THICKEST_MM2: f64 = 1.5;

fn suits_pads(area_mm2: f64, usual: WireSize) -> bool {
    (usual.area_mm2()..=THICKEST_MM2).contains(&area_mm2)
}
