//! More copper never takes voltage from a consumer: on random trees of runs a thicker lead, a shorter one, or a second
//! one beside it leaves no consumer with less, and a second feed leaves no pixel with less.
//!
//! That holds where currents do not grow with the voltage: constant currents and constant powers. A lamp that takes
//! more when it gets more does take voltage from its neighbours on a shared run; of resistive loads and pixels only
//! what is fed from the lead itself is judged.

use std::collections::BTreeMap;
use std::fmt::Write as _;

use modest_ohm::{Corner, Plan, Select};
use modest_ohm_dense::model::Dice;
use proptest::prelude::*;
use proptest::test_runner::RngSeed;

fn cases() -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(60)
}

fn seed() -> RngSeed {
    if std::env::var_os("PROPTEST_CASES").is_some() { RngSeed::Random } else { RngSeed::Fixed(20_261_125) }
}

#[derive(Clone, Debug)]
struct Lead {
    metres: f64,
    awg: i32,
    parallel: usize,
    connector: bool,
}

impl Lead {
    fn random(dice: &mut Dice) -> Self {
        let awg = [26, 24, 22, 20, 18, 16, 14][dice.below(7)];
        Self { metres: dice.between(0.1, 2.5), awg, parallel: 1, connector: dice.chance(0.3) }
    }

    fn text(&self) -> String {
        let connectors = if self.connector { ", connectors = [\"screw-terminal-5mm\"]" } else { "" };
        format!(
            "{{ length = \"{:.4} m\", size = \"{} AWG\", parallel = {}{connectors} }}",
            self.metres, self.awg, self.parallel
        )
    }
}

/// Runs, each on the supply or an earlier run; loads on any of them.
#[derive(Clone, Debug)]
struct Tree {
    /// On which node it hangs (0 the supply), its cable.
    runs: Vec<(usize, Lead)>,
    /// On which node, its cable, its law in text.
    loads: Vec<(usize, Lead, String)>,
}

impl Tree {
    fn random(dice: &mut Dice, resistive: bool) -> Self {
        let mut runs = Vec::new();
        for i in 0..1 + dice.below(4) {
            runs.push((dice.below(i + 1), Lead::random(dice)));
        }
        let mut loads = Vec::new();
        for _ in 0..1 + dice.below(5) {
            let amps = dice.between(0.05, 0.6);
            let law = match dice.below(if resistive { 3 } else { 2 }) {
                // Full from 2 V on: its knee is never met.
                0 => format!("current = \"{amps:.4} A\"\nknee = \"2 V\""),
                1 => format!("power = \"{:.4} W\"", 12.0 * amps),
                _ => format!("resistance = \"{:.4} Ω\"", 12.0 / amps),
            };
            loads.push((dice.below(runs.len() + 1), Lead::random(dice), law));
        }
        Self { runs, loads }
    }

    fn lead(&mut self, i: usize) -> &mut Lead {
        let runs = self.runs.len();
        if i < runs { &mut self.runs[i].1 } else { &mut self.loads[i - runs].1 }
    }

    fn text(&self) -> String {
        let node = |i: usize| if i == 0 { "wall".to_owned() } else { format!("run{}", i - 1) };
        let mut text =
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"40 A\"\n".to_owned();
        for (i, (from, lead)) in self.runs.iter().enumerate() {
            let _ = writeln!(text, "[branch.run{i}]\nfrom = \"{}\"\ncable = {}", node(*from), lead.text());
        }
        for (i, (from, lead, law)) in self.loads.iter().enumerate() {
            let from = node(*from);
            let _ = writeln!(text, "[load.lamp{i}]\nfrom = \"{from}\"\ncable = {}\n{law}", lead.text());
        }
        text
    }

    /// Voltage at each load in each corner of *worst*; `None` where the feed collapses.
    fn volts(&self) -> Option<BTreeMap<(String, &'static str), f64>> {
        let text = self.text();
        let review = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review();
        let select = Select { scenario: Some("worst".into()), corner: None, all_corners: true, ..Select::default() };
        let rows = review.loads(&select);
        let volts: BTreeMap<_, _> =
            rows.into_iter().map(|r| ((r.row.name.clone(), r.corner.name()), r.row.voltage.get())).collect();
        (volts.len() == 4 * self.loads.len()).then_some(volts)
    }
}

/// A cable of more copper: two sizes thicker, shorter, or a second one beside it.
fn better(lead: &mut Lead, how: usize) {
    match how {
        0 => lead.awg -= 2,
        1 => lead.metres *= 0.6,
        _ => lead.parallel += 1,
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(), failure_persistence: None, rng_seed: seed(), max_global_rejects: 4000, ..ProptestConfig::default() })]

    #[test]
    fn more_copper_takes_from_nobody(seed in any::<u64>(), how in 0usize..3) {
        let mut dice = Dice::new(seed);
        let tree = Tree::random(&mut dice, false);
        let mut more = tree.clone();
        let which = dice.below(tree.runs.len() + tree.loads.len());
        better(more.lead(which), how);
        let (Some(before), Some(after)) = (tree.volts(), more.volts()) else {
            return Err(TestCaseError::reject("collapses"));
        };
        for (key, v) in &before {
            prop_assert!(after[key] >= v - 1e-9, "{key:?}: {v} became {}\n{}", after[key], tree.text());
        }
    }

    /// Whatever it and the others take, the load at the end of a better lead does not get less.
    #[test]
    fn the_load_at_its_end_gains(seed in any::<u64>(), how in 0usize..3) {
        let mut dice = Dice::new(seed);
        let tree = Tree::random(&mut dice, true);
        let mut more = tree.clone();
        let load = dice.below(tree.loads.len());
        better(more.lead(tree.runs.len() + load), how);
        let (Some(before), Some(after)) = (tree.volts(), more.volts()) else {
            return Err(TestCaseError::reject("collapses"));
        };
        for corner in ["typical", "low", "high", "hot"] {
            let key = (format!("lamp{load}"), corner);
            prop_assert!(after[&key] >= before[&key] - 1e-9, "{key:?}: {}", tree.text());
        }
    }

    /// A second feed, or a better one, over leads as thick in feed as in return: no pixel gets less.
    #[test]
    fn a_second_feed_takes_from_no_pixel(seed in any::<u64>(), how in 0usize..4) {
        let mut dice = Dice::new(seed);
        let metres = dice.between(0.4, 3.0);
        let (first, second) = (Lead::random(&mut dice), Lead::random(&mut dice));
        let at = dice.between(0.0, metres);
        let pixels = |feeds: &[(f64, Lead)]| {
            let list: Vec<String> =
                feeds.iter().map(|(at, lead)| format!("{{ at = \"{at:.4} m\", cable = {} }}", lead.text())).collect();
            let text = format!(
                "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"40 A\"\n[strip.arch]\npart = \"pixel-5v-rgb\"\n\
                 from = \"wall\"\nlength = \"{metres:.4} m\"\npixels = \"30 /m\"\ninject = [{}]\n",
                list.join(", ")
            );
            let review = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review();
            let profile = review.solve_profile("arch", "worst", Corner::Low).unwrap();
            profile.iter().map(|p| p.voltage.get()).collect::<Vec<f64>>()
        };
        let before = vec![(0.0, first.clone())];
        let mut after = before.clone();
        if how == 3 {
            after.push((at, second));
        } else {
            better(&mut after[0].1, how);
        }
        for (k, (v, w)) in pixels(&before).iter().zip(pixels(&after)).enumerate() {
            prop_assert!(w >= v - 1e-9, "pixel {k}: {v} became {w}");
        }
    }
}
