//! Verdicts on one state by itself, against those with its companions.

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

/// Every tenth plan of the tests, and those of the checks that are wanted; all on demand.
fn plans(wanted: fn(&Check) -> bool) -> Vec<Plan> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    let mut folders = vec![root.join("tests/plans"), root.join("../../plans")];
    let mut paths = Vec::new();
    while let Some(folder) = folders.pop() {
        for path in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if path.is_dir() { folders.push(path) } else { paths.push(path) }
        }
    }
    paths.sort();
    let every = if std::env::var("PLANS").is_ok() { 1 } else { 10 };
    let folder = |path: &Path| path.parent()?.file_name()?.to_str().map(str::to_owned);
    let looks = |path: &Path| folder(path).and_then(|code| checks::of(&code)).is_some_and(wanted);
    let wanted = |(n, path): &(usize, &std::path::PathBuf)| n % every == 0 || looks(path);
    let read = |(_, path)| Plan::from_toml(&std::fs::read_to_string(path).unwrap()).unwrap();
    paths.iter().enumerate().filter(wanted).map(read).collect()
}

/// A check that makes a finding milder, or leaves it out, for what the nominal state shows has to say so
/// (`beside_nominal`): for the others a finding in a state by itself is taken to hold beside the nominal one too.
#[test]
fn what_stands_without_the_nominal_state_stands_beside_it() {
    let solved = |c: &&Check| c.solves == Solves::Nothing;
    let codes: Vec<&str> = checks::registry().into_iter().filter(solved).map(|c| c.code).collect();
    let (mut stand, mut milder) = (0, BTreeSet::new());
    for plan in plans(|c| c.beside_nominal) {
        let (layout, outcomes) = solve_all(&plan, Lift::None);
        let context = Context::new(&plan, &layout, &outcomes);
        for o in context.all_outcomes().filter(|o| o.corner != Corner::Typical) {
            let place = Place::of(&context, o);
            let without: Vec<_> = place.outcomes.iter().filter(|p| p.corner == o.corner).cloned().collect();
            let [few, whole] =
                [&without, &place.outcomes].map(|states| checks::found_in(&plan, &layout, states, &codes));
            for f in few.iter().filter(|f| f.severity >= Severity::Caution) {
                stand += 1;
                if !is_found(&(f.code, f.subject.clone(), f.severity), &whole) {
                    milder.insert((f.code, f.subject.clone()));
                }
            }
        }
    }
    let (expected, other): (Vec<_>, Vec<_>) =
        milder.into_iter().partition(|(code, _)| checks::of(code).is_some_and(|c| c.beside_nominal));
    assert!(stand > 100, "{stand}");
    assert!(other.is_empty(), "{other:#?}");
    // The comparison can fail: some checks are milder beside it, and say so.
    assert!(!expected.is_empty());
}

/// What names no state is not looked for in one.
#[test]
fn a_check_that_names_no_state_names_none() {
    let mut found = 0;
    for plan in plans(|c| c.names_no_state) {
        let (layout, outcomes) = solve_all(&plan, Lift::None);
        let codes: Vec<&str> = checks::registry().into_iter().filter(|c| c.names_no_state).map(|c| c.code).collect();
        for f in checks::found_in(&plan, &layout, &outcomes, &codes) {
            found += 1;
            assert!(f.corner.is_none() && f.scenario.is_none(), "{} of {}", f.code, f.subject);
        }
    }
    assert!(found > 50, "{found}");
}
