//! More feed points of a strip.

use super::wire::split;
use crate::advise::feeds::FeedOption;
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::findings::fix::listed;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::Item;
use crate::fixes::bench::trial::Bench;
use crate::quantity::parse::parse_figure;
use crate::quantity::units::Metres;

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let items = bench.items_of(f);
    let strips = items.iter().filter(|item| item.kind == "strip" && !item.has("rows") && !item.has("count"));
    strips.flat_map(|item| [of(bench, *item), both_ends(bench, *item)]).flatten().collect()
}

/// The lengths that end at the cut marks before and behind its end.
pub(super) fn cut_marks(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let of = |item: Item<'_>| {
        let strip = bench.plan.strips.iter().find(|s| s.name.text == item.name)?;
        let every = strip.marks.as_ref()?.every.typical.get();
        let length = strip.length.typical.get();
        let marks = [(length / every).floor(), (length / every).ceil()].map(|n| n * every);
        // To the tenth of a millimetre, as on a tape.
        let text = |length: f64| Metres::new((length * 1e4).round() / 1e4).to_string();
        let rung = |length: f64| {
            Candidate::text(format!("Cut `{}` at {}", item.name, text(length)), item.key("length"), &text(length))
        };
        Some(Ladder::of(marks.into_iter().filter(|l| *l > 0.0).map(rung)))
    };
    bench.items_of(f).into_iter().filter_map(of).collect()
}

/// A strip with one cable at its start, fed in the middle or at both ends over cables of the same size.
fn both_ends(bench: &Bench, item: Item<'_>) -> Option<Ladder> {
    let strip = bench.plan.strips.iter().find(|s| s.name.text == item.name)?;
    let cable = item.text("cable").filter(|_| !item.has("inject"))?;
    let (before, size) = split(cable)?;
    let length = parse_figure::<Metres>(before.trim()).ok()?.typical.get();
    let whole = strip.length.typical.get();
    let fuse = item.text("fuse").map_or_else(String::new, |fuse| format!(", fuse = \"{fuse}\""));
    let feed = |at: &str, further: f64| {
        let length = Metres::new(((length + further) * 100.0).ceil() / 100.0);
        format!("{{ at = \"{at}\", cable = \"{length} {size}\"{fuse} }}")
    };
    let rung = |words: &str, feeds: &[String]| {
        let mut edits = vec![Edit::set(item.key("inject"), format!("[{}]", feeds.join(", ")))];
        edits.extend(["cable", "fuse"].into_iter().filter(|key| item.has(key)).map(|key| Edit::remove(item.key(key))));
        Candidate::new(format!("Feed `{}` {words}", item.name), edits)
    };
    Some(Ladder::rising([
        rung("in the middle", &[feed("middle", 0.5 * whole)]),
        rung("at both ends", &[feed("start", 0.0), feed("end", whole)]),
        rung("at both ends and in the middle", &[feed("start", 0.0), feed("middle", 0.5 * whole), feed("end", whole)]),
    ]))
}

fn of(bench: &Bench, item: Item<'_>) -> Option<Ladder> {
    let strip = bench.plan.strips.iter().find(|s| s.name.text == item.name)?;
    let now = strip.injections.len();
    let feeds = bench.feeds_of(item.name)?;
    let limit = feeds.with_limit;
    let mut rungs = Vec::new();
    for option in feeds.options.iter().filter(|option| option.cables.len() >= now) {
        let bare = candidate(item, option, strip.length.typical.get());
        if let Some(limit) = limit {
            let set = Edit::text(item.key("firmware-limit"), &super::limit::in_steps(limit.get())?);
            let edits = [bare.edits.clone(), vec![set]].concat();
            rungs.push(Candidate::new(format!("{}, with a firmware limit", bare.title), edits));
        } else {
            rungs.push(bare);
        }
    }
    Some(Ladder::rising(rungs))
}

fn candidate(item: Item<'_>, option: &FeedOption, length_m: f64) -> Candidate {
    let at = |x: f64| {
        if x <= 1e-9 {
            "start".to_owned()
        } else if x >= length_m - 1e-9 {
            "end".to_owned()
        } else {
            Metres::new((x * 1000.0).round() / 1000.0).to_string()
        }
    };
    let feed = |c: &crate::advise::feeds::FeedCable| {
        let length = Metres::new((c.length.get() * 100.0).ceil() / 100.0);
        let fuse = c.fuse.map_or_else(String::new, |fuse| format!(", fuse = \"{fuse}\""));
        format!("{{ at = \"{}\", cable = \"{length} {}\"{fuse} }}", at(c.at.get()), c.size)
    };
    let feeds: Vec<String> = option.cables.iter().map(feed).collect();
    let mut edits = vec![Edit::set(item.key("inject"), format!("[{}]", feeds.join(", ")))];
    edits.extend(["cable", "fuse"].into_iter().filter(|key| item.has(key)).map(|key| Edit::remove(item.key(key))));
    let places: Vec<String> = option.cables.iter().map(|c| at(c.at.get())).collect();
    Candidate::new(format!("Feed `{}` at {}", item.name, listed(&places)), edits)
}
