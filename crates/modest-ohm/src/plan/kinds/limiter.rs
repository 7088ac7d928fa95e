//! `[limiter.x]`: an NTC resistor in a feed that limits the inrush while it is cold.

use super::run::{Branch, Open, RunKind};
use crate::plan::wiring::feed::read_feed;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Joules, Ohms};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// What its datasheet says.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Limiter {
    /// At 25 °C.
    pub cold: Figure<Ohms>,
    /// At its rated current.
    pub warm: Figure<Ohms>,
    #[figures(key = "current")]
    pub rating: Option<Figure<Amps>>,
    /// What one inrush may bring.
    pub energy: Option<Figure<Joules>>,
}

/// Warm it has about this share of its cold resistance (typical).
const WARM: f64 = 0.05;

pub(crate) fn read_limiter(reader: &mut Reader<'_>, name: Name) -> Branch {
    let feed = read_feed(reader);
    let cold = reader.required::<Ohms>("cold", Need::Positive).with_tolerance(0.2);
    let warm = reader.figure::<Ohms>("warm", Need::NotNegative).unwrap_or_else(|| Figure {
        origin: Origin::Default("a warm NTC resistor has 5 % of its cold resistance (typical)"),
        ..cold.scaled(WARM)
    });
    if warm.low.get() >= cold.high.get() {
        reader.problem(Problem::new(
            reader.own_span("warm").unwrap_or(reader.span),
            format!("{} has {} warm and {} cold", reader.what(), warm.typical, cold.typical),
            "an NTC limiter has a lower resistance when warm",
        ));
    }
    let rating = reader.figure::<Amps>("current", Need::Positive);
    let energy = reader.figure::<Joules>("energy", Need::Positive);
    let kind = RunKind::Limiter(Box::new(Limiter { cold, warm, rating, energy }));
    Branch { name, feed, open: Open::NOT, kind }
}
