//! A generic part of the same kind, and a diode across a coil.

use crate::catalogue::{Catalogue, Class, PartClass, classes};
use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::Item;
use crate::fixes::bench::trial::Bench;

/// Kinds of items of which another part does the same; a load is what the plan is for.
const EXCHANGED: [&str; 8] = ["driver", "converter", "diode", "connector", "switch", "limiter", "capacitor", "shifter"];
/// Parts that are tried.
const RUNGS: usize = 14;
/// Keys of a plan that say how a part is used, not what it is.
const OF_USE: [&str; 6] = ["kind", "voltage", "pin", "from", "title", "like"];

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let is_exchanged =
        |item: &Item<'_>| EXCHANGED.contains(&item.kind) || (item.kind == "board" && f.code == "pixels-memory");
    bench.items_of(f).into_iter().filter(is_exchanged).take(3).map(|item| Ladder::of(others(item))).collect()
}

/// The classes of an item's kind, those of the same sort first; the figures of the old part go with it.
fn others(item: Item<'_>) -> Vec<Candidate> {
    let now = item.text("part").and_then(|part| Catalogue.get(part));
    let sort = item.text("kind").or_else(|| now.and_then(|c| c.word("kind")));
    let kind = now.map_or(item.kind, |class| class.kind.as_str());
    let mut all: Vec<&Class> = Catalogue.of_kind(kind).filter(|c| now.is_none_or(|now| now.name != c.name)).collect();
    if sort.is_some() {
        all.retain(|c| c.word("kind").is_none() || c.word("kind") == sort || item.kind == "driver");
        all.sort_by_key(|c| c.word("kind") != sort);
    }
    let listed = classes();
    let figures = |name: &str| listed.iter().find(|c| c.name == name);
    all.iter().take(RUNGS).filter_map(|class| Some(rung(item, figures(&class.name)?, sort))).collect()
}

fn rung(item: Item<'_>, class: &PartClass, sort: Option<&str>) -> Candidate {
    let mut edits = vec![Edit::text(item.key("part"), &class.name)];
    for (key, _) in &class.figures {
        if item.has(key) && !OF_USE.contains(&key.as_str()) {
            edits.push(Edit::remove(item.key(key)));
        }
    }
    if item.has("kind") && class.word("kind").is_some() && class.word("kind") != sort {
        edits.push(Edit::remove(item.key("kind")));
    }
    Candidate::new(format!("Use a part like `{}` for `{}`: {}", class.name, item.name, class.title), edits)
}

/// The diodes of the catalogue across a coil, at the load or where its driver has one already.
pub(super) fn flyback(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let items = bench.items_of(f);
    let coils = items.iter().filter(|item| !["board", "supply", "converter", "diode"].contains(&item.kind));
    let mut ladders = Vec::new();
    for item in coils.take(3) {
        let rung = |class: &Class| {
            let title = format!("Fit a diode `{}` across `{}`, cathode to positive", class.name, item.name);
            Candidate::text(title, item.key("flyback"), &class.name)
        };
        let diodes = Catalogue.of_kind("diode").filter(|c| c.word("clamps").is_none());
        ladders.push(Ladder::of(diodes.map(rung)));
        if item.has("flyback") {
            let title = format!("Remove the diode across `{}`", item.name);
            ladders.push(Ladder::of([Candidate::new(title, vec![Edit::remove(item.key("flyback"))])]));
        }
    }
    ladders
}
