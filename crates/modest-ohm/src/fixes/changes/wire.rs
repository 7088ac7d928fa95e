//! A thicker wire.

use crate::edit::Edit;
use crate::edit::path::join;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::{Found, Item, text_of};
use crate::fixes::bench::trial::Bench;
use crate::quantity::parse::parse_figure;
use crate::quantity::units::Ohms;
use crate::tables::wire::WireSize;
use crate::text::tree::{Node, Value};

/// Sizes that are tried of one cable.
const RUNGS: usize = 7;
/// Sizes that are tried where a fuse would do: nobody lays a wire for the short circuit of a large source (our own
/// figure).
const RUNGS_WITHOUT_FUSE: usize = 3;
/// Cables on the way up that are tried by themselves.
const CABLES: usize = 4;

/// A cable of the plan: where it is, whose it is.
pub(super) struct PlannedCable<'b> {
    pub found: Found<'b>,
    pub item: Item<'b>,
}

/// The cables that a finding may be about: that where it points, those of its items, those on the way up.
pub(super) fn cables<'b>(bench: &'b Bench, f: &Finding) -> Vec<PlannedCable<'b>> {
    let mut all: Vec<PlannedCable<'b>> = Vec::new();
    let at = f.span.and_then(|span| bench.path_at(span));
    let items = bench.items_of(f);
    let above = items.first().map(|item| bench.sheet().above(*item)).unwrap_or_default();
    for item in items.iter().chain(&above) {
        for found in item.all(&["cable", "join"]) {
            if size_in(found.node).is_some() && all.iter().all(|known| known.found.path != found.path) {
                all.push(PlannedCable { found, item: *item });
            }
        }
    }
    let is_here = |c: &PlannedCable<'_>| at.as_deref().is_some_and(|at| at.starts_with(&c.found.path));
    let has_subject = |c: &PlannedCable<'_>| c.found.path.ends_with(&format!("{}.cable", f.subject));
    all.sort_by_key(|c| (!is_here(c), !has_subject(c)));
    all
}

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let cables = cables(bench, f);
    let most = if f.code.starts_with("fuse-") { RUNGS_WITHOUT_FUSE } else { RUNGS };
    let of_one = |cable| Ladder::rising((1..=most).filter_map(|n| thicker(bench, cable, n)));
    let mut ladders: Vec<Ladder> = cables.iter().take(CABLES).map(of_one).collect();
    ladders.extend(stated(bench, f));
    if cables.len() > 1 {
        let all = |n: usize| {
            let rungs: Vec<Candidate> = cables.iter().filter_map(|c| thicker(bench, c, n)).collect();
            (rungs.len() > 1).then(|| {
                let edits = rungs.into_iter().flat_map(|rung| rung.edits).collect();
                Candidate::new("Use thicker wire all the way from the source", edits)
            })
        };
        ladders.push(Ladder::rising((1..=most).filter_map(all)));
    }
    ladders
}

/// Cables of stated resistance: so many times the copper (R10 of the preferred numbers).
const TIMES: [f64; 6] = [1.25, 1.6, 2.5, 4.0, 6.3, 10.0];

/// More copper for cables of which only the resistance is stated.
fn stated(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let items = bench.items_of(f);
    let above = items.first().map(|item| bench.sheet().above(*item)).unwrap_or_default();
    let mut ladders = Vec::new();
    for item in items.iter().chain(&above) {
        for cable in item.all(&["cable"]) {
            let Value::Table(table) = &cable.node.value else { continue };
            let ohms: Vec<(String, f64)> = ["feed", "return"]
                .into_iter()
                .filter_map(|key| {
                    let text = text_of(table.get(key)?.1)?;
                    let ohms = parse_figure::<Ohms>(text).ok().filter(|o| o.typical.get() > 0.0)?;
                    Some((join(&cable.path, key), ohms.typical.get()))
                })
                .collect();
            if ohms.is_empty() || size_in(cable.node).is_some() {
                continue;
            }
            let rung = |times: f64| {
                let edit = |(path, now): &(String, f64)| Edit::text(path, &Ohms::new(now / times).to_string());
                let title = format!("Use {times} times the copper for the cable to `{}`, or a shorter one", item.name);
                Candidate::new(title, ohms.iter().map(edit).collect())
            };
            ladders.push(Ladder::rising(TIMES.map(rung)));
        }
    }
    ladders.truncate(CABLES);
    ladders
}

/// A cable `steps` listed sizes thicker.
pub(super) fn thicker(bench: &Bench, cable: &PlannedCable<'_>, steps: usize) -> Option<Candidate> {
    let now = size_in(cable.found.node)?;
    let size = listed_from(bench, now).get(steps).copied()?;
    let title = format!("Use {size} for the cable to `{}`", cable.item.name);
    Some(Candidate::new(title, vec![with_size(&cable.found, size)?]))
}

/// The listed sizes from that of a cable on, in its own system or in the one that the policy asks for.
pub(super) fn listed_from(bench: &Bench, now: WireSize) -> Vec<WireSize> {
    let mut listed = bench.plan.wire_kind(Some(now)).listed_like();
    listed.retain(|size| size.area_mm2() >= now.area_mm2() * (1.0 - 1e-9));
    listed
}

/// The size that a cable is given with.
pub(super) fn size_in(node: &Node) -> Option<WireSize> {
    match &node.value {
        Value::Text(text, _) => split(text).map(|(_, size)| size),
        Value::Table(table) => match &table.get("size")?.1.value {
            Value::Text(text, _) => text.parse().ok(),
            _ => None,
        },
        Value::List(items) => size_in(items.first()?),
        _ => None,
    }
}

/// `0.5 m 18 AWG` as what comes before the size, and the size.
pub(super) fn split(text: &str) -> Option<(&str, WireSize)> {
    let starts = text
        .char_indices()
        .filter(|(i, c)| c.is_ascii_digit() && text[..*i].chars().next_back().is_none_or(char::is_whitespace));
    starts.skip(1).find_map(|(i, _)| Some((&text[..i], text[i..].parse().ok()?)))
}

/// The same cable in another size.
pub(super) fn with_size(cable: &Found<'_>, size: WireSize) -> Option<Edit> {
    match &cable.node.value {
        Value::Text(text, _) => Some(Edit::text(&cable.path, &format!("{}{size}", split(text)?.0))),
        Value::Table(_) => Some(Edit::text(format!("{}.size", cable.path), &size.to_string())),
        Value::List(items) => {
            let texts = items.iter().map(|item| match &item.value {
                Value::Text(text, _) => Some(format!("\"{}{size}\"", split(text)?.0)),
                _ => None,
            });
            Some(Edit::set(&cable.path, format!("[{}]", texts.collect::<Option<Vec<_>>>()?.join(", "))))
        }
        _ => None,
    }
}
