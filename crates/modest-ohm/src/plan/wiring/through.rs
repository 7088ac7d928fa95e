//! What a signal passes on its way: shifters and differential pairs.

use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::Reader;
use modest_ohm_derive::Figures;

/// Something that data goes through.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Stage {
    Shifter(usize),
    Pair(usize),
}

/// `through = "lift"`, or several in the order of the signal.
pub(crate) fn read_through(reader: &mut Reader<'_>) -> Vec<(Named, Stage)> {
    let through: Vec<(Named, Stage)> =
        reader.texts("through").into_iter().map(|n| (n, Stage::Shifter(usize::MAX))).collect();
    twice(reader, &through);
    through
}

/// Data goes through a part once.
fn twice(inner: &Reader<'_>, through: &[(Named, Stage)]) {
    for (n, (part, _)) in through.iter().enumerate() {
        if through[..n].iter().any(|(other, _)| other.text == part.text) {
            let message = format!("{} goes through `{}` twice", inner.what(), part.text);
            inner.problem(Problem::new(part.span, message, "name each part once, in the order of the data"));
        }
    }
}
