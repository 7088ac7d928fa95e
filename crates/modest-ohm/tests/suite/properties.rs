//! What has to hold of any plan, whatever its numbers: scaling, mirror images, cutting a cable in two, sound plans that
//! stay silent, and monotone answers.

use modest_ohm::{Corner, Plan, Review, Select, Severity};
use modest_ohm_dense::model::{Case, Dice, Law, Lead};
use proptest::prelude::*;
use proptest::test_runner::RngSeed;

fn select() -> Select {
    Select { scenario: Some("case".into()), corner: Some(Corner::Typical), ..Select::default() }
}

fn review_of(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

/// Voltage of every node and pixel, and currents of every source; `None` where the feed collapses.
fn numbers(case: &Case) -> Option<(Vec<f64>, Vec<f64>)> {
    let review = review_of(&case.text());
    let rows = review.nodes(&select());
    let row = |n: usize| rows.iter().find(|r| r.row.name == case.name(n)).map(|r| r.row.clone());
    let mut volts = Vec::new();
    for n in 0..case.nodes {
        volts.push(row(n)?.voltage?.get());
        volts.push(row(n)?.minus?.get());
    }
    for i in 0..case.strips.len() {
        let profile = review.solve_profile(&format!("strip{i}"), "case", Corner::Typical)?;
        volts.extend(profile.iter().map(|p| p.voltage.get()));
    }
    let amps = case.supplies.iter().map(|s| row(s.node).and_then(|r| r.current).map(|a| a.get()));
    Some((volts, amps.collect::<Option<_>>()?))
}

fn same(a: &[f64], b: &[f64], what: &str, text: &str) {
    assert_eq!(a.len(), b.len());
    for (x, y) in a.iter().zip(b) {
        assert!((x - y).abs() <= 1e-7 * (1.0 + x.abs()), "{what}: {x} against {y}\n{text}");
    }
}

/// All resistance times k, all current and power divided by it.
fn scaled(case: &Case, k: f64) -> Case {
    let mut c = case.clone();
    let lead = |l: &mut Lead| {
        l.feed *= k;
        l.back *= k;
    };
    c.supplies.iter_mut().chain(c.converters.iter_mut().map(|c| &mut c.output)).for_each(|s| {
        s.ohms *= k;
        s.limit = s.limit.map(|l| l / k);
    });
    c.leads.iter_mut().for_each(lead);
    c.converters.iter_mut().for_each(|c| c.quiescent /= k);
    c.ties.iter_mut().for_each(|t| t.2 *= k);
    for (_, law) in &mut c.loads {
        match law {
            Law::Current { amps, .. } => *amps /= k,
            Law::Ohms(ohms) => *ohms *= k,
            Law::Watts(watts) => *watts /= k,
        }
    }
    for s in &mut c.strips {
        s.copper = (s.copper.0 * k, s.copper.1 * k);
        s.quiescent /= k;
        s.colours.iter_mut().for_each(|c| c.0 /= k);
        s.feeds.iter_mut().for_each(|(_, l)| lead(l));
    }
    c
}

/// Every strip reversed.
fn mirrored(case: &Case) -> Case {
    let mut c = case.clone();
    for s in &mut c.strips {
        let length = s.pixels as f64 / s.per_m;
        s.feeds.iter_mut().for_each(|(at, _)| *at = length - *at);
    }
    c
}

/// The first lead made of two halves, with a node between.
fn cut(case: &Case) -> Case {
    let mut c = case.clone();
    let middle = c.nodes;
    c.nodes += 1;
    let first = &mut c.leads[0];
    let (to, back_to) = (first.to, first.back_to);
    (first.feed, first.back) = (first.feed / 2.0, first.back / 2.0);
    first.to = middle;
    let second = Lead { from: middle, to, feed: first.feed, back: first.back, back_to: middle, diode: first.diode };
    assert_ne!(back_to, middle);
    c.leads.push(second);
    c
}

/// The same cases every time, so that a change is judged by what it changes; others where more are asked for.
fn seed() -> RngSeed {
    if std::env::var_os("PROPTEST_CASES").is_some() { RngSeed::Random } else { RngSeed::Fixed(20_261_124) }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 60, failure_persistence: None, rng_seed: seed(), max_global_rejects: 4000, ..ProptestConfig::default() })]

    #[test]
    fn ohms_up_and_amps_down_leave_the_volts(seed in any::<u64>(), k in prop_oneof![Just(0.5), Just(4.0)]) {
        let case = Case::random(seed, true);
        let (Some((v, a)), Some((w, b))) = (numbers(&case), numbers(&scaled(&case, k))) else {
            return Err(TestCaseError::reject("collapses"));
        };
        same(&v, &w, "volts", &case.text());
        same(&a, &b.iter().map(|x| x * k).collect::<Vec<_>>(), "amps", &case.text());
    }

    #[test]
    fn a_strip_does_not_know_its_left_from_its_right(seed in any::<u64>()) {
        let case = Case::random(seed, false);
        prop_assume!(!case.strips.is_empty());
        let (Some((v, a)), Some((w, b))) = (numbers(&case), numbers(&mirrored(&case))) else {
            return Err(TestCaseError::reject("collapses"));
        };
        same(&a, &b, "amps", &case.text());
        let mut at = 2 * case.nodes;
        same(&v[..at], &w[..at], "nodes", &case.text());
        for s in &case.strips {
            let turned: Vec<f64> = w[at..at + s.pixels].iter().rev().copied().collect();
            same(&v[at..at + s.pixels], &turned, "pixels", &case.text());
            at += s.pixels;
        }
    }

    #[test]
    fn a_lead_in_two_halves_is_the_same_lead(seed in any::<u64>()) {
        let case = Case::random(seed, false);
        prop_assume!(!case.leads.is_empty());
        // A return that goes elsewhere cannot be cut at the same place.
        prop_assume!(case.leads[0].back_to == case.leads[0].from);
        let (Some((v, a)), Some((w, b))) = (numbers(&case), numbers(&cut(&case))) else {
            return Err(TestCaseError::reject("collapses"));
        };
        same(&a, &b, "amps", &case.text());
        same(&v[..2 * case.nodes], &w[..2 * case.nodes], "nodes", &case.text());
    }

    /// A thicker lead never gives the load at its end less, nor does a shorter one, nor a second feed a strip.
    #[test]
    fn more_copper_never_gives_less(amps in 0.1f64..3.0, metres in 0.2f64..6.0, ohms in prop::bool::ANY, watts in prop::bool::ANY) {
        let load = match (ohms, watts) {
            (true, _) => format!("resistance = \"{:.3} Ω\"", 12.0 / amps),
            (_, true) => format!("power = \"{:.3} W\"", 6.0 * amps),
            _ => format!("current = \"{amps:.3} A\""),
        };
        let volts = |metres: f64, awg: i32| {
            let text = format!(
                "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"9 A\"\n[load.lamp]\nfrom = \"wall\"\n\
                 cable = \"{metres:.3} m {awg} AWG\"\n{load}\n[scenario.case]\n"
            );
            let rows = review_of(&text).loads(&select());
            rows.first().map(|r| r.row.voltage.get())
        };
        let mut last = f64::NEG_INFINITY;
        for awg in [26, 24, 22, 20, 18, 16, 14, 12] {
            let Some(v) = volts(metres, awg) else { continue };
            prop_assert!(v >= last, "{awg} AWG: {v} after {last}");
            prop_assert!(volts(0.5 * metres, awg).unwrap() >= v);
            last = v;
        }
    }

    #[test]
    fn a_second_feed_never_darkens_a_strip(metres in 0.5f64..4.0, at in 0.1f64..1.0, awg in 14i32..24) {
        let lowest = |second: &str| {
            let text = format!(
                "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"30 A\"\n[strip.arch]\npart = \"pixel-5v-rgb-12ma\"\n\
                 from = \"wall\"\nlength = \"{metres:.3} m\"\npixels = \"60 /m\"\ninject = [ {{ at = \"start\", cable = \"0.5 m 16 AWG\" }}{second} ]\n[scenario.case]\n"
            );
            review_of(&text).strips(&select())[0].row.lowest.get()
        };
        let second = format!(", {{ at = \"{:.3} m\", cable = \"1 m {awg} AWG\" }}", at * metres);
        prop_assert!(lowest(&second) >= lowest("") - 1e-12);
    }

    /// Plans as a good engineer would build them: nothing to say above advice.
    #[test]
    fn sound_plans_are_silent(seed in any::<u64>()) {
        let text = sound(&mut Dice::new(seed));
        let review = review_of(&text);
        let loud: Vec<_> = review.findings().iter().filter(|f| f.severity != Severity::Advisory).collect();
        prop_assert!(loud.is_empty(), "{loud:#?}\n{text}");
    }

    /// No corner is lower than *low* nor higher than *high* for what is fed from one supply over leads.
    #[test]
    fn corners_bound_the_volts(seed in any::<u64>()) {
        let review = review_of(&sound(&mut Dice::new(seed)));
        let rows = review.loads(&Select { all_corners: true, ..Select::default() });
        for r in &rows {
            let of = |corner| rows.iter().find(|x| x.row.name == r.row.name && x.scenario == r.scenario && x.corner == corner);
            let (low, high) = (of(Corner::Low).unwrap().row.voltage.get(), of(Corner::High).unwrap().row.voltage.get());
            let v = r.row.voltage.get();
            prop_assert!(low - 1e-9 <= v && v <= high + 1e-9, "{} in {}: {low} .. {v} .. {high}", r.row.name, r.scenario);
        }
    }
}

/// A supply of twice what is drawn, cables of 2 % loss at most, strips with firmware limits, fed at both ends.
fn sound(dice: &mut Dice) -> String {
    let twelve = dice.chance(0.5);
    let volts = if twelve { 12.0 } else { 5.0 };
    let mut amps = 0.0;
    let mut items = String::new();
    for i in 0..1 + dice.below(4) {
        let a = dice.between(0.05, 2.0);
        amps += a;
        // 14 AWG: 8.3 mΩ/m and a little for strands and warmth, in both directions; at most 2 % of the voltage.
        let metres = (0.02 * volts / (a * 0.02)).min(3.0) * dice.between(0.2, 1.0);
        let law = match dice.below(3) {
            0 => format!("power = \"{:.3} W\"", a * volts),
            1 => format!("resistance = \"{:.3} Ω\"", volts / a),
            _ => format!("current = \"{a} A\""),
        };
        items += &format!(
            "[load.lamp{i}]\nfrom = \"wall\"\ncable = \"{metres:.3} m 14 AWG\"\nfuse = \"7.5 A\"\n{law}\nvoltage = \"{volts} V\"\n\
             recommended = \"{} V .. {} V\"\n",
            0.85 * volts,
            1.1 * volts
        );
    }
    if !twelve {
        for i in 0..dice.below(3) {
            amps += 1.2;
            items += &format!(
                "[strip.arch{i}]\npart = \"pixel-5v-rgb-12ma\"\nfrom = \"wall\"\nlength = \"{:.3} m\"\npixels = \"30 /m\"\nfirmware-limit = \"1.2 A\"\n\
                 inject = [ {{ at = \"start\", cable = \"0.3 m 16 AWG\", fuse = \"5 A\" }}, {{ at = \"end\", cable = \"1.5 m 16 AWG\", fuse = \"5 A\" }} ]\n",
                // Whole pixels, with the last figure rounded up.
                f64::from(12 + dice.below(24) as u32) / 30.0 + 0.0005
            );
        }
    }
    format!(
        "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"{volts} V ± 3 %\"\ncurrent = \"{:.2} A\"\n{items}",
        2.0 * amps
    )
}
