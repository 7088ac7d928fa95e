//! Another source for a part, or one of its own.

use super::nodes_of;
use crate::advise::fixes::candidate::{Candidate, Ladder};
use crate::advise::fixes::sheet::{Found, Item, text_of};
use crate::advise::fixes::trial::Bench;
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::quantity::units::Volts;
use crate::size::supply::RATINGS;
use crate::text::tree::Value;

/// Nodes that are tried for one feed.
const RUNGS: usize = 8;

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
                feeds.extend(named.map(|(key, _, node)| {
                    (item, Found { path: crate::edit::path::join(&found.path, key), node })
                }));
            }
        }
    }
    feeds
}

pub(super) fn others(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let nodes = nodes_of(bench);
    let of = |(item, found): (Item<'_>, Found<'_>)| -> Vec<Candidate> {
        let now = text_of(found.node).unwrap_or_default();
        let other = nodes.iter().filter(|node| *node != now && node.split('.').next() != Some(item.name));
        let rung = |node: &String| {
            Candidate::text(format!("Feed `{}` from `{node}`", item.name), found.path.clone(), node)
        };
        other.take(RUNGS).map(rung).collect()
    };
    feeds(bench, f).into_iter().take(3).map(|feed| Ladder::of(of(feed))).collect()
}

/// A converter of its own, from what feeds the source that it shares, or from a supply of its own.
pub(super) fn own(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let context = bench.context();
    let mut ladders = Vec::new();
    for (item, found) in feeds(bench, f).into_iter().take(2) {
        let Some(from) = text_of(found.node) else { continue };
        let consumer = context.consumers().iter().find(|c| c.name == item.name || c.name.starts_with(item.name));
        let Some(range) = consumer.and_then(|c| c.recommended.clone()) else { continue };
        let volts = [3.3, 5.0, 6.0, 9.0, 12.0, 24.0];
        let (low, high) = (range.low.get(), range.high.get());
        let off = |v: f64| (v - 0.5 * (low + high)).abs();
        let fits = volts.into_iter().filter(|v| low <= *v && *v <= high);
        let Some(volts) = fits.min_by(|a, b| off(*a).total_cmp(&off(*b))) else { continue };
        let name = bench.sheet().new_name("own");
        let rated: Vec<f64> = RATINGS.into_iter().filter(|r| (1.0..=10.0).contains(r)).collect();
        let supply = |amps: &f64| {
            let (v, a) = (Volts::new(volts), crate::quantity::units::Amps::new(*amps));
            let table = format!("{{ kind = \"adapter\", voltage = \"{v}\", current = \"{a}\" }}");
            let edits = vec![Edit::set(format!("supply.{name}"), table), Edit::text(&found.path, &name)];
            Candidate::new(format!("Feed `{}` from a supply of its own", item.name), edits)
        };
        let converter = |amps: &f64| {
            let (v, a) = (Volts::new(volts), crate::quantity::units::Amps::new(*amps));
            let table = format!(
                "{{ kind = \"buck\", from = \"{from}\", cable = \"0.2 m 18 AWG\", output = \"{v}\", current = \"{a}\" }}"
            );
            let edits = vec![Edit::set(format!("converter.{name}"), table), Edit::text(&found.path, &name)];
            Candidate::new(format!("Feed `{}` through a converter of its own", item.name), edits)
        };
        ladders.push(Ladder::rising(rated.iter().step_by(2).map(converter)));
        ladders.push(Ladder::rising(rated.iter().step_by(2).map(supply)));
    }
    ladders
}
