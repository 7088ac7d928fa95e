//! What a report is made of, before anybody decides how wide or in which format: headings, paragraphs, tables with typed
//! columns. The text renderer applies the width; other formats render the same blocks.

use comfy_table::{Cell, CellAlignment, ColumnConstraint, ContentArrangement, Table as Grid, Width, presets};

use crate::style::{STRONG, paint};
use crate::table::wrap;

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
    head: String,
    holds: Holds,
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
    columns: Vec<Column>,
    rows: Vec<Vec<String>>,
}

/// Wrapped prose is no narrower than this.
const LEAST_BREAK: u16 = 12;

impl Table {
    pub fn new(columns: impl IntoIterator<Item = Column>, rows: impl IntoIterator<Item = Vec<String>>) -> Self {
        Self { columns: columns.into_iter().collect(), rows: rows.into_iter().collect() }
    }

    /// For a terminal: a rule under the heading, columns by blanks.
    pub fn text(&self, width: usize) -> String {
        let wide = |text: &str| text.lines().map(|l| l.chars().count()).max().unwrap_or(0);
        let first = self.broken(width, &[Holds::Prose]);
        if wide(&first) > width { self.broken(width, &[Holds::Prose, Holds::List]) } else { first }
    }

    /// The table with columns of some kinds broken.
    fn broken(&self, width: usize, kinds: &[Holds]) -> String {
        let mut grid = Grid::new();
        grid.load_style(presets::NOTHING)
            .set_content_arrangement(ContentArrangement::Dynamic)
            .set_width(u16::try_from(width.clamp(40, 400)).unwrap_or(100));
        let breaks = |c: &Column| kinds.contains(&c.holds);
        let cell = |c: &Column, text: &str, is_head: bool| {
            // A number and its unit stay together; a break inside them would be misread.
            let whole = c.holds != Holds::Name && (is_head || !breaks(c));
            let text = if whole { text.replace(' ', "\u{a0}") } else { text.to_owned() };
            let right = c.holds == Holds::Number;
            Cell::new(text).set_alignment(if right { CellAlignment::Right } else { CellAlignment::Left })
        };
        grid.set_header(self.columns.iter().map(|c| cell(c, &c.head, true)));
        for row in &self.rows {
            grid.add_row(self.columns.iter().zip(row).map(|(c, text)| cell(c, text, false)));
        }
        grid.set_constraints(self.columns.iter().map(|c| match breaks(c) {
            true => ColumnConstraint::LowerBoundary(Width::Fixed(LEAST_BREAK)),
            false => ColumnConstraint::ContentWidth,
        }));
        let lines: Vec<String> = grid.lines().map(|l| l.trim_end().replace('\u{a0}', " ")).collect();
        let rule = "─".repeat(lines.iter().map(|l| l.chars().count()).max().unwrap_or(0));
        let mut out = String::new();
        for (i, line) in lines.iter().enumerate() {
            out.push_str(line);
            out.push('\n');
            if i == 0 {
                out.push_str(&rule);
                out.push('\n');
            }
        }
        out
    }
}

/// A part of a document.
#[derive(Clone, Debug)]
pub(crate) enum Block {
    /// The answer or the title: strong.
    Heading(String),
    /// A paragraph under it: indented, wrapped.
    Line(String),
    /// A table, with a blank line before it.
    Table(Table),
    /// A heading of a table, with a blank line before it.
    Caption(String),
    /// A table right under its caption.
    Captioned(Table),
    /// Text of a plan, as it stands.
    Verbatim(String),
}

/// The blocks of an answer or a page, in order.
#[derive(Clone, Debug, Default)]
pub(crate) struct Document(pub Vec<Block>);

impl Document {
    /// For a terminal of some width.
    pub fn text(&self, width: usize) -> String {
        let mut out = String::new();
        for block in &self.0 {
            match block {
                Block::Heading(text) => out.push_str(&format!("{}\n", paint(STRONG, &wrap(text, width, 0)))),
                Block::Line(text) => out.push_str(&format!("  {}\n", wrap(text, width.saturating_sub(2), 4))),
                Block::Table(table) => out.push_str(&format!("\n{}", table.text(width))),
                Block::Caption(text) => out.push_str(&format!("\n{}\n", paint(STRONG, &wrap(text, width, 0)))),
                Block::Captioned(table) => out.push_str(&table.text(width)),
                Block::Verbatim(text) => out.push_str(&format!("\n{text}\n")),
            }
        }
        out
    }
}
