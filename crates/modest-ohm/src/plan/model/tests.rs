//! Copies of a plan, its figures by their places, and the ways through it, on plans of the tests.

use std::path::Path;

use super::Plan;
use super::figures::Seen;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figures::End;

/// Every fifth plan of the tests.
fn plans() -> Vec<Plan> {
    let mut folders = vec![Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/plans")];
    let mut paths = Vec::new();
    while let Some(folder) = folders.pop() {
        for path in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if path.is_dir() { folders.push(path) } else { paths.push(path) }
        }
    }
    paths.sort();
    let read = |path: &std::path::PathBuf| Plan::from_toml(&std::fs::read_to_string(path).unwrap()).ok();
    let plans: Vec<Plan> = paths.iter().step_by(5).filter_map(read).collect();
    assert!(plans.len() > 100, "{}", plans.len());
    plans
}

/// Item, key and values of every figure.
fn figures(plan: &Plan) -> Vec<(String, String, [f64; 3])> {
    let mut all = Vec::new();
    plan.clone().each_figure(&mut |Seen { item, at, .. }, figure| {
        all.push((item.to_owned(), at.to_string(), figure.values()));
    });
    all
}

#[test]
fn a_figure_is_held_where_its_item_and_key_say() {
    let mut held_in_all = 0;
    for plan in plans() {
        let before = figures(&plan);
        for movable in plan.movables() {
            let mut held = plan.clone();
            held.hold(&movable, End::Low);
            let after = figures(&held);
            for ((item, key, was), (.., is)) in before.iter().zip(&after) {
                let belongs = movable.items.contains(item) && *key == movable.key && was[0] < was[2];
                let low = [was[0]; 3];
                assert!(if belongs { is == &low || is == was } else { is == was }, "{item} {key}: {was:?} -> {is:?}");
                held_in_all += usize::from(is != was);
            }
            assert!(before != after, "{} of {} was not held", movable.key, movable.item);
            let mut flipped = plan.clone();
            flipped.flip_all(&[&movable]);
            assert!(figures(&flipped) != before);
            flipped.flip_all(&[&movable]);
            assert!(figures(&flipped) == before);
        }
        assert!(figures(&plan) == before, "a copy has changed the plan itself");
    }
    assert!(held_in_all > 1000, "{held_in_all}");
}

#[test]
fn a_copy_shares_the_lists_that_it_does_not_change() {
    let plan = Plan::from_toml(
        "format = 1\n\
         [supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"4 A\"\n\
         [load.lamp]\nfrom = \"wall\"\ncable = \"1 m 20 AWG\"\nvoltage = \"12 V\"\ncurrent = \"1 A .. 2 A\"\n",
    )
    .unwrap();
    let movables = plan.movables();
    let current = movables.iter().find(|m| m.item == "lamp" && m.key == "current").unwrap();
    let mut held = plan.clone();
    assert!(held.loads.is_shared_with(&plan.loads));
    held.hold(current, End::High);
    assert!(held.supplies.is_shared_with(&plan.supplies) && held.nodes.is_shared_with(&plan.nodes));
    assert!(!held.loads.is_shared_with(&plan.loads));
}

#[test]
fn what_is_behind_a_node_has_it_on_its_way_up() {
    let (mut behind, mut apart) = (0, 0);
    for plan in plans() {
        for from in (0..plan.nodes.len()).map(NodeId) {
            let way = plan.path_up(from);
            for node in (0..plan.nodes.len()).map(NodeId) {
                assert_eq!(plan.is_behind(from, node), way.contains(&node), "{:?}", plan.nodes[from.0]);
                if way.contains(&node) { behind += 1 } else { apart += 1 }
            }
        }
    }
    assert!(behind > 500 && apart > 500, "{behind} {apart}");
}

#[test]
fn feeds_are_the_same_with_their_names_and_without() {
    for plan in plans() {
        let named = plan.feeds();
        let bare: Vec<_> = plan.bare_feeds().collect();
        assert_eq!(named.len(), bare.len());
        assert!(named.iter().zip(bare).all(|((_, named, _), bare)| std::ptr::eq(*named, bare)));
    }
}
