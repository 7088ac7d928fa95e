//! A larger supply or converter.

use crate::edit::Edit;
use crate::findings::evidence::EvidenceRole;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::Item;
use crate::fixes::bench::trial::Bench;
use crate::quantity::figure::Figure;
use crate::quantity::parse::parse_figure;
use crate::quantity::units::Amps;
use crate::size::supply::RATINGS;

/// Sizes that are tried.
const RUNGS: usize = 6;

/// The sources of what a finding is about, nearest first.
pub(super) fn sources<'b>(bench: &'b Bench, f: &Finding) -> Vec<Item<'b>> {
    let items = bench.items_of(f);
    let mut all: Vec<Item<'b>> = Vec::new();
    for item in items {
        for source in std::iter::once(item).chain(bench.sheet().above(item)) {
            if ["supply", "converter"].contains(&source.kind) && all.iter().all(|known| known.name != source.name) {
                all.push(source);
            }
        }
    }
    all
}

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let judged = f.evidence.iter().find(|e| e.role == EvidenceRole::Judged && e.unit == "A").map_or(0.0, |e| e.value);
    sources(bench, f)
        .into_iter()
        .map(|item| match item.text("kind") {
            Some("usb") => ports(item),
            Some("negotiated") => Vec::new(),
            _ => larger(bench, item, if item.name == f.subject { judged } else { 0.0 }),
        })
        .map(Ladder::rising)
        .collect()
}

/// The next ratings that adapters are sold in.
fn larger(bench: &Bench, item: Item<'_>, needed: f64) -> Vec<Candidate> {
    let plan = &bench.plan;
    let of = |figure: &Option<Figure<Amps>>| figure.as_ref().map(|c| c.low.get());
    let supply = plan.supplies.iter().find(|s| s.name.text == item.name).map(|s| of(&s.current));
    let converter = || plan.converters.iter().find(|c| c.name.text == item.name).map(|c| of(&c.current));
    let Some(Some(now)) = supply.or_else(converter) else { return Vec::new() };
    // A module is bought by what is printed on it.
    let label = item.text("label-current").and_then(|l| parse_figure::<Amps>(l).ok()).map(|l| l.typical.get());
    let (key, now, needed) = match label {
        Some(label) => ("label-current", label, label),
        None => ("current", now, needed),
    };
    let least = (now * (1.0 + 1e-9)).max(needed);
    let larger = RATINGS.into_iter().filter(|r| *r > least).take(RUNGS);
    larger
        .map(|rating| {
            let text = Amps::new(rating).to_string();
            let mut edits = vec![Edit::text(item.key(key), &text)];
            let limit = item.text("limit").and_then(|l| parse_figure::<Amps>(l).ok());
            if limit.is_some_and(|limit| limit.low.get() < rating) {
                edits.push(Edit::remove(item.key("limit")));
            }
            Candidate::new(
                format!("Use a {} {} {text}", item.kind, if label.is_some() { "marked" } else { "rated" }),
                edits,
            )
        })
        .collect()
}

/// Computer ports and chargers, in rising order of what they supply.
fn ports(item: Item<'_>) -> Vec<Candidate> {
    const PORTS: [(&str, &str); 4] = [
        ("usb-3", "a USB 3 port"),
        ("charging", "a USB charger for 1.5 A"),
        ("c-1.5", "a USB-C port for 1.5 A"),
        ("c-3", "a USB-C port for 3 A"),
    ];
    let now = item.text("port").unwrap_or("usb-2");
    let from = PORTS.iter().position(|(port, _)| *port == now).map_or(0, |i| i + 1);
    let port = |(port, words): &(&str, &str)| Candidate::text(format!("Use {words}"), item.key("port"), port);
    PORTS[from..].iter().map(port).collect()
}
