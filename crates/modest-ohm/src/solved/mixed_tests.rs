//! Worst combinations against random builds of the same plans.

use modest_ohm_solve::solve::{Limits, Workspace, solve};

use super::aim::{Aim, Quantity, Which, aims};
use super::mixed::Search;
use super::outcome::{Lift, Outcome, Snapshot, solve_all};
use crate::network::build::build;
use crate::network::state::{Boards, State};
use crate::plan::model::Plan;
use crate::quantity::figure::Corner;

/// More of them on demand: `PLANS=2000 BUILDS=2000`.
fn wanted(name: &str, by_default: usize) -> usize {
    std::env::var(name).ok().and_then(|n| n.parse().ok()).unwrap_or(by_default)
}

/// SplitMix64 (Steele, Lea and Flood, 2014).
struct Dice(u64);

impl Dice {
    fn unit(&mut self) -> f64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        ((z ^ (z >> 31)) >> 11) as f64 / (1u64 << 53) as f64
    }

    fn within(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.unit()
    }

    fn chance(&mut self, share: f64) -> bool {
        self.unit() < share
    }
}

/// Two or three adapters on one bus or strip through diodes, with loads of every kind.
fn text(dice: &mut Dice) -> String {
    let mut out = String::from("format = 1\n");
    let sources = if dice.chance(0.5) { 2 } else { 3 };
    for s in 0..sources {
        let (volts, spread, amps) = (dice.within(5.2, 5.8), dice.within(1.0, 6.0), dice.within(2.0, 8.0));
        let cable = dice.within(0.1, 1.0);
        out += &format!(
            "[supply.s{s}]\nkind = \"adapter\"\nvoltage = \"{volts:.3} V ± {spread:.2} %\"\ncurrent = \"{amps:.2} A\"\n\
             [diode.d{s}]\nfrom = \"s{s}\"\ncable = \"{cable:.2} m 18 AWG\"\nvf = \"0.30 V .. 0.40 V\"\nresistance = \"20 mΩ\"\n\
             current = \"10 A\"\n"
        );
    }
    let feeds: Vec<String> = (0..sources)
        .map(|s| {
            let at = ["start", "end", "middle"][s];
            let cable = dice.within(0.1, 1.0);
            format!("{{ from = \"d{s}\", at = \"{at}\", cable = \"{cable:.2} m 18 AWG\" }}")
        })
        .collect();
    out += &format!(
        "[strip.row]\npart = \"pixel-5v-rgb\"\nlength = \"{:.2} m\"\npixels = \"60 /m\"\ninject = [ {} ]\n",
        dice.within(0.5, 2.5),
        feeds.join(", ").replace("\"middle\"", "\"0.2 m\"")
    );
    for (n, kind) in ["current", "power", "resistance"].iter().enumerate() {
        let (low, spread) = (dice.within(0.1, 1.0), dice.within(1.05, 1.6));
        let unit = ["A", "W", "Ω"][n];
        let scale = [1.0, 5.0, 8.0][n];
        let from = (dice.unit() * sources as f64) as usize;
        out += &format!(
            "[load.l{n}]\nfrom = \"d{from}\"\ncable = \"0.5 m 20 AWG\"\nvoltage = \"5 V\"\n{kind} = \"{:.3} {unit} .. {:.3} {unit}\"\n",
            low * scale,
            low * scale * spread
        );
    }
    out
}

/// A build inside the tolerances: every figure anywhere in its spread, those of one cause at the same share of it.
fn build_of(plan: &Plan, dice: &mut Dice) -> Plan {
    let mut one = plan.clone();
    for movable in plan.movables() {
        // Half of them at the ends, where the worst is.
        let share = if dice.chance(0.5) { f64::from(u8::from(dice.chance(0.5))) } else { dice.unit() };
        one.put(&movable, share);
    }
    one
}

fn solved(plan: &Plan, of: &Outcome, which: Which) -> Option<Snapshot> {
    let (net, layout) = build(plan, &State { corner: of.corner, boards: Boards::Mean, demands: &of.case.demands });
    let limits = if which == Which::Actual { Limits::IN_FORCE } else { Limits::LIFTED };
    let solution = solve(&net, limits, &mut Workspace::default()).ok()?;
    Some(Snapshot::new(net, limits, solution, layout.into()))
}

/// The worst combination is never milder than the corners, and hardly ever milder than the worst of many random builds.
#[test]
fn combinations_are_as_bad_as_the_worst_of_many_builds() {
    let mut dice = Dice(20);
    let (mut judged, mut short, mut beyond_corner) = (0, 0, 0);
    for n in 0..wanted("PLANS", 40) {
        let text = text(&mut dice);
        let plan = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}"));
        let (layout, outcomes) = solve_all(&plan, Lift::None);
        let worst_case = outcomes.iter().position(|o| o.corner == Corner::Low && o.case.continuous && o.case.bursts);
        let Some(s) = outcomes.iter().find_map(|o| o.wanted.as_ref().ok()) else { continue };
        // Currents are judged with limits lifted: each source's and each diode's.
        let wanted_aims: Vec<Aim> = aims(&layout, s)
            .into_iter()
            .filter(|a| a.which == Which::Sustained && matches!(a.what, Quantity::Current(_)))
            .collect();
        let movables = plan.movables();
        let corner_of = |aim: &Aim| -> f64 {
            let bad = |o: &Outcome| aim.badness(aim.which.of(o).as_ref().ok()?);
            outcomes.iter().filter(|o| o.case.continuous).filter_map(bad).fold(f64::NEG_INFINITY, f64::max)
        };
        let found: Vec<f64> = wanted_aims
            .iter()
            .map(|aim| {
                let mut search = Search::new(&plan, &movables, &outcomes, outcomes.len());
                let mixes = search.worst(std::slice::from_ref(aim));
                let corner = corner_of(aim);
                let mixed = mixes.iter().flat_map(|m| &m.quantities).map(|q| q.badness).fold(corner, f64::max);
                assert!(mixed >= corner);
                mixed
            })
            .collect();
        let of = &outcomes[worst_case.unwrap()];
        let mut sampled = vec![f64::NEG_INFINITY; wanted_aims.len()];
        for _ in 0..wanted("BUILDS", 150) {
            let one = build_of(&plan, &mut dice);
            let Some(state) = solved(&one, of, Which::Sustained) else { continue };
            for (worst, aim) in sampled.iter_mut().zip(&wanted_aims) {
                *worst = worst.max(aim.badness(&state).unwrap_or(f64::NEG_INFINITY));
            }
        }
        for ((aim, found), sampled) in wanted_aims.iter().zip(&found).zip(&sampled) {
            judged += 1;
            beyond_corner += usize::from(*found > 1.005 * corner_of(aim));
            if *found < 0.98 * sampled {
                short += 1;
                eprintln!("{n} {aim:?}: found {found}, sampled {sampled}, corner {}", corner_of(aim));
            }
        }
    }
    eprintln!("{judged} quantities, {beyond_corner} worse than the corners, {short} short of the builds");
    assert!(short * 50 <= judged, "{short} of {judged}");
    assert!(beyond_corner * 4 >= judged, "{beyond_corner} of {judged}");
}
