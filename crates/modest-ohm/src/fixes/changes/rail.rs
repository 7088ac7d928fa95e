//! Another source for a part, or one of its own.

use super::nodes_of;
use crate::derived::consumers::Consumer;
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::{Found, Item, text_of};
use crate::fixes::bench::trial::Bench;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::units::{Amps, Volts};
use crate::size::supply::RATINGS;
use crate::text::tree::Value;
use crate::topology::rail::nominal_volts;

/// Nodes that are tried for one feed.
const RUNGS: usize = 8;
/// What is lost on the way may leave a little less than a part is recommended for.
const SOME_LESS: f64 = 0.97;
/// What a buck converter needs above its output (typical).
const BUCK_V: f64 = 1.5;
/// Sizes of new supplies that are tried, A.
const SIZES: [f64; 6] = [1.0, 2.0, 3.0, 5.0, 8.0, 10.0];

/// The feeds of the items that a finding is about, as far as they name one node.
fn feeds<'b>(bench: &'b Bench, f: &Finding) -> Vec<(Item<'b>, Found<'b>)> {
    let items = bench.items_of(f).into_iter().filter(|item| item.kind != "supply");
    let mut feeds: Vec<(Item<'b>, Found<'b>)> = Vec::new();
    for item in items {
        let texts = item.all(&["from", "node"]).into_iter().filter(|found| text_of(found.node).is_some());
        feeds.extend(texts.map(|found| (item, found)));
        for found in item.all(&["from"]) {
            if let Value::Table(table) = &found.node.value {
                let named = table.entries.iter().filter(|(key, _, node)| key != "node" && text_of(node).is_some());
                feeds.extend(
                    named.map(|(key, _, node)| (item, Found { path: crate::edit::path::join(&found.path, key), node })),
                );
            }
        }
    }
    feeds
}

/// Nodes whose source has a voltage that the item is made for; all where that is not known.
fn suitable(bench: &Bench, item: Item<'_>) -> Vec<String> {
    let plan = &bench.plan;
    let context = bench.context();
    let is_it =
        |c: &&Consumer<'_>| c.name == item.name || c.name.strip_prefix(item.name).is_some_and(|r| r.starts_with('.'));
    let range = context.consumers().iter().find(is_it).and_then(|c| c.recommended.clone());
    let fits = |node: &String| {
        let id = plan.nodes.iter().position(|n| n.name == *node).map(|at| plan.root(NodeId(at)));
        let volts = id.and_then(|id| nominal_volts(plan, id)).map(|v| v.typical.get());
        range.as_ref().zip(volts).is_none_or(|(r, v)| SOME_LESS * r.low.get() <= v && v <= r.high.get())
    };
    // What a driver switches is for its load.
    let is_switched = |node: &String| bench.sheet().item_of(node).is_some_and(|item| item.kind == "driver");
    nodes_of(bench).into_iter().filter(|node| fits(node) && !is_switched(node)).collect()
}

pub(super) fn others(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let of = |(item, found): (Item<'_>, Found<'_>)| {
        let now = text_of(found.node).unwrap_or_default();
        let nodes = suitable(bench, item).into_iter();
        let other = nodes.filter(|node| *node != now && node.split('.').next() != Some(item.name));
        let rung =
            |node: String| Candidate::text(format!("Feed `{}` from `{node}`", item.name), found.path.clone(), &node);
        Ladder::of(other.take(RUNGS).map(rung))
    };
    feeds(bench, f).into_iter().take(3).map(of).chain(bare_boards(bench, f)).collect()
}

/// Boards without a feed of their own.
fn bare_boards(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let boards = bench.items_of(f).into_iter().filter(|item| item.kind == "board" && !item.has("from"));
    let rungs = |item: Item<'_>| {
        let nodes = suitable(bench, item).into_iter().filter(|node| node.split('.').next() != Some(item.name));
        let rung =
            |node: String| Candidate::text(format!("Feed `{}` from `{node}`", item.name), item.key("from"), &node);
        Ladder::of(nodes.take(RUNGS).map(rung).collect::<Vec<_>>())
    };
    boards.map(rungs).collect()
}

/// The ground of a new supply, joined to that of the board whose pin controls an item.
fn tie(bench: &Bench, item: Item<'_>, supply: &str) -> Option<Edit> {
    let pins = item.all(&["signal", "pin", "pins", "data"]);
    let board = |name: &str| bench.plan.boards.iter().find(|b| name.split('.').next() == Some(b.name.text.as_str()));
    let text = |found: &Found<'_>| match &found.node.value {
        Value::List(items) => items.first().and_then(text_of).map(str::to_owned),
        _ => text_of(found.node).map(str::to_owned),
    };
    let board = pins.iter().filter_map(text).find_map(|name| board(&name))?;
    let name = bench.sheet().new_name("tie");
    let node = format!("{}.{}", board.name.text, board.terminal);
    let table = format!("{{ between = [\"{supply}\", \"{node}\"], cable = \"0.3 m 20 AWG\" }}");
    Some(Edit::set(format!("ground.{name}"), table))
}

/// A converter of its own, from a supply of a higher voltage, or a supply of its own.
pub(super) fn own(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let context = bench.context();
    let mut ladders = Vec::new();
    for (item, found) in feeds(bench, f).into_iter().take(2) {
        let consumer = context.consumers().iter().find(|c| c.name == item.name || c.name.starts_with(item.name));
        let Some(range) = consumer.and_then(|c| c.recommended.clone()) else { continue };
        let (low, high) = (range.low.get(), range.high.get());
        let off = |v: f64| (v - 0.5 * (low + high)).abs();
        let fits = [3.3, 5.0, 6.0, 9.0, 12.0, 24.0].into_iter().filter(|v| low <= *v && *v <= high);
        let Some(volts) = fits.min_by(|a, b| off(*a).total_cmp(&off(*b))) else { continue };
        let name = bench.sheet().new_name(&format!("{}-supply", item.name));
        let rated = || RATINGS.into_iter().filter(|r| SIZES.contains(r));
        let higher = bench.plan.supplies.iter().find(|s| s.voltage.low.get() > volts + BUCK_V);
        if let Some(from) = higher {
            let from = &from.name.text;
            let converter = |amps: f64| {
                let (v, a) = (Volts::new(volts), Amps::new(amps));
                let table = format!(
                    "{{ kind = \"buck\", from = \"{from}\", cable = \"0.2 m 18 AWG\", output = \"{v}\", current = \"{a}\" }}"
                );
                let edits = vec![Edit::set(format!("converter.{name}"), table), Edit::text(&found.path, &name)];
                Candidate::new(format!("Feed `{}` through a converter of its own", item.name), edits)
            };
            ladders.push(Ladder::rising(rated().map(converter)));
        }
        let supply = |amps: f64| {
            let (v, a) = (Volts::new(volts), Amps::new(amps));
            let table = format!("{{ kind = \"adapter\", voltage = \"{v}\", current = \"{a}\" }}");
            let mut edits = vec![Edit::set(format!("supply.{name}"), table), Edit::text(&found.path, &name)];
            edits.extend(tie(bench, item, &name));
            Candidate::new(format!("Feed `{}` from a supply of its own", item.name), edits)
        };
        ladders.push(Ladder::rising(rated().map(supply)));
    }
    ladders
}
