//! How many pixels: LEDs and pixels per metre, kept apart; cut marks.

use super::MOST_PIXELS;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Metres, PerMetre};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// A whole number of LEDs in a pixel is met to this share: labels round.
const WHOLE: f64 = 0.01;

/// Where a strip may be cut.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Marks {
    /// One mark from the next.
    #[figures(key = "cut-spacing")]
    pub every: Figure<Metres>,
}

/// Pixels (or groups) per metre, and LEDs in one of them. Labels give LEDs, pixels or both, per metre or on the whole
/// reel.
pub(crate) fn read_density(
    reader: &mut Reader<'_>,
    group: Option<usize>,
    plain: bool,
    metres: Option<f64>,
) -> (Figure<PerMetre>, usize) {
    let leds = reader.density("leds", metres);
    if plain && reader.own_span("pixels").is_some() {
        let span = reader.own_span("pixels").unwrap_or(reader.span);
        let message = format!("`pixels` of {}: a plain strip has none", reader.what());
        reader.problem(Problem::new(span, message, "write the LEDs per metre: `leds = \"60 /m\"`"));
    }
    let pixels = if plain {
        let _ = reader.node("pixels");
        None
    } else {
        reader.density("pixels", metres)
    };
    match (pixels, leds) {
        (Some(pixels), Some(leds)) => {
            let found = leds.typical.get() / pixels.typical.get();
            let whole = found.round().max(1.0);
            let fits = (found - whole).abs() <= WHOLE * whole && group.is_none_or(|g| g as f64 == whole);
            if !fits {
                let why = match group {
                    Some(1) => "its pixels have one LED each".to_owned(),
                    Some(g) => {
                        let should = PerMetre::new(leds.typical.get() / g as f64);
                        format!("its pixels have {g} LEDs each: {} LEDs are {should} pixels", leds.typical)
                    }
                    None => format!("that makes {found:.2} LEDs per pixel"),
                };
                reader.problem(Problem::new(
                    reader.own_span("pixels").or(reader.own_span("leds")).unwrap_or(reader.span),
                    format!("{} has `leds` {} and `pixels` {}; {why}", reader.what(), leds.typical, pixels.typical),
                    "write what its label counts; the other follows",
                ));
            }
            (pixels, group.unwrap_or(whole as usize))
        }
        (Some(pixels), None) => (pixels, group.unwrap_or(1)),
        (None, Some(leds)) => {
            let each = group.unwrap_or(1) as f64;
            let of = |x: PerMetre| PerMetre::new(x.get() / each);
            let density = Figure {
                low: of(leds.low),
                typical: of(leds.typical),
                high: of(leds.high),
                origin: leds.origin,
                bare: leds.bare,
            };
            (density, group.unwrap_or(1))
        }
        (None, None) => {
            // That a plain strip has no `pixels` has been reported, with what to write.
            let unread = reader.has("leds") || reader.has("pixels");
            if !unread {
                let key = if plain { "leds" } else { "pixels" };
                reader.missing(key, &format!("write how many per metre: `{key} = \"60 /m\"`"));
            }
            (Figure::stand_in(), group.unwrap_or(1))
        }
    }
}

pub(crate) fn count_pixels(
    reader: &Reader<'_>,
    length: &Figure<Metres>,
    density: &Figure<PerMetre>,
    plain: bool,
) -> usize {
    if length.is_stand_in() || density.is_stand_in() {
        return 1;
    }
    let counted = (length.typical.get() * density.typical.get() + 1e-6).floor();
    if (1.0..=MOST_PIXELS as f64).contains(&counted) {
        return counted as usize;
    }
    let (one, many) = if plain { ("group", "groups") } else { ("pixel", "pixels") };
    let message = if counted < 1.0 {
        format!("{} has no {one}: {} at {}", reader.what(), length.typical, density.typical)
    } else {
        format!("{} has {counted} {many}, more than the {MOST_PIXELS} a plan may have", reader.what())
    };
    let span = reader.own_span("length").unwrap_or(reader.span);
    let help = if plain { "check `length` and `leds`" } else { "check `length` and `pixels`" };
    reader.problem(Problem::new(span, message, help));
    1
}

/// The spacing of the cut marks: stated, else one a pixel or group.
pub(crate) fn read_marks(reader: &mut Reader<'_>, density: &Figure<PerMetre>) -> Option<Marks> {
    if reader.has("cut-spacing") {
        return reader.figure::<Metres>("cut-spacing", Need::Positive).map(|every| Marks { every });
    }
    if density.is_stand_in() {
        return None;
    }
    let every = Metres::new(1.0 / density.typical.get());
    let origin = Origin::Default("a cut mark between any two pixels, or groups of a plain strip");
    Some(Marks { every: Figure::exact(every, origin) })
}
