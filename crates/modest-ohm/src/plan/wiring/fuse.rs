//! Fuses as a plan writes them: `"5 A"` is a blade fuse; the table form says the rest.

use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction, Ohms, Volts};
use crate::source::Span;
use crate::tables::fuse::{FuseBody, FuseFamily, FuseSpeed, cold_ohms};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// A fuse at the beginning of a run.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Fuse {
    pub span: Span,
    #[figures(flat)]
    pub rating: Figure<Amps>,
    pub family: FuseFamily,
    pub body: FuseBody,
    pub speed: FuseSpeed,
    /// Multiple of the rating from which it opens, where its datasheet says.
    blows_from: Option<Figure<Fraction>>,
    /// Direct voltage that it may interrupt, where its datasheet says.
    pub voltage: Option<Figure<Volts>>,
    /// Current that it can interrupt, where its datasheet says.
    pub breaking: Option<Figure<Amps>>,
    pub resistance: Figure<Ohms>,
}

impl Fuse {
    /// The least rating it may have, A.
    pub fn rating_a(&self) -> f64 {
        self.rating.low.get()
    }

    /// What it carries continuously in air of this temperature, A.
    pub fn continuous_a(&self, ambient_c: f64) -> f64 {
        self.rating_a() * self.family.load_factor() * self.family.warm_share(ambient_c)
    }

    /// What it does not carry continuously at all, A: its rating; of a resettable one what it holds in this air.
    pub fn holds_a(&self, ambient_c: f64) -> f64 {
        self.rating_a() * self.family.warm_share(ambient_c)
    }

    /// Multiple of the rating from which it opens in the end.
    pub fn blows_from(&self) -> f64 {
        self.blows_from.as_ref().map_or(self.family.blows_from(), |f| f.high.get())
    }

    /// From here on it opens in the end, A.
    pub fn opens_a(&self) -> f64 {
        self.rating.high.get() * self.blows_from()
    }

    /// `5 A blade fuse`.
    pub fn name(&self) -> String {
        let family = match self.family {
            FuseFamily::Blade => "blade fuse",
            FuseFamily::Cartridge | FuseFamily::CartridgeUl => "cartridge fuse",
            FuseFamily::Bolt => "bolt-down fuse",
            FuseFamily::Resettable => "resettable fuse",
        };
        format!("{} {family}", self.rating.typical)
    }
}

const FAMILIES: [(&str, FuseFamily); 5] = [
    ("blade", FuseFamily::Blade),
    ("cartridge", FuseFamily::Cartridge),
    ("cartridge-ul", FuseFamily::CartridgeUl),
    ("bolt", FuseFamily::Bolt),
    ("resettable", FuseFamily::Resettable),
];

/// Reads `fuse = "5 A"` (a blade fuse) or its table form.
pub(crate) fn read_fuse(reader: &mut Reader<'_>) -> Option<Fuse> {
    let node = reader.node("fuse")?;
    let Value::Table(table) = &node.value else {
        let rating = reader.figure::<Amps>("fuse", Need::Positive)?;
        return Some(plain(node.span, rating, FuseFamily::Blade));
    };
    let mut inner = reader.nested(table, format!("`fuse` of {}", reader.what()), node.span, None);
    let rating = inner.required::<Amps>("rating", Need::Positive);
    let family = inner.choice("family", &FAMILIES).unwrap_or(FuseFamily::Blade);
    let mut fuse = plain(node.span, rating, family);
    let body = inner.choice("body", &[("glass", FuseBody::Glass), ("ceramic", FuseBody::Ceramic)]);
    let speed = inner.choice("speed", &[("fast", FuseSpeed::Fast), ("slow", FuseSpeed::Slow)]);
    if matches!(family, FuseFamily::Blade | FuseFamily::Bolt | FuseFamily::Resettable) {
        for (key, given) in [("body", body.is_some()), ("speed", speed.is_some())] {
            if given {
                inner.problem(Problem::new(
                    inner.own_span(key),
                    format!("{} is a {} fuse, which has no `{key}`", inner.what(), family.word()),
                    "`body` and `speed` belong to cartridge fuses: `family = \"cartridge\"`",
                ));
            }
        }
    }
    fuse.body = body.unwrap_or_default();
    fuse.speed = speed.unwrap_or_default();
    fuse.voltage = inner.figure::<Volts>("voltage", Need::Positive);
    fuse.breaking = inner.figure::<Amps>("breaking", Need::Positive);
    fuse.blows_from = inner.figure::<Fraction>("blows-from", Need::Positive);
    if let Some(from) = fuse.blows_from.as_ref().filter(|f| f.low.get() < 1.0) {
        inner.problem(Problem::new(
            inner.own_span("blows-from"),
            format!("{} blows from {} of its rating", inner.what(), from.low),
            "a fuse carries its rating: write the share from which it blows, such as `blows-from = \"135 %\"`",
        ));
    }
    if let Some(resistance) = inner.figure::<Ohms>("resistance", Need::NotNegative) {
        fuse.resistance = resistance;
    }
    inner.finish();
    Some(fuse)
}

/// A blade fuse of a rating, for variants of a plan.
pub(crate) fn blade_fuse(span: Span, rating: Amps) -> Fuse {
    plain(span, Figure::exact(rating, Origin::Computed), FuseFamily::Blade)
}

fn plain(span: Span, rating: Figure<Amps>, family: FuseFamily) -> Fuse {
    let resistance = Figure::exact(
        Ohms::new(cold_ohms(rating.typical.get())),
        Origin::Default("cold resistance of a blade fuse of this rating (typical)"),
    );
    Fuse {
        span,
        rating,
        family,
        body: FuseBody::default(),
        speed: FuseSpeed::default(),
        blows_from: None,
        voltage: None,
        breaking: None,
        resistance,
    }
}
