//! What is asked of one state by itself, against the same state with all that it is held against.

use std::collections::BTreeSet;
use std::path::Path;

use super::depends::is_found;
use super::standing::Place;
use crate::checks;
use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::findings::check::Check;
use crate::plan::model::Plan;
use crate::quantity::figure::Corner;
use crate::solved::outcome::{Lift, solve_all};
use crate::verdict::severity::Severity;

/// Every plan of the tests.
fn plans() -> Vec<Plan> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    let mut folders = vec![root.join("tests/plans"), root.join("../../plans")];
    let mut plans = Vec::new();
    while let Some(folder) = folders.pop() {
        for path in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if path.is_dir() {
                folders.push(path);
            } else {
                plans.push(Plan::from_toml(&std::fs::read_to_string(&path).unwrap()).unwrap());
            }
        }
    }
    plans
}

/// A check that makes a finding milder, or leaves it out, for what the nominal state shows has to say so
/// (`beside_nominal`): of the others a finding that stands without that state is not looked at with it.
#[test]
fn what_stands_without_the_nominal_state_stands_beside_it() {
    let alone = |c: &&&Check| !c.beside_nominal && c.solves == Solves::Nothing;
    let codes: Vec<&str> = checks::registry().iter().filter(alone).map(|c| c.code).collect();
    let (stand, milder) = compared(&codes);
    assert!(stand > 500, "{stand}");
    assert!(milder.is_empty(), "{milder:#?}");
}

/// The comparison itself: there are checks that would fail it.
#[test]
fn some_checks_are_milder_beside_the_nominal_state() {
    let codes: Vec<&str> = checks::registry().iter().filter(|c| c.beside_nominal).map(|c| c.code).collect();
    assert!(!compared(&codes).1.is_empty());
}

/// How many findings of these checks stand in single states of all plans, and which are milder beside the nominal one.
fn compared(codes: &[&str]) -> (usize, BTreeSet<(&'static str, String)>) {
    let (mut stand, mut milder) = (0, BTreeSet::new());
    for plan in plans() {
        let (layout, outcomes) = solve_all(&plan, Lift::None);
        let context = Context::new(&plan, &layout, &outcomes);
        for o in context.all_outcomes().filter(|o| o.corner != Corner::Typical) {
            let place = Place::of(&context, o);
            let without: Vec<_> = place.outcomes.iter().filter(|p| p.corner == o.corner).cloned().collect();
            let [few, whole] =
                [&without, &place.outcomes].map(|states| checks::found_in(&plan, &layout, states, codes));
            for f in few.iter().filter(|f| f.severity >= Severity::Caution) {
                stand += 1;
                if !is_found(&(f.code, f.subject.clone(), f.severity), &whole) {
                    milder.insert((f.code, f.subject.clone()));
                }
            }
        }
    }
    (stand, milder)
}
