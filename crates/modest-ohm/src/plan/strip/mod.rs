//! `[strip.x]`: LEDs on copper tracks, fed at any number of points: addressable pixels, and plain strips without any
//! electronics on them.

pub(crate) mod data;
pub(crate) mod firmware;
pub(crate) mod geometry;
pub(crate) mod inject;
pub(crate) mod label;
pub(crate) mod panel;
pub(crate) mod panel_pixels;
pub(crate) mod pixel;
pub(crate) mod rows;

use crate::plan::wiring::driven::{Contacts, Driven};
use crate::plan::wiring::feed::{NodeRef, read_optional_feed};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Corner, Figure, Origin, Role};
use crate::quantity::units::{Amps, Celsius, Metres, OhmsPerMetre, PerMetre, Volts};
use crate::source::Span;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use data::Data;
use firmware::{Firmware, Sets};
use geometry::Marks;
use inject::Injection;
use modest_ohm_derive::Figures;
use pixel::Pixel;
use rows::{Rows, Switched};

/// Plans beyond this many pixels are refused.
pub(crate) const MOST_PIXELS: usize = 2_000_000;

/// A group of a strip with a return a colour costs about as much to solve as so many pixels (measured).
const FAN_WORK: usize = 150;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Strip {
    pub name: Name,
    pub length: Figure<Metres>,
    /// Pixels per metre; groups per metre of a plain strip.
    #[figures(key = "pixels")]
    pub density: Figure<PerMetre>,
    /// LEDs that hang in series in one pixel or group.
    pub group: usize,
    pub pixels: usize,
    /// The voltage that its power or current per metre are meant at.
    #[figures(range)]
    pub voltage: Option<Figure<Volts>>,
    #[figures(key = "copper")]
    pub copper_feed: Figure<OhmsPerMetre>,
    /// Of the return; of each of them where every colour has its own.
    #[figures(key = "copper")]
    pub copper_return: Figure<OhmsPerMetre>,
    #[figures(flat)]
    pub pixel: Pixel,
    #[figures(key = "inject")]
    pub injections: Vec<Injection>,
    /// Where its + copper is cut, in order.
    pub cuts: Vec<(f64, Span)>,
    #[figures(flat)]
    pub marks: Option<Marks>,
    #[figures(flat)]
    pub rows: Option<Rows>,
    /// Heat of its copper leaves badly: in a sleeve or under resin.
    pub sealed: bool,
    pub switched: Vec<Switched>,
    /// What switches all of it.
    pub driven: Option<Driven>,
    pub data: Option<Data>,
    #[figures(key = "firmware-limit")]
    pub firmware_limit: Option<Figure<Amps>>,
    /// The class that it names.
    pub class: Option<String>,
    /// What is set in the firmware, as far as the maker says.
    pub firmware: Option<Firmware>,
    /// The order in which a pixel takes its colours, by their initials.
    pub order: Option<String>,
    /// True where it is the pixels of a panel of its name.
    pub is_panel: bool,
}

impl Strip {
    /// Nominal current at full white, A: what firmware counts.
    pub fn nominal_full_a(&self) -> f64 {
        self.pixels as f64 * (self.pixel.quiescent.typical.get() + self.colours_typical_a())
    }

    /// Nominal current when dark, A.
    pub fn nominal_dark_a(&self) -> f64 {
        self.pixels as f64 * self.pixel.quiescent.typical.get()
    }

    fn colours_typical_a(&self) -> f64 {
        self.pixel.together(self.pixel.colours.iter().map(|c| c.current.typical.get()))
    }

    /// Position of a pixel from the start.
    pub fn position_m(&self, pixel: usize) -> f64 {
        (pixel as f64 + 0.5) / self.density.typical.get()
    }

    /// How much longer its copper is in a corner than its nominal length and density make it: the pixels are counted at
    /// the nominal values, and what lies between two of them has the spread of both.
    pub fn stretch(&self, corner: Corner) -> f64 {
        let length = self.length.at(corner, Role::Resistance) / self.length.typical;
        let density = match corner {
            Corner::Typical => self.density.typical,
            Corner::Low => self.density.low,
            Corner::High | Corner::Hot => self.density.high,
        };
        length * (self.density.typical / density)
    }

    /// What it costs to solve, in addressable pixels: a group with a return a colour is no part of a ladder.
    pub fn work(&self) -> usize {
        self.pixels.saturating_mul(if self.is_fan() { FAN_WORK } else { 1 })
    }

    /// True for a strip whose colours have a return each, switched there: one feed, n returns.
    pub fn is_fan(&self) -> bool {
        // The stated resistance of a switch lies in the return of what it switches, also where that is all of it.
        self.pixel.plain && (self.pixel.colours.len() > 1 || self.switched.iter().any(|s| s.stated))
    }

    /// "strip" or "panel".
    pub fn word(&self) -> &'static str {
        if self.is_panel { "panel" } else { "strip" }
    }

    /// A place along it in words: metres from the start of a strip, a place on a tile of a panel.
    pub fn place_in_words(&self, x_m: f64) -> String {
        let tiles = self.rows.as_ref().map_or(1, |r| r.count);
        if !self.is_panel {
            return Metres::new(x_m).to_string();
        }
        let tile_m = self.length.typical.get() / tiles as f64;
        // A place at a seam is the beginning of the next tile.
        let tile = ((x_m / tile_m + 1e-9) as usize).min(tiles - 1);
        let into = x_m - tile as f64 * tile_m;
        let whose = if tiles == 1 { "it".to_owned() } else { format!("tile {}", tile + 1) };
        // Its end is its last pixel.
        let end_m = tile_m - 0.5 / self.density.typical.get();
        match into {
            m if m < 1e-6 => format!("the start of {whose}"),
            m if m > end_m - 1e-6 => format!("the end of {whose}"),
            _ => format!("{} of the data into {whose}", Metres::new(into)),
        }
    }

    /// "pixel" or, of a plain strip, "group".
    pub fn unit(&self) -> &'static str {
        if self.pixel.plain { "group" } else { "pixel" }
    }
}

/// How a strip's pixels lie on it, how it is fed and where it is parted.
pub(crate) struct Laid {
    pub length: Figure<Metres>,
    pub density: Figure<PerMetre>,
    pub group: usize,
    pub pixels: usize,
    pub injections: Vec<Injection>,
    pub cuts: Vec<(f64, Span)>,
    pub marks: Option<Marks>,
    pub rows: Option<Rows>,
}

pub(crate) fn read_strip(reader: &mut Reader<'_>, name: Name) -> Strip {
    let plain = pixel::read_protocol(reader);
    let length = reader.required::<Metres>("length", Need::Positive);
    let group = reader.whole("group", 1..=100);
    let (density, group) = geometry::read_density(reader, group, plain, metres(&length));
    let base = read_optional_feed(reader);
    let injections = inject::read_injections(reader, inject::Extent::of_strip(&length), base.as_ref());
    let cuts = inject::read_cuts(reader, &length, &injections);
    let pixels = geometry::count_pixels(reader, &length, &density, plain);
    let marks = geometry::read_marks(reader, &density);
    let rows = rows::read_rows(reader, &name, pixels);
    let laid = Laid { length, density, group, pixels, injections, cuts, marks, rows };
    let mut strip = read_laid(reader, name, plain, laid, None);
    strip.firmware = firmware::read_firmware(reader, Sets::Strip).0;
    strip
}

/// The length that a total on the label is shared out over.
fn metres(length: &Figure<Metres>) -> Option<f64> {
    (!length.is_stand_in()).then(|| length.typical.get())
}

/// Everything about a strip but where its pixels lie and what is set in the firmware. The label of a panel counts power
/// or current of a tile, which has so many metres of data; that of a strip counts them a metre.
fn read_laid(reader: &mut Reader<'_>, name: Name, plain: bool, laid: Laid, tile_m: Option<f64>) -> Strip {
    let (copper_feed, copper_return) = read_copper(reader);
    let voltage = reader.figure::<Volts>("voltage", Need::Positive);
    let per_metre = match tile_m {
        None => label::read_per_metre(reader, voltage.as_ref(), metres(&laid.length)),
        Some(tile_m) => label::read_per_tile(reader, voltage.as_ref(), tile_m),
    };
    let pixel =
        pixel::read_pixel(reader, &laid.density, voltage.as_ref(), per_metre.as_ref(), plain.then_some(laid.group));
    let firmware_limit = reader.figure::<Amps>("firmware-limit", Need::Positive);
    let data = data::read_data(reader);
    let switched = rows::read_switched(reader, &pixel);
    let contacts = reader.choice("contact", &[("no", Contacts::Open), ("nc", Contacts::Closed)]);
    let driven = reader.text("driver").map(|by| Driven { by, contacts: contacts.unwrap_or(Contacts::Open), at: None });
    let sealed = reader.flag("sealed", false);
    let class = reader.text("part").map(|n| n.text);
    let order = pixel::read_order(reader, &pixel);
    let strip = Strip {
        name,
        length: laid.length,
        density: laid.density,
        group: laid.group,
        pixels: laid.pixels,
        voltage,
        copper_feed,
        copper_return,
        pixel,
        injections: laid.injections,
        cuts: laid.cuts,
        marks: laid.marks,
        rows: laid.rows,
        sealed,
        switched,
        driven,
        data,
        firmware_limit,
        class,
        firmware: None,
        order,
        is_panel: false,
    };
    check_firmware_limit(reader, &strip);
    check_plain(reader, &strip);
    strip
}

/// No firmware can get below what the pixels draw when they are dark.
fn check_firmware_limit(reader: &Reader<'_>, strip: &Strip) {
    let dark = Amps::new(strip.nominal_dark_a());
    if let Some(firmware_limit) =
        strip.firmware_limit.as_ref().filter(|c| c.high < dark && !strip.pixel.quiescent.is_stand_in())
    {
        reader.problem(Problem::new(
            reader.own_span("firmware-limit").unwrap_or(reader.span),
            format!("`firmware-limit` of {} is {}; its dark current is {dark}", reader.what(), firmware_limit.high),
            "write what the firmware is set to; it must be above that",
        ));
    }
}

/// What only pixels have: a plain strip takes no data, and PWM does not lower what it draws while it is on.
fn check_plain(reader: &Reader<'_>, strip: &Strip) {
    if !strip.pixel.plain {
        return;
    }
    let none = |key: &str, why: &str, help: &str| {
        if let Some(span) = reader.own_span(key) {
            reader.problem(Problem::new(span, format!("`{key}` of {}: {why}", reader.what()), help));
        }
    };
    none("data", "a plain strip has no data input", "name what switches it: `switched = { white = \"stage-one\" }`");
    none(
        "firmware-limit",
        "under PWM a plain strip draws its full current while it is on, whatever the firmware limit",
        "remove it, and plan the supply for full current",
    );
}

fn read_copper(reader: &mut Reader<'_>) -> (Figure<OhmsPerMetre>, Figure<OhmsPerMetre>) {
    let is_table = matches!(reader.node("copper").map(|n| &n.value), Some(Value::Table(_)));
    if is_table && let Some(mut inner) = reader.child("copper") {
        let pair = (inner.required("feed", Need::Positive), inner.required("return", Need::Positive));
        inner.finish();
        return pair;
    }
    let both = if reader.has("copper") {
        reader.required("copper", Need::Positive)
    } else {
        Figure {
            low: OhmsPerMetre::new(0.05),
            typical: OhmsPerMetre::new(0.10),
            high: OhmsPerMetre::new(0.16),
            origin: Origin::Default("strip copper 0.05 .. 0.16 Ω/m per conductor (typical of 10 mm strips)"),
            bare: false,
        }
    };
    (both.clone(), both)
}

/// Every node a strip refers to.
pub(crate) fn node_refs(strip: &mut Strip) -> impl Iterator<Item = &mut NodeRef> {
    let joins = strip.rows.iter_mut().flat_map(|r| r.joins.iter_mut());
    strip.injections.iter_mut().map(|i| &mut i.feed).chain(joins).flat_map(|feed| {
        let back = feed.back.as_mut().map(|b| &mut b.to);
        std::iter::once(&mut feed.from).chain(back)
    })
}

/// The ambient at which everything is judged.
pub(crate) fn default_ambient() -> Figure<Celsius> {
    Figure::exact(Celsius::new(25.0), Origin::Default("25 °C if none is given"))
}
