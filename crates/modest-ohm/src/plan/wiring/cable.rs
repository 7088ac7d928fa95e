//! Cables: what a run of two conductors is made of, and what that makes of its resistance and its ampacity.

use super::contact::{Contact, LeadEnd};
use crate::quantity::figure::{Corner, Figure, Origin, Role};
use crate::quantity::figures::{At, Figures, See};
use crate::quantity::units::{Amps, Celsius, Metres, Ohms};
use crate::source::Span;
use crate::tables::wire::{
    Laid, Material, PLAIN_INSULATION_C, WireSize, ampacity_at, conductor_ohms_per_metre, rise_k, temperature_factor,
};
use modest_ohm_derive::Figures;

/// One run of two conductors, feed and return.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Cable {
    pub span: Span,
    pub size: Option<WireSize>,
    pub insulation: Option<Figure<Celsius>>,
    pub material: Material,
    pub solid: bool,
    pub feed: Conductor,
    #[figures(key = "return")]
    pub back: Conductor,
    pub(crate) ampacity: Option<Figure<Amps>>,
    /// Wires side by side for each conductor.
    pub parallel: usize,
    /// Loaded pairs that lie together, its own included.
    pub pairs: usize,
    /// Cores that carry current in one sheath, where the plan counts them.
    pub loaded_cores: Option<usize>,
    /// True for single conductors that do not touch.
    pub apart: bool,
    /// What it passes on its way.
    #[figures(key = "connectors")]
    pub connectors: Vec<Contact>,
    /// What its ends go into: at the source, at the load.
    pub into: [Option<Contact>; 2],
    pub ends: [Option<LeadEnd>; 2],
    /// Its cores, the feed first, then the return.
    pub cores: Vec<Core>,
    /// Whether it came with the device that it feeds.
    pub factory: Option<bool>,
}

/// What a core looks like.
#[derive(Clone, Debug, PartialEq, Eq, Figures)]
pub(crate) struct Core {
    pub colour: String,
    /// A stripe, a print, its place in the middle.
    pub mark: String,
}

impl Core {
    /// `black, stripe`.
    pub fn name(&self) -> String {
        if self.mark.is_empty() { self.colour.clone() } else { format!("{} ({})", self.colour, self.mark) }
    }
}

/// One conductor of a cable.
#[derive(Clone, Debug)]
pub(crate) enum Conductor {
    /// Length and Ω/m at 20 °C; warms with the current.
    Wire { length: Figure<Metres>, ohms_per_m: f64 },
    /// Stated resistance, taken as it is.
    Stated(Figure<Ohms>),
}

impl Figures for Conductor {
    /// A plan states resistance as `feed` and `return`, lengths as `length` and `return-length`.
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        match self {
            Self::Wire { length, ohms_per_m: _ } => {
                let key = if at.key == "return" { "return-length" } else { "length" };
                length.each(at.beside(key), see);
            }
            Self::Stated(ohms) => ohms.each(at, see),
        }
    }
}

/// Numbers of a conductor in one corner, at one ambient.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct ConductorOhms {
    /// At ambient.
    pub ohms: f64,
    /// Relative rise of the resistance at full ampacity; 0 where it does not warm.
    pub rise: f64,
}

impl Cable {
    /// What each conductor carries continuously in air of this temperature, A; `None` where its size is not known.
    pub fn ampacity(&self, ambient_c: f64) -> Option<f64> {
        if let Some(stated) = &self.ampacity {
            return Some(stated.low.get());
        }
        Some(self.ampacity_of(self.size?, ambient_c) * self.parallel as f64)
    }

    /// True where the air is as hot as its insulation stands, so that no current can be judged; never where the plan
    /// states what it carries.
    pub fn is_out_of_air(&self, ambient_c: f64) -> bool {
        self.ampacity.is_none() && self.size.is_some() && ambient_c >= self.insulation_c()
    }

    /// What one wire of a size carries as this cable is laid.
    pub fn ampacity_of(&self, size: WireSize, ambient_c: f64) -> f64 {
        ampacity_at(size, self.laid(), ambient_c)
    }

    fn laid(&self) -> Laid {
        Laid {
            material: self.material,
            insulation_c: self.insulation.as_ref().map(|t| t.low.get()),
            pairs: self.pairs,
            cores: self.loaded_cores,
            apart: self.apart,
        }
    }

    /// The ampacity that the user states, if he does.
    pub fn stated_ampacity(&self) -> Option<&Figure<Amps>> {
        self.ampacity.as_ref()
    }

    /// Copper of one conductor, mm², wires side by side counted together.
    pub fn area_mm2(&self) -> Option<f64> {
        self.size.map(|s| s.area_mm2() * self.parallel as f64)
    }

    /// All contacts that each conductor passes, from the source on.
    pub fn contacts(&self) -> impl Iterator<Item = &Contact> {
        self.into[0].iter().chain(&self.connectors).chain(&self.into[1])
    }

    /// Resistance of the contacts in each conductor, Ω.
    pub fn contact_ohms(&self, corner: Corner) -> f64 {
        self.contacts().map(|c| c.ohms(corner)).sum()
    }

    /// How warm a current makes the conductor, °C: Ta + 40 K·(I/I_free air)², or, where the plan states what it
    /// carries, Ta + (T_ins − Ta)·(I/ampacity)²; `None` where its size is not known.
    pub fn temperature_c(&self, ambient_c: f64, amps: f64) -> Option<f64> {
        if let Some(stated) = &self.ampacity {
            return Some(ambient_c + (self.insulation_c() - ambient_c).max(0.0) * (amps / stated.low.get()).powi(2));
        }
        Some(ambient_c + rise_k(self.size?, self.laid(), amps / self.parallel as f64))
    }

    /// What its insulation stands, °C.
    pub fn insulation_c(&self) -> f64 {
        self.insulation.as_ref().map_or(PLAIN_INSULATION_C, |t| t.low.get())
    }

    /// The length of the feed conductor, if it is known.
    pub fn length(&self) -> Option<&Figure<Metres>> {
        match &self.feed {
            Conductor::Wire { length, .. } => Some(length),
            Conductor::Stated(_) => None,
        }
    }

    /// Its nominal length, m.
    pub fn length_m(&self) -> Option<f64> {
        self.length().map(|l| l.typical.get())
    }

    /// The shortest it may be, m: for what it has to reach.
    pub fn shortest_m(&self) -> Option<f64> {
        self.length().map(|l| l.low.get())
    }

    /// The longest it may be, m: for what only a short cable may do.
    pub fn longest_m(&self) -> Option<f64> {
        self.length().map(|l| l.high.get())
    }

    /// Resistance per conductor in a corner. In *low* the conductor warms up to its insulation's temperature.
    pub fn ohms(&self, conductor: &Conductor, ambient_c: f64, corner: Corner) -> ConductorOhms {
        match conductor {
            Conductor::Stated(figure) => ConductorOhms { ohms: figure.at(corner, Role::Resistance).get(), rise: 0.0 },
            Conductor::Wire { length, ohms_per_m } => {
                let at_ambient = temperature_factor(ambient_c);
                let rise = || {
                    let full_c = self.ampacity(ambient_c).and_then(|a| self.temperature_c(ambient_c, a));
                    let hot = temperature_factor(full_c.unwrap_or(self.insulation_c()).max(ambient_c));
                    hot / at_ambient - 1.0
                };
                ConductorOhms {
                    ohms: length.at(corner, Role::Resistance).get() * ohms_per_m * at_ambient,
                    rise: if corner == Corner::Low { rise() } else { 0.0 },
                }
            }
        }
    }
}

/// How the wires of a cable are made.
#[derive(Clone, Copy, Default)]
pub(crate) struct Made {
    pub size: Option<WireSize>,
    pub solid: bool,
    pub material: Material,
}

pub(crate) fn from_length(span: Span, length: Figure<Metres>, back: Option<Figure<Metres>>, made: Made) -> Cable {
    let ohms_per_m = made.size.map_or(0.0, |s| conductor_ohms_per_metre(s, made.solid, made.material));
    let wire = |length| Conductor::Wire { length, ohms_per_m };
    let back = back.unwrap_or_else(|| length.clone());
    Cable {
        span,
        size: made.size,
        insulation: None,
        material: made.material,
        solid: made.solid,
        feed: wire(length),
        back: wire(back),
        ampacity: None,
        parallel: 1,
        pairs: 1,
        loaded_cores: None,
        apart: false,
        connectors: Vec::new(),
        into: [None, None],
        ends: [None, None],
        cores: Vec::new(),
        factory: None,
    }
}

/// A pair of contacts in place of a cable: each conductor has these resistance.
pub(crate) fn stated(span: Span, each: &Figure<Ohms>) -> Cable {
    let none = Figure::exact(Metres::new(0.0), Origin::Computed);
    let conductor = || Conductor::Stated(each.clone());
    Cable { feed: conductor(), back: conductor(), ..from_length(span, none, None, Made::default()) }
}

/// A plain cable of a size, for variants of a plan.
pub(crate) fn cable_of_size(span: Span, length_m: f64, size: WireSize) -> Cable {
    cable_of(span, Figure::exact(Metres::new(length_m), Origin::Computed), size)
}

/// A plain cable of a size and a length that may have a range.
pub(crate) fn cable_of(span: Span, length: Figure<Metres>, size: WireSize) -> Cable {
    from_length(span, length, None, Made { size: Some(size), ..Made::default() })
}
