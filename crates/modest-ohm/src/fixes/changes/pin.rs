//! Another pin of the same board.

use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::{Found, Item, text_of};
use crate::fixes::bench::trial::Bench;
use crate::plan::pins::{AtBoot, PinKind};
use crate::text::tree::Value;
use crate::verdict::codes;

/// Pins that are tried for one job.
const RUNGS: usize = 12;

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let items = bench.items_of(f);
    let mut uses: Vec<Found<'_>> = Vec::new();
    for item in items.iter().filter(|item| item.kind != "board") {
        for found in item.all(&["pin", "signal", "enable", "pins", "channels", "data", "clock", "from", "to"]) {
            flatten(found, &mut uses);
        }
    }
    let subject_first = |found: &Found<'_>| text_of(found.node) != Some(f.subject.as_str());
    let at_power_on = [codes::SAFE_STATE.name, codes::RELAY_LOGIC.name].contains(&f.code);
    uses.sort_by_key(subject_first);
    uses.dedup_by(|a, b| a.path == b.path);
    uses.iter().take(4).map(|found| Ladder::of(of(bench, found, at_power_on))).collect()
}

fn flatten<'b>(found: Found<'b>, uses: &mut Vec<Found<'b>>) {
    match &found.node.value {
        Value::Text(..) => uses.push(found),
        Value::List(items) => {
            for (i, node) in items.iter().enumerate() {
                uses.push(Found { path: crate::edit::path::item(&found.path, i), node });
            }
        }
        Value::Table(table) if found.path.ends_with("channels") => {
            for (key, _, node) in &table.entries {
                uses.push(Found { path: crate::edit::path::join(&found.path, key), node });
            }
        }
        _ => {}
    }
}

/// The board's signal pins that nothing uses, in the order of the header.
fn of(bench: &Bench, found: &Found<'_>, at_power_on: bool) -> Vec<Candidate> {
    let Some((board, now)) = text_of(found.node).and_then(|t| t.split_once('.')) else { return Vec::new() };
    let Some(own) = bench.plan.boards.iter().find(|b| b.name.text == board) else { return Vec::new() };
    let text = bench.plan.source.text();
    let is_free = |name: &&str| *name != now && !text.contains(&format!("\"{board}.{name}\""));
    let of_kind = |kind: PinKind| own.pins.list.iter().filter(move |p| p.kind == kind).map(|p| p.name.as_str());
    // Those that can do everything first.
    let names = of_kind(PinKind::Io).filter(is_free).take(RUNGS - 4).chain(of_kind(PinKind::Input).filter(is_free));
    let rung = |name: &str| {
        let pin = format!("{board}.{name}");
        // What matters where a load's state at power-on is judged.
        let floats = own.pins.list.iter().any(|p| p.name == name && p.boot == AtBoot::Floats);
        let which = if at_power_on && floats { ", a pin that floats at power-on," } else { "" };
        Candidate::text(format!("Use pin `{pin}`{which} instead"), found.path.clone(), &pin)
    };
    names.take(RUNGS).map(rung).collect()
}

/// A switch on a free pin that stops a part: a float switch, a limit switch, a thermostat.
pub(super) fn stops(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let name = bench.sheet().new_name("stop");
    let text = bench.plan.source.text();
    let items: Vec<Item<'_>> = bench.items_of(f).into_iter().filter(|item| item.name == f.subject).collect();
    let mut ladders = Vec::new();
    for item in items {
        let boards = bench.plan.boards.iter();
        let pins = boards.flat_map(|b| {
            let own = b.pins.list.iter().filter(|p| p.kind == PinKind::Io);
            own.map(|p| format!("{}.{}", b.name.text, p.name))
        });
        let rung = |pin: String| {
            let table = format!("{{ pin = \"{pin}\", kind = \"contact\", pull = \"internal\" }}");
            let key = if item.kind == "heater" { "thermostat" } else { "stopped-by" };
            let edits = vec![Edit::set(format!("input.{name}"), table), Edit::text(item.key(key), &name)];
            let what = if item.kind == "heater" { "a thermostat" } else { "a float or limit switch" };
            Candidate::new(format!("Stop `{}` with {what}, in the firmware too", item.name), edits)
        };
        let free = pins.filter(|pin| !text.contains(&format!("\"{pin}\"")));
        ladders.push(Ladder::of(free.take(RUNGS).map(rung)));
    }
    ladders
}
