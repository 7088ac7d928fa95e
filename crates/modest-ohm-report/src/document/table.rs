//! Tables with typed columns: alignment and wrapping follow from what a column holds.

/// What a column holds; alignment and wrapping follow from it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Holds {
    /// What the row is about: left, may break.
    Name,
    /// Words that stay together: left.
    Word,
    /// Numbers with their units: right, never broken.
    Number,
    /// Sentences: left, break where the table would not fit.
    Prose,
    /// Lists that break only where breaking the prose was not enough.
    List,
}

/// A column.
#[derive(Clone, Debug)]
pub(crate) struct Column {
    pub head: String,
    pub holds: Holds,
}

/// Makes columns of one kind.
macro_rules! columns {
    ($($name:ident => $holds:ident),+) => {
        $(pub(crate) fn $name(head: impl Into<String>) -> Column {
            Column { head: head.into(), holds: Holds::$holds }
        })+
    };
}
columns!(named => Name, words => Word, values => Number, prose => Prose, list => List);

/// A table.
#[derive(Clone, Debug)]
pub(crate) struct Table {
    pub columns: Vec<Column>,
    pub rows: Vec<Vec<String>>,
}

impl Table {
    pub fn new(columns: impl IntoIterator<Item = Column>, rows: impl IntoIterator<Item = Vec<String>>) -> Self {
        Self { columns: columns.into_iter().collect(), rows: rows.into_iter().collect() }
    }
}
