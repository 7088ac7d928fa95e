//! The catalogue of generic parts.

use std::fmt::Write as _;

use modest_ohm::catalogue::PartClass;
use serde::Serialize;

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
        let figures: Vec<String> = c.figures.iter().map(|(k, v)| format!("{k} {v}")).collect();
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
