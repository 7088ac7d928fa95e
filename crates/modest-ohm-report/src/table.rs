//! Tables for the terminal: a rule under the heading, columns by blanks, numbers to the right.

use comfy_table::{Cell, CellAlignment, ColumnConstraint, ContentArrangement, Table, Width, presets};
use modest_ohm::Row;

/// Columns of words; all others hold numbers.
const WORDS: [&str; 24] = [
    "scenario",
    "corner",
    "stops first",
    "size",
    "guarded by",
    "verdict",
    "strip",
    "panel",
    "class",
    "order",
    "bound by",
    "pin",
    "data enters",
    "face",
    "place",
    "job",
    "for",
    "starts",
    "can besides",
    "mind",
    "way",
    "heat",
    "besides",
    "why",
];

/// Columns of sentences and lists: they may break where a table would not fit; the last only where the others are not enough.
const BREAK: [&str; 5] = ["can besides", "mind", "besides", "why", "job"];
/// No narrower than this.
const LEAST_BREAK: u16 = 12;

/// A table whose first column holds names; words to the left, numbers to the right.
pub(crate) fn numbers(heading: &[&str], rows: Vec<Vec<String>>, width: usize) -> String {
    let wide = |text: &str| text.lines().map(|l| l.chars().count()).max().unwrap_or(0);
    let first = broken(heading, &rows, width, &BREAK[..4]);
    if wide(&first) > width { broken(heading, &rows, width, &BREAK) } else { first }
}

/// The table with some of its columns broken.
fn broken(heading: &[&str], rows: &[Vec<String>], width: usize, columns: &[&str]) -> String {
    let mut table = Table::new();
    table
        .load_style(presets::NOTHING)
        .set_content_arrangement(ContentArrangement::Dynamic)
        .set_width(u16::try_from(width.clamp(40, 400)).unwrap_or(100));
    let is_word = |i: usize| i == 0 || heading.get(i).is_some_and(|h| WORDS.contains(h));
    let breaks = |i: usize| heading.get(i).is_some_and(|h| columns.contains(h));
    let cell = |i: usize, text: &str| {
        // A number and its unit stay together; a break inside them would be misread.
        let text =
            if i == 0 || (breaks(i) && heading[i] != text) { text.to_owned() } else { text.replace(' ', "\u{a0}") };
        Cell::new(text).set_alignment(if is_word(i) { CellAlignment::Left } else { CellAlignment::Right })
    };
    table.set_header(heading.iter().enumerate().map(|(i, h)| cell(i, h)));
    for row in rows {
        table.add_row(row.iter().enumerate().map(|(i, text)| cell(i, text)));
    }
    table.set_constraints((0..heading.len()).map(|i| match breaks(i) {
        true => ColumnConstraint::LowerBoundary(Width::Fixed(LEAST_BREAK)),
        false => ColumnConstraint::ContentWidth,
    }));
    let lines: Vec<String> = table.lines().map(|l| l.trim_end().replace('\u{a0}', " ")).collect();
    let rule = "─".repeat(lines.iter().map(|l| l.chars().count()).max().unwrap_or(0));
    let mut out = String::new();
    for (i, line) in lines.iter().enumerate() {
        out.push_str(line);
        out.push('\n');
        if i == 0 {
            out.push_str(&rule);
            out.push('\n');
        }
    }
    out
}

/// Scenario and corner of a row, as the cells of a table.
pub(crate) fn state<T>(row: &Row<T>) -> [String; 2] {
    let scenario = match &row.surging {
        Some(load) => format!("{} of {load}", row.scenario),
        None => row.scenario.clone(),
    };
    [scenario, row.corner.name().to_owned()]
}

/// A value or a dash.
pub(crate) fn or_dash<T: ToString>(value: Option<T>) -> String {
    value.map_or_else(|| "–".into(), |v| v.to_string())
}

/// Units that never begin a line: they belong to the number before them.
const UNITS: [&str; 35] = [
    "V", "mV", "µV", "A", "mA", "µA", "nA", "W", "mW", "µW", "kW", "MW", "Ω", "mΩ", "kΩ", "MΩ", "Hz", "kHz", "MHz",
    "pF", "nF", "µF", "m", "mm", "µm", "km", "s", "ms", "%", "°C", "AWG", "mm²", "/m", "Ω/m", "mΩ/m",
];

/// Breaks a text at blanks so that no line is wider than `width`, later lines indented; numbers keep their units.
pub(crate) fn wrap(text: &str, width: usize, indent: usize) -> String {
    let room = width.saturating_sub(indent).max(30);
    let pad = " ".repeat(indent);
    let mut words: Vec<String> = Vec::new();
    for word in text.split(' ') {
        let bare = word.trim_end_matches([',', '.', ';', ':', ')', '`', '"']);
        match words.last_mut() {
            Some(last) if UNITS.contains(&bare) && last.ends_with(|c: char| c.is_ascii_digit()) => {
                last.push(' ');
                last.push_str(word);
            }
            _ => words.push(word.to_owned()),
        }
    }
    let mut lines: Vec<String> = vec![String::new()];
    for word in words {
        let line = lines.last_mut().map_or(0, |l| l.chars().count());
        if line > 0 && line + 1 + word.chars().count() > room {
            lines.push(String::new());
        }
        if let Some(last) = lines.last_mut() {
            if !last.is_empty() {
                last.push(' ');
            }
            last.push_str(&word);
        }
    }
    lines.join(&format!("\n{pad}"))
}

#[cfg(test)]
mod tests {
    use super::wrap;

    #[test]
    fn numbers_keep_their_units() {
        let text = "it could take 2.44 times as much, 48.9 W of it (11.4 V, 16 AWG).";
        for width in 30..60 {
            for line in wrap(text, width, 2).lines() {
                let first = line.trim_start().split(' ').next().unwrap_or("");
                assert!(!["W", "V,", "AWG)."].contains(&first), "{width}: {line}");
                assert!(line.chars().count() <= width.max(32));
            }
        }
        assert_eq!(wrap(text, 200, 0), text);
    }
}
