//! What to show on a panel to see whether it is laid out as the firmware takes it.

use super::Walk;

/// A colour as firmware is reported it, 0 to 255 each.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Rgb {
    /// Red.
    pub red: u8,
    /// Green.
    pub green: u8,
    /// Blue.
    pub blue: u8,
}

/// Bright marks: a quarter of full light, so that the pattern may be shown before any firmware limit is set.
const MARK: u8 = 64;
/// The background rises from left to right in blue, and from top to bottom in green, up to this.
const RISE: usize = 28;
/// Less than this is hard to see.
const LEAST: u8 = 3;

/// A picture of columns by rows: the top row red, the left column green, their corner white; the rest rises in blue to
/// the right and in green to the bottom. No turn, no mirror and no exchange of tiles or colours leaves it as it is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Pattern {
    /// Pixels from left to right.
    pub columns: usize,
    /// Pixels from top to bottom.
    pub rows: usize,
}

impl Pattern {
    /// The pattern for a face of a size.
    #[must_use]
    pub const fn of(columns: usize, rows: usize) -> Self {
        Self { columns, rows }
    }

    /// The colour at a column from the left and a row from the top; dark outside of the picture.
    #[must_use]
    pub fn at(&self, column: usize, row: usize) -> Rgb {
        if column >= self.columns || row >= self.rows {
            return Rgb::default();
        }
        let rise = |at: usize, of: usize| LEAST + (at * RISE / of.max(2).saturating_sub(1)).min(RISE) as u8;
        let (right, down) = (rise(column, self.columns), rise(row, self.rows));
        match (column, row) {
            (0, 0) => Rgb { red: MARK, green: MARK, blue: MARK },
            (_, 0) => Rgb { red: MARK, green: 0, blue: right - LEAST },
            (0, _) => Rgb { red: down - LEAST, green: MARK, blue: 0 },
            _ => Rgb { red: 0, green: down, blue: right },
        }
    }

    /// The colours in the order of the data.
    #[must_use]
    pub fn along(&self, walk: &Walk) -> Vec<Rgb> {
        walk.places.iter().map(|(x, y)| self.at(*x, *y)).collect()
    }
}
