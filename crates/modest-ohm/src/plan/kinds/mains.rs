//! `[mains.x]`: a circuit on the mains that the plan's contacts switch, as far as its low-voltage side meets it.

use super::load::Nature;
use crate::plan::wiring::fuse::{Fuse, read_fuse};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Metres, Volts, Watts};
use crate::tables::wire::WireSize;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Mains {
    pub name: Name,
    /// Against neutral; the region's where nothing is said.
    pub volts: Option<Figure<Volts>>,
    /// What is connected to it.
    pub current: Option<Figure<Amps>>,
    pub power: Option<Figure<Watts>>,
    pub nature: Option<Nature>,
    /// The contacts in it, one after another.
    pub through: Vec<Named>,
    #[figures(flat)]
    pub fuse: Option<Fuse>,
    pub size: Option<WireSize>,
    /// Of its cord.
    pub length: Option<Figure<Metres>>,
    /// Circuits that are fed through its contacts.
    pub feeds: Vec<Named>,
    /// True for what has reinforced insulation everywhere and needs no earth.
    pub class_two: bool,
    /// True where its contacts break the line conductor, not neutral.
    pub breaks_line: Option<bool>,
    /// True where something of metal on it can be touched.
    pub metal: Option<bool>,
    pub earthed: Option<bool>,
    /// To touchable low voltage, through air and along a surface.
    pub clearance: Option<Figure<Metres>>,
    pub creepage: Option<Figure<Metres>>,
    pub covered: Option<bool>,
    /// Line, neutral, earth.
    pub colours: Vec<Named>,
}

/// Alternating voltage up to here may be touched in dry rooms (IEC 61140).
const EXTRA_LOW_V: f64 = 50.0;

impl Mains {
    /// True for a circuit of a transformer's low voltage, as of irrigation valves: only its contacts are judged.
    pub fn is_extra_low(&self) -> bool {
        self.volts.as_ref().is_some_and(|v| v.high.get() <= EXTRA_LOW_V)
    }

    /// Its voltage, or those of the region, V.
    pub fn volts_at(&self, region: Option<Region>) -> Option<f64> {
        self.volts.as_ref().map(|v| v.high.get()).or_else(|| region.map(Region::volts))
    }

    /// What flows in it, with what is fed through it, A; `None` where that is not given.
    pub fn amps_with(&self, all: &[Mains], volts: &dyn Fn(&Mains) -> Option<f64>) -> Option<f64> {
        let mut seen: Vec<&str> = Vec::new();
        self.sum(all, volts, &mut seen)
    }

    fn sum<'m>(
        &'m self,
        all: &'m [Mains],
        volts: &dyn Fn(&Mains) -> Option<f64>,
        seen: &mut Vec<&'m str>,
    ) -> Option<f64> {
        if seen.contains(&self.name.text.as_str()) {
            return Some(0.0);
        }
        seen.push(&self.name.text);
        let current = self.current.as_ref().map(|c| c.high.get());
        let of_power = || Some(self.power.as_ref()?.high.get() / volts(self)?.max(1.0));
        let own = current.or_else(of_power);
        if self.feeds.is_empty() {
            return own;
        }
        // What one of them takes is not known: neither is the sum.
        let behind = self.feeds.iter().filter_map(|f| all.iter().find(|m| m.name.text == f.text));
        behind.map(|m| m.sum(all, volts, seen)).try_fold(own.unwrap_or(0.0), |sum, amps| Some(sum + amps?))
    }
}

/// The colours of conductors and the mains' voltage, by region.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Region {
    /// IEC 60445, 230 V.
    Iec,
    /// North America, 120 V.
    NorthAmerica,
}

impl Region {
    pub const WORDS: [(&'static str, Region); 2] = [("iec", Region::Iec), ("north-america", Region::NorthAmerica)];

    pub fn volts(self) -> f64 {
        if self == Region::Iec { 230.0 } else { 120.0 }
    }

    /// Line, neutral, earth.
    pub fn colours(self) -> [&'static str; 3] {
        match self {
            Region::Iec => ["brown", "blue", "green-yellow"],
            Region::NorthAmerica => ["black", "white", "green"],
        }
    }

    /// Whether a line (0), neutral (1) or earth (2) may have this colour: the region's own, and what stands for line in
    /// three phases and for earth in cords as well. `Green/Yellow` is `green-yellow`.
    pub fn takes(self, which: usize, colour: &str) -> bool {
        let own = self.colours().get(which).copied().map(parts_of);
        let besides: &[&str] = match (self, which) {
            (Region::Iec, 0) => &["black", "grey", "gray"],
            (Region::NorthAmerica, 0) => &["red"],
            (Region::NorthAmerica, 1) => &["grey", "gray"],
            (Region::NorthAmerica, 2) => &["green-yellow", "bare"],
            _ => &[],
        };
        let named = parts_of(colour);
        own.is_some_and(|own| own == named) || besides.iter().any(|b| parts_of(b) == named)
    }

    pub fn word(self) -> &'static str {
        if self == Region::Iec { "IEC 60445" } else { "North America" }
    }
}

/// The colours of a conductor in one or two, in no order.
fn parts_of(colour: &str) -> Vec<String> {
    let words = colour.split(|c: char| !c.is_alphabetic()).filter(|w| !w.is_empty() && *w != "and");
    let mut parts: Vec<String> = words.map(str::to_lowercase).collect();
    parts.sort();
    parts
}

pub(crate) fn read_mains(reader: &mut Reader<'_>, name: Name) -> Mains {
    let current = reader.figure::<Amps>("current", Need::Positive);
    let power = reader.figure::<Watts>("power", Need::Positive);
    if let (Some(_), Some(_), Some(span)) = (&current, &power, reader.own_span("power")) {
        let message = format!("{} has both `current` and `power`", reader.what());
        reader.problem(Problem::new(span, message, "write one of them"));
    }
    let yes_no = [("yes", true), ("no", false)];
    let size = reader.text("size").and_then(|named| match named.text.parse::<WireSize>() {
        Ok(size) => Some(size),
        Err(_) => {
            let message = format!("`{}` of {} is not a wire size", named.text, reader.what());
            reader.problem(Problem::new(named.span, message, "write `size = \"0.75 mm²\"` or `\"18 AWG\"`"));
            None
        }
    });
    Mains {
        name,
        volts: reader.figure::<Volts>("voltage", Need::Positive),
        current,
        power,
        nature: reader.choice("kind", &Nature::WORDS),
        through: reader.texts("through"),
        fuse: read_fuse(reader),
        size,
        length: reader.figure::<Metres>("length", Need::Positive),
        feeds: reader.texts("feeds"),
        class_two: reader.choice("class", &[("I", false), ("II", true)]).unwrap_or(false),
        breaks_line: reader.choice("breaks", &[("line", true), ("neutral", false)]),
        metal: reader.choice("metal", &yes_no),
        earthed: reader.choice("earth", &yes_no),
        clearance: reader.figure::<Metres>("clearance", Need::NotNegative),
        creepage: reader.figure::<Metres>("creepage", Need::NotNegative),
        covered: reader.choice("cover", &yes_no),
        colours: reader.texts("colours"),
    }
}
