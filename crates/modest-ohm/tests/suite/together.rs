//! Converters that share a rail through diodes, against bisection: the rail is where what they give is what is drawn.

use modest_ohm::{Plan, Scenario, Select};

/// One converter and the diode behind it.
#[derive(Clone, Copy)]
struct Source {
    volts: f64,
    vf: f64,
    ohms: f64,
}

/// All from one adapter of 12 V, which has power for ten times as much.
fn text(sources: &[Source], amps: f64) -> String {
    let mut text = String::from(
        "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"20 A\"\n",
    );
    for (n, s) in sources.iter().enumerate() {
        text += &format!(
            "[converter.c{n}]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"{} V ± 0 %\"\n\
             resistance = \"0 Ω\"\ncurrent = \"20 A\"\nefficiency = \"90 %\"\nquiescent = \"50 mW\"\n\
             [diode.d{n}]\nfrom = \"c{n}\"\ncable = \"0 m 12 AWG\"\nvf = \"{} V ± 0 %\"\nresistance = \"{} Ω ± 0 %\"\n\
             reverse = \"40 V\"\ncurrent = \"20 A\"\n",
            s.volts, s.vf, s.ohms
        );
        if n > 0 {
            text += &format!("[link.l{n}]\nbetween = [\"d0\", \"d{n}\"]\nresistance = \"0 Ω\"\n");
            text += &format!("[ground.g{n}]\nbetween = [\"d0\", \"d{n}\"]\nresistance = \"0 Ω\"\n");
        }
    }
    text + &format!(
        "[load.heater]\nkind = \"electronics\"\nfrom = \"d0\"\ncable = \"0 m 12 AWG\"\nvoltage = \"4.5 V\"\n\
         minimum = \"1 V\"\ncurrent = \"{amps} A ± 0 %\"\n"
    )
}

/// The rail's voltage, by bisection: Σ max(0, (V − Vf − rail)/R) falls as the rail rises.
fn rail(sources: &[Source], amps: f64) -> f64 {
    let given = |v: f64| sources.iter().map(|s| ((s.volts - s.vf - v) / s.ohms).max(0.0)).sum::<f64>();
    let (mut low, mut high) = (0.0, 6.0);
    for _ in 0..200 {
        let middle = 0.5 * (low + high);
        if given(middle) > amps { low = middle } else { high = middle }
    }
    0.5 * (low + high)
}

/// The demand on each converter and the rail's voltage in *worst*; `None` where the plan has no solution.
fn solved(sources: &[Source], amps: f64) -> Option<(Vec<f64>, f64)> {
    demands(&text(sources, amps), sources.len())
}

fn demands(text: &str, sources: usize) -> Option<(Vec<f64>, f64)> {
    let plan = Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}"));
    let review = plan.review();
    let rows = review.nodes(&Select { scenario: Some(Scenario::Worst), ..Select::default() });
    let row = |name: &str| rows.iter().find(|r| r.row.name == name).unwrap();
    let amps: Option<Vec<f64>> = (0..sources).map(|n| Some(row(&format!("c{n}")).row.demand?.get())).collect();
    Some((amps?, row("d0").row.voltage?.get()))
}

fn agrees(sources: &[Source], amps: f64) {
    let expected = rail(sources, amps);
    let (given, volts) = solved(sources, amps).unwrap_or_else(|| panic!("no solution at {amps} A"));
    assert!((volts - expected).abs() < 1e-6, "{volts} V, by bisection {expected} V, at {amps} A");
    for (s, given) in sources.iter().zip(given) {
        let by_hand = ((s.volts - s.vf - expected) / s.ohms).max(0.0);
        assert!((given - by_hand).abs() < 1e-4, "{given} A, by hand {by_hand} A, at {amps} A");
    }
}

/// The second converter begins to give at 0.1 V/60 mΩ = 1.667 A. Just below, its diode is about to conduct and its output
/// takes no current back; that is no collapse.
#[test]
fn the_second_converter_begins_to_give() {
    let pair = [Source { volts: 5.1, vf: 0.3, ohms: 0.06 }, Source { volts: 5.0, vf: 0.3, ohms: 0.06 }];
    for amps in [0.1, 1.5, 1.65, 1.664, 1.666, 1.6666, 1.6667, 1.667, 1.67, 1.7, 2.0, 3.0, 6.0] {
        agrees(&pair, amps);
        agrees(&[pair[1], pair[0]], amps);
    }
}

/// Two converters whose inputs share the adapter's return over leads of `LEAD` in each conductor; the load returns to the
/// first one.
const LEAD: f64 = 0.01;
const IDLE_W: f64 = 0.05;

/// What the second one gives, by bisection. At its output's − it is `LEAD·(i₂ − I₂)` above the adapter's, at the first
/// one's `LEAD·(i₁ + I₂)`, i the input currents and I₂ what comes back from the load over both leads.
fn second_gives(pair: [Source; 2], amps: f64) -> f64 {
    // (V·I/η + P)/v, v being what the leads leave of 12 V.
    let intake = |volts: f64, amps: f64, back: f64| {
        let mut input = 0.0;
        for _ in 0..100 {
            input = (volts * amps / 0.9 + IDLE_W) / (12.0 - 2.0 * LEAD * input - LEAD * back);
        }
        input
    };
    let above = |second: f64| {
        let first = amps - second;
        let (i1, i2) = (intake(pair[0].volts, first, second), intake(pair[1].volts, second, -second));
        let rail = |s: Source, minus: f64, amps: f64| minus + s.volts - s.vf - s.ohms * amps;
        rail(pair[1], LEAD * (i2 - second), second) - rail(pair[0], LEAD * (i1 + second), first)
    };
    if above(0.0) <= 0.0 {
        return 0.0;
    }
    let (mut low, mut high) = (0.0, amps);
    for _ in 0..200 {
        let middle = 0.5 * (low + high);
        if above(middle) > 0.0 { low = middle } else { high = middle }
    }
    0.5 * (low + high)
}

/// As the input current rises, the first one's − rises with it, and the second one, which gave a little while nothing was
/// taken in, has to stop. That is where its output would take current back, and no collapse.
#[test]
fn a_shared_return_takes_the_second_converter_out() {
    let pair = [Source { volts: 5.1, vf: 0.3, ohms: 0.06 }, Source { volts: 5.0, vf: 0.3, ohms: 0.06 }];
    let leads = format!("cable = {{ feed = \"{LEAD} Ω\", return = \"{LEAD} Ω\", ampacity = \"20 A\" }}\noutput");
    let (mut none, mut some) = (0, 0);
    for hundredths in 130..220 {
        let amps = f64::from(hundredths) / 100.0;
        let text = text(&pair, amps).replace("cable = \"0 m 12 AWG\"\noutput", &leads);
        let text = text.replace("[ground.g1]\nbetween = [\"d0\", \"d1\"]\nresistance = \"0 Ω\"\n", "");
        let given = demands(&text, 2).unwrap_or_else(|| panic!("no solution at {amps} A"));
        let by_hand = second_gives(pair, amps);
        assert!((given.0[1] - by_hand).abs() < 1e-6, "{} A, by bisection {by_hand} A, of {amps} A", given.0[1]);
        if by_hand == 0.0 { none += 1 } else { some += 1 }
    }
    assert!(none > 20 && some > 20, "{none} {some}");
}

/// SplitMix64 (Steele, Lea and Flood, 2014).
struct Dice(u64);

impl Dice {
    fn within(&mut self, low: f64, high: f64) -> f64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        low + (high - low) * ((z ^ (z >> 31)) >> 11) as f64 / (1u64 << 53) as f64
    }

    /// To three places, as a plan has it.
    fn places(&mut self, low: f64, high: f64) -> f64 {
        (self.within(low, high) * 1e3).round() / 1e3
    }

    /// Two to four converters.
    fn sources(&mut self, n: usize) -> Vec<Source> {
        let mut source =
            || Source { volts: self.places(4.9, 5.2), vf: self.places(0.25, 0.4), ohms: self.places(0.02, 0.1) };
        (0..2 + n % 3).map(|_| source()).collect()
    }
}

#[test]
fn converters_of_all_kinds_share_a_rail() {
    let mut dice = Dice(7);
    for n in 0..60 {
        let sources = dice.sources(n);
        agrees(&sources, dice.places(0.05, 6.0));
    }
}

/// With leads of all lengths before them, returns shared by chance: the adapter has power for ten times as much, so that
/// no plan is without a solution, and what the converters give is what the load takes.
#[test]
fn no_shared_rail_collapses_for_nothing() {
    let mut dice = Dice(8);
    for n in 0..80 {
        let (sources, amps) = (dice.sources(n), dice.places(0.05, 6.0));
        let mut plan = text(&sources, amps);
        for k in 0..sources.len() {
            let (feed, back) = (dice.places(0.001, 0.04), dice.places(0.001, 0.04));
            let lead = format!("cable = {{ feed = \"{feed} Ω\", return = \"{back} Ω\", ampacity = \"20 A\" }}\noutput");
            plan = plan.replacen("cable = \"0 m 12 AWG\"\noutput", &lead, 1);
            if dice.within(0.0, 1.0) < 0.6 {
                let tie = format!("[ground.g{k}]\nbetween = [\"d0\", \"d{k}\"]\nresistance = \"0 Ω\"\n");
                plan = plan.replace(&tie, "");
            }
        }
        let (given, _) = demands(&plan, sources.len()).unwrap_or_else(|| panic!("no solution\n{plan}"));
        let sum: f64 = given.iter().sum();
        assert!((sum - amps).abs() < 1e-6 && given.iter().all(|a| *a >= 0.0), "{given:?} for {amps} A\n{plan}");
    }
}
