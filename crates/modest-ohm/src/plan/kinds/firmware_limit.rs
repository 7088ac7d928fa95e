//! `[firmware-limit.x]`: one firmware limit over several strips. firmware limits usually hold for a board's total.

use crate::plan::wiring::name::Name;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Fraction};
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// Shares that should make a whole may miss it by this: they are written in round numbers.
const WHOLE: f64 = 0.005;

#[derive(Clone, Debug, Figures)]
pub(crate) struct FirmwareLimit {
    pub name: Name,
    pub current: Figure<Amps>,
    /// Names of strips; indices once names are resolved.
    pub strips: Vec<(Named, usize)>,
    /// What each strip gets of it; empty where one factor scales all of them alike.
    pub split: Vec<(String, Span, Figure<Fraction>)>,
}

pub(crate) fn read_firmware_limit(reader: &mut Reader<'_>, name: Name) -> FirmwareLimit {
    let current = reader.required::<Amps>("current", Need::Positive);
    let strips = reader.texts("strips");
    if !reader.has("strips") {
        reader.missing("strips", "list the strips: `strips = [\"quay\", \"pier\"]`");
    } else if strips.is_empty() {
        let span = reader.own_span("strips");
        let message = format!("{} applies to no strip", reader.what());
        reader.problem(Problem::new(span, message, "list the strips: `strips = [\"quay\", \"pier\"]`"));
    }
    for (n, strip) in strips.iter().enumerate() {
        if strips[..n].iter().any(|other| other.text == strip.text) {
            let message = format!("{} lists `{}` twice", reader.what(), strip.text);
            reader.problem(Problem::new(strip.span, message, "list each strip once"));
        }
    }
    let split = read_split(reader, &strips);
    FirmwareLimit { name, current, strips: strips.into_iter().map(|n| (n, usize::MAX)).collect(), split }
}

/// `split = { quay = "60 %", pier = "40 %" }`: all strips, one whole.
fn read_split(reader: &mut Reader<'_>, strips: &[Named]) -> Vec<(String, Span, Figure<Fraction>)> {
    let Some(mut table) = reader.child("split") else { return Vec::new() };
    let span = table.span;
    let mut split = Vec::new();
    for (key, at) in table.keys() {
        let Some((node, _)) = table.any(&key) else { continue };
        if !strips.iter().any(|s| s.text == key) {
            let message = format!("{} names `{key}`, which is not one of its strips", table.what());
            table.problem(Problem::new(at, message, "name only strips listed in `strips`"));
        } else if let Some(f) = crate::text::figures::figure_of_node::<Fraction>(&table, node, &key, Need::Positive) {
            split.push((key, at, f));
        }
    }
    let missing: Vec<&str> =
        strips.iter().filter(|s| !split.iter().any(|(n, ..)| *n == s.text)).map(|s| s.text.as_str()).collect();
    let sum: f64 = split.iter().map(|(_, _, f)| f.typical.get()).sum();
    if !missing.is_empty() {
        let message = format!("{} leaves out {}", table.what(), missing.join(", "));
        reader.problem(Problem::new(span, message, "give every strip its share"));
    } else if (sum - 1.0).abs() > WHOLE {
        let message = format!("the shares of {} add up to {}", table.what(), Fraction::new(sum));
        reader.problem(Problem::new(span, message, "make them add up to 100 %"));
    }
    split
}
