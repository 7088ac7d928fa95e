//! What found no free port.

use crate::source::Span;

/// A consumer that found no free port and stands, for the solve, on the last one of its family.
#[derive(Clone, Debug)]
pub(crate) struct Shortage {
    pub board: usize,
    pub family: String,
    pub wanted_by: String,
    pub span: Span,
}
