//! The supply tree as a picture: line width by current, a gauge of what each thing may carry, trouble in its colour.

use modest_ohm::{Amps, Review, Severity, SupplyTree, TreeItem};

use super::place::{Place, places};
use super::svg::{Anchor, Pen, Svg, Type, fitted, width_of};

const WIDTH: f64 = 1280.0;
const HEIGHT: f64 = 800.0;
const MARGIN: f64 = 24.0;
const HEAD: f64 = 74.0;
const FOOT: f64 = 58.0;
/// Rows no lower than this stay readable; a plan of more rows makes a taller picture.
const LEAST_ROW: f64 = 16.5;
/// In lower rows a box has one line.
const FLAT_ROW: f64 = 24.5;
const FLAT_WIDTH: f64 = 200.0;
const MOST_ROW: f64 = 140.0;
const TALL_ROW: f64 = 64.0;
/// Smaller letters are not readable at 1280 × 800.
const SMALLEST: f64 = 8.5;
/// Line width of the largest current.
const WIDEST: f64 = 11.0;

/// Ink, paper of a box, and the weight of its outline.
struct Look {
    ink: &'static str,
    paper: &'static str,
    weight: f64,
    dash: &'static str,
}

fn look(item: &TreeItem) -> Look {
    match item.trouble.map(|(severity, _)| severity) {
        Some(Severity::Danger) => Look { ink: "#a3122a", paper: "#fbd9dc", weight: 3.2, dash: "" },
        Some(Severity::Fault) => Look { ink: "#a3122a", paper: "#fdf0ee", weight: 2.2, dash: "" },
        Some(Severity::Caution) => Look { ink: "#8a5200", paper: "#fff1d6", weight: 1.8, dash: "" },
        _ if item.dead => Look { ink: "#77797c", paper: "#f1f1ef", weight: 1.2, dash: "4 3" },
        _ => Look { ink: "#17526b", paper: "#ecf3f5", weight: 1.2, dash: "" },
    }
}

const TEXT: &str = "#1e2328";
const PAPER: &str = "#fbfaf7";
const QUIET: &str = "#5b6167";

/// Sizes that follow from how many rows and columns there are.
struct Frame {
    height: f64,
    row: f64,
    /// Where the first row begins: few rows stand in the middle.
    top: f64,
    column: f64,
    /// Room for three lines in a box.
    tall: bool,
    flat: bool,
    box_width: f64,
    box_height: f64,
    name_size: f64,
    value_size: f64,
}

impl Frame {
    fn of(columns: usize, rows: usize) -> Self {
        let column = (WIDTH - 2.0 * MARGIN) / columns as f64;
        // One line wants room for a name and its numbers side by side.
        let least = if column * 0.84 >= FLAT_WIDTH { LEAST_ROW } else { FLAT_ROW };
        let row = ((HEIGHT - HEAD - FOOT) / rows as f64).clamp(least, MOST_ROW);
        let height = (HEAD + FOOT + row * rows as f64).max(HEIGHT);
        let top = HEAD + (height - HEAD - FOOT - row * rows as f64).max(0.0) / 2.0;
        let (tall, flat) = (row >= TALL_ROW, row < FLAT_ROW);
        let widest = if flat {
            330.0
        } else if tall {
            240.0
        } else {
            210.0
        };
        let box_width = (column * 0.84).min(widest);
        let box_height = (row - if row < 30.0 { 2.5 } else { 5.0 }).min(if tall { 66.0 } else { 46.0 });
        let name_size = (box_height * 0.36).clamp(9.5, 14.0);
        // As large as the numbers of a usual thing fit.
        let value_size = (name_size - 0.8).min((box_width - 14.0) / width_of("11.4 V · 4.65 A of 6.00 A", 1.0, false));
        Self {
            height,
            row,
            top,
            column,
            tall,
            flat,
            box_width,
            box_height,
            name_size,
            value_size: value_size.max(SMALLEST),
        }
    }

    fn left_top(&self, place: Place) -> (f64, f64) {
        let x = MARGIN + place.column as f64 * self.column;
        let y = self.top + (place.row + 0.5) * self.row - self.box_height / 2.0;
        (x, y)
    }

    fn inlet(&self, place: Place) -> (f64, f64) {
        let (x, y) = self.left_top(place);
        (x, y + self.box_height / 2.0)
    }

    fn outlet(&self, place: Place) -> (f64, f64) {
        let (x, y) = self.inlet(place);
        (x + self.box_width, y)
    }
}

/// Draws the supply tree of a review in a scenario; `None` for a name that is no scenario.
#[must_use]
pub fn power_svg(review: &Review, scenario: &str) -> Option<String> {
    let tree = review.supply_tree(scenario)?;
    let (places, columns, rows) = places(&tree.items);
    let frame = Frame::of(columns, rows);
    let title = format!("{}: the supply tree", review.plan().title());
    let what = format!(
        "In the scenario {scenario}: lowest volts, largest wanted current and what each thing may carry; lines are as wide as \
         their current."
    );
    let mut svg = Svg::new(WIDTH, frame.height, &title, &what);
    heading(&mut svg, review, &tree);
    let largest = tree.items.iter().filter_map(|i| i.intake.or(i.current)).fold(1e-3, |m, a| a.get().max(m));
    for (item, place) in tree.items.iter().zip(&places) {
        if let Some(parent) = item.parent {
            let width = line_width(item.intake, largest);
            let look = look(item);
            let pen = Pen { colour: if item.dead { "#b9bbbd" } else { look.ink }, width, dash: look.dash };
            svg.bend(frame.outlet(places[parent]), frame.inlet(*place), &pen);
        }
    }
    links(&mut svg, &tree, &places, &frame);
    for (item, place) in tree.items.iter().zip(&places) {
        slab(&mut svg, item, *place, &frame);
    }
    foot(&mut svg, &tree, largest, frame.height);
    Some(svg.finish())
}

fn line_width(amps: Option<Amps>, largest: f64) -> f64 {
    1.0 + (WIDEST - 1.0) * (amps.map_or(0.0, Amps::get).abs() / largest).min(1.0)
}

fn heading(svg: &mut Svg, review: &Review, tree: &SupplyTree) {
    let strong = Type { size: 19.0, bold: true, colour: TEXT, anchor: Anchor::Start };
    svg.text((MARGIN, 33.0), &fitted(review.plan().title(), 19.0, true, 700.0), &strong);
    let quiet = Type { size: 12.5, bold: false, colour: QUIET, anchor: Anchor::Start };
    let words = format!("supply tree in “{}”: lowest volts · largest wanted current, of what may flow", tree.scenario);
    svg.text((MARGIN, 55.0), &words, &quiet);
    let counts: Vec<String> = [Severity::Danger, Severity::Fault, Severity::Caution]
        .into_iter()
        .filter(|s| review.count(*s) > 0)
        .map(|s| format!("{} {}", review.count(s), s.word()))
        .collect();
    let (words, colour) = if counts.is_empty() {
        ("nothing worse than advice".to_owned(), "#17526b")
    } else {
        let worst =
            if review.count(Severity::Danger) + review.count(Severity::Fault) > 0 { "#a3122a" } else { "#8a5200" };
        (counts.join(" · "), worst)
    };
    let right = Type { size: 15.0, bold: true, colour, anchor: Anchor::End };
    svg.text((WIDTH - MARGIN, 33.0), &words, &right);
}

/// One thing: name and kind, its numbers, its trouble, and the gauge along its lower edge. In a low box the trouble
/// takes the place of the kind, or of the numbers where the name leaves no room.
fn slab(svg: &mut Svg, item: &TreeItem, place: Place, frame: &Frame) {
    let (x, y) = frame.left_top(place);
    let (w, h) = (frame.box_width, frame.box_height);
    let look = look(item);
    svg.rect([x, y, w, h, 3.0], look.paper, Some(Pen { colour: look.ink, width: look.weight, dash: look.dash }));
    if frame.flat {
        flat_slab(svg, item, &look, [x, y, w, h]);
        return;
    }
    let room = w - 14.0;
    let lines: [f64; 3] = if frame.tall { [0.29, 0.56, 0.81] } else { [0.40, 0.77, 0.77] };
    let at = |line: usize| y + h * lines[line];
    let name = fitted(&item.name, frame.name_size, true, room);
    let strong = Type { size: frame.name_size, bold: true, colour: TEXT, anchor: Anchor::Start };
    svg.text((x + 7.0, at(0)), &name, &strong);
    let left = room - width_of(&name, frame.name_size, true) - 6.0;
    let code = item.trouble.map(|(_, code)| code);
    let tag_size = (frame.value_size - 1.0).max(SMALLEST);
    let beside = |words: &str, bold: bool| width_of(words, tag_size, bold) <= left;
    let mut numbers_stand = true;
    match code {
        Some(code) if frame.tall || !beside(code, true) => {
            let size = (frame.value_size - 0.3).max(SMALLEST);
            let words = fitted(code, size, true, room);
            svg.text((x + 7.0, at(2)), &words, &Type { size, bold: true, colour: look.ink, anchor: Anchor::Start });
            numbers_stand = frame.tall;
        }
        Some(code) => {
            let tag = Type { size: tag_size, bold: true, colour: look.ink, anchor: Anchor::End };
            svg.text((x + w - 7.0, at(0)), code, &tag);
        }
        None => {}
    }
    let kind = if item.dead { "no feed" } else { item.kind };
    if (code.is_none() || frame.tall) && beside(kind, false) {
        let tag = Type { size: tag_size, bold: false, colour: QUIET, anchor: Anchor::End };
        svg.text((x + w - 7.0, at(0)), kind, &tag);
    }
    if numbers_stand && !item.dead {
        let words = numbers(item, frame.value_size, room);
        let plain = Type { size: frame.value_size, bold: false, colour: TEXT, anchor: Anchor::Start };
        svg.text((x + 7.0, at(1)), &words, &plain);
    }
    gauge(svg, item, &look, [x, y, w, h]);
}

/// One line: the name, and its numbers or what is wrong.
fn flat_slab(svg: &mut Svg, item: &TreeItem, look: &Look, [x, y, w, h]: [f64; 4]) {
    let (room, size) = (w - 12.0, SMALLEST + 0.5);
    let (words, bold, colour) = match (item.trouble, item.dead) {
        (Some((_, code)), _) => (code.to_owned(), true, look.ink),
        (None, true) => ("no feed".to_owned(), false, QUIET),
        (None, false) => (numbers(item, size, 0.62 * room), false, TEXT),
    };
    let words = fitted(&words, size, bold, 0.62 * room);
    let base = y + h * 0.5 + size * 0.32;
    svg.text((x + w - 6.0, base), &words, &Type { size, bold, colour, anchor: Anchor::End });
    let left = room - width_of(&words, size, bold) - 4.0;
    let strong = Type { size, bold: true, colour: TEXT, anchor: Anchor::Start };
    svg.text((x + 6.0, base), &fitted(&item.name, size, true, left), &strong);
    gauge(svg, item, look, [x, y, w, h]);
}

/// Volts, wanted current, and what it may be: as much of it as there is room for, no number cut. The bar below shows the
/// share all the same.
fn numbers(item: &TreeItem, size: f64, room: f64) -> String {
    let amps = item.current.map(|a| a.to_string());
    let of = item.current.zip(item.limit).map(|(a, limit)| format!("{a} of {limit}"));
    let volts = item.voltage.map(|v| v.to_string());
    let both =
        |a: &Option<String>| -> String { [&volts, a].into_iter().flatten().cloned().collect::<Vec<_>>().join(" · ") };
    let ways = [of.as_ref().map(|_| both(&of)), Some(both(&amps)), amps.clone()];
    ways.into_iter().flatten().find(|words| width_of(words, size, false) <= room).unwrap_or_default()
}

/// How much of what it may carry is wanted.
fn gauge(svg: &mut Svg, item: &TreeItem, look: &Look, [x, y, w, h]: [f64; 4]) {
    let (Some(amps), Some(limit), false) = (item.current, item.limit, item.dead) else { return };
    if limit.get() <= 0.0 {
        return;
    }
    let share = (amps.get() / limit.get()).clamp(0.0, 1.0);
    let tall = (h * 0.085).clamp(1.8, 4.0);
    let top = y + h - tall - (h * 0.03).clamp(0.7, 1.5);
    svg.rect([x + 2.0, top, w - 4.0, tall, 0.8], "#d7dde0", None);
    svg.rect([x + 2.0, top, (w - 4.0) * share, tall, 0.8], look.ink, None);
}

/// The way of a link between two boxes.
struct Way {
    ends: [(f64, f64); 2],
    /// Its control points.
    by: [(f64, f64); 2],
    /// True where it goes round on the left, from inlet to inlet.
    round: bool,
}

impl Way {
    /// Boxes above each other are joined round their left side, others from the lower edge of one to the upper edge of
    /// the other: no line stands at an inlet that is not its own.
    fn of(between: [Place; 2], frame: &Frame) -> Self {
        let [a, b] = if between[0].row <= between[1].row { between } else { [between[1], between[0]] };
        if a.column == b.column {
            let ends = [a, b].map(|p| frame.inlet(p));
            let out = (ends[0].0 - frame.column * 0.22).max(4.0);
            return Self { ends, by: ends.map(|(_, y)| (out, y)), round: true };
        }
        let towards = |own: Place, other: Place| if other.column < own.column { 0.18 } else { 0.82 };
        let corner = |p: Place, other: Place, edge: f64| {
            let (x, y) = frame.left_top(p);
            (x + frame.box_width * towards(p, other), y + frame.box_height * edge)
        };
        let (above, same_row) = (corner(a, b, 1.0), (b.row - a.row) * frame.row < frame.box_height);
        let below = corner(b, a, if same_row { 1.0 } else { 0.0 });
        let sag = if same_row { frame.row * 0.5 } else { (below.1 - above.1) / 2.0 };
        let second = if same_row { below.1 + sag } else { below.1 - sag };
        Self { ends: [above, below], by: [(above.0, above.1 + sag), (below.0, second)], round: false }
    }

    /// The point half way along the curve.
    fn middle(&self) -> (f64, f64) {
        let of = |e0: f64, c0: f64, c1: f64, e1: f64| (e0 + 3.0 * c0 + 3.0 * c1 + e1) / 8.0;
        let ([a, b], [c, d]) = (self.ends, self.by);
        (of(a.0, c.0, d.0, b.0), of(a.1, c.1, d.1, b.1))
    }
}

fn links(svg: &mut Svg, tree: &SupplyTree, places: &[Place], frame: &Frame) {
    for link in &tree.links {
        let (colour, width, dash) = match (link.closed, link.trouble) {
            (true, Some((Severity::Danger | Severity::Fault, _))) => ("#a3122a", 4.0, "9 4"),
            (true, Some(_)) => ("#8a5200", 3.0, "9 4"),
            (true, None) => ("#17526b", 2.4, "9 4"),
            (false, _) => ("#9a9da0", 1.4, "2 4"),
        };
        let words = match (link.closed, link.trouble) {
            (true, Some((_, code))) => format!("{} · {code}", link.name),
            (true, None) => link.name.clone(),
            (false, _) => format!("{} (open)", link.name),
        };
        let size = frame.value_size.max(9.5);
        let bold = link.trouble.is_some();
        let way = Way::of(link.between.map(|i| places[i]), frame);
        svg.curve(way.ends[0], way.by[0], way.by[1], way.ends[1], &Pen { colour, width, dash });
        let width = width_of(&words, size, bold);
        let (x, y) = way.middle();
        // Beside a curve that goes round on the left, on one that crosses.
        let x = (if way.round { x - 8.0 - width } else { x - width / 2.0 }).max(4.0);
        svg.rect([x - 3.0, y - size * 0.75, width + 6.0, size * 1.4, 2.0], PAPER, None);
        svg.text((x, y + size * 0.35), &words, &Type { size, bold, colour, anchor: Anchor::Start });
    }
}

fn foot(svg: &mut Svg, tree: &SupplyTree, largest: f64, height: f64) {
    let y = height - 24.0;
    let quiet = Type { size: 11.5, bold: false, colour: QUIET, anchor: Anchor::Start };
    let mut x = MARGIN;
    for share in [0.1, 1.0] {
        let amps = Amps::new(largest * share);
        let width = line_width(Some(amps), largest);
        svg.bend((x, y - 4.0), (x + 34.0, y - 4.0), &Pen { colour: "#17526b", width, dash: "" });
        svg.text((x + 41.0, y), &amps.to_string(), &quiet);
        x += 58.0 + width_of(&amps.to_string(), 11.5, false);
    }
    svg.rect([x, y - 7.0, 46.0, 4.0, 1.0], "#d7dde0", None);
    svg.rect([x, y - 7.0, 28.0, 4.0, 1.0], "#17526b", None);
    svg.text((x + 53.0, y), "wanted, of what it may carry", &quiet);
    x += 62.0 + width_of("wanted, of what it may carry", 11.5, false);
    let samples = [(Severity::Caution, "caution"), (Severity::Fault, "fault"), (Severity::Danger, "danger")];
    for (severity, word) in samples {
        let sample = TreeItem {
            name: String::new(),
            kind: "",
            parent: None,
            voltage: None,
            current: None,
            intake: None,
            limit: None,
            trouble: Some((severity, "")),
            dead: false,
        };
        let look = look(&sample);
        svg.rect(
            [x, y - 10.0, 20.0, 12.0, 2.0],
            look.paper,
            Some(Pen { colour: look.ink, width: look.weight, dash: "" }),
        );
        svg.text((x + 27.0, y), word, &quiet);
        x += 40.0 + width_of(word, 11.5, false);
    }
    if tree.items.iter().any(|i| i.dead) {
        svg.rect([x, y - 10.0, 20.0, 12.0, 2.0], "#f1f1ef", Some(Pen { colour: "#77797c", width: 1.2, dash: "4 3" }));
        svg.text((x + 27.0, y), "no feed", &quiet);
        x += 40.0 + width_of("no feed", 11.5, false);
    }
    if !tree.links.is_empty() {
        svg.bend((x, y - 4.0), (x + 34.0, y - 4.0), &Pen { colour: "#17526b", width: 2.4, dash: "9 4" });
        svg.text((x + 41.0, y), "link", &quiet);
    }
}
