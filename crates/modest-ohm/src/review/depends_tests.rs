//! The search for deciding assumptions against the full one: every assumed figure at both ends, everything solved anew.

use std::collections::BTreeSet;

use super::assumptions::{decided, open_entries};
use super::depends::{Entry, is_found};
use super::{mixed, root_causes};
use crate::checks;
use crate::derived::context::Context;
use crate::findings::finding::Finding;
use crate::plan::model::Plan;
use crate::quantity::figures::End;
use crate::solved::mixed::Search;
use crate::solved::outcome::{Lift, solve_all};

/// More of them on demand.
fn plans(by_default: usize) -> usize {
    std::env::var("PLANS").ok().and_then(|n| n.parse().ok()).unwrap_or(by_default)
}

/// Numerical Recipes' quick generator: the same seed gives the same plans everywhere.
struct Dice(u32);

impl Dice {
    fn within(&mut self, low: f64, high: f64) -> f64 {
        self.0 = self.0.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
        low + (high - low) * f64::from(self.0 >> 8) / f64::from(1u32 << 24)
    }
}

/// A wall adapter, a converter, a strip, a pump and a board: most of their figures are the catalogue's, and ratings and
/// cables are near their limits.
fn text(dice: &mut Dice) -> String {
    let mut d = |low, high| dice.within(low, high);
    format!(
        "format = 1\n\
         [supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"{:.2} A\"\n\
         [converter.five]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"{:.1} m 20 AWG\"\noutput = \"5 V\"\ncurrent = \"{:.1} A\"\n\
         [strip.row]\npart = \"pixel-5v-rgb\"\nfrom = \"five\"\ncable = \"{:.1} m 18 AWG\"\nlength = \"{:.1} m\"\npixels = \"30 /m\"\n\
         [board.hub]\npart = \"wifi-board-3v3\"\nfrom = {{ 5v = {{ node = \"five\", cable = \"{:.1} m 24 AWG\" }} }}\n\
         [load.pump]\npart = \"pump-12v-small\"\nfrom = \"wall\"\ncable = \"{:.1} m 24 AWG\"\n\
         [load.lamp]\nfrom = \"five\"\ncable = \"{:.1} m 22 AWG\"\nvoltage = \"5 V\"\nminimum = \"{:.2} V\"\npower = \"{:.1} W\"\n",
        d(1.0, 3.0),
        d(0.1, 2.0),
        d(1.5, 4.0),
        d(0.1, 1.5),
        d(0.5, 3.0),
        d(0.1, 2.0),
        d(0.2, 6.0),
        d(0.1, 3.0),
        d(4.3, 4.9),
        d(0.5, 4.0),
    )
}

type Named = BTreeSet<(String, String, &'static str, String)>;

/// What the review's own search says, and what the full one says.
fn both(plan: &Plan) -> (Named, Named) {
    let (layout, outcomes) = solve_all(plan, Lift::None);
    let context = Context::new(plan, &layout, &outcomes);
    let (mut findings, mut passed) = checks::run(&context);
    let movables = plan.movables();
    let mut search = Search::new(plan, &movables, &outcomes, context.outcomes.len());
    let mixes = mixed::worsen(&context, &mut search, &movables, &mut findings, &mut passed);
    root_causes::gather(&context, &mut findings);
    // A combination is in no full solve of the corners.
    findings.retain(|f| f.mix.is_none());
    let open: Vec<Entry> = open_entries(&context, &findings);
    let name = |m: usize, e: usize| (movables[m].item.clone(), movables[m].key.clone(), open[e].0, open[e].1.clone());
    let found = decided(&context, &open, &movables, &mut search, mixes).0;
    let own = found.iter().flat_map(|(m, entries)| entries.iter().map(|e| name(*m, *e))).collect();
    let mut codes: Vec<&str> = open.iter().map(|(code, ..)| *code).collect();
    codes.push("supply-overloaded");
    let mut full = Named::new();
    for (m, movable) in movables.iter().enumerate().filter(|(_, m)| m.origin.is_assumed() && !m.is_state) {
        let [low, high] = [End::Low, End::High].map(|end| {
            let mut held = plan.clone();
            held.hold(movable, end);
            let (layout, after) = solve_all(&held, Lift::None);
            // What has no solution any more is not gone, but undecided.
            let lost = outcomes.iter().zip(&after).any(|(a, b)| a.actual.is_ok() && b.actual.is_err());
            (!lost).then(|| checks::found_in(&held, &layout, &after, &codes))
        });
        let (Some(low), Some(high)) = (low, high) else { continue };
        // At its bad end a surge may become a lasting overload of the same source: it is not gone, but worse.
        let worse = |e: &usize, found: &[Finding]| {
            let overload = |f: &Finding| f.code == "supply-overloaded" && f.subject == open[*e].1;
            found.iter().any(overload) && !findings.iter().any(overload)
        };
        let stands = |e: &usize, found: &[Finding]| is_found(&open[*e], found) || worse(e, found);
        let decides = |e: &usize| stands(e, &low) != stands(e, &high);
        full.extend((0..open.len()).filter(decides).map(|e| name(m, e)));
    }
    (own, full)
}

#[test]
fn every_deciding_assumption_is_found() {
    let mut dice = Dice(5);
    let (mut deciding, mut more) = (0, 0);
    for n in 0..plans(8) {
        let text = text(&mut dice);
        let plan = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}"));
        let (own, full) = both(&plan);
        let missed: Vec<_> = full.difference(&own).collect();
        assert!(missed.is_empty(), "{n}: {missed:?}\n{text}");
        deciding += full.len();
        more += own.difference(&full).count();
        for one in own.difference(&full) {
            eprintln!("{n}: only by the states: {one:?}");
        }
    }
    eprintln!("{deciding} figures decide, {more} more in single states");
    assert!(deciding >= 5, "{deciding}");
}
