//! Where every pixel of a panel is, and the test pattern on it, as text, CSV and JSON.

use std::fmt::Write as _;

use anstyle::{RgbColor, Style};
use modest_ohm::panel::{Pattern, Rgb, Walk};
use modest_ohm::units::Amps;
use modest_ohm::views::PanelMap;
use serde::Serialize;

use crate::Input;
use crate::document::style::{QUIET, STRONG, paint};
use crate::json::{self, maybe};
use crate::sheet::csv;

/// The numbers of all pixels as they lie, seen from the front and from behind.
#[must_use]
pub fn coordinates_text(map: &PanelMap) -> String {
    let mut out = String::new();
    let sides = [("front", map.walk.clone()), ("back", map.walk.from_behind())];
    let wide = map.walk.places.len().saturating_sub(1).to_string().len();
    for (side, walk) in sides {
        let heading = format!("Pixels of {}, seen from the {side}", map.name);
        let _ = writeln!(out, "{}", paint(STRONG, &heading));
        for row in grid(&walk) {
            let cells: Vec<String> = row.iter().map(|i| format!("{i:>wide$}")).collect();
            let _ = writeln!(out, "{}", cells.join(" "));
        }
        out.push('\n');
    }
    let note = "counted from 0 in the order of the data; columns from the left, rows from the top";
    let _ = writeln!(out, "{}", paint(QUIET, note));
    out
}

/// Pixels by row and column.
fn grid(walk: &Walk) -> Vec<Vec<usize>> {
    let mut rows = vec![vec![0; walk.columns]; walk.rows];
    for (index, (x, y)) in walk.places.iter().enumerate() {
        rows[*y][*x] = index;
    }
    rows
}

#[derive(Serialize)]
struct MapShape<'a> {
    format: u32,
    plan: &'a str,
    panel: &'a str,
    columns: usize,
    rows: usize,
    pixels: Vec<PlaceShape<'a>>,
}

#[derive(Serialize)]
struct PlaceShape<'a> {
    index: usize,
    strip: Option<&'a str>,
    pixel: Option<usize>,
    column: usize,
    row: usize,
    x_m: Option<f64>,
    y_m: Option<f64>,
}

fn places(map: &PanelMap) -> impl Iterator<Item = PlaceShape<'_>> {
    map.walk.places.iter().enumerate().map(|(index, (column, row))| {
        let on = map.on_strip(index);
        let at = map.position(index);
        PlaceShape {
            index,
            strip: on.map(|(strip, _)| strip),
            pixel: on.map(|(_, pixel)| pixel),
            column: *column,
            row: *row,
            x_m: maybe(at.map(|(x, _)| x)),
            y_m: maybe(at.map(|(_, y)| y)),
        }
    })
}

/// Every pixel as JSON.
#[must_use]
pub fn coordinates_json(input: &Input<'_>, map: &PanelMap) -> String {
    json::pretty(&MapShape {
        format: json::FORMAT,
        plan: input.path,
        panel: &map.name,
        columns: map.walk.columns,
        rows: map.walk.rows,
        pixels: places(map).collect(),
    })
}

/// Metres without the dust of binary fractions: to the micrometre.
fn metres(m: Option<f64>) -> String {
    m.map_or_else(String::new, |m| ((m * 1e6).round() / 1e6).to_string())
}

/// Every pixel a row.
#[must_use]
pub fn coordinates_csv(map: &PanelMap) -> String {
    let rows = places(map).map(|p| {
        vec![
            p.index.to_string(),
            p.strip.unwrap_or_default().to_owned(),
            p.pixel.map_or_else(String::new, |n| n.to_string()),
            p.column.to_string(),
            p.row.to_string(),
            metres(p.x_m),
            metres(p.y_m),
        ]
    });
    csv(&["index", "strip", "pixel", "column", "row", "x_m", "y_m"], rows)
}

/// The pattern as letters, seen from the front.
#[must_use]
pub fn pattern_text(map: &PanelMap, current: Option<Amps>) -> String {
    let pattern = Pattern::of(map.walk.columns, map.walk.rows);
    let mut out = format!("{}\n", paint(STRONG, &format!("Test pattern on {}, seen from the front", map.name)));
    for y in 0..map.walk.rows {
        let cells: Vec<String> = (0..map.walk.columns)
            .map(|x| {
                let colour = pattern.at(x, y);
                let bright = |v: u8| v.saturating_mul(3).max(60);
                let shown = RgbColor(bright(colour.red), bright(colour.green), bright(colour.blue));
                paint(Style::new().fg_color(Some(shown.into())), letter(colour))
            })
            .collect();
        let _ = writeln!(out, "{}", cells.join(" "));
    }
    let amps = current.map_or_else(String::new, |a| format!(" It draws {a}."));
    let note = format!(
        "W white, R red, G green, . dim: bluer to the right, greener downwards.{amps} What each single mistake looks \
        like: mohm draw pattern PLAN"
    );
    let _ = writeln!(out, "\n{}", paint(QUIET, &note));
    out
}

fn letter(colour: Rgb) -> &'static str {
    match (colour.red > 32, colour.green > 32, colour.blue > 32) {
        (true, true, true) => "W",
        (true, ..) => "R",
        (_, true, _) => "G",
        _ => ".",
    }
}

#[derive(Serialize)]
struct PatternShape<'a> {
    format: u32,
    plan: &'a str,
    panel: &'a str,
    columns: usize,
    rows: usize,
    current_a: Option<f64>,
    pixels: Vec<ColourShape>,
}

#[derive(Serialize)]
struct ColourShape {
    index: usize,
    column: usize,
    row: usize,
    red: u8,
    green: u8,
    blue: u8,
}

fn colours(map: &PanelMap) -> impl Iterator<Item = ColourShape> + '_ {
    let colours = Pattern::of(map.walk.columns, map.walk.rows).along(&map.walk);
    map.walk.places.iter().zip(colours).enumerate().map(|(index, ((column, row), c))| ColourShape {
        index,
        column: *column,
        row: *row,
        red: c.red,
        green: c.green,
        blue: c.blue,
    })
}

/// The pattern in the order of the data, as JSON.
#[must_use]
pub fn pattern_json(input: &Input<'_>, map: &PanelMap, current: Option<Amps>) -> String {
    json::pretty(&PatternShape {
        format: json::FORMAT,
        plan: input.path,
        panel: &map.name,
        columns: map.walk.columns,
        rows: map.walk.rows,
        current_a: maybe(current),
        pixels: colours(map).collect(),
    })
}

/// The pattern in the order of the data, a pixel a row.
#[must_use]
pub fn pattern_csv(map: &PanelMap) -> String {
    let rows = colours(map).map(|c| {
        [c.index, c.column, c.row]
            .map(|n| n.to_string())
            .into_iter()
            .chain([c.red, c.green, c.blue].map(|n| n.to_string()))
            .collect()
    });
    csv(&["index", "column", "row", "red", "green", "blue"], rows)
}
