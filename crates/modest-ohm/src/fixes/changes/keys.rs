//! Single keys of an item: the resistor, the setting or the figure that a check needs.

use crate::edit::Edit;
use crate::findings::evidence::{Evidence, EvidenceRole};
use crate::findings::finding::Finding;
use crate::findings::setting::{Setting, To};
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::{Item, text_of};
use crate::fixes::bench::trial::Bench;
use crate::quantity::format::engineering_of;
use crate::quantity::parse::parse_figure;
use crate::quantity::units::Ohms;
use crate::size::series::Series;
use crate::text::tree::Value;

/// Values of a series that are tried on each side: two decades.
const RUNGS: usize = 24;
/// How far beyond a limit a figure is set, as a share.
const BEYOND: [f64; 4] = [0.0, 0.03, 0.12, 0.3];

pub(super) fn ladders(bench: &Bench, f: &Finding, settings: &[Setting]) -> Vec<Ladder> {
    let mut ladders = Vec::new();
    for setting in settings {
        if let Some(key) = setting.key.strip_prefix('@') {
            ladders.extend(at_span(bench, f, key, setting));
            continue;
        }
        let items = bench.items_of(f);
        // What switches the part may be what has the key.
        let above = items.first().map(|item| bench.sheet().above(*item)).unwrap_or_default();
        let drivers = above.into_iter().filter(|item| item.kind == "driver").take(1);
        for item in items.into_iter().take(4).chain(drivers) {
            if setting.kinds.is_empty() || setting.kinds.contains(&item.kind) {
                let path = item.key(setting.key);
                let now = item.text(setting.key);
                ladders.push(rungs(f, setting, &path, now, Some(item)));
            }
        }
    }
    ladders
}

/// The value where the finding points, or a key beside it or in it.
fn at_span(bench: &Bench, f: &Finding, key: &str, setting: &Setting) -> Option<Ladder> {
    let found = bench.sheet().value_at(f.span?)?;
    let key = key.trim_start_matches('.');
    let path = match (&found.node.value, key) {
        (_, "") => found.path.clone(),
        (Value::Table(_), key) => format!("{}.{key}", found.path),
        (_, key) => format!("{}.{key}", found.path.rsplit_once('.')?.0),
    };
    let now = if key.is_empty() { text_of(found.node) } else { None };
    Some(rungs(f, setting, &path, now, None))
}

fn rungs(f: &Finding, setting: &Setting, path: &str, now: Option<&str>, item: Option<Item<'_>>) -> Ladder {
    let rising = matches!(setting.to, To::Larger | To::Smaller);
    let texts: Vec<Option<String>> = match setting.to {
        To::Texts(texts) => texts.iter().map(|t| Some(quoted(t))).collect(),
        To::Values(values) => values.iter().map(|v| Some((*v).to_owned())).collect(),
        To::Nothing => vec![None],
        To::Limit => {
            limit_of(f).map(|l| BEYOND.iter().map(|b| Some(quoted(&near(l, *b)))).collect()).unwrap_or_default()
        }
        To::Judged => {
            judged_of(f).map(|e| BEYOND.iter().map(|b| Some(quoted(&near(e, *b)))).collect()).unwrap_or_default()
        }
        To::Said => f.message.rsplit('`').nth(1).map(|word| vec![Some(quoted(word))]).unwrap_or_default(),
        To::Larger => of_series(now, true),
        To::Smaller => of_series(now, false),
        To::Resistors if now.is_some() => Vec::new(),
        To::Resistors => Series::E6.values(100.0, 100e3).into_iter().map(|v| Some(quoted(&ohms(v)))).collect(),
    };
    let is_there = |key: &str| item.is_none_or(|item| item.has(key));
    let named = item.map_or_else(String::new, |item| format!(" of `{}`", item.name));
    let rung = |value: Option<String>| {
        let edit = match value {
            Some(value) => Edit::set(path, value),
            None => Edit::remove(path),
        };
        let title = setting.title.replace("{of}", &named);
        Candidate::new(title, vec![edit])
    };
    if matches!(setting.to, To::Nothing) && !is_there(setting.key) {
        return Ladder::default();
    }
    Ladder { rungs: texts.into_iter().map(rung).collect(), rising }
}

fn quoted(text: &str) -> String {
    format!("\"{text}\"")
}

fn limit_of(f: &Finding) -> Option<&Evidence> {
    let judged = judged_of(f)?;
    let is_limit =
        |e: &&Evidence| e.unit == judged.unit && matches!(e.role, EvidenceRole::AtMost | EvidenceRole::AtLeast);
    f.evidence.iter().find(is_limit)
}

fn judged_of(f: &Finding) -> Option<&Evidence> {
    f.evidence.iter().find(|e| e.role == EvidenceRole::Judged)
}

/// The number in text, on the safe side of a limit by a share of it; for a judged number further on by that share.
fn near(e: &Evidence, beyond: f64) -> String {
    let down = e.role == EvidenceRole::AtMost;
    let value = e.value * if down { 1.0 - beyond } else { 1.0 + beyond };
    let digits = if down { rounded(value, f64::floor) } else { rounded(value, f64::ceil) };
    engineering_of(digits, e.unit)
}

/// Two digits.
fn rounded(value: f64, to: fn(f64) -> f64) -> f64 {
    if value == 0.0 {
        return 0.0;
    }
    let decade = 10f64.powf(value.abs().log10().floor() - 1.0);
    to(value / decade * (1.0 + 1e-12)) * decade
}

/// The values of the E12 series beyond the present one.
fn of_series(now: Option<&str>, larger: bool) -> Vec<Option<String>> {
    let Some(now) = now.and_then(|t| parse_figure::<Ohms>(t).ok()).map(|o| o.typical.get()) else { return Vec::new() };
    let values =
        if larger { Series::E12.values(now * 1.01, now * 100.0) } else { Series::E12.values(now / 100.0, now * 0.99) };
    let text = |v: f64| Some(quoted(&ohms(v)));
    if larger {
        values.into_iter().take(RUNGS).map(text).collect()
    } else {
        values.into_iter().rev().take(RUNGS).map(text).collect()
    }
}

fn ohms(value: f64) -> String {
    Ohms::new(value).to_string()
}
