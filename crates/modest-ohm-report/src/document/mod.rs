//! What a report is made of, before anybody decides how wide or in which format: headings, paragraphs, tables, findings,
//! bars. A format is one file that renders these blocks, as `text` does for a terminal.

pub(crate) mod style;
pub(crate) mod table;
mod text;
pub(crate) mod wrap;

use modest_ohm::{Finding, Severity};

pub(crate) use table::{Table, list, named, prose, values, words};

/// A part of a document.
#[derive(Clone, Debug)]
pub(crate) enum Block {
    /// An answer, or what comes next.
    Heading(String),
    /// A heading with a blank line before it.
    Caption(String),
    /// A paragraph under an answer, indented.
    Line(String),
    /// A paragraph.
    Paragraph(String),
    /// A paragraph that stands some levels deep in a tree.
    Branch(usize, String),
    /// What explains what stands above it.
    Note(String),
    /// What is in order.
    Sound(String),
    /// A table, with a blank line before it.
    Table(Table),
    /// A table right under its heading.
    Captioned(Table),
    /// Text of a plan, as it stands, with a blank line before it.
    Verbatim(String),
    /// Lines for a plan.
    Lines(Vec<String>),
    /// A finding of the plan, and where it stands in the text: `shed.toml:4:1`.
    Finding(Box<Finding>, Option<String>),
    /// What a trial finds.
    Judged(Severity, String),
    /// What was decided without a finding.
    Passed(Vec<PassedLine>),
    /// How much was found.
    Summary(Summary),
    /// Values along something, drawn as bars.
    Bars(Vec<Bar>),
    /// A blank line.
    Gap,
}

/// A check and a part of the plan, decided without a finding.
#[derive(Clone, Debug)]
pub(crate) struct PassedLine {
    pub code: &'static str,
    pub subject: String,
    pub margin: String,
}

/// How many findings of each severity there are, and how much passed.
#[derive(Clone, Debug)]
pub(crate) struct Summary {
    /// Worst first, without severities of which there is none.
    pub found: Vec<(Severity, usize)>,
    pub accepted: usize,
    pub passed: usize,
    pub scenarios: usize,
}

/// A bar of a chart of text.
#[derive(Clone, Debug)]
pub(crate) struct Bar {
    pub place: String,
    pub value: String,
    /// More of it, in columns of the same width throughout the chart.
    pub more: String,
    /// How much of the room it takes, 0 to 1.
    pub share: f64,
    pub mark: &'static str,
}

/// The blocks of an answer or a page, in order.
#[derive(Clone, Debug, Default)]
pub(crate) struct Document(pub Vec<Block>);

impl Document {
    pub fn push(&mut self, block: Block) {
        self.0.push(block);
    }

    pub fn heading(&mut self, text: impl Into<String>) {
        self.push(Block::Heading(text.into()));
    }

    pub fn caption(&mut self, text: impl Into<String>) {
        self.push(Block::Caption(text.into()));
    }

    pub fn note(&mut self, text: impl Into<String>) {
        self.push(Block::Note(text.into()));
    }

    pub fn paragraph(&mut self, text: impl Into<String>) {
        self.push(Block::Paragraph(text.into()));
    }

    /// A table under its heading.
    pub fn table(&mut self, table: Table) {
        self.push(Block::Captioned(table));
    }

    pub fn gap(&mut self) {
        self.push(Block::Gap);
    }
}
