//! More cells of a battery.

use super::source::sources;
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::{Item, text_of};
use crate::fixes::bench::trial::Bench;
use crate::quantity::parse::parse_figure;
use crate::quantity::units::{AmpHours, Amps};
use crate::text::tree::{Node, Value};

/// Numbers of cells in parallel that are tried: so many more than in the plan.
const MORE: [usize; 7] = [1, 2, 3, 4, 6, 8, 12];

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let batteries =
        sources(bench, f).into_iter().filter(|item| item.has("cell") || item.text("kind") == Some("battery"));
    batteries.flat_map(|item| [Ladder::rising(parallel(item)), Ladder::of(series(item))]).collect()
}

fn number(node: Option<&Node>) -> usize {
    match node.map(|node| &node.value) {
        Some(Value::Number(text)) => text.parse().unwrap_or(1),
        _ => 1,
    }
}

fn parallel(item: Item<'_>) -> Vec<Candidate> {
    let now = number(item.node("parallel"));
    let rung = |more: usize| {
        let cells = now + more;
        let times = cells as f64 / now as f64;
        let mut edits = Vec::new();
        if item.has("cell") {
            edits.push(Edit::set(item.key("parallel"), cells.to_string()));
        }
        // Both are those of the pack.
        let scaled = |text: &str| {
            let hours = parse_figure::<AmpHours>(text).ok().map(|c| AmpHours::new(c.typical.get() * times));
            let amps = parse_figure::<Amps>(text).ok().map(|c| Amps::new(c.typical.get() * times).to_string());
            hours.map(|hours| hours.to_string()).or(amps)
        };
        for key in ["capacity", "current"] {
            if let Some(more) = item.node(key).and_then(text_of).and_then(scaled) {
                edits.push(Edit::text(item.key(key), &more));
            }
        }
        let title = if item.has("cell") {
            format!("Use {cells} cells in parallel")
        } else {
            format!("Use a pack of {times} times the capacity")
        };
        Candidate::new(title, edits)
    };
    MORE.into_iter().map(rung).filter(|rung| !rung.edits.is_empty()).collect()
}

fn series(item: Item<'_>) -> Vec<Candidate> {
    if !item.has("cell") {
        return Vec::new();
    }
    let now = number(item.node("series"));
    let fewer = now.checked_sub(1).filter(|n| *n > 0);
    let rung = |n: usize| {
        Candidate::new(format!("Use {n} cells in series"), vec![Edit::set(item.key("series"), n.to_string())])
    };
    [now + 1, now + 2].into_iter().chain(fewer).map(rung).collect()
}
