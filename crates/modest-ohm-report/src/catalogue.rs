//! The catalogue of generic parts.

use std::fmt::Write as _;

use modest_ohm::catalogue::PartClass;
use serde::Serialize;

use crate::document::entry::sentence;
use crate::document::style::{QUIET, STRONG, paint};
use crate::document::wrap::{wrap, wrap_hanging};
use crate::json;

/// Classes with their figures and where these come from.
#[must_use]
pub fn catalogue_text(classes: &[PartClass], width: usize) -> String {
    let mut out = String::new();
    for c in classes {
        let head = wrap_hanging(&format!("{}  {} · {}", c.name, c.kind, c.title), width, 4);
        let _ = writeln!(out, "{}", head.replacen(&c.name, &paint(STRONG, &c.name), 1));
        // Forty pins in a row tell nobody anything; they have a table of their own.
        let is_header = |key: &str| c.kind == "board" && key == "pins";
        let figures = c.figures.iter().filter(|(k, _)| !is_header(k)).map(|(k, v)| format!("{k} {v}"));
        let header = c.figures.iter().any(|(k, _)| is_header(k));
        let figures: Vec<String> =
            figures.chain(header.then(|| format!("pins: `mohm pins --part {}`", c.name))).collect();
        let _ = writeln!(out, "    {}", wrap(&figures.join(" · "), width, 4));
        let _ = writeln!(out, "    {}", paint(QUIET, &wrap(&format!("source: {}", c.source), width, 4)));
        if !c.markings.is_empty() {
            let _ =
                writeln!(out, "    {}", paint(QUIET, &wrap(&format!("markings: {}", c.markings.join(", ")), width, 4)));
        }
        out.push('\n');
    }
    out
}

/// The parts one below the other, with what they are and what is printed on them; a single one with its figures.
#[must_use]
pub fn catalogue_list_text(classes: &[PartClass], width: usize) -> String {
    if let [only] = classes {
        return catalogue_text(std::slice::from_ref(only), width);
    }
    let mut kinds: Vec<&str> = Vec::new();
    classes.iter().for_each(|c| {
        if !kinds.contains(&c.kind.as_str()) {
            kinds.push(&c.kind)
        }
    });
    let column = classes.iter().map(|c| c.name.chars().count()).max().unwrap_or(0);
    let mut out = String::new();
    for kind in kinds {
        let _ = writeln!(out, "{}", paint(STRONG, kind));
        for c in classes.iter().filter(|c| c.kind == kind) {
            let markings = if c.markings.is_empty() { String::new() } else { format!(" · {}", c.markings.join(", ")) };
            let line = format!("{:<column$}  {}{markings}", c.name, sentence(&c.title));
            // On a narrow terminal what it is takes lines of its own below the name.
            let hang = (column + 2).min(width / 2);
            let lines = wrap_hanging(&line, width.saturating_sub(2), hang);
            lines.lines().for_each(|line| out.push_str(&format!("  {line}\n")));
        }
        out.push('\n');
    }
    let note = "`part = \"…\"` takes a name, or after the dot a marking that one part has. `mohm about NAME` gives a \
        part's values.";
    let _ = writeln!(out, "{}", paint(QUIET, &wrap(note, width, 0)));
    out
}

#[derive(Serialize)]
struct ClassShape<'a> {
    name: &'a str,
    kind: &'a str,
    title: &'a str,
    source: &'a str,
    markings: &'a [String],
    figures: std::collections::BTreeMap<&'a str, &'a str>,
}

#[derive(Serialize)]
struct CatalogueShape<'a> {
    format: u32,
    parts: Vec<ClassShape<'a>>,
}

/// Classes as JSON.
#[must_use]
pub fn catalogue_json(classes: &[PartClass]) -> String {
    let parts = classes
        .iter()
        .map(|c| ClassShape {
            name: &c.name,
            kind: &c.kind,
            title: &c.title,
            source: &c.source,
            markings: &c.markings,
            figures: c.figures.iter().map(|(k, v)| (k.as_str(), v.as_str())).collect(),
        })
        .collect();
    json::pretty(&CatalogueShape { format: json::FORMAT, parts })
}
