//! A part of a higher rating, in place of the figure that the finding was held to.

use crate::findings::evidence::{Evidence, EvidenceRole};
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::trial::Bench;
use crate::plan::model::Plan;
use crate::plan::model::figures::Seen;
use crate::quantity::figure::Origin;
use crate::quantity::format::engineering_of;

/// How much more than what is needed is tried, in turn.
const STEPS: [f64; 5] = [1.0, 1.25, 1.6, 2.5, 4.0];
/// Numbers that ratings are printed with, per decade (our own choice of usual ones).
const USUAL: [f64; 11] = [1.0, 1.2, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 7.5, 8.0];

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let Some(judged) = f.evidence.iter().find(|e| e.role == EvidenceRole::Judged) else { return Vec::new() };
    let is_limit = |e: &&Evidence| e.unit == judged.unit && e.role != EvidenceRole::Judged && e.name != "typical";
    let mut limits: Vec<&Evidence> = f.evidence.iter().filter(is_limit).collect();
    limits.sort_by_key(|e| e.role == EvidenceRole::Context);
    let mut ladders = Vec::new();
    for limit in limits {
        let Some((path, what)) = place_of(bench, f, limit) else { continue };
        // Those of sources come in sizes of their own.
        let is_source = path.starts_with("supply.") || path.starts_with("converter.");
        if is_source && ["current", "limit", "label-current"].iter().any(|key| path.ends_with(&format!(".{key}"))) {
            continue;
        }
        let now = match limit.origin {
            Origin::Plan(span) => bench.plan.words(span).trim_matches('"').to_owned(),
            _ => String::new(),
        };
        let most = limit.role != EvidenceRole::AtLeast;
        let key = path.rsplit('.').next().unwrap_or_default().to_owned();
        let value = |step: &f64| {
            let value =
                if most { usual_above(judged.value.abs() * step) } else { usual_below(judged.value.abs() / step) };
            let text = engineering_of(value, limit.unit);
            let bound = if most { "or more" } else { "or less" };
            let rated = if RATINGS.contains(&key.as_str()) { "rated" } else { &format!("whose `{key}` is") };
            Candidate::text(format!("Use {what} {rated} {text} {bound}"), path.clone(), &range_with(&now, &text, most))
        };
        ladders.push(Ladder::rising(STEPS.iter().map(value)));
    }
    ladders
}

/// Keys whose figure is simply what a part is rated.
const RATINGS: [&str; 8] =
    ["current", "voltage", "ripple", "energy", "making-current", "resistor-rating", "limit", "surge-current"];

/// A figure in place of another one; of a range the end that it exceeds.
fn range_with(now: &str, value: &str, most: bool) -> String {
    match now.split(',').next().and_then(|range| range.split_once("..")) {
        Some((low, _)) if most => format!("{} .. {value}", low.trim()),
        Some((_, high)) => format!("{value} .. {}", high.trim()),
        None => value.to_owned(),
    }
}

/// Where the plan says a figure, or may say it in place of the generic part; and the kind of its item.
pub(super) fn place_of(bench: &Bench, f: &Finding, figure: &Evidence) -> Option<(String, String)> {
    let named =
        |kind: &str| format!("{} {}", if kind.starts_with(['a', 'e', 'i', 'o', 'u']) { "an" } else { "a" }, kind);
    match &figure.origin {
        Origin::Plan(span) => {
            let item = bench.sheet().item_at(*span)?;
            Some((bench.path_at(*span)?, named(&item.kind.replace('-', " "))))
        }
        Origin::Catalogue { part, .. } => {
            let items = bench.items_of(f);
            let item = items.iter().find(|item| item.text("part") == Some(part)).or(items.first())?;
            let key = key_of(bench, item.name, figure)?;
            Some((item.key(&key), named(&item.kind.replace('-', " "))))
        }
        _ => None,
    }
}

/// The key of an item's figure with this value.
fn key_of(bench: &Bench, item: &str, figure: &Evidence) -> Option<String> {
    let mut found = None;
    Plan::clone(&bench.plan).each_figure(&mut |Seen { item: own, at, .. }, f| {
        let (low, high, unit) = f.ends();
        let is_near = |v: f64| (v - figure.value).abs() <= 1e-9 * figure.value.abs();
        if own == item && unit == figure.unit && (is_near(low) || is_near(high)) && f.origin() == &figure.origin {
            found.get_or_insert(at.to_string());
        }
    });
    found
}

fn usual_above(value: f64) -> f64 {
    let decade = 10f64.powf(value.max(f64::MIN_POSITIVE).log10().floor());
    let usual = USUAL.iter().map(|u| u * decade).chain([10.0 * decade]);
    usual.into_iter().find(|u| *u >= value * (1.0 - 1e-9)).unwrap_or(value)
}

fn usual_below(value: f64) -> f64 {
    let decade = 10f64.powf(value.max(f64::MIN_POSITIVE).log10().floor());
    USUAL.iter().rev().map(|u| u * decade).find(|u| *u <= value * (1.0 + 1e-9)).unwrap_or(value)
}
