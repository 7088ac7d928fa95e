//! Where a strip is fed, and where its + copper is cut.

use crate::plan::wiring::cable_text::read_cable;
use crate::plan::wiring::feed::{Feed, Return, read_optional_feed};
use crate::plan::wiring::fuse::read_fuse;
use crate::quantity::figure::Figure;
use crate::quantity::parse::parse_quantity;
use crate::quantity::units::{Metres, Quantity};
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::Reader;
use crate::text::tree::{Table, Value};
use crate::verdict::compare::{at_least, at_most};
use modest_ohm_derive::Figures;

/// One feed point.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Injection {
    pub span: Span,
    pub at_m: f64,
    #[figures(flat)]
    pub feed: Feed,
}

/// Where feed points may be: along a strip, or on the tiles of a panel.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Extent {
    /// Length of the strip, or of one tile along the data.
    pub length_m: f64,
    /// Tiles of a panel, and how far before its end the last pixel of a tile is.
    pub tiles: Option<(usize, f64)>,
}

impl Extent {
    /// Of a length that could not be read no position is beyond the end.
    pub fn of_strip(length: &Figure<Metres>) -> Self {
        let length_m = if length.is_stand_in() { Metres::BOUNDS.1 } else { length.typical.get() };
        Self { length_m, tiles: None }
    }
}

pub(crate) fn read_injections(reader: &mut Reader<'_>, extent: Extent, base: Option<&Feed>) -> Vec<Injection> {
    let Some(node) = reader.node("inject") else {
        let Some(base) = base else {
            reader.missing("from", "write which node feeds it: `from = \"wall\"`");
            return Vec::new();
        };
        return vec![Injection { span: reader.span, at_m: 0.0, feed: base.clone() }];
    };
    // With injections of their own, a cable or fuse on the strip itself would hang in the air.
    for key in ["cable", "return", "fuse"] {
        if let (true, Some(span)) = (reader.has(key), reader.own_span(key)) {
            reader.problem(Problem::new(
                span,
                format!("`{key}` of {} is given beside `inject`", reader.what()),
                format!("write it inside the injection: `inject = [ {{ at = \"start\", {key} = … }} ]`"),
            ));
        }
    }
    let items = match &node.value {
        Value::List(items) => items.as_slice(),
        Value::Table(_) => std::slice::from_ref(node),
        other => {
            reader.problem(Problem::new(
                node.span,
                format!("`inject` of {} is {}, not a list of feed points", reader.what(), other.kind()),
                "write `inject = [ { at = \"start\", cable = \"0.4 m 18 AWG\" } ]`",
            ));
            return Vec::new();
        }
    };
    if items.is_empty() {
        reader.problem(Problem::new(
            node.span,
            format!("`inject` of {} is empty", reader.what()),
            "remove it, or list a feed point",
        ));
    }
    let mut injections = Vec::new();
    for (i, item) in items.iter().enumerate() {
        let Value::Table(table) = &item.value else {
            reader.problem(Problem::new(
                item.span,
                format!("feed point {i} of {} is {}, not a table", reader.what(), item.value.kind()),
                "write `{ at = \"start\", cable = \"0.4 m 18 AWG\" }`",
            ));
            continue;
        };
        injections.extend(read_injection(reader, (i, table, item.span), extent, base));
    }
    injections
}

/// A feed point: its place in the list, its table, and where that stands.
fn read_injection<'a>(
    reader: &mut Reader<'a>,
    (i, table, span): (usize, &'a Table, Span),
    extent: Extent,
    base: Option<&Feed>,
) -> Option<Injection> {
    let mut inner = reader.nested(table, format!("`inject[{i}]` of {}", reader.what()), span, None);
    let own = read_optional_feed(&mut inner);
    let cable = if own.is_some() { None } else { read_cable(&mut inner, "cable", false) };
    let fuse = if own.is_some() { None } else { read_fuse(&mut inner) };
    let at_m = match extent.tiles {
        None => read_position(&mut inner, extent.length_m),
        Some(tiles) => read_place_on_tile(&mut inner, extent.length_m, tiles),
    };
    let back: Option<Return> = own.as_ref().and_then(|f| f.back.clone());
    inner.finish();
    let feed = match (own, base) {
        (Some(own), _) => own,
        (None, Some(base)) => Feed { from: base.from.clone(), cable, back, fuse },
        (None, None) => {
            reader.problem(Problem::new(
                span,
                format!("`inject[{i}]` of {}: `from` is missing, and the strip has none", reader.what()),
                "write `from = \"wall\"` on the strip, or in each feed point",
            ));
            return None;
        }
    };
    Some(Injection { span, at_m: at_m?, feed })
}

fn read_position(inner: &mut Reader<'_>, length_m: f64) -> Option<f64> {
    let Some(at) = inner.text("at") else {
        if !inner.has("at") {
            inner.missing("at", "write `at = \"start\"`, `\"end\"` or a position such as `\"0.5 m\"`");
        }
        return None;
    };
    position(inner, &at, length_m, ("at", "feeds"))
}

/// `tile = 2, at = "end"`: tiles count from 1 in the order of the data. What feeds the end of a tile feeds its last
/// pixel, not the first of the next.
fn read_place_on_tile(inner: &mut Reader<'_>, tile_m: f64, (tiles, last_m): (usize, f64)) -> Option<f64> {
    let tile = if inner.has("tile") { inner.whole("tile", 1..=tiles)? } else { 1 };
    let at = match inner.text("at") {
        Some(at) => position(inner, &at, tile_m, ("at", "feeds"))?,
        None if inner.has("at") => return None,
        None => 0.0,
    };
    Some((tile - 1) as f64 * tile_m + at.min(tile_m - last_m))
}

/// A place on the strip: a word or metres from its start.
fn position(reader: &Reader<'_>, at: &Named, length_m: f64, (key, does): (&str, &str)) -> Option<f64> {
    let span = at.span.unwrap_or(reader.span);
    match at.text.as_str() {
        "start" => return Some(0.0),
        "middle" => return Some(length_m / 2.0),
        "end" => return Some(length_m),
        _ => {}
    }
    match parse_quantity::<Metres>(&at.text) {
        Ok(x) if at_most(x.get(), length_m) => Some(x.get().min(length_m)),
        Ok(x) => {
            reader.problem(Problem::new(
                span,
                format!("{} {does} at {x}, beyond the strip's {}", reader.what(), Metres::new(length_m)),
                "positions count from the start of the strip",
            ));
            None
        }
        Err(p) => {
            reader.problem(Problem::new(
                span,
                format!("`{key}` of {}: {}", reader.what(), p.message),
                "write `start`, `middle`, `end`, or a position such as `0.5 m`",
            ));
            None
        }
    }
}

/// `cut`: where the + copper is cut, one place or several. A feed point at a cut would feed nobody knows which side.
pub(crate) fn read_cuts(
    reader: &mut Reader<'_>,
    length: &Figure<Metres>,
    injections: &[Injection],
) -> Vec<(f64, Span)> {
    let length_m = if length.is_stand_in() { Metres::BOUNDS.1 } else { length.typical.get() };
    let mut cuts: Vec<(f64, Span)> = Vec::new();
    for at in reader.texts("cut") {
        let span = at.span.unwrap_or(reader.span);
        let Some(x) = position(reader, &at, length_m, ("cut", "is cut")) else { continue };
        let what = reader.what();
        let near = |y: f64| (y - x).abs() < 1e-9;
        let (message, help) = if x <= 0.0 || at_least(x, length_m) {
            (format!("{what} is cut at {}, where it ends", Metres::new(x)), "cut it between two feed points")
        } else if injections.iter().any(|q| near(q.at_m)) {
            (
                format!("{what} is cut at {}, where it is fed", Metres::new(x)),
                "feed it a pixel before or after the cut, so that it is clear which side that feeds",
            )
        } else if cuts.iter().any(|(y, _)| near(*y)) {
            (format!("{what} is cut twice at {}", Metres::new(x)), "write each cut once")
        } else {
            cuts.push((x, span));
            continue;
        };
        reader.problem(Problem::new(span, message, help));
    }
    cuts.sort_by(|a, b| a.0.total_cmp(&b.0));
    cuts
}
