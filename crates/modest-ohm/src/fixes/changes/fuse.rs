//! Fuses: another one, a new one, and one together with a thicker wire.

use super::wire::{PlannedCable, cables, listed_from, size_in, thicker};
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::{Found, Item, text_of};
use crate::fixes::bench::trial::Bench;
use crate::quantity::parse::parse_figure;
use crate::quantity::units::Amps;
use crate::tables::fuse::FuseFamily;
use crate::tables::wire::{Laid, WireSize, ampacity_at};
use crate::text::tree::{Node, Value};

/// Thicker wires that are tried with a fuse.
const STEPS: usize = 5;

/// Fuses that a finding may be about: where it points, of its items, then on the way up.
fn fuses<'b>(bench: &'b Bench, f: &Finding) -> Vec<Found<'b>> {
    let items = bench.items_of(f);
    let above = items.first().map(|item| bench.sheet().above(*item)).unwrap_or_default();
    let mut all: Vec<Found<'b>> = Vec::new();
    for item in items.iter().chain(&above) {
        for found in item.all(&["fuse"]) {
            if all.iter().all(|known| known.path != found.path) {
                all.push(found);
            }
        }
    }
    all
}

pub(super) fn others(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    fuses(bench, f)
        .iter()
        .take(4)
        .flat_map(|fuse| [Ladder::of(other(fuse, true)), Ladder::of(other(fuse, false))])
        .collect()
}

/// The ratings of a fuse's family above or below its own, nearest first.
fn other(fuse: &Found<'_>, larger: bool) -> Vec<Candidate> {
    let Some((path, now, family)) = rating_of(fuse) else { return Vec::new() };
    let mut ratings: Vec<f64> =
        family.ratings().iter().copied().filter(|r| if larger { *r > now } else { *r < now }).collect();
    if !larger {
        ratings.reverse();
    }
    let word = if larger { "larger" } else { "smaller" };
    let rung = |rating: f64| {
        let text = Amps::new(rating).to_string();
        Candidate::text(format!("Use a {word} fuse, {text}"), path.clone(), &text)
    };
    ratings.into_iter().take(5).map(rung).collect()
}

/// Where a fuse's rating is, the rating and its family.
fn rating_of(fuse: &Found<'_>) -> Option<(String, f64, FuseFamily)> {
    let amps = |node: &Node| parse_figure::<Amps>(text_of(node)?).ok().map(|f| f.typical.get());
    match &fuse.node.value {
        Value::Text(..) => Some((fuse.path.clone(), amps(fuse.node)?, FuseFamily::Blade)),
        Value::Table(table) => {
            let word = table.get("family").and_then(|(_, node)| text_of(node));
            let family = word.and_then(|word| FuseFamily::ALL.into_iter().find(|f| f.word() == word));
            let rating = amps(table.get("rating")?.1)?;
            Some((format!("{}.rating", fuse.path), rating, family.unwrap_or(FuseFamily::Blade)))
        }
        _ => None,
    }
}

/// The path of the fuse that belongs to a cable.
fn beside(cable: &str) -> Option<String> {
    cable.strip_suffix("cable").map(|table| format!("{table}fuse"))
}

pub(super) fn new(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let have = fuses(bench, f);
    let all = cables(bench, f).into_iter().chain(stated(bench, f));
    let bare = all.filter_map(|c| Some((beside(&c.found.path)?, c)));
    let bare = bare.filter(|(path, _)| have.iter().all(|fuse| fuse.path != *path));
    bare.take(2)
        .map(|(path, cable)| {
            let most = cable_ampacity(bench, &cable).unwrap_or(f64::INFINITY);
            let least = least(bench, &cable);
            let ratings = FuseFamily::Blade.ratings().iter().filter(|r| least <= **r && **r <= most);
            let rung = |rating: &f64| {
                let text = Amps::new(*rating).to_string();
                let title = format!("Put a {text} blade fuse at the start of the cable to `{}`", cable.item.name);
                Candidate::text(title, path.clone(), &text)
            };
            // The smallest that carries the load protects best.
            Ladder::of(ratings.map(rung))
        })
        .collect()
}

/// The least blade fuse that carries what a cable carries.
fn least(bench: &Bench, cable: &PlannedCable<'_>) -> f64 {
    bench.carried(cable.item.name) / FuseFamily::Blade.load_factor() * (1.0 - 1e-9)
}

fn cable_ampacity(bench: &Bench, cable: &PlannedCable<'_>) -> Option<f64> {
    stated_ampacity(cable.found.node).or_else(|| Some(ampacity(bench, size_in(cable.found.node)?)))
}

/// What a cable of stated resistance is said to carry, A.
fn stated_ampacity(node: &Node) -> Option<f64> {
    let Value::Table(table) = &node.value else { return None };
    parse_figure::<Amps>(text_of(table.get("ampacity")?.1)?).ok().map(|a| a.low.get())
}

/// Cables without a size of which it is said what they carry.
fn stated<'b>(bench: &'b Bench, f: &Finding) -> Vec<PlannedCable<'b>> {
    let of = |item: Item<'b>| item.all(&["cable"]).into_iter().map(move |found| PlannedCable { found, item });
    let all = bench.items_of(f).into_iter().flat_map(of);
    all.filter(|c| size_in(c.found.node).is_none() && stated_ampacity(c.found.node).is_some()).collect()
}

fn ampacity(bench: &Bench, size: WireSize) -> f64 {
    ampacity_at(size, Laid::PLAIN, bench.plan.warmest_c())
}

/// Thicker wires, each with the largest fuses that it allows.
pub(super) fn with_wire(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let mut ladders = Vec::new();
    for cable in cables(bench, f).iter().take(2) {
        let (Some(path), Some(now)) = (beside(&cable.found.path), size_in(cable.found.node)) else { continue };
        let (listed, least) = (listed_from(bench, now), least(bench, cable));
        let rungs = (1..=STEPS).filter_map(|step| Some((thicker(bench, cable, step)?, *listed.get(step)?)));
        let pairs = rungs.flat_map(|(wire, size)| {
            let most = ampacity(bench, size);
            let fuses = FuseFamily::Blade.ratings().iter().filter(move |r| least <= **r && **r <= most).take(2);
            let pair = |rating: &f64| {
                let text = Amps::new(*rating).to_string();
                let edits = [wire.edits.clone(), vec![Edit::text(path.clone(), &text)]].concat();
                Candidate::new(format!("{} and a {text} blade fuse", wire.title), edits)
            };
            fuses.map(pair).collect::<Vec<_>>()
        });
        ladders.push(Ladder::of(pairs));
    }
    ladders
}
