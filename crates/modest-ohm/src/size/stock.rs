//! The values to choose from: a preferred series, or what is in the drawer.

use super::series::Series;
use crate::quantity::{Ohms, parse_quantity};

/// Values to choose from.
#[derive(Clone, Debug, PartialEq)]
pub enum Values {
    /// Every value of a series, from 1 Ω to 10 MΩ.
    Series(Series),
    /// A list in rising order.
    Stock(Vec<Ohms>),
}

/// What is sold as a wired resistor.
const SOLD: (f64, f64) = (1.0, 10e6);

impl Values {
    /// All values of a series.
    #[must_use]
    pub const fn of_series(series: Series) -> Self {
        Values::Series(series)
    }

    /// Those of a list that are above zero, each once, in rising order.
    #[must_use]
    pub fn of_list(ohms: impl IntoIterator<Item = Ohms>) -> Self {
        let mut list: Vec<Ohms> = ohms.into_iter().filter(|o| o.get() > 0.0 && o.get().is_finite()).collect();
        list.sort_by(|a, b| a.get().total_cmp(&b.get()));
        list.dedup();
        Values::Stock(list)
    }

    /// The values from `low` to `high`, in rising order.
    #[must_use]
    pub fn between(&self, low: Ohms, high: Ohms) -> Vec<Ohms> {
        match self {
            Values::Series(series) => {
                let (from, to) = (low.get().max(SOLD.0), high.get().min(SOLD.1));
                series.values(from, to).into_iter().map(Ohms::new).collect()
            }
            Values::Stock(list) => {
                list.iter().copied().filter(|o| *o >= low * (1.0 - 1e-9) && *o <= high * (1.0 + 1e-9)).collect()
            }
        }
    }

    /// The value before a number, and the two from it on.
    pub(crate) fn around(&self, ohms: Ohms) -> Vec<Ohms> {
        let below = self.between(Ohms::new(0.0), ohms * (1.0 - 2e-9));
        let above = self.between(ohms, Ohms::new(f64::MAX));
        below.last().copied().into_iter().chain(above.into_iter().take(2)).collect()
    }

    /// The value between two that lies nearest to the middle of them, on a logarithmic scale.
    #[must_use]
    pub fn middle(&self, low: Ohms, high: Ohms) -> Option<Ohms> {
        let middle = (low.get().max(1e-3) * high.get().min(1e9)).sqrt();
        let distance = |o: &Ohms| (o.get() / middle).ln().abs();
        self.between(low, high).into_iter().min_by(|a, b| distance(a).total_cmp(&distance(b)))
    }
}

/// A stock list that could not be read: line by line what is wrong.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct StockProblem {
    /// Counted from 1.
    pub line: usize,
    /// What is wrong and what to write.
    pub message: String,
}

/// Reads the rows of a drawer's list: the first column that holds a resistance in each, `4k7`, `330 Ω`, `10k`. A first
/// row without one is a heading; rows that count `0` pieces in a column headed `pieces`, `count` or `quantity` are left out.
///
/// # Errors
/// Every row without a resistance, and a list without any.
///
/// ```
/// use modest_ohm::size::{Values, stock};
/// let rows = [vec!["value", "pieces"], vec!["330 Ω", "12"], vec!["4k7", "0"], vec!["10k", "3"]];
/// let Ok(Values::Stock(list)) = stock(&rows.map(|r| r.into_iter().map(str::to_owned).collect())) else { panic!() };
/// assert_eq!(list.len(), 2);
/// ```
pub fn stock(rows: &[Vec<String>]) -> Result<Values, Vec<StockProblem>> {
    let ohms_of = |row: &[String]| {
        row.iter().find_map(|cell| parse_quantity::<Ohms>(cell.trim()).ok().filter(|o| o.get() > 0.0 && has_ohms(cell)))
    };
    let is_count = |cell: &str| ["pieces", "count", "quantity"].contains(&cell.trim().to_lowercase().as_str());
    let headed = rows.first().is_some_and(|row| ohms_of(row).is_none());
    let count_at = rows.first().filter(|_| headed).and_then(|row| row.iter().position(|c| is_count(c)));
    let mut values = Vec::new();
    let mut problems = Vec::new();
    for (i, row) in rows.iter().enumerate().skip(usize::from(headed)) {
        if row.iter().all(|c| c.trim().is_empty()) {
            continue;
        }
        let none_left = count_at.and_then(|at| row.get(at)).is_some_and(|c| c.trim() == "0");
        match ohms_of(row) {
            Some(_) if none_left => {}
            Some(ohms) => values.push(ohms),
            None => problems.push(StockProblem {
                line: i + 1,
                message: format!("no resistance in `{}`; write it as `330 Ω` or `4k7`", row.join(", ")),
            }),
        }
    }
    if problems.is_empty() && values.is_empty() {
        problems.push(StockProblem { line: 1, message: "the list has no resistor".into() });
    }
    if problems.is_empty() { Ok(Values::of_list(values)) } else { Err(problems) }
}

/// A plain number counts pieces, or numbers a drawer.
fn has_ohms(cell: &str) -> bool {
    cell.chars().any(|c| !c.is_ascii_digit() && c != '.' && !c.is_whitespace())
}
