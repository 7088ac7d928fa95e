//! Which conductor pair of the plan a network conductor is.

/// Which conductor pair of the plan a network conductor is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Run {
    Branch(usize),
    Converter(usize),
    Board(usize),
    Shifter(usize),
    Load(usize),
    Injection(usize, usize),
    /// From the end of a strip's row to the beginning of the next.
    Join(usize, usize),
    Ground(usize),
}
