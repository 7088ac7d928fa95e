//! The values to choose from: a preferred series, or what is in the drawer.

use super::series::Series;
use crate::quantity::parse::parse_quantity;
use crate::quantity::units::Ohms;
use crate::verdict::compare::{at_least, at_most};

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
                list.iter().copied().filter(|o| at_least(o.get(), low.get()) && at_most(o.get(), high.get())).collect()
            }
        }
    }

    /// The largest value that is not above a number.
    #[must_use]
    pub fn next_smaller(&self, ohms: Ohms) -> Option<Ohms> {
        self.between(Ohms::new(0.0), ohms).last().copied()
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

impl std::fmt::Display for StockProblem {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "line {}: {}", self.line, self.message)
    }
}

impl std::error::Error for StockProblem {}

/// A row of a list, with its line in the file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct StockRow {
    /// Counted from 1.
    pub line: usize,
    /// Its cells.
    pub cells: Vec<String>,
}

/// Headings of a column of resistances: there a plain number is one too.
const OHMS: [&str; 7] = ["ohm", "ohms", "ω", "resistance", "resistor", "value", "r"];
/// Headings of a column that counts.
const PIECES: [&str; 5] = ["pieces", "count", "quantity", "qty", "number"];

/// Reads a drawer's list: the first column that holds a resistance in each row, `4k7`, `330 Ω`, `10k`; in a column
/// headed `ohms`, `resistance` or `value` a plain number is one too. A first row without a resistance is a heading;
/// rows that count `0` pieces in a column headed `pieces`, `count` or `quantity` are left out.
///
/// # Errors
/// Every row without a resistance, and a list without any.
///
/// ```
/// use modest_ohm::size::{StockRow, Values, stock};
/// let row = |line, cells: [&str; 2]| StockRow { line, cells: cells.map(str::to_owned).to_vec() };
/// let rows = [row(1, ["value", "pieces"]), row(2, ["330", "12"]), row(3, ["4k7", "0"]), row(4, ["10k", "3"])];
/// let Ok(Values::Stock(list)) = stock(&rows) else { panic!() };
/// assert_eq!(list.len(), 2);
/// ```
pub fn stock(rows: &[StockRow]) -> Result<Values, Vec<StockProblem>> {
    let read = |cell: &str| parse_quantity::<Ohms>(cell.trim()).ok().filter(|o| o.get() > 0.0 && o.get().is_finite());
    let marked = |row: &StockRow| row.cells.iter().find_map(|cell| read(cell).filter(|_| has_ohms(cell)));
    let heading = rows.first().filter(|row| marked(row).is_none());
    let column = |names: &[&str]| {
        heading.and_then(|row| row.cells.iter().position(|c| names.contains(&c.trim().to_lowercase().as_str())))
    };
    let (ohms_at, count_at) = (column(&OHMS), column(&PIECES));
    let cell = |row: &StockRow, at: Option<usize>| at.and_then(|at| row.cells.get(at)).cloned().unwrap_or_default();
    // A list of plain numbers that nobody headed is none: a first row that only looks like a heading is reported.
    let headed = heading.filter(|_| ohms_at.is_some() || count_at.is_some() || !heading.is_some_and(has_digits));
    let mut values = Vec::new();
    let mut problems = Vec::new();
    for row in rows.iter().skip(usize::from(headed.is_some())) {
        if row.cells.iter().all(|c| c.trim().is_empty()) {
            continue;
        }
        let none_left = cell(row, count_at).trim() == "0";
        let under = cell(row, ohms_at);
        match read(&under).or_else(|| read(&format!("{under} Ω"))).or_else(|| marked(row)) {
            Some(_) if none_left => {}
            Some(ohms) => values.push(ohms),
            None => problems.push(StockProblem {
                line: row.line,
                message: format!("no resistance in `{}`; write it as `330 Ω` or `4k7`", row.cells.join(", ")),
            }),
        }
    }
    if problems.is_empty() && values.is_empty() {
        problems.push(StockProblem { line: 1, message: "the list has no resistor".into() });
    }
    if problems.is_empty() { Ok(Values::of_list(values)) } else { Err(problems) }
}

fn has_digits(row: &StockRow) -> bool {
    row.cells.iter().any(|c| c.chars().any(|c| c.is_ascii_digit()))
}

/// A plain number under no heading counts pieces, or numbers a drawer.
fn has_ohms(cell: &str) -> bool {
    cell.chars().any(|c| !c.is_ascii_digit() && c != '.' && !c.is_whitespace())
}
