//! Kirchhoff and the conservation of energy, held to at every vertex of every solve of every plan in the tests.

use std::path::Path;

use super::outcome::{Lift, Snapshot, solve_all};
use crate::plan::model::Plan;

fn balanced(name: &str, s: &Snapshot) {
    let (imbalance, excused) = s.solution.imbalance(&s.net);
    assert!(imbalance <= excused, "{name}: {imbalance} A left over, {excused} A excused");
    let t = s.solution.totals(&s.net);
    let spent = t.source_internal_w + t.load_w + t.conductor_w + t.converter_loss_w + t.diode_w;
    // The current that rounding excuses, at the voltage there are, is power that it excuses.
    let volts = s.solution.potential.iter().fold(0.0f64, |m, v| m.max(v.abs()));
    let bound = 1e-9 * t.source_w.abs().max(1e-3) + excused * volts;
    assert!((spent - t.source_w).abs() <= bound, "{name}: {spent} W of {} W", t.source_w);
    assert!(t.source_w >= -bound && t.conductor_w >= -bound && t.converter_loss_w >= -bound, "{name}: {t:?}");
}

#[test]
fn every_plan_of_the_tests_balances() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    let (mut folders, mut solves) = (vec![root.join("tests/plans"), root.join("../../plans")], 0);
    while let Some(folder) = folders.pop() {
        for path in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if path.is_dir() {
                folders.push(path);
                continue;
            }
            let plan = Plan::from_toml(&std::fs::read_to_string(&path).unwrap()).unwrap();
            for outcome in solve_all(&plan, Lift::None).1 {
                for s in
                    [&outcome.sustained, &outcome.wanted, &outcome.actual].into_iter().filter_map(|s| s.as_ref().ok())
                {
                    balanced(&path.display().to_string(), s);
                    solves += 1;
                }
            }
        }
    }
    assert!(solves > 3000, "{solves}");
}
