//! A buffer in a signal.

use super::nodes_of;
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::{Found, Item, text_of};
use crate::fixes::bench::trial::Bench;
use crate::text::tree::Value;

/// Generic buffers, that to take first first.
const PARTS: [(&str, &str); 3] =
    [("hct-buffer", "an HCT buffer"), ("cmos-buffer-3v3", "a 3.3 V buffer"), ("fet-two-way", "a two-way shifter")];
/// Rails that are tried for it.
const RAILS: usize = 5;

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let signals = bench.items_of(f).into_iter().filter_map(signal_of);
    let mut ladders = Vec::new();
    for (item, signal) in signals.take(2) {
        // A two-way shifter is too slow for pixels.
        let parts = if item.kind == "strip" || item.kind == "panel" { &PARTS[..2] } else { &PARTS[..] };
        for (part, words) in parts {
            ladders.push(Ladder::of(of(bench, item, &signal, part, words)));
        }
    }
    ladders
}

/// The signal of an item: `data` of a strip, `signal` of a load, a wire or driver by itself.
fn signal_of(item: Item<'_>) -> Option<(Item<'_>, Found<'_>)> {
    let key = ["data", "signal"].into_iter().find(|key| item.has(key))?;
    let node = item.node(key)?;
    Some((item, Found { path: item.key(key), node }))
}

fn of(bench: &Bench, item: Item<'_>, signal: &Found<'_>, part: &str, words: &str) -> Vec<Candidate> {
    let name = bench.sheet().new_name("lift");
    let path = format!("shifter.{name}");
    let through = match &signal.node.value {
        Value::Table(table) if table.get("through").is_none() => Edit::text(format!("{}.through", signal.path), &name),
        Value::Text(pin, _) => Edit::set(&signal.path, format!("{{ pin = \"{pin}\", through = \"{name}\" }}")),
        _ => return Vec::new(),
    };
    // The rail of the receiver first.
    let mut rails: Vec<String> = item.sources();
    rails.extend(nodes_of(bench));
    let mut seen: Vec<String> = Vec::new();
    for rail in rails {
        if !seen.contains(&rail) {
            seen.push(rail);
        }
    }
    let rung = |rail: String| {
        let table = format!("{{ part = \"{part}\", from = \"{rail}\" }}");
        let title = format!("Add {words} on `{rail}` to the signal of `{}`", item.name);
        Candidate::new(title, vec![Edit::set(&path, table), through.clone()])
    };
    let is_text = text_of(signal.node).is_some() || matches!(signal.node.value, Value::Table(_));
    if is_text { seen.into_iter().take(RAILS).map(rung).collect() } else { Vec::new() }
}
