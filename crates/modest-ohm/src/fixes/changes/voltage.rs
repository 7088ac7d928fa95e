//! Another voltage of what feeds a part.

use super::source::sources;
use crate::edit::Edit;
use crate::findings::evidence::EvidenceRole;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::sheet::Item;
use crate::fixes::bench::trial::Bench;
use crate::quantity::parse::parse_figure;
use crate::quantity::units::Volts;

/// Voltages that supplies and converters are sold in (typical).
const USUAL_V: [f64; 11] = [3.3, 5.0, 6.0, 7.5, 9.0, 12.0, 15.0, 19.0, 24.0, 36.0, 48.0];
/// Voltages that are tried of each source.
const RUNGS: usize = 6;

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let range = wanted(bench, f);
    let mut ladders: Vec<Ladder> = sources(bench, f).into_iter().map(|item| Ladder::of(of(item, range))).collect();
    ladders.extend(bench.items_of(f).into_iter().map(|item| Ladder::of(selectors(item))));
    ladders
}

/// The voltages that what the finding is about is made for; else the side of its limit.
fn wanted(bench: &Bench, f: &Finding) -> Option<(f64, f64)> {
    let context = bench.context();
    let own = context.consumers().iter().find(|c| c.name == f.subject).and_then(|c| c.recommended.clone());
    let limit = || match f.comparison()? {
        (_, limit) if limit.unit != "V" => None,
        (_, limit) if limit.role == EvidenceRole::AtLeast => Some((limit.value, 2.0 * limit.value)),
        (_, limit) => Some((0.4 * limit.value, limit.value)),
    };
    own.map(|range| (range.low.get(), range.high.get())).or_else(limit)
}

/// The usual voltages nearest to the one that is needed; a battery is made of cells.
fn of(item: Item<'_>, range: Option<(f64, f64)>) -> Vec<Candidate> {
    let key = if item.kind == "converter" { "output" } else { "voltage" };
    let (Some(text), Some((low, high))) = (item.text(key), range) else { return Vec::new() };
    let Ok(now) = parse_figure::<Volts>(text) else { return Vec::new() };
    let now = now.typical.get();
    let wanted = 0.5 * (low + high);
    let is_other = |v: &f64| (v - now).abs() > 1e-6 && low <= *v && *v <= high;
    let mut values: Vec<f64> = USUAL_V.into_iter().filter(is_other).collect();
    values.sort_by(|a, b| (a - wanted).abs().total_cmp(&(b - wanted).abs()));
    let candidate = |v: f64| {
        let volts = Volts::new(v).to_string();
        // The tolerance is as good as that of the old one.
        let spread = text.find('±').map(|at| text[at..].trim()).filter(|s| s.ends_with('%'));
        let written = spread.map_or_else(|| volts.clone(), |spread| format!("{volts} {spread}"));
        Candidate::text(format!("Use a {} {} for `{}`", volts, item.kind, item.name), item.key(key), &written)
    };
    values.into_iter().take(RUNGS).map(candidate).collect()
}

/// A selector that is set to another voltage: of a load, a board or a source that negotiates.
fn selectors(item: Item<'_>) -> Vec<Candidate> {
    let Some(now) = item.text("selected") else { return Vec::new() };
    let volts = [5.0, 9.0, 12.0, 15.0, 20.0, 24.0];
    let set = |v: f64| {
        let text = Volts::new(v).to_string();
        Candidate::new(format!("Set `{}` to {text}", item.name), vec![Edit::text(item.key("selected"), &text)])
    };
    let mut rungs: Vec<Candidate> = Vec::new();
    for rung in volts.into_iter().map(set) {
        if rungs.iter().all(|known| *known != rung) && rung.edits[0].value.as_deref() != Some(now) {
            rungs.push(rung);
        }
    }
    rungs
}
