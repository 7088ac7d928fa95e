//! The budget of the three-rail battery plan against the dense method, every figure computed here from the plan's text.

use modest_ohm::{Corner, Plan, Review, Select};
use modest_ohm_dense::model::{Case, Converter, Law, Lead, Linear, Supply};

const MAST: &str = include_str!("../../../../plans/weather-mast.toml");

/// Nodes of the case, by what they are in the plan.
const NODES: [&str; 12] = [
    "pack",
    "guard",
    "main",
    "five in",
    "five",
    "twelve in",
    "twelve",
    "sense",
    "keeper.5v",
    "radio",
    "instruments",
    "fan",
];

fn node(name: &str) -> usize {
    NODES.iter().position(|n| *n == name).unwrap()
}

/// Ω of `length` metres of stranded copper, Ω/km solid at 20 °C, at the middle of −10 °C .. 35 °C.
fn wire(length: f64, ohm_per_km: f64) -> f64 {
    length * ohm_per_km / 1000.0 * 1.03 * (1.0 + 0.00393 * (12.5 - 20.0))
}

/// The plan with every figure at its nominal, in the scenario *typical*.
fn case() -> Case {
    // AWG rows of ASTM B258.
    let (awg18, awg20, awg22, awg24) = (20.95, 33.31, 52.96, 84.22);
    let mut case = Case { nodes: NODES.len(), ..Case::default() };
    // Half full: 3 cells of 3.75 V; 0.13 Ω·Ah/2.5 Ah, √2 times that at 12.5 °C, and 40 mΩ of holder a cell, 3 in
    // series, 4 in parallel.
    case.supplies.push(Supply {
        node: node("pack"),
        emf: 11.25,
        ohms: (2.0f64.sqrt() * 0.13 / 2.5 + 0.040) * 3.0 / 4.0,
        limit: None,
        sinks: false,
    });
    let mut lead = |from: &str, to: &str, ohms: f64, more: f64| {
        let (from, to) = (node(from), node(to));
        case.leads.push(Lead { from, to, feed: ohms + more, back: ohms, back_to: from, diode: None });
    };
    // A 3 A blade fuse has 31 mΩ, the MOSFET 20 mΩ, the switch 10 mΩ.
    lead("pack", "guard", wire(0.3, awg18), 0.031 + 0.020);
    lead("guard", "main", wire(0.1, awg18), 0.010);
    lead("main", "five in", wire(0.2, awg20), 0.0);
    lead("main", "twelve in", wire(0.2, awg20), 0.0);
    lead("five", "keeper.5v", wire(0.2, awg22), 0.0);
    lead("five", "radio", wire(0.5, awg22), 0.0);
    lead("sense", "instruments", wire(1.0, awg24), 0.0);
    lead("twelve", "fan", wire(2.0, awg22), 0.0);
    for (input, output, volts) in [("five in", "five", 5.0), ("twelve in", "twelve", 14.0)] {
        // The second method needs a resistance in every output.
        let output = Supply { node: node(output), emf: volts, ohms: 1e-4, limit: None, sinks: false };
        case.converters.push(Converter {
            input: node(input),
            output,
            efficiency: 0.885,
            quiescent: 0.05,
            isolated: false,
        });
    }
    case.linears.push(Linear {
        input: node("five"),
        node: node("sense"),
        volts: 3.3,
        ohms: 1e-4,
        dropout: 0.5,
        own: 0.005,
    });
    for (at, amps) in [("keeper.5v", 0.080), ("radio", 0.030), ("instruments", 0.035), ("fan", 0.120)] {
        case.loads.push((node(at), Law::Current { amps, knee: 1.0 }));
    }
    // A trace on every source, without which the second method does not know where its voltage begins.
    for at in ["pack", "five", "twelve", "sense"] {
        case.loads.push((node(at), Law::Ohms(2e6)));
    }
    case
}

/// Solved by the second method from the voltage that is printed on things.
fn solve(case: &Case) -> modest_ohm_dense::network::Solved {
    let guess = |name: &&str| match *name {
        "five" | "keeper.5v" | "radio" => 5.0,
        "twelve" | "fan" => 14.0,
        "sense" | "instruments" => 3.3,
        _ => case.supplies[0].emf,
    };
    let nodes: Vec<(f64, f64)> = NODES.iter().map(|n| (guess(n), 0.0)).collect();
    modest_ohm_dense::network::solve_near(case, &nodes).expect("the second method settles")
}

fn near(got: f64, want: f64, what: &str) {
    assert!((got - want).abs() <= 1e-4 * want.abs().max(0.01), "{what}: {got} against {want}");
}

#[test]
fn the_budget_of_three_rails_agrees_with_the_dense_method() {
    let review: Review = Plan::from_toml(MAST).unwrap().review();
    let dense = solve(&case());
    let volts = |name: &str| dense.node[node(name)].0 - dense.node[node(name)].1;
    let select = Select { scenario: Some("typical".into()), corner: Some(Corner::Typical), ..Select::default() };
    let rows = review.nodes(&select);
    let row = |name: &str| &rows.iter().find(|r| r.row.name == name).unwrap().row;
    for name in ["pack", "guard", "main", "five", "twelve", "sense", "keeper.5v"] {
        near(row(name).voltage.unwrap().get(), volts(name), &format!("voltage of {name}"));
        near(row(name).minus.unwrap().get() + 1.0, dense.node[node(name)].1 + 1.0, &format!("− of {name}"));
    }
    near(row("pack").current.unwrap().get(), dense.source_a[0], "current of pack");
    near(row("five").current.unwrap().get(), dense.converter_a[0], "current of five");
    near(row("twelve").current.unwrap().get(), dense.converter_a[1], "current of twelve");
    let loads = review.loads(&select);
    for name in ["radio", "instruments", "fan"] {
        let got = loads.iter().find(|r| r.row.name == name).unwrap().row.voltage.get();
        near(got, volts(name), &format!("voltage of {name}"));
    }
    // And by hand: five gives 80 + 30 + 35 + 5 mA.
    near(row("five").demand.unwrap().get(), 0.150, "five");
    let parts = &row("five").parts;
    let sum: f64 = parts.iter().map(|(_, amps)| amps.get()).sum();
    near(sum, 0.150, "the parts of five");
    assert_eq!(parts.len(), 3, "{parts:?}");
}

/// The discharge against a plain sum: at the pack's own nominal curve, power taken at 5 V and 14 V over the efficiency.
#[test]
fn the_runtime_is_the_integral_of_the_solved_current() {
    let review: Review = Plan::from_toml(MAST).unwrap().review();
    let row = review.runtimes().into_iter().find(|r| r.scenario.name() == "typical").unwrap();
    assert_eq!(row.battery, "pack");
    // A thousand slices of charge, each solved by the dense method.
    let emf = |s: f64| {
        let points = [(1.0, 4.2), (0.75, 3.95), (0.5, 3.75), (0.25, 3.6), (0.1, 3.45), (0.0, 3.0)];
        let pair = points.windows(2).find(|p| s <= p[0].0 && s >= p[1].0).unwrap();
        pair[1].1 + (s - pair[1].0) / (pair[0].0 - pair[1].0) * (pair[0].1 - pair[1].1)
    };
    let slices = 200;
    let mut hours = 0.0;
    for k in 0..slices {
        let s = 1.0 - (f64::from(k) + 0.5) / f64::from(slices);
        let mut case = case();
        case.supplies[0].emf = 3.0 * emf(s);
        // Nine tenths of it full, twice of it empty.
        let share = if s >= 0.5 { 1.0 - 0.1 * (s - 0.5) / 0.5 } else { 2.0 - s / 0.5 };
        case.supplies[0].ohms = (0.13 / 2.5 * share + 0.040) * 3.0 / 4.0;
        // The pack's cut-off at 9 V, at its terminals, ends it.
        let solved = solve(&case);
        if solved.node[0].0 - solved.node[0].1 < 9.0 {
            break;
        }
        hours += 10.0 / solved.source_a[0] / f64::from(slices);
    }
    let got = row.lasts.get() / 3600.0;
    assert!((got - hours).abs() < 0.005 * hours, "{got} h against {hours} h");
}
