//! `[panel.x]`: pixels in rows and columns. A panel is its own pixels, or is laid from strips of the plan.

use super::Strip;
use super::firmware::{Sets, read_firmware};
use super::panel_pixels::{Passes, read_panel_strip, usual_pitch};
use crate::panel::order::{Along, EntryCorner, Order, Rotation, Side, Turns};
use crate::panel::{PanelLayout, Tiles};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Figure;
use crate::quantity::units::Metres;
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// Pixels of a row or column of a tile.
const MOST_PIXELS_OF_A_LINE: usize = 10_000;
/// Tiles from left to right, or from top to bottom.
const MOST_TILES: usize = 1000;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Panel {
    pub name: Name,
    #[figures(skip)]
    pub layout: PanelLayout,
    /// From one pixel to the next, where it is said; of strips their own.
    pub pitch: Option<Figure<Metres>>,
    /// From one line of the data to the next.
    pub line_pitch: Option<Figure<Metres>>,
    /// Its strips in the order of the data; itself where it is its own pixels.
    pub strips: Vec<(Named, usize)>,
    /// The layout that the firmware is said to be set to.
    #[figures(skip)]
    pub setting: Option<Setting>,
}

impl Panel {
    /// True where it is not made of strips of the plan.
    pub fn is_its_own_pixels(&self) -> bool {
        matches!(self.strips.as_slice(), [(one, _)] if one.text == self.name.text)
    }
}

/// A layout as it is set in the firmware, seen from the front unless it says otherwise: firmware knows of no back. What
/// is not said is as planned.
#[derive(Clone, Debug)]
pub(crate) struct Setting {
    pub span: Span,
    pub columns: Option<usize>,
    pub rows: Option<usize>,
    pub entry: Option<EntryCorner>,
    pub along: Option<Along>,
    pub turns: Option<Turns>,
    pub rotated: Option<Turned>,
    pub seen: Option<Side>,
}

/// How the firmware takes the tiles to be turned.
#[derive(Clone, Debug)]
pub(crate) enum Turned {
    /// All alike.
    All(Rotation),
    /// Tile by tile, in the order of the data.
    Each(Vec<Rotation>),
}

impl Setting {
    /// True where nothing of the layout is said.
    pub fn is_empty(&self) -> bool {
        let words = self.entry.is_none() && self.along.is_none() && self.turns.is_none();
        words && self.columns.is_none() && self.rows.is_none() && self.rotated.is_none()
    }

    /// What the firmware takes the panel for.
    pub fn on(&self, layout: &PanelLayout) -> PanelLayout {
        let layout = &layout.seen_from(self.seen.unwrap_or(Side::Front));
        let order = Order {
            entry: self.entry.unwrap_or(layout.order.entry),
            along: self.along.unwrap_or(layout.order.along),
            turns: self.turns.unwrap_or(layout.order.turns),
        };
        let turned = |each: &[Rotation]| layout.tiles.clone().map(|t| Tiles { rotated: each.to_vec(), ..t });
        let (rotated, tiles) = match &self.rotated {
            None => (layout.rotated, layout.tiles.clone()),
            Some(Turned::All(all)) => (*all, turned(&[])),
            Some(Turned::Each(each)) => (Rotation::None, turned(each)),
        };
        PanelLayout {
            columns: self.columns.unwrap_or(layout.columns),
            rows: self.rows.unwrap_or(layout.rows),
            order,
            rotated,
            tiles,
            seen: layout.seen,
        }
    }
}

const ENTRIES: [(&str, EntryCorner); 4] = [
    (EntryCorner::TopLeft.word(), EntryCorner::TopLeft),
    (EntryCorner::TopRight.word(), EntryCorner::TopRight),
    (EntryCorner::BottomLeft.word(), EntryCorner::BottomLeft),
    (EntryCorner::BottomRight.word(), EntryCorner::BottomRight),
];
const ALONG: [(&str, Along); 2] = [(Along::Rows.word(), Along::Rows), (Along::Columns.word(), Along::Columns)];
const TURNS: [(&str, Turns); 2] =
    [(Turns::Alternating.word(), Turns::Alternating), (Turns::SameWay.word(), Turns::SameWay)];
const SIDES: [(&str, Side); 2] = [(Side::Front.word(), Side::Front), (Side::Back.word(), Side::Back)];

/// A panel, and its pixels where it is not made of strips.
pub(crate) fn read_panel(reader: &mut Reader<'_>, name: Name) -> (Panel, Option<Strip>) {
    let columns = required_whole(reader, "columns", "write the pixels per row: `columns = 16`");
    let rows = required_whole(reader, "rows", "write the number of rows: `rows = 16`");
    let order = read_order(reader);
    let rotated = read_rotation(reader).unwrap_or(Rotation::None);
    let tiles = read_tiles(reader);
    let seen = reader.choice("seen", &SIDES).unwrap_or(Side::Front);
    let layout = PanelLayout { columns, rows, order, rotated, tiles, seen };
    let pitch = reader.figure::<Metres>("pitch", Need::Positive);
    let line_pitch = reader.figure::<Metres>("line-pitch", Need::Positive);
    let strips = reader.texts("strips");
    let (strip, setting);
    if reader.has("strips") {
        if strips.is_empty() {
            let message = format!("{} has no strip", reader.what());
            let help = "list its strips in the order of the data, or remove `strips`";
            reader.problem(Problem::new(reader.own_span("strips").unwrap_or(reader.span), message, help));
        }
        strip = None;
        setting = read_firmware(reader, Sets::Layout { tiles: layout.tile_count() }).1;
    } else {
        let words = [("power-and-data", Passes::PowerAndData), ("data", Passes::Data)];
        let passes = reader.choice("passes", &words).unwrap_or(Passes::PowerAndData);
        let span = reader.own_span("passes").unwrap_or(reader.span);
        let usual = usual_pitch();
        let mut own = read_panel_strip(reader, name.clone(), &layout, pitch.as_ref().unwrap_or(&usual), (passes, span));
        let (pixels, set) = read_firmware(reader, Sets::Both { tiles: layout.tile_count() });
        own.firmware = pixels;
        (strip, setting) = (Some(own), set);
    }
    let itself = || vec![(Named { text: name.text.clone(), span: Some(name.span) }, usize::MAX)];
    let strips = if strip.is_some() { itself() } else { strips.into_iter().map(|named| (named, usize::MAX)).collect() };
    let setting = setting.filter(|s| !s.is_empty());
    (Panel { name, layout, pitch, line_pitch, strips, setting }, strip)
}

fn required_whole(reader: &mut Reader<'_>, key: &'static str, help: &str) -> usize {
    if !reader.has(key) {
        reader.missing(key, help);
    }
    reader.whole(key, 1..=MOST_PIXELS_OF_A_LINE).unwrap_or(1)
}

/// Entry, direction and turns: there is no usual way, so all three have to be said.
fn read_order(reader: &mut Reader<'_>) -> Order {
    for (key, help) in [
        ("entry", "write the corner where the data enters: `entry = \"top-left\"`"),
        ("along", "write the direction of the first line of data: `along = \"rows\"` or `\"columns\"`"),
        ("turns", "write how rows follow each other: `turns = \"alternating\"` or `\"same-way\"`"),
    ] {
        if !reader.has(key) {
            reader.missing(key, help);
        }
    }
    Order {
        entry: reader.choice("entry", &ENTRIES).unwrap_or(EntryCorner::TopLeft),
        along: reader.choice("along", &ALONG).unwrap_or(Along::Rows),
        turns: reader.choice("turns", &TURNS).unwrap_or(Turns::Alternating),
    }
}

/// Degrees, clockwise as seen.
fn read_rotation(reader: &mut Reader<'_>) -> Option<Rotation> {
    let degrees = reader.whole("rotated", 0..=270)?;
    let found = Rotation::of_degrees(degrees);
    if found.is_none() {
        let span = reader.own_span("rotated").unwrap_or(reader.span);
        reader.problem(not_a_quarter(span, reader.what(), &degrees.to_string()));
    }
    found
}

fn not_a_quarter(span: Span, what: &str, said: &str) -> Problem {
    Problem::new(span, format!("`rotated` of {what} is {said}"), "write 0, 90, 180 or 270: degrees clockwise as seen")
}

fn read_tiles(reader: &mut Reader<'_>) -> Option<Tiles> {
    let mut inner = reader.child("tiles")?;
    for (key, help) in [("across", "`across = 2`"), ("down", "`down = 1`")] {
        if !inner.has(key) {
            inner.missing(key, &format!("write the number of tiles: {help}"));
        }
    }
    let across = inner.whole("across", 1..=MOST_TILES).unwrap_or(1);
    let down = inner.whole("down", 1..=MOST_TILES).unwrap_or(1);
    let order = read_order(&mut inner);
    let rotated = read_rotations(&mut inner, across * down);
    inner.finish();
    Some(Tiles { across, down, order, rotated })
}

/// `rotated = [0, 0, 180, 180]`: tile by tile in the order of the data.
fn read_rotations(inner: &mut Reader<'_>, tiles: usize) -> Vec<Rotation> {
    let Some(node) = inner.node("rotated") else { return Vec::new() };
    let Value::List(items) = &node.value else {
        let message = format!("`rotated` of {} is {}, not a list", inner.what(), node.value.kind());
        let help = "write one number per tile: `rotated = [0, 180]`; what applies to all tiles belongs to the panel";
        inner.problem(Problem::new(node.span, message, help));
        return Vec::new();
    };
    if items.len() != tiles {
        let message = format!("`rotated` of {} lists {}; there are {tiles} tiles", inner.what(), items.len());
        inner.problem(Problem::new(node.span, message, "write one number per tile, in the order of the data"));
        return Vec::new();
    }
    let mut rotated = Vec::with_capacity(tiles);
    for item in items {
        let said = if let Value::Number(text) = &item.value { text.as_str() } else { "not a number" };
        match said.parse().ok().and_then(Rotation::of_degrees) {
            Some(found) => rotated.push(found),
            None => inner.problem(not_a_quarter(item.span, inner.what(), said)),
        }
    }
    rotated
}

/// Layout keys of `firmware = { … }`.
pub(crate) fn read_setting(inner: &mut Reader<'_>, tiles: usize) -> Setting {
    let listed = inner.node("rotated").is_some_and(|n| matches!(n.value, Value::List(_)));
    let rotated = if listed && tiles > 1 {
        let each = read_rotations(inner, tiles);
        (!each.is_empty()).then_some(Turned::Each(each))
    } else {
        read_rotation(inner).map(Turned::All)
    };
    Setting {
        span: inner.span,
        columns: inner.whole("columns", 1..=MOST_PIXELS_OF_A_LINE),
        rows: inner.whole("rows", 1..=MOST_PIXELS_OF_A_LINE),
        entry: inner.choice("entry", &ENTRIES),
        along: inner.choice("along", &ALONG),
        turns: inner.choice("turns", &TURNS),
        rotated,
        seen: inner.choice("seen", &SIDES),
    }
}
