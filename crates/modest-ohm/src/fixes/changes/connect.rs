//! What is added between nodes, and what is taken out.

use super::nodes_of;
use crate::catalogue::{Catalogue, Class};
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::text_of;
use crate::fixes::bench::trial::Bench;

/// Capacitors that shops sell and that inrush allows, µF.
const MICROFARADS: [u32; 7] = [100, 220, 470, 1000, 2200, 4700, 10_000];
/// Pairs of nodes that are tried.
const PAIRS: usize = 8;

/// The nodes that a finding names or is about.
fn nodes_named(bench: &Bench, f: &Finding) -> Vec<String> {
    let all = nodes_of(bench);
    let mut named: Vec<String> = Vec::new();
    let words = f.message.split('`').skip(1).step_by(2).chain([f.subject.as_str()]);
    for word in words {
        let own = |node: &&String| {
            **node == word || node.split('.').next() == Some(word) || word.split('.').next() == node.split('.').next()
        };
        named.extend(all.iter().filter(own).cloned());
    }
    for item in bench.items_of(f) {
        named.extend(item.sources().into_iter().filter(|source| all.contains(source)));
    }
    let mut seen: Vec<String> = Vec::new();
    for node in named {
        if !seen.contains(&node) {
            seen.push(node);
        }
    }
    seen
}

pub(super) fn grounds(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let nodes = nodes_named(bench, f);
    let name = bench.sheet().new_name("tie");
    let mut rungs = Vec::new();
    for (i, a) in nodes.iter().enumerate() {
        for b in &nodes[i + 1..] {
            let table = format!("{{ between = [\"{a}\", \"{b}\"], cable = \"0.3 m 18 AWG\" }}");
            rungs.push(Candidate::new(
                format!("Join the grounds of `{a}` and `{b}`"),
                vec![Edit::set(format!("ground.{name}"), table)],
            ));
        }
    }
    rungs.truncate(PAIRS);
    vec![Ladder::of(rungs)]
}

pub(super) fn capacitors(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let name = bench.sheet().new_name("reservoir");
    let mut ladders: Vec<Ladder> = Vec::new();
    for item in bench.items_of(f).into_iter().filter(|item| item.kind == "capacitor") {
        let rung = |micro: &u32| {
            Candidate::text(format!("Use a {micro} µF capacitor"), item.key("capacitance"), &format!("{micro} µF"))
        };
        ladders.push(Ladder::of(MICROFARADS.iter().map(rung)));
    }
    for node in nodes_named(bench, f).into_iter().take(4) {
        let rung = |micro: &u32| {
            let table = format!("{{ across = \"{node}\", capacitance = \"{micro} µF\" }}");
            let path = format!("capacitor.{name}");
            Candidate::new(format!("Put a {micro} µF capacitor across `{node}`"), vec![Edit::set(path, table)])
        };
        ladders.push(Ladder::rising(MICROFARADS.iter().map(rung)));
    }
    ladders
}

/// A limiter in the feed of an item, by its present source.
pub(super) fn limiters(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let name = bench.sheet().new_name("soft");
    let mut ladders = Vec::new();
    for item in bench.items_of(f).into_iter().chain(bench.items_of(f).iter().flat_map(|i| bench.sheet().below(i.name)))
    {
        let Some(from) = item.node("from").and_then(text_of) else { continue };
        let rung = |class: &Class| {
            let table = format!("{{ part = \"{}\", from = \"{from}\" }}", class.name);
            let edits = vec![Edit::set(format!("limiter.{name}"), table), Edit::text(item.key("from"), &name)];
            Candidate::new(format!("Put a limiter like `{}` into the feed of `{}`", class.name, item.name), edits)
        };
        ladders.push(Ladder::of(Catalogue.of_kind("limiter").map(rung)));
    }
    ladders.truncate(4);
    ladders
}

/// Kinds of items that may be taken out without a part losing its supply or its purpose.
const REMOVABLE: [&str; 7] = ["link", "ground", "capacitor", "firmware-limit", "enclosure", "group", "supply"];

pub(super) fn removals(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let mut ladders = Vec::new();
    for item in bench.items_of(f) {
        if item.kind == "link" {
            let open = Candidate::new(format!("Open `{}`", item.name), vec![Edit::set(item.key("closed"), "false")]);
            ladders.push(Ladder::of([open]));
        }
        if REMOVABLE.contains(&item.kind) || f.code == "unused" {
            let whole = Candidate::new(format!("Remove `{}`", item.name), vec![Edit::remove(item.path())]);
            ladders.push(Ladder::of([whole]));
        }
    }
    if let Some(path) = f.span.and_then(|span| bench.path_at(span)).filter(|p| p.starts_with("accept[")) {
        let whole = path.split('.').next().unwrap_or(&path).to_owned();
        ladders.push(Ladder::of([Candidate::new("Remove the acceptance", vec![Edit::remove(whole)])]));
    }
    ladders
}
