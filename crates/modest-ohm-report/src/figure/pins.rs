//! The header of a board: what goes where, what it carries of what it may, and what is free.

use modest_ohm::units::Amps;
use modest_ohm::views::{AtBoot, BoardPins, Header, Level, PinFigures, PinJob, PinRole};
use modest_ohm::{Review, Severity};

use crate::pins::{common, job_name};

use super::svg::{Anchor, Pen, Svg, Type, fitted, width_of};

const WIDTH: f64 = 1280.0;
const HEIGHT: f64 = 800.0;
const MARGIN: f64 = 30.0;
const HEAD: f64 = 88.0;
const FOOT: f64 = 62.0;
/// Half the width of the board between two rows at its edges.
const HALF_BOARD: f64 = 76.0;
/// From the edge of a pad to its name, and the room that the name has.
const NAME: f64 = 54.0;
const BOX: f64 = 330.0;
const TEXT: &str = "#1e2328";
const QUIET: &str = "#5b6167";
const INK: &str = "#17526b";

/// Where a pin is drawn, and on which side its words stand.
struct Place<'p> {
    pin: &'p PinFigures,
    x: f64,
    y: f64,
    left: bool,
}

/// Draws the header of one board of a plan; `None` where the plan has no such board, or nothing is said of its pins.
#[must_use]
pub fn pins_svg(review: &Review, board: &str) -> Option<String> {
    let board = review.pins().into_iter().find(|b| b.board == board).filter(|b| !b.pins.is_empty())?;
    let plan = review.plan();
    let title = format!("{}: the pins of {}", plan.title(), board.board);
    let used = board.pins.iter().filter(|p| !p.jobs.is_empty()).count();
    let what = format!("{} pins by their position in the header, {used} of them used.", board.pins.len());
    let mut svg = Svg::new(WIDTH, HEIGHT, &title, &what);
    heading(&mut svg, plan.title(), &board, used);
    let (places, row) = places(&board);
    let all = common(&board);
    ground_plate(&mut svg, &board, &places, row);
    for place in &places {
        pin(&mut svg, place, row, &all);
    }
    foot(&mut svg);
    Some(svg.finish())
}

fn heading(svg: &mut Svg, title: &str, board: &BoardPins, used: usize) {
    let strong = Type { size: 19.0, bold: true, colour: TEXT, anchor: Anchor::Start };
    let title = if title.is_empty() { board.board.clone() } else { format!("{title} · pins of {}", board.board) };
    svg.text((MARGIN, 33.0), &fitted(&title, 19.0, true, WIDTH - 2.0 * MARGIN), &strong);
    let free = board.pins.iter().filter(|p| p.is_free()).count();
    let mut words = match board.total {
        Some(total) => format!("{used} used, {free} free · all pins together carry {}; rated {total}", board.current),
        None => format!("{used} used, {free} free · all pins together carry {}", board.current),
    };
    for (name, amps, total) in &board.groups {
        words += &format!(" · group {name}: {amps}; rated {total}");
    }
    let quiet = Type { size: 12.5, bold: false, colour: QUIET, anchor: Anchor::Start };
    svg.text((MARGIN, 55.0), &fitted(&words, 12.5, false, WIDTH - 2.0 * MARGIN), &quiet);
}

/// Every pin's place, and the height of a row.
fn places(board: &BoardPins) -> (Vec<Place<'_>>, f64) {
    let n = board.pins.len();
    let two = board.header != Header::Row || n > 24;
    let rows = if two { n.div_ceil(2) } else { n };
    let room = HEIGHT - HEAD - FOOT;
    let row = (room / rows.max(1) as f64).min(34.0);
    let top = HEAD + (room - rows as f64 * row) / 2.0;
    let middle = WIDTH / 2.0;
    let at = |i: usize| {
        let (line, left) = match board.header {
            // Down the left, then up the right.
            Header::Edges if i < rows => (i, true),
            Header::Edges => (2 * rows - 1 - i, false),
            Header::TwoRow => (i / 2, i.is_multiple_of(2)),
            _ if two => (i % rows, i < rows),
            _ => (i, true),
        };
        let half = if board.header == Header::Edges { HALF_BOARD } else { row * 0.55 };
        let x = match (two, left) {
            (false, _) => middle - 120.0,
            (true, true) => middle - half,
            (true, false) => middle + half,
        };
        (x, top + (line as f64 + 0.5) * row, left)
    };
    let place = |(i, pin)| {
        let (x, y, left) = at(i);
        // In one row all words stand on the right.
        Place { pin, x, y, left: left && two }
    };
    (board.pins.iter().enumerate().map(place).collect(), row)
}

/// The board under its pins.
fn ground_plate(svg: &mut Svg, board: &BoardPins, places: &[Place<'_>], row: f64) {
    let bounds = |get: fn(&Place<'_>) -> f64| {
        places.iter().map(get).fold((f64::MAX, f64::MIN), |(a, b), v| (a.min(v), b.max(v)))
    };
    let ((left, right), (top, bottom)) = (bounds(|p| p.x), bounds(|p| p.y));
    // No wider than its pads, so that the words stand beside it.
    let (pad, above) = ((row * 0.72).min(22.0) / 2.0 + 3.0, row * 0.75);
    let plate = [left - pad, top - above, right - left + 2.0 * pad, bottom - top + 2.0 * above, 8.0];
    svg.rect(plate, "#e9ecec", Some(Pen { colour: "#b9bfc2", width: 1.0, dash: "" }));
    if board.header == Header::Edges {
        let name = Type { size: 14.0, bold: true, colour: QUIET, anchor: Anchor::Middle };
        let middle = ((left + right) / 2.0, (top + bottom) / 2.0);
        svg.text(middle, &fitted(&board.board, 14.0, true, right - left - row), &name);
    }
}

/// Paper of a pad.
fn paper(pin: &PinFigures) -> &'static str {
    match pin.role {
        PinRole::Supply => "#ecd2ae",
        PinRole::Ground => "#c3c8cc",
        PinRole::Reset | PinRole::Open => "#f3f1ec",
        _ if !pin.jobs.is_empty() => "#bcd6de",
        _ if pin.reserved.is_some() => "#dfdcd5",
        _ => "#ffffff",
    }
}

fn pin(svg: &mut Svg, place: &Place<'_>, row: f64, all: &[&'static str]) {
    let Place { pin, x, y, left } = place;
    let size = (row * 0.72).min(22.0);
    let pen = Pen { colour: if pin.jobs.is_empty() { "#8b9297" } else { INK }, width: 1.2, dash: "" };
    svg.rect([x - size / 2.0, y - size / 2.0, size, size, 3.0], paper(pin), Some(pen));
    let letters = (size * 0.52).clamp(6.5, 11.0);
    let number = pin.position.as_deref().map_or("", |p| p.trim_start_matches('p'));
    let inside = Type { size: letters, bold: false, colour: TEXT, anchor: Anchor::Middle };
    svg.text((*x, y + letters * 0.36), number, &inside);
    // Words on the outer side.
    let out = |distance: f64| if *left { x - distance } else { x + distance };
    let anchor = if *left { Anchor::End } else { Anchor::Start };
    let font = (row * 0.42).clamp(7.0, 12.0);
    let named = pin.position.as_deref() != Some(pin.name.as_str());
    let (name, colour) = match pin.role {
        PinRole::Supply => (pin.rail.clone().unwrap_or_else(|| "supply".into()), "#7a5418"),
        PinRole::Ground => ("ground".into(), QUIET),
        PinRole::Reset => ("reset".into(), QUIET),
        PinRole::Open => ("–".into(), QUIET),
        _ if named => (pin.name.clone(), TEXT),
        _ => (String::new(), TEXT),
    };
    let bold = !pin.jobs.is_empty();
    let name = fitted(&name, font, bold, NAME - 6.0);
    svg.text((out(size / 2.0 + 6.0), y + font * 0.36), &name, &Type { size: font, bold, colour, anchor });
    let from = size / 2.0 + 6.0 + NAME;
    if !pin.jobs.is_empty() {
        jobs(svg, pin, (*x, *y), from, *left, row);
    } else if pin.role.is_signal() {
        let look = Type { size: (font * 0.86).max(7.0), bold: false, colour: QUIET, anchor };
        svg.text((out(from), y + font * 0.34), &fitted(&note(pin, all), look.size, false, BOX + 80.0), &look);
    }
}

/// What is worth knowing of a pin that nothing uses.
fn note(pin: &PinFigures, all: &[&'static str]) -> String {
    if let Some(reserved) = &pin.reserved {
        return format!("({reserved})");
    }
    let mut words = Vec::new();
    if pin.role == PinRole::Input {
        words.push("input only".to_owned());
    }
    let rare = ["analogue", "dac", "i2c-data", "i2c-clock", "pwm"];
    let own =
        |a: &&&str| rare.contains(*a) && !pin.lost.contains(*a) && (pin.role == PinRole::Input || !all.contains(*a));
    let can: Vec<&str> = pin.functions.iter().flatten().filter(|a| own(a)).copied().collect();
    if !can.is_empty() {
        words.push(can.join(", "));
    }
    if pin.pull_up.is_some() {
        words.push("pulled up on the board".into());
    }
    match (pin.boot_level, pin.at_reset) {
        (Some(level), _) => words.push(format!("must be {} at boot", level.word())),
        (None, AtBoot::Pulses) => words.push("pulses at boot".into()),
        (None, AtBoot::At(Level::High)) => words.push("high at boot".into()),
        _ => {}
    }
    words.join(" · ")
}

fn ink(trouble: Option<Severity>) -> (&'static str, &'static str, f64) {
    match trouble {
        Some(Severity::Danger) => ("#a3122a", "#fbd9dc", 2.6),
        Some(Severity::Fault) => ("#a3122a", "#fdf0ee", 2.0),
        Some(Severity::Caution) => ("#8a5200", "#fff1d6", 1.6),
        _ => (INK, "#ecf3f5", 1.1),
    }
}

/// The box of a used pin: its jobs, and how much of what it may it carries.
fn jobs(svg: &mut Svg, pin: &PinFigures, (x, y): (f64, f64), from: f64, left: bool, row: f64) {
    let trouble = pin.jobs.iter().filter_map(|j| j.trouble).max();
    let (colour, paper, weight) = ink(trouble);
    let (near, far) = if left { (x - from, x - from - BOX) } else { (x + from, x + from + BOX) };
    let high = (row * 0.84).min(26.0);
    let start = near.min(far);
    let line = Pen { colour, width: weight, dash: "" };
    let font = (row * 0.40).clamp(7.0, 11.5);
    // From the name to the box.
    let gap = if left { near + 8.0 } else { near - 8.0 };
    svg.line(&[(gap, y), (near, y)], &line);
    svg.rect([start, y - high / 2.0, BOX, high, 4.0], paper, Some(line));
    let share = pin.recommended.map_or(0.0, |most| (carried(pin) / most).clamp(0.0, 1.0));
    if share > 0.0 {
        svg.rect([start + 2.0, y + high / 2.0 - 4.0, (BOX - 4.0) * share, 2.4, 1.0], colour, None);
    }
    let amps = match (pin.recommended, carried(pin).get() > 0.0) {
        (Some(most), true) => format!("{} {} of {most}", if pin.into > pin.out { "in" } else { "out" }, carried(pin)),
        (None, true) => carried(pin).to_string(),
        _ => String::new(),
    };
    let mark = trouble.filter(|s| *s > Severity::Advisory).map_or(String::new(), |s| format!(" – {}", s.word()));
    // Of several jobs the names alone.
    let name = |j| if pin.jobs.len() > 1 { PinJob::clone(j).subject } else { job_name(j) };
    let names: Vec<String> = pin.jobs.iter().map(name).collect();
    let room = BOX - 22.0 - width_of(&amps, font, false);
    let words = fitted(&format!("{}{mark}", names.join(", ")), font, true, room);
    let base = y + font * 0.30;
    svg.text((start + 7.0, base), &words, &Type { size: font, bold: true, colour, anchor: Anchor::Start });
    svg.text((start + BOX - 7.0, base), &amps, &Type { size: font, bold: false, colour: TEXT, anchor: Anchor::End });
}

fn carried(pin: &PinFigures) -> Amps {
    if pin.into > pin.out { pin.into } else { pin.out }
}

fn foot(svg: &mut Svg) {
    let quiet = Type { size: 11.0, bold: false, colour: QUIET, anchor: Anchor::Start };
    let mut x = MARGIN;
    let y = HEIGHT - 24.0;
    let samples = [
        ("#bcd6de", "used"),
        ("#ffffff", "free"),
        ("#dfdcd5", "used by the board"),
        ("#ecd2ae", "supply"),
        ("#c3c8cc", "ground"),
        ("#f3f1ec", "reset, or not connected"),
    ];
    for (paper, words) in samples {
        svg.rect([x, y - 10.0, 13.0, 13.0, 3.0], paper, Some(Pen { colour: "#8b9297", width: 1.0, dash: "" }));
        svg.text((x + 19.0, y), words, &quiet);
        x += 19.0 + width_of(words, 11.0, false) + 22.0;
    }
    let note = "bar: largest continuous DC as a share of the pin's rating";
    svg.text((WIDTH - MARGIN, y), note, &Type { anchor: Anchor::End, ..quiet });
}
