//! The way of the data over a panel, seen from the front and from behind.

use modest_ohm::Plan;
use modest_ohm::panel::Walk;
use modest_ohm::views::PanelMap;

use super::svg::{Anchor, Pen, Svg, Type, fitted};

const WIDTH: f64 = 1280.0;
const HEIGHT: f64 = 800.0;
const MARGIN: f64 = 30.0;
const HEAD: f64 = 92.0;
const FOOT: f64 = 50.0;
/// Between the two sides.
const GAP: f64 = 56.0;
/// A pixel's number needs this much room.
const ROOM_FOR_NUMBER: f64 = 17.0;
/// More pixels are drawn as their way alone.
const MOST_DOTS: usize = 5_000;
/// The way of each strip.
const WAYS: [&str; 6] = ["#17526b", "#b4532a", "#4f7d2c", "#7b4f9d", "#8a6d1f", "#5b6167"];
const TEXT: &str = "#1e2328";
const QUIET: &str = "#5b6167";

/// A side of the panel on the picture.
struct Side<'a> {
    walk: &'a Walk,
    left: f64,
    top: f64,
    cell: f64,
}

impl Side<'_> {
    fn middle(&self, (x, y): (usize, usize)) -> (f64, f64) {
        (self.left + (x as f64 + 0.5) * self.cell, self.top + (y as f64 + 0.5) * self.cell)
    }
}

/// Draws a panel's map of a plan.
#[must_use]
pub fn panel_svg(plan: &Plan, map: &PanelMap) -> String {
    let title = format!("{}: the data path on {}", plan.title(), map.name);
    let what = format!(
        "{} columns by {} rows, from the front and from behind; the path starts at pixel 0.",
        map.walk.columns, map.walk.rows
    );
    let mut svg = Svg::new(WIDTH, HEIGHT, &title, &what);
    heading(&mut svg, plan, map);
    let behind = map.walk.from_behind();
    let (columns, rows) = (map.walk.columns as f64, map.walk.rows as f64);
    let (wide, high) = (WIDTH - 2.0 * MARGIN, HEIGHT - HEAD - FOOT);
    // Side by side, or one above the other, whichever shows it larger.
    let beside = ((wide - GAP) / 2.0 / columns).min((high - 20.0) / rows);
    let above = (wide / columns).min((high - GAP - 20.0) / 2.0 / rows);
    let cell = beside.max(above).min(64.0);
    for (n, (walk, words)) in
        [(&map.walk, "seen from the front"), (&behind, "seen from behind, the wiring side")].into_iter().enumerate()
    {
        let n = n as f64;
        let (left, top) = if beside >= above {
            let half = (wide - GAP) / 2.0;
            (MARGIN + n * (half + GAP) + (half - columns * cell) / 2.0, HEAD + 20.0 + (high - 20.0 - rows * cell) / 2.0)
        } else {
            (MARGIN + (wide - columns * cell) / 2.0, HEAD + 20.0 + n * (rows * cell + GAP))
        };
        let caption = Type { size: 13.0, bold: true, colour: TEXT, anchor: Anchor::Start };
        svg.text((left, top - 9.0), words, &caption);
        side(&mut svg, map, &Side { walk, left, top, cell });
    }
    foot(&mut svg, map);
    svg.finish()
}

fn heading(svg: &mut Svg, plan: &Plan, map: &PanelMap) {
    let strong = Type { size: 19.0, bold: true, colour: TEXT, anchor: Anchor::Start };
    let title = if plan.title().is_empty() { map.name.clone() } else { format!("{} · {}", plan.title(), map.name) };
    svg.text((MARGIN, 33.0), &fitted(&title, 19.0, true, WIDTH - 2.0 * MARGIN), &strong);
    let (l, order) = (&map.layout, map.layout.order);
    let mut words = format!(
        "{} × {} pixels · data enters {}, along {}, {}",
        map.walk.columns,
        map.walk.rows,
        order.entry.word(),
        order.along.word(),
        order.turns.word()
    );
    if l.seen == modest_ohm::panel::Side::Back {
        words += " (as seen from behind)";
    }
    if l.rotated.degrees() != 0 {
        words += &format!(" · rotated by {}°", l.rotated.degrees());
    }
    if let Some(t) = &l.tiles {
        words += &format!(
            " · {} × {} tiles of {} × {}, the first {}, along {}, {}",
            t.across,
            t.down,
            l.columns,
            l.rows,
            t.order.entry.word(),
            t.order.along.word(),
            t.order.turns.word()
        );
        let turned: Vec<String> = (t.rotated.iter().enumerate())
            .filter(|(_, r)| r.degrees() != 0)
            .map(|(n, r)| format!("{} by {}°", n + 1, r.degrees()))
            .collect();
        if !turned.is_empty() {
            words += &format!(" · turned: {}", turned.join(", "));
        }
    }
    let quiet = Type { size: 12.5, bold: false, colour: QUIET, anchor: Anchor::Start };
    svg.text((MARGIN, 55.0), &fitted(&words, 12.5, false, WIDTH - 2.0 * MARGIN), &quiet);
}

fn side(svg: &mut Svg, map: &PanelMap, side: &Side<'_>) {
    let (cell, walk) = (side.cell, side.walk);
    let frame = [side.left, side.top, walk.columns as f64 * cell, walk.rows as f64 * cell, 4.0];
    svg.rect(frame, "#20262c", Some(Pen { colour: "#20262c", width: 4.0, dash: "" }));
    tiles(svg, map, side);
    let dots = walk.places.len() <= MOST_DOTS && cell >= 3.0;
    if dots {
        for place in &walk.places {
            svg.dot(side.middle(*place), (cell * 0.36).min(13.0), "#3b444c");
        }
    }
    for (n, part) in map.parts.iter().enumerate() {
        way(svg, side, part.first, part.pixels, WAYS[n % WAYS.len()]);
    }
    if cell >= ROOM_FOR_NUMBER && dots {
        let size = (cell * 0.36).clamp(7.5, 13.0);
        for (index, place) in walk.places.iter().enumerate() {
            let (x, y) = side.middle(*place);
            let words = index.to_string();
            let look = Type { size, bold: false, colour: "#ffffff", anchor: Anchor::Middle };
            svg.text((x, y + size * 0.36), &words, &look);
        }
    }
    ends(svg, side);
}

/// Seams between tiles.
fn tiles(svg: &mut Svg, map: &PanelMap, side: &Side<'_>) {
    let (across, down) = map.layout.tile_grid();
    let (wide, high) = (side.walk.columns as f64 * side.cell, side.walk.rows as f64 * side.cell);
    let seam = Pen { colour: "#8d979f", width: 1.4, dash: "" };
    for n in 1..across {
        let x = side.left + wide * n as f64 / across as f64;
        svg.line(&[(x, side.top), (x, side.top + high)], &seam);
    }
    for n in 1..down {
        let y = side.top + high * n as f64 / down as f64;
        svg.line(&[(side.left, y), (side.left + wide, y)], &seam);
    }
}

/// The way through a strip: whole from neighbour to neighbour, dashed where a cable jumps.
fn way(svg: &mut Svg, side: &Side<'_>, first: usize, pixels: usize, colour: &str) {
    let pale = lighter(colour);
    let width = (side.cell * 0.16).clamp(1.2, 4.0);
    let mut run: Vec<(f64, f64)> = Vec::new();
    let mut jumps: Vec<[(f64, f64); 2]> = Vec::new();
    // The cable from the strip before belongs to this one.
    let from = first.saturating_sub(1);
    let places = &side.walk.places[from..first + pixels];
    for pair in places.windows(2) {
        let (a, b) = (pair[0], pair[1]);
        let ends = [side.middle(a), side.middle(b)];
        if a.0.abs_diff(b.0) + a.1.abs_diff(b.1) == 1 {
            if run.last() != Some(&ends[0]) {
                flush(svg, &mut run, &pale, width);
                run.push(ends[0]);
            }
            run.push(ends[1]);
        } else {
            jumps.push(ends);
        }
    }
    flush(svg, &mut run, &pale, width);
    for jump in jumps {
        svg.line(&jump, &Pen { colour: "#f2c14e", width: (width * 0.6).max(1.0), dash: "4 3" });
        arrow(svg, jump, 0.55, side.cell, "#f2c14e");
    }
    // Where it goes, once a line.
    let line = places.windows(2).enumerate().filter(|(_, p)| p[0].0.abs_diff(p[1].0) + p[0].1.abs_diff(p[1].1) == 1);
    let every = (side.walk.columns.max(side.walk.rows) / 2).max(2);
    for (_, pair) in line.filter(|(k, _)| k % every == every / 2) {
        arrow(svg, [side.middle(pair[0]), side.middle(pair[1])], 0.5, side.cell, &pale);
    }
}

fn flush(svg: &mut Svg, run: &mut Vec<(f64, f64)>, colour: &str, width: f64) {
    // Straight stretches are one piece.
    let mut kept: Vec<(f64, f64)> = Vec::new();
    for p in run.drain(..) {
        if let [.., a, b] = kept.as_slice() {
            let straight = (b.0 - a.0) * (p.1 - b.1) - (b.1 - a.1) * (p.0 - b.0);
            if straight.abs() < 1e-6 {
                kept.pop();
            }
        }
        kept.push(p);
    }
    if kept.len() > 1 {
        svg.line(&kept, &Pen { colour, width, dash: "" });
    }
}

fn arrow(svg: &mut Svg, [a, b]: [(f64, f64); 2], share: f64, cell: f64, colour: &str) {
    let (dx, dy) = (b.0 - a.0, b.1 - a.1);
    let long = dx.hypot(dy).max(1e-6);
    let (ux, uy) = (dx / long, dy / long);
    let size = (cell * 0.3).clamp(4.0, 9.0);
    let tip = (a.0 + share * dx + ux * size / 2.0, a.1 + share * dy + uy * size / 2.0);
    let back = (tip.0 - ux * size, tip.1 - uy * size);
    let half = size * 0.55;
    svg.shape(&[tip, (back.0 - uy * half, back.1 + ux * half), (back.0 + uy * half, back.1 - ux * half)], colour);
}

/// Where data enters, and where it leaves.
fn ends(svg: &mut Svg, side: &Side<'_>) {
    let (Some(first), Some(last)) = (side.walk.places.first(), side.walk.places.last()) else { return };
    let radius = (side.cell * 0.42).clamp(4.0, 15.0);
    for (place, fill, words) in [(first, "#2f9e6e", "in"), (last, "#c2455a", "out")] {
        let (x, y) = side.middle(*place);
        svg.dot((x, y), radius, fill);
        // Beside the face, where the pixel lies at its edge; the foot says what the colours are.
        let edge = match place.0 {
            0 => Some((side.left - 6.0, Anchor::End)),
            x if x + 1 == side.walk.columns => {
                Some((side.left + side.walk.columns as f64 * side.cell + 6.0, Anchor::Start))
            }
            _ => None,
        };
        if let Some((edge, anchor)) = edge {
            svg.text((edge, y + 4.0), words, &Type { size: 11.5, bold: true, colour: fill, anchor });
        }
        if side.cell >= ROOM_FOR_NUMBER {
            let size = (side.cell * 0.36).clamp(7.5, 13.0);
            let index = if words == "in" { 0 } else { side.walk.places.len() - 1 };
            let look = Type { size, bold: true, colour: "#ffffff", anchor: Anchor::Middle };
            svg.text((x, y + size * 0.36), &index.to_string(), &look);
        }
    }
}

/// A colour half-way to white: it lies on a dark ground.
fn lighter(colour: &str) -> String {
    let part = |at: usize| u8::from_str_radix(colour.get(at..at + 2).unwrap_or("80"), 16).unwrap_or(128);
    let half = |v: u8| (u16::from(v) + 255) / 2;
    format!("#{:02x}{:02x}{:02x}", half(part(1)), half(part(3)), half(part(5)))
}

fn foot(svg: &mut Svg, map: &PanelMap) {
    let quiet = |colour| Type { size: 12.0, bold: false, colour, anchor: Anchor::Start };
    let y = HEIGHT - 18.0;
    let mut x = MARGIN;
    for (n, part) in map.parts.iter().enumerate().take(WAYS.len()) {
        let words = format!("{}: {} .. {}", part.strip, part.first, part.first + part.pixels - 1);
        svg.rect([x, y - 9.0, 22.0, 10.0, 2.0], WAYS[n], None);
        svg.text((x + 28.0, y), &words, &quiet(TEXT));
        x += 48.0 + super::svg::width_of(&words, 12.0, false);
    }
    if map.parts.len() > WAYS.len() {
        svg.text((x, y), &format!("and {} more", map.parts.len() - WAYS.len()), &quiet(QUIET));
        x += 90.0;
    }
    for (fill, words) in [("#2f9e6e", "data enters"), ("#c2455a", "data leaves")] {
        svg.dot((x + 6.0, y - 4.0), 6.0, fill);
        svg.text((x + 18.0, y), words, &quiet(QUIET));
        x += 40.0 + super::svg::width_of(words, 12.0, false);
    }
    svg.line(&[(x, y - 4.0), (x + 30.0, y - 4.0)], &Pen { colour: "#b98a12", width: 1.6, dash: "4 3" });
    svg.text((x + 36.0, y), "a cable carries the data on", &quiet(QUIET));
}
