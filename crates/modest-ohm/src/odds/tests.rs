//! Shares of builds against many independent draws, and what is reported of them.

use modest_ohm_solve::solve::Workspace;

use super::asked::{Asked, is_asked};
use super::builds::{Builds, Built};
use super::sequence::{independent, positions};
use super::states::States;
use crate::checks;
use crate::plan::model::Plan;
use crate::plan::model::scatter::Scatter;
use crate::verdict::severity::Severity;

/// More of them on demand: `DRAWS=20000`.
fn draws(by_default: usize) -> usize {
    std::env::var("DRAWS").ok().and_then(|n| n.parse().ok()).unwrap_or(by_default)
}

/// Plans whose verdicts differ between builds: each with its name.
const PLANS: [(&str, &str); 10] = [
    (
        "strip at its minimum",
        "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V ± 4 %\"\ncurrent = \"6 A\"\n\
        [strip.dial]\npart = \"pixel-5v-rgb-12ma\"\nfrom = \"wall\"\nlength = \"2 m\"\npixels = \"60 /m\"\n\
        inject = [ { at = \"start\", cable = \"0.5 m 18 AWG\" } ]\n",
    ),
    (
        "lamp at the end of its cable",
        "[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V ± 4 %\"\ncurrent = \"3 A\"\n\
        [load.lamp]\nfrom = \"wall\"\ncable = \"4 m 22 AWG\"\nvoltage = \"12 V\"\nminimum = \"11.2 V\"\n\
        current = \"1 A .. 1.6 A\"\n",
    ),
    (
        "two feeds on one strip",
        "[supply.east]\nkind = \"adapter\"\nvoltage = \"5.5 V ± 5 %\"\ncurrent = \"3.8 A\"\n\
        [supply.west]\nkind = \"adapter\"\nvoltage = \"5.5 V ± 5 %\"\ncurrent = \"3.8 A\"\n\
        [diode.de]\nfrom = \"east\"\npart = \"schottky-3a-40v\"\nvf = \"0.30 V .. 0.40 V\"\nresistance = \"20 mΩ\"\n\
        [diode.dw]\nfrom = \"west\"\npart = \"schottky-3a-40v\"\nvf = \"0.30 V .. 0.40 V\"\nresistance = \"20 mΩ\"\n\
        [strip.row]\npart = \"pixel-5v-rgb-12ma\"\nlength = \"1 m\"\npixels = \"90 /m\"\n\
        inject = [ { from = \"de\", at = \"start\", cable = \"0.3 m 16 AWG\" }, \
        { from = \"dw\", at = \"end\", cable = \"0.3 m 16 AWG\" } ]\n",
    ),
    (
        "motor that starts at the limit",
        "[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"3 A\"\n\
        [board.k]\npart = \"wifi-board-3v3\"\nusb = \"always\"\n\
        [ground.g]\nbetween = [\"wall\", \"k.5v\"]\ncable = \"0.3 m 20 AWG\"\n\
        [driver.fet]\npart = \"mosfet-module-logic\"\npin = \"k.io16\"\n\
        [motor.wheel]\npart = \"motor-gear-12v\"\nfrom = \"wall\"\ndriver = \"fet\"\ncable = \"0.5 m 16 AWG\"\n\
        flyback = \"schottky-10a-45v\"\n",
    ),
    (
        "contact against an internal pull",
        "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V ± 1 %\"\ncurrent = \"2 A\"\n\
        [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = { 5v = \"wall\" }\n\
        [input.latch]\npin = \"keeper.io32\"\nkind = \"contact\"\nresistance = \"12 kΩ\"\npull = \"internal\"\n",
    ),
    (
        "diode at its rating",
        "ambient = \"40 °C\"\n[supply.psu]\nkind = \"adapter\"\nvoltage = \"12 V ± 3 %\"\n\
        current = \"5 A\"\n[diode.guard]\npart = \"schottky-3a-40v\"\nfrom = \"psu\"\ncable = \"0.3 m 1.5 mm²\"\n\
        fuse = \"4 A\"\n[load.h]\nfrom = \"guard\"\ncable = \"0.3 m 1.5 mm²\"\nkind = \"heater\"\ncurrent = \"2.9 A\"\n\
        voltage = \"12 V\"\n",
    ),
    (
        "regulator of a board",
        "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"2 A\"\n\
        [board.k]\npart = \"wifi-board-3v3\"\nfrom = { 5v = { node = \"wall\", cable = \"0.3 m 20 AWG\" } }\n\
        mean = \"0.6 A\"\n",
    ),
    (
        "pump on a weak pack",
        "[supply.pack]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nseries = 3\n\
        [load.pump]\npart = \"pump-12v-small\"\nfrom = \"pack\"\ncable = \"5 m 24 AWG\"\nminimum = \"9.5 V\"\n",
    ),
    (
        "constant power near collapse",
        "[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V ± 5 %\"\ncurrent = \"2 A\"\n\
        [load.radio]\nfrom = \"wall\"\ncable = \"14 m 24 AWG\"\nvoltage = \"12 V\"\nminimum = \"8.6 V\"\n\
        power = \"8 W .. 11 W\"\n",
    ),
    (
        "two strips off one reel",
        "[supply.psu]\nkind = \"adapter\"\nvoltage = \"5 V ± 3 %\"\ncurrent = \"30 A\"\n\
        [strip.a]\npart = \"pixel-5v-rgb\"\nfrom = \"psu\"\nlength = \"1.1 m\"\npixels = \"60 /m\"\ncable = \"0.5 m 16 AWG\"\n\
        [strip.b]\npart = \"pixel-5v-rgb\"\nfrom = \"psu\"\nlength = \"1.15 m\"\npixels = \"60 /m\"\ncable = \"0.8 m 16 AWG\"\n",
    ),
];

fn worst(built: &[Built], n: usize, from: Severity) -> f64 {
    built.iter().filter(|b| b.stands[n] >= Some(from)).count() as f64 / built.len() as f64
}

/// 512 evenly spread builds say what many independent ones say: within 2.5 points of 20 000.
#[test]
fn shares_are_those_of_many_independent_builds() {
    let many = draws(1000);
    // Of so few independent ones the uncertainty counts: 95 % of 1000 are known to 3.1 points.
    let allowed = 0.025 + 2.6 * 0.5 / (many as f64).sqrt() * f64::from(u8::from(many < 20_000));
    let (mut shares, mut between, mut furthest) = (0, 0, 0.0_f64);
    for (name, text) in &PLANS[..if many < 20_000 { 7 } else { 10 }] {
        let plan = Plan::from_toml(&format!("format = 1\n{text}")).unwrap_or_else(|e| panic!("{name}: {e}"));
        let review = plan.review();
        let asked: Vec<Asked<'_>> =
            review.findings().iter().filter(|f| is_asked(f)).map(|f| Asked::of(&review, f)).collect();
        let entries: Vec<_> =
            asked.iter().map(|a| (a.finding.code, a.finding.subject.clone(), a.finding.severity)).collect();
        let movables = plan.movables();
        let scatter = Scatter::of(&plan, &movables, |m| !m.is_state);
        let middle = scatter.build(&plan, &vec![0.5; movables.len()]);
        let states = States::of(&review, &middle, &entries);
        let builds = Builds { review: &review, asked: &asked, scatter: &scatter, states: &states };
        let few = builds.all(&positions(512, movables.len()));
        let all = builds.all(&independent(many, movables.len()));
        for (n, a) in asked.iter().enumerate() {
            for from in [Severity::Caution, Severity::Fault] {
                let (few, all) = (worst(&few, n, from), worst(&all, n, from));
                eprintln!("{name}: {} {} {from:?}: {few:.3} {all:.4}", a.finding.code, a.finding.subject);
                shares += 1;
                between += usize::from(all > 0.02 && all < 0.98);
                furthest = furthest.max((few - all).abs());
                assert!((few - all).abs() <= allowed, "{name}: {} {few} {all}", a.finding.code);
            }
        }
    }
    eprintln!("{shares} shares, {between} between 2 and 98 %, furthest {furthest:.4}");
    assert!(between >= 6, "{between}");
}

/// What the review passes, no build within the tolerances shows as a fault or a danger: every check in every state.
#[test]
fn no_build_of_a_sound_plan_has_what_the_review_passes() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../plans");
    let mut files: Vec<_> = std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()).collect();
    files.sort();
    let mut tried = 0;
    for file in files.iter().filter(|f| f.extension().is_some_and(|e| e == "toml")) {
        let plan = Plan::from_toml(&std::fs::read_to_string(file).unwrap()).unwrap();
        let review = plan.review();
        let movables = plan.movables();
        let scatter = Scatter::of(&plan, &movables, |m| !m.is_state);
        let states = States::all(&review, &scatter.build(&plan, &vec![0.5; movables.len()]));
        for shares in &positions(draws(4), movables.len()) {
            let build = scatter.build(&plan, shares);
            let outcomes = states.solve(&build, &mut Workspace::default());
            let found = checks::found_in_states(&build, &review.layout, &outcomes);
            for f in found.iter().filter(|f| f.severity >= Severity::Fault && f.corner.is_some()) {
                let known = review.verdict(f.code, &f.subject).is_some_and(|v| v.severity >= Severity::Caution);
                // What follows from a danger of the plan differs from build to build.
                let is_sound = review.count(Severity::Danger) == 0;
                assert!(known || !is_sound, "{}: {} {} {}", file.display(), f.code, f.subject, f.message);
            }
            tried += 1;
        }
    }
    assert!(tried >= 30, "{tried}");
}
