//! The pixels of a panel as a strip: its data path stretched out, parted from tile to tile.

use super::inject::{Extent, Injection};
use super::rows::{Rows, joins};
use crate::panel::PanelLayout;
use crate::plan::strip::{Laid, MOST_PIXELS, Strip, read_laid};
use crate::plan::wiring::cable_text::read_cable;
use crate::plan::wiring::feed::read_optional_feed;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Metres, PerMetre};
use crate::source::Span;
use crate::text::problem::Problem;
use crate::text::reader::Reader;

/// What a tile passes on to the next.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Passes {
    PowerAndData,
    /// Every tile has a cable of its own; only data and its − go on.
    Data,
}

/// Reads what a panel that is not made of strips says of its pixels.
pub(crate) fn read_panel_strip(
    reader: &mut Reader<'_>,
    name: Name,
    layout: &PanelLayout,
    pitch: &Figure<Metres>,
    passes: (Passes, Span),
) -> Strip {
    let plain = super::pixel::read_protocol(reader);
    if plain {
        let message = format!("{} names a plain strip, which has no data input", reader.what());
        let span = reader.own_span("part").or(reader.own_span("protocol"));
        reader.problem(Problem::new(span.unwrap_or(reader.span), message, "name a part with pixels"));
    }
    let tiles = layout.tile_count();
    let counted = layout.pixels();
    if counted > MOST_PIXELS {
        let message = format!("{} has {counted} pixels, more than the {MOST_PIXELS} a plan may have", reader.what());
        reader.problem(Problem::new(reader.span, message, "check `columns`, `rows` and `tiles`"));
    }
    let (pixels, tile_pixels) =
        if counted > MOST_PIXELS { (tiles.min(MOST_PIXELS), 1) } else { (counted, layout.tile_pixels()) };
    let pitch_m = pitch.typical.get();
    let tile_m = tile_pixels as f64 * pitch_m;
    let base = read_optional_feed(reader);
    let own_leads = passes.0 == Passes::Data && !reader.has("inject");
    let extent = Extent { length_m: tile_m, tiles: Some((tiles, pitch_m / 2.0)) };
    let mut injections = super::inject::read_injections(reader, extent, base.as_ref());
    if let ([first], true) = (injections.as_slice(), own_leads && pixels == counted) {
        let first = first.clone();
        injections = (0..tiles).map(|k| Injection { at_m: k as f64 * tile_m, ..first.clone() }).collect();
    }
    let cable = read_cable(reader, "join", false);
    let span = reader.own_span("join").or(reader.own_span("tiles")).unwrap_or(reader.span);
    if cable.is_some() && tiles == 1 {
        let message = format!("`join` of {}, which is a single tile", reader.what());
        reader.problem(Problem::new(span, message, "remove it, or write how many `tiles` there are"));
    }
    let parted = tiles > 1 && pixels == counted;
    let rows = parted.then(|| Rows { count: tiles, span, joins: joins(&name, tiles, cable.as_ref(), span) });
    let cuts = match passes {
        (Passes::Data, span) if parted => (1..tiles).map(|k| (k as f64 * tile_m, span)).collect(),
        _ => Vec::new(),
    };
    let origin = pitch.origin.clone();
    let laid = Laid {
        length: Figure::exact(Metres::new(pixels as f64 * pitch_m), origin.clone()),
        density: Figure {
            low: PerMetre::new(1.0 / pitch.high.get()),
            typical: PerMetre::new(1.0 / pitch_m),
            high: PerMetre::new(1.0 / pitch.low.get()),
            origin,
            bare: false,
        },
        group: reader.whole("group", 1..=100).unwrap_or(1),
        pixels,
        injections,
        cuts,
        marks: None,
        rows,
    };
    Strip { is_panel: true, ..read_laid(reader, name, plain, laid, Some(tile_m)) }
}

/// From one pixel to the next where nothing is said.
pub(crate) fn usual_pitch() -> Figure<Metres> {
    Figure::exact(Metres::new(0.010), Origin::Default("10 mm from pixel to pixel (typical of panels)"))
}
