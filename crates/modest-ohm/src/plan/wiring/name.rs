//! A declared name, and shares below the whole.

use crate::quantity::figure::Figure;
use crate::quantity::units::Fraction;
use crate::source::Span;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// A declared name.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Name {
    pub text: String,
    pub span: Span,
}

/// A share below the whole: headroom, drop.
pub(crate) fn read_share(reader: &mut Reader<'_>, key: &'static str) -> Option<Figure<Fraction>> {
    let figure = reader.figure::<Fraction>(key, Need::NotNegative)?;
    if figure.high.get() >= 1.0 {
        let span = reader.own_span(key);
        reader.problem(Problem::new(
            span,
            format!("`{key}` of {} is {}", reader.what(), figure.high),
            "it must be below 100 %",
        ));
    }
    Some(figure)
}
