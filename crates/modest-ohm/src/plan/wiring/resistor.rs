//! A resistor and its default tolerance.

use crate::quantity::figure::Figure;
use crate::quantity::units::{Fraction, Ohms};
use crate::text::reader::{Need, Reader};

/// A resistor; ± 5 % where nothing is said.
pub(crate) fn read_resistor(reader: &mut Reader<'_>, key: &'static str) -> Option<Figure<Ohms>> {
    Some(reader.figure::<Ohms>(key, Need::NotNegative)?.with_tolerance(RESISTOR.get()))
}

/// The tolerance of a resistor of which nothing is said.
pub(crate) const RESISTOR: Fraction = Fraction::new(0.05);
