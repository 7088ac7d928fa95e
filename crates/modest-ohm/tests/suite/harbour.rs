//! The plan that the plan file was designed with, and its numbers, computed by hand and by a separate solver then.

use modest_ohm::{Corner, Plan, Review, Select, Severity};

fn slice() -> Review {
    let file = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/harbour/slice.toml");
    Plan::from_toml(&std::fs::read_to_string(file).unwrap()).unwrap().review()
}

fn select(scenario: &str, corner: Option<Corner>) -> Select {
    Select { scenario: Some(scenario.into()), corner, ..Select::default() }
}

fn near(got: f64, want: f64, tolerance: f64, what: &str) {
    assert!((got - want).abs() <= tolerance, "{what}: {got} against {want}");
}

#[test]
fn nothing_has_to_be_mended() {
    let review = slice();
    for severity in [Severity::Danger, Severity::Fault, Severity::Caution, Severity::Unknown] {
        assert_eq!(review.count(severity), 0, "{:?}", review.findings());
    }
}

#[test]
fn its_currents() {
    let review = slice();
    let wanted = |name: &str, scenario: &str| {
        let rows = review.nodes(&select(scenario, None));
        rows.into_iter().find(|r| r.row.name == name).unwrap().row
    };
    near(wanted("deck", "worst").demand.unwrap().get(), 2.58, 0.005, "deck in worst");
    near(wanted("deck", "worst").limit.unwrap().get(), 3.75, 1e-9, "0.75 of a 5 A fuse");
    near(wanted("five", "worst").demand.unwrap().get(), 3.60, 0.005, "five in worst");
    // In *start* the pump rests off. Two servos held: 5.202 V over 6.25 Ω and 2 · 0.3 m of 138 mΩ/m, warm.
    let servo = 5.202 / (6.25 + 0.0865);
    near(wanted("five", "start").demand.unwrap().get(), 2.6 + 0.5 + 0.001 + 2.0 * servo, 0.005, "five in start");
}

#[test]
fn its_volts() {
    let review = slice();
    for (corner, lowest) in [(Corner::Low, 4.71), (Corner::Typical, 4.90), (Corner::Hot, 5.07)] {
        let strip = review.strips(&select("worst", Some(corner))).remove(0).row;
        near(strip.lowest.get(), lowest, 0.005, corner.name());
    }
    let loads = review.loads(&select("worst", Some(Corner::Low)));
    let volts = |name: &str| loads.iter().find(|l| l.row.name == name).unwrap().row.voltage.get();
    near(volts("keeper"), 4.987, 0.002, "the board");
    // 11.181 V at its cables' end, less 0.8 A through 8 mΩ of MOSFET, hot half as much again.
    near(volts("tide"), 11.1814 - 0.8 * 0.012, 0.0005, "the pump");
}
