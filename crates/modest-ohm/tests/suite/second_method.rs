//! Random plans, solved by the product and by a slow dense method of the tests' own; and the laws of Kirchhoff and of
//! the conservation of energy, asked of the product's numbers alone.

use modest_ohm::{Corner, Plan, Review, Select};
use modest_ohm_dense::model::Case;
use proptest::prelude::*;
use proptest::test_runner::RngSeed;

/// More of them on demand: `PROPTEST_CASES=5000`.
fn cases() -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(150)
}

fn select() -> Select {
    Select { scenario: Some("case".into()), corner: Some(Corner::Typical), ..Select::default() }
}

fn review(case: &Case) -> Review {
    let text = case.text();
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn near(got: f64, want: f64, what: &str, case: &Case) {
    assert!((got - want).abs() <= 2e-6 * (1.0 + want.abs()), "{what}: {got} against {want}\n{}", case.text());
}

/// Everything the two methods both know.
fn compare(case: &Case, review: &Review, dense: &modest_ohm_dense::network::Solved) {
    let rows = review.nodes(&select());
    let row = |name: &str| &rows.iter().find(|r| r.row.name == name).unwrap_or_else(|| panic!("no {name}")).row;
    for (n, (plus, minus)) in dense.node.iter().enumerate() {
        let name = case.name(n);
        let got = row(&name);
        near(got.voltage.unwrap().get(), plus - minus, &format!("voltage of {name}"), case);
        near(got.minus.unwrap().get(), *minus, &format!("minus of {name}"), case);
    }
    for (s, amps) in case.supplies.iter().zip(&dense.source_a) {
        near(row(&case.name(s.node)).current.unwrap().get(), *amps, "source current", case);
    }
    for (c, amps) in case.converters.iter().zip(&dense.converter_a) {
        near(row(&case.name(c.output.node)).current.unwrap().get(), *amps, "converter current", case);
    }
    let strips = review.strips(&select());
    for (i, pixels) in dense.pixels.iter().enumerate() {
        let name = format!("strip{i}");
        let profile = review.solve_profile(&name, "case", Corner::Typical).unwrap();
        assert_eq!(profile.len(), pixels.len());
        for (p, v) in profile.iter().zip(pixels) {
            near(p.voltage.get(), *v, &format!("a pixel of {name}"), case);
        }
        let got = &strips.iter().find(|r| r.row.name == name).unwrap().row;
        for (f, amps) in got.feeds.iter().zip(&dense.feed_a[i]) {
            near(f.feed.get(), *amps, &format!("a feed of {name}"), case);
        }
    }
}

/// Σ of what flows into every node's + and −, and where the power goes, from the product's own rows.
#[expect(clippy::too_many_lines, reason = "one sum over every kind of element")]
fn balance(case: &Case, review: &Review) {
    let totals = &review.totals(&select())[0].row;
    let spent = totals.source_internal + totals.load + totals.conductor + totals.converter_loss + totals.diode;
    let (spent, source) = (spent.get(), totals.source.get());
    assert!((spent - source).abs() <= 1e-9 * source.abs().max(1e-3), "energy: {spent} of {source}\n{}", case.text());
    let nodes = review.nodes(&select());
    let conductors = review.conductors(&select());
    let loads = review.loads(&select());
    let converters = review.converters(&select());
    let mut plus = vec![0.0; case.nodes];
    let mut minus = vec![0.0; case.nodes];
    let find = |name: &str| conductors.iter().find(|r| r.row.name == name).map(|r| &r.row);
    let mut lead = |name: &str, from: usize, back_to: usize, to: Option<usize>| {
        let row = find(name).unwrap();
        let (feed, back) = (row.feed.unwrap().get(), row.back.get());
        plus[from] -= feed;
        minus[back_to] -= back;
        if let Some(to) = to {
            plus[to] += feed;
            minus[to] += back;
        }
    };
    for l in &case.leads {
        lead(&format!("n{}", l.to), l.from, l.back_to, Some(l.to));
    }
    for (i, s) in case.strips.iter().enumerate() {
        for (q, (_, l)) in s.feeds.iter().enumerate() {
            lead(&format!("strip{i}.inject[{q}]"), l.from, l.back_to, None);
        }
    }
    for (i, (node, _)) in case.loads.iter().enumerate() {
        let amps = loads.iter().find(|r| r.row.name == format!("load{i}")).unwrap().row.current.get();
        plus[*node] -= amps;
        minus[*node] += amps;
    }
    for s in &case.supplies {
        let amps = nodes.iter().find(|r| r.row.name == case.name(s.node)).unwrap().row.current.unwrap().get();
        plus[s.node] += amps;
        minus[s.node] -= amps;
    }
    for c in &case.converters {
        let row = &converters.iter().find(|r| r.row.name == case.name(c.output.node)).unwrap().row;
        plus[c.input] -= row.input_a.get();
        plus[c.output.node] += row.output_a.get();
        if c.isolated {
            minus[c.input] += row.input_a.get();
            minus[c.output.node] -= row.output_a.get();
            continue;
        }
        // One − for both sides.
        minus[c.input] += row.input_a.get() - row.output_a.get() + minus[c.output.node];
        minus[c.output.node] = 0.0;
    }
    for l in &case.linears {
        let row = &converters.iter().find(|r| r.row.name == case.name(l.node)).unwrap().row;
        plus[l.input] -= row.input_a.get();
        plus[l.node] += row.output_a.get();
        minus[l.input] += row.input_a.get() - row.output_a.get() + minus[l.node];
        minus[l.node] = 0.0;
    }
    let potential = |n: usize| {
        let row = &nodes.iter().find(|r| r.row.name == case.name(n)).unwrap().row;
        row.minus.unwrap().get() + row.voltage.unwrap().get()
    };
    for (a, b, ohms) in &case.links {
        let amps = (potential(*a) - potential(*b)) / ohms;
        plus[*a] -= amps;
        plus[*b] += amps;
    }
    for (i, (a, b, _)) in case.ties.iter().enumerate() {
        let amps = find(&format!("tie{i}")).unwrap().back.get();
        minus[*a] -= amps;
        minus[*b] += amps;
    }
    let largest = conductors.iter().filter_map(|r| r.row.feed).fold(1e-3, |m: f64, a| m.max(a.get().abs()));
    for (n, (p, m)) in plus.iter().zip(&minus).enumerate() {
        // A converter on a converter moves its − on; what is left there belongs to the first one's input.
        let shared = case.converters.iter().any(|c| c.output.node == n || c.input == n)
            || case.linears.iter().any(|l| l.node == n || l.input == n);
        assert!(p.abs() <= 1e-8 * largest, "{p} A left at + of {}\n{}", case.name(n), case.text());
        assert!(shared || m.abs() <= 1e-8 * largest, "{m} A left at − of {}\n{}", case.name(n), case.text());
    }
}

fn check(seed: u64, stressed: bool) -> Result<(), TestCaseError> {
    agree(&Case::random(seed, stressed))
}

fn agree(case: &Case) -> Result<(), TestCaseError> {
    let second = modest_ohm_dense::network::solve(case);
    prop_assume!(second.is_some());
    let mut second = second.unwrap();
    // A converter held at a fiftieth of its voltage by a source at its limit is off: the product calls that a collapse.
    let volts = |n: usize| second.node[n].0 - second.node[n].1;
    let powered = case.converters.iter().map(|c| c.input);
    let powered = powered.chain(
        case.loads.iter().filter(|(_, law)| matches!(law, modest_ohm_dense::model::Law::Watts(_))).map(|(n, _)| *n),
    );
    let emf = case.supplies.iter().map(|s| s.emf).fold(0.0, f64::max);
    prop_assume!(powered.clone().all(|n| volts(n) > 0.04 * emf));
    let review = review(case);
    // Demands that keep their power can leave two solutions, of which the second method may find the lower one. The
    // product's has to be the upper one, and a solution to the second method too.
    let rows = review.nodes(&select());
    let mine: Vec<(f64, f64)> = (0..case.nodes)
        .map(|n| &rows.iter().find(|r| r.row.name == case.name(n)).unwrap().row)
        .map(|r| {
            let volts =
                r.voltage.unwrap_or_else(|| panic!("no solution, and {:?} is one\n{}", second.node, case.text()));
            (r.minus.unwrap().get() + volts.get(), r.minus.unwrap().get())
        })
        .collect();
    let at_sources =
        |nodes: &[(f64, f64)]| case.supplies.iter().map(|s| nodes[s.node].0 - nodes[s.node].1).sum::<f64>();
    if at_sources(&mine) > at_sources(&second.node) + 1e-4 {
        second = modest_ohm_dense::network::solve_near(case, &mine).expect("the product's solution is one");
    }
    compare(case, &review, &second);
    balance(case, &review);
    Ok(())
}

/// The same cases every time, so that a change is judged by what it changes; others where more are asked for.
fn seed() -> RngSeed {
    if std::env::var_os("PROPTEST_CASES").is_some() { RngSeed::Random } else { RngSeed::Fixed(20_261_124) }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(), failure_persistence: None, rng_seed: seed(), max_global_rejects: 100_000, ..ProptestConfig::default() })]

    #[test]
    fn sound_networks_agree(seed in any::<u64>()) {
        check(seed, false)?;
    }

    /// Diodes, links, linear regulators, isolated outputs.
    #[test]
    fn rails_that_meet_agree(seed in any::<u64>()) {
        agree(&Case::rails(seed))?;
    }

    /// Sources at their limits, feeds near collapse.
    #[test]
    fn stressed_networks_agree(seed in any::<u64>()) {
        check(seed, true)?;
    }
}

/// A seed that a random run has found: `SEED=… STRESSED=1 cargo test --test second_method one_seed -- --ignored`.
#[test]
#[ignore = "needs SEED"]
fn one_seed() {
    let seed = std::env::var("SEED").unwrap().parse().unwrap();
    if std::env::var_os("RAILS").is_some() {
        return agree(&Case::rails(seed)).unwrap();
    }
    check(seed, std::env::var("STRESSED").is_ok()).unwrap();
}

/// Far more than can be delivered is a collapse too, and says how much could: 10²/(4 · 0.5) = 50 W.
#[test]
fn a_megawatt_collapses() {
    for watts in ["60 W", "1 kW", "1 MW"] {
        let text = format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"10 V\"\nresistance = \"0 Ω\"\n\
             [load.lamp]\nfrom = \"wall\"\npower = \"{watts}\"\nvoltage = \"10 V\"\n\
             cable = {{ feed = \"250 mΩ\", return = \"250 mΩ\", ampacity = \"10 A\" }}\n\
             [load.sign]\nfrom = \"wall\"\ncurrent = \"0.2 A\"\nvoltage = \"10 V\"\n"
        );
        let review = Plan::from_toml(&text).unwrap().review();
        let finding = review.findings().iter().find(|f| f.code == "feed-collapses").unwrap();
        let deliverable = finding.evidence.iter().find(|e| e.name == "deliverable").unwrap().value;
        assert!((deliverable - 50.0).abs() < 0.01, "{watts}: {deliverable}");
    }
}

/// Seeds that once went wrong: a converter at its limit whose careless steps undid each other; a feed held up by a
/// limit; returns that wander, so that more power lifts some volts; two solutions; a source at its limit that hardly
/// anything holds.
#[test]
fn seeds_that_went_wrong() {
    for seed in
        [11907375691010538476, 15096458475860339248, 8717806658059116702, 11689196075899001512, 12668929417694885162]
    {
        check(seed, true).unwrap();
    }
    // An output that something else feeds; one that blocks only once current flows; a source that a regulator's
    // backward current took with it.
    for seed in [8794209428977343106, 6927553209079725834, 1653707853756635010, 9766486591958960544] {
        // Some of them the second method cannot do from its own start.
        let _ = agree(&Case::rails(seed));
    }
}
