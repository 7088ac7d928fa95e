//! A resistor and its default tolerance.

use crate::quantity::figure::Figure;
use crate::quantity::units::{Fraction, Ohms, Watts};
use crate::text::reader::{Need, Reader};

/// A resistor; ± 5 % where nothing is said.
pub(crate) fn read_resistor(reader: &mut Reader<'_>, key: &'static str) -> Option<Figure<Ohms>> {
    Some(reader.figure::<Ohms>(key, Need::NotNegative)?.with_tolerance(RESISTOR.get()))
}

/// What a resistor may turn into heat: `resistor-rating`.
pub(crate) fn read_rating(reader: &mut Reader<'_>) -> Figure<Watts> {
    let usual = "a through-hole resistor of the usual size is rated 0.25 W";
    reader.figure_or::<Watts>("resistor-rating", Need::Positive, Watts::new(USUAL_W), usual)
}

/// Of a wired resistor of the usual size, W.
pub(crate) const USUAL_W: f64 = 0.25;

/// The tolerance of a resistor of which nothing is said.
pub(crate) const RESISTOR: Fraction = Fraction::new(0.05);
