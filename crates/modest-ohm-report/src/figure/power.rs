//! The supply tree as a picture: line width by current, a gauge of what each thing may carry, trouble in its colour.

use modest_ohm::units::{Amps, Quantity};
use modest_ohm::views::{SupplyTree, TreeItem};
use modest_ohm::{Review, Scenario, Select, Severity};

use super::place::{Place, places};
use super::slab::{FLAT_ROW, Lines, look, slab};
use super::svg::{Anchor, Pen, Svg, Type, fitted, width_of};
use crate::first_screen::counted;

const WIDTH: f64 = 1280.0;
const HEIGHT: f64 = 800.0;
const MARGIN: f64 = 24.0;
const HEAD: f64 = 74.0;
const FOOT: f64 = 58.0;
/// Rows no lower than this stay readable; a plan of more rows makes a taller picture.
const LEAST_ROW: f64 = 16.5;
const FLAT_WIDTH: f64 = 200.0;
const MOST_ROW: f64 = 140.0;
/// Line width of the largest current.
const WIDEST: f64 = 11.0;

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
    lines: Lines,
    box_width: f64,
    box_height: f64,
}

impl Frame {
    fn of(columns: usize, rows: usize) -> Self {
        let column = (WIDTH - 2.0 * MARGIN) / columns as f64;
        // One line needs room for a name and its numbers side by side.
        let least = if column * 0.84 >= FLAT_WIDTH { LEAST_ROW } else { FLAT_ROW };
        let row = ((HEIGHT - HEAD - FOOT) / rows as f64).clamp(least, MOST_ROW);
        let height = (HEAD + FOOT + row * rows as f64).max(HEIGHT);
        let top = HEAD + (height - HEAD - FOOT - row * rows as f64).max(0.0) / 2.0;
        let lines = Lines::of_row(row);
        let (widest, highest) = lines.largest();
        let box_width = (column * 0.84).min(widest);
        let box_height = (row - if row < 30.0 { 2.5 } else { 5.0 }).min(highest);
        Self { height, row, top, column, lines, box_width, box_height }
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
pub fn power_svg(review: &Review, scenario: &Scenario) -> Option<String> {
    let tree = review.supply_tree(scenario.clone())?;
    let (places, columns, rows) = places(&tree.items);
    let frame = Frame::of(columns, rows);
    let title = format!("{}: the supply tree", review.plan().title());
    let what = format!(
        "In scenario {scenario}: lowest voltage, largest demand and rating; lines are as wide as their current."
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
        let (x, y) = frame.left_top(*place);
        slab(&mut svg, item, [x, y, frame.box_width, frame.box_height], frame.lines);
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
    let mut words = format!("supply tree in scenario {}: lowest voltage · largest demand of rating", tree.scenario);
    let beyond = review.beyond_corners(&review.selected(&Select::default())).into_iter();
    let beyond = beyond.filter(|b| b.unit == Amps::SYMBOL && b.scenario == Some(&tree.scenario));
    let named: Vec<String> = beyond.map(|b| format!("{} {}", b.subject, Amps::new(b.value))).collect();
    if !named.is_empty() {
        words = format!("{words} · beyond the corners: {}", named.join(", "));
    }
    svg.text((MARGIN, 55.0), &fitted(&words, 12.5, false, WIDTH - 2.0 * MARGIN), &quiet);
    let counts: Vec<String> = [Severity::Danger, Severity::Fault, Severity::Caution]
        .into_iter()
        .filter(|s| review.count(*s) > 0)
        .map(|s| counted(review.count(s), s.word(), s.plural()))
        .collect();
    let (words, colour) = if counts.is_empty() {
        ("nothing worse than an advisory".to_owned(), "#17526b")
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
/// The way of a link between two boxes.
struct Direction {
    ends: [(f64, f64); 2],
    /// Its control points.
    by: [(f64, f64); 2],
    /// True where it goes round on the left, from inlet to inlet.
    round: bool,
}

impl Direction {
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
        let size = 11.0;
        let bold = link.trouble.is_some();
        let way = Direction::of(link.between.map(|i| places[i]), frame);
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
    svg.text((x + 53.0, y), "demand as a share of its rating", &quiet);
    x += 62.0 + width_of("demand as a share of its rating", 11.5, false);
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
        svg.text((x + 27.0, y), "no power", &quiet);
        x += 40.0 + width_of("no power", 11.5, false);
    }
    if !tree.links.is_empty() {
        svg.bend((x, y - 4.0), (x + 34.0, y - 4.0), &Pen { colour: "#17526b", width: 2.4, dash: "9 4" });
        svg.text((x + 41.0, y), "link", &quiet);
    }
}
