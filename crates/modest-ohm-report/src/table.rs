//! Tables for the terminal: a rule under the heading, columns by blanks, numbers to the right.

use comfy_table::{Cell, CellAlignment, ColumnConstraint, ContentArrangement, Table, presets};
use modest_ohm::Row;

/// A table whose first column holds names and all others numbers.
pub(crate) fn numbers(heading: &[&str], rows: Vec<Vec<String>>, width: usize) -> String {
    let mut table = Table::new();
    table
        .load_style(presets::NOTHING)
        .set_content_arrangement(ContentArrangement::Dynamic)
        .set_width(u16::try_from(width.clamp(40, 400)).unwrap_or(100));
    table.set_header(
        heading
            .iter()
            .enumerate()
            .map(|(i, h)| Cell::new(h).set_alignment(if i == 0 { CellAlignment::Left } else { CellAlignment::Right })),
    );
    for row in rows {
        table.add_row(row.into_iter().enumerate().map(|(i, text)| {
            // A number and its unit stay together; a break inside them would be misread.
            let text = if i == 0 { text } else { text.replace(' ', "\u{a0}") };
            Cell::new(text).set_alignment(if i == 0 { CellAlignment::Left } else { CellAlignment::Right })
        }));
    }
    table.set_constraints((0..heading.len()).map(|_| ColumnConstraint::ContentWidth));
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

/// Breaks a text at blanks so that no line is wider than `width`, later lines indented.
pub(crate) fn wrap(text: &str, width: usize, indent: usize) -> String {
    let room = width.saturating_sub(indent).max(30);
    let pad = " ".repeat(indent);
    let mut lines: Vec<String> = vec![String::new()];
    for word in text.split(' ') {
        let line = lines.last_mut().map_or(0, |l| l.chars().count());
        if line > 0 && line + 1 + word.chars().count() > room {
            lines.push(String::new());
        }
        if let Some(last) = lines.last_mut() {
            if !last.is_empty() {
                last.push(' ');
            }
            last.push_str(word);
        }
    }
    lines.join(&format!("\n{pad}"))
}
