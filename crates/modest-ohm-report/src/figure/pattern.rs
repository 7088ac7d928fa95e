//! The test pattern of a panel, and the picture that each single mistake makes of it.

use modest_ohm::Plan;
use modest_ohm::panel::{Mistake, Rgb, Side};
use modest_ohm::views::PanelMap;

use super::svg::{Anchor, Pen, Svg, Type, fitted, width_of};

const WIDTH: f64 = 1280.0;
const HEIGHT: f64 = 800.0;
const MARGIN: f64 = 24.0;
const HEAD: f64 = 76.0;
/// Words below a picture: lines, and their height.
const CAPTION_LINES: usize = 3;
const CAPTION: f64 = 12.0;
/// Cells of a small picture that can be told apart.
const MOST_CELLS: usize = 48;
const TEXT: &str = "#1e2328";
const QUIET: &str = "#5b6167";

/// Draws the right picture of a panel, and those of mistakes; `None` where it makes no face.
#[must_use]
pub fn pattern_svg(plan: &Plan, map: &PanelMap) -> Option<String> {
    let right = map.layout.pattern().ok()?;
    // Settings of firmware are meant as seen from the front.
    let mistakes = map.layout.seen_from(Side::Front).mistakes().ok()?;
    let title = format!("{}: test pattern of {}", plan.title(), map.name);
    let what = format!("The test pattern as it should look, and {} pictures of single mistakes.", mistakes.len());
    let shape = map.walk.columns as f64 / map.walk.rows as f64;
    let count = mistakes.len() + 1;
    // As few columns as leave room for all pictures and their words.
    let (columns, wide, high, tall) = (3..=40)
        .map(|columns| {
            let cell = (WIDTH - 2.0 * MARGIN) / columns as f64;
            let lines = count.div_ceil(columns);
            let words = CAPTION_LINES as f64 * CAPTION + 14.0;
            let room = (HEIGHT - HEAD - 10.0) / lines as f64 - words;
            let wide = (cell - 16.0).min(room * shape);
            (columns, wide, wide / shape, room + words)
        })
        .max_by(|a, b| a.1.total_cmp(&b.1))?;
    // A face that is very long or very high would be too small to see: the picture grows instead.
    let (high, tall) = if high < 24.0 { (24.0, 24.0 + CAPTION_LINES as f64 * CAPTION + 14.0) } else { (high, tall) };
    let height = (HEAD + tall * count.div_ceil(columns) as f64 + 10.0).max(HEIGHT);
    let mut svg = Svg::new(WIDTH, height, &title, &what);
    heading(&mut svg, plan, map);
    let cell = (WIDTH - 2.0 * MARGIN) / columns as f64;
    for n in 0..count {
        let (x, y) = (MARGIN + (n % columns) as f64 * cell, HEAD + (n / columns) as f64 * tall);
        let place = [x, y, wide.max(24.0), high];
        match n.checked_sub(1).and_then(|m| mistakes.get(m)) {
            None => {
                picture(&mut svg, &right, place, Some("#2f9e6e"));
                caption(&mut svg, "as it should look", place, cell - 10.0, true);
            }
            Some(mistake) => {
                picture(&mut svg, &mistake.shown, place, None);
                caption(&mut svg, &causes(mistake), place, cell - 10.0, false);
            }
        }
    }
    Some(svg.finish())
}

fn causes(mistake: &Mistake) -> String {
    mistake.causes.join(", or ")
}

fn heading(svg: &mut Svg, plan: &Plan, map: &PanelMap) {
    let strong = Type { size: 19.0, bold: true, colour: TEXT, anchor: Anchor::Start };
    let title = if plan.title().is_empty() { map.name.clone() } else { format!("{} · {}", plan.title(), map.name) };
    svg.text((MARGIN, 33.0), &fitted(&title, 19.0, true, 800.0), &strong);
    let words = "the test pattern from the front, and how it looks with one wrong firmware setting";
    svg.text((MARGIN, 55.0), words, &Type { size: 12.5, bold: false, colour: QUIET, anchor: Anchor::Start });
}

/// LEDs as they look in the dark: brighter than their numbers.
fn glow(c: Rgb) -> String {
    let bright = |v: u8| if v == 0 { 18 } else { (40 + u16::from(v) * 7 / 2).min(255) };
    format!("#{:02x}{:02x}{:02x}", bright(c.red), bright(c.green), bright(c.blue))
}

fn picture(svg: &mut Svg, shown: &[Vec<Rgb>], [x, y, w, h]: [f64; 4], frame: Option<&str>) {
    let pen = frame.map(|colour| Pen { colour, width: 3.0, dash: "" });
    svg.rect([x - 2.0, y - 2.0, w + 4.0, h + 4.0, 2.0], "#121212", pen);
    let (rows, columns) = (shown.len(), shown.first().map_or(0, Vec::len));
    let (down, across) = (rows.min(MOST_CELLS), columns.min(MOST_CELLS));
    let (dx, dy) = (w / across.max(1) as f64, h / down.max(1) as f64);
    for j in 0..down {
        let row = &shown[j * rows / down];
        let mut from = 0;
        // Neighbours of one colour are one rectangle.
        for i in 1..=across {
            let at = |i: usize| row[i * columns / across];
            if i < across && at(i) == at(from) {
                continue;
            }
            let place = [x + from as f64 * dx, y + j as f64 * dy, (i - from) as f64 * dx + 0.5, dy + 0.5, 0.0];
            svg.rect(place, &glow(at(from)), None);
            from = i;
        }
    }
}

/// Words in a few lines below a picture.
fn caption(svg: &mut Svg, words: &str, [x, y, _, h]: [f64; 4], room: f64, bold: bool) {
    let size = 10.0;
    let mut lines: Vec<String> = vec![String::new()];
    for word in words.split(' ') {
        let line = lines.last_mut();
        match line {
            Some(line) if line.is_empty() => line.push_str(word),
            Some(line) if width_of(&format!("{line} {word}"), size, bold) <= room => {
                line.push(' ');
                line.push_str(word);
            }
            _ => lines.push(word.to_owned()),
        }
    }
    if lines.len() > CAPTION_LINES {
        lines.truncate(CAPTION_LINES);
        if let Some(last) = lines.last_mut() {
            last.push_str(" …");
        }
    }
    for (n, line) in lines.iter().enumerate() {
        let at = (x, y + h + 14.0 + n as f64 * CAPTION);
        svg.text(at, line, &Type { size, bold, colour: TEXT, anchor: Anchor::Start });
    }
}
