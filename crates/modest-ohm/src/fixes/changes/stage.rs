//! A transistor between a pin and what it drives, and LEDs with a resistor each.

use super::nodes_of;
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::{Item, text_of};
use crate::fixes::bench::trial::Bench;
use crate::text::tree::{Node, Value};

/// Transistors with what belongs to them, that to take first first.
const STAGES: [(&str, &str); 4] = [
    ("nmos-logic-30v", "pull-down = \"10 kΩ\", gate-resistor = \"100 Ω\""),
    ("nmos-small-30v", "pull-down = \"10 kΩ\", gate-resistor = \"100 Ω\""),
    ("npn-small", "base-resistor = \"1 kΩ\""),
    ("darlington-power", "base-resistor = \"1 kΩ\""),
];

/// Kinds of load with a winding.
const WOUND: [&str; 4] = ["motor", "pump", "solenoid", "load"];

/// A stage for what is fed from a pin: the pin then switches it, and a rail feeds it.
pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let on_pin = |item: &Item<'_>| {
        let from = item.text("from").or_else(|| item.node("from.node").and_then(text_of));
        from.is_some_and(|from| from.contains('.') && !nodes_of(bench).iter().any(|node| node == from))
    };
    let items = bench.items_of(f);
    let loads = items
        .iter()
        .filter(|item| on_pin(item))
        .chain(other_loads(bench, &items).collect::<Vec<_>>().iter())
        .copied()
        .collect::<Vec<_>>();
    loads.into_iter().take(2).map(|item| Ladder::of(of(bench, item))).collect()
}

/// Loads on the pins of a board that a finding names.
fn other_loads<'b>(bench: &'b Bench, items: &[Item<'b>]) -> impl Iterator<Item = Item<'b>> {
    let boards: Vec<&str> = items.iter().filter(|item| item.kind == "board").map(|item| item.name).collect();
    let nodes = nodes_of(bench);
    bench.sheet().items().filter(move |item| {
        let from = item.text("from").and_then(|from| Some((from, from.split_once('.')?.0)));
        from.is_some_and(|(from, board)| boards.contains(&board) && !nodes.iter().any(|node| node == from))
    })
}

fn of(bench: &Bench, item: Item<'_>) -> Vec<Candidate> {
    let Some(pin) = item.text("from") else { return Vec::new() };
    let Some(board) = pin.split('.').next().and_then(|board| bench.sheet().item(board)) else { return Vec::new() };
    let name = bench.sheet().new_name(&format!("{}-switch", item.name));
    let mut rails: Vec<String> = board.sources();
    let own = |node: &String| node.split('.').next() == Some(board.name);
    rails.extend(nodes_of(bench).into_iter().filter(own));
    let mut rungs = Vec::new();
    for rail in rails.iter().take(3) {
        for (part, parts) in STAGES {
            let stage = format!("{{ part = \"{part}\", pin = \"{pin}\", {parts} }}");
            let mut edits = vec![
                Edit::set(format!("driver.{name}"), stage),
                Edit::text(item.key("from"), rail),
                Edit::text(item.key("driver"), &name),
            ];
            let bare =
                Candidate::new(format!("Switch `{}` with a transistor, from `{rail}`", item.name), edits.clone());
            rungs.push(bare);
            if WOUND.contains(&item.kind) && !item.has("flyback") {
                edits.push(Edit::text(item.key("flyback"), "schottky-1a-40v"));
                let title = format!("Switch `{}` with a transistor and a diode, from `{rail}`", item.name);
                rungs.push(Candidate::new(title, edits));
            }
        }
    }
    rungs
}

/// As many branches as there were LEDs side by side, each with its resistor.
pub(super) fn own_resistors(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let number = |node: Option<&Node>| match node.map(|node| &node.value) {
        Some(Value::Number(text)) => text.parse().unwrap_or(1),
        _ => 1_usize,
    };
    let of = |item: Item<'_>| -> Ladder {
        let branches = number(item.node("parallel")) * number(item.node("count"));
        let edits = vec![Edit::remove(item.key("parallel")), Edit::set(item.key("count"), branches.to_string())];
        Ladder::of([Candidate::new(format!("Give each LED of `{}` its own resistor", item.name), edits)])
    };
    bench.items_of(f).into_iter().filter(|item| item.kind == "led" && item.has("parallel")).map(of).collect()
}
