//! What a report is made of, before anybody decides how wide or in which format: headings, paragraphs, tables,
//! findings, bars. A format is one file that renders these blocks, as `text` does for a terminal.

pub(crate) mod entry;
pub(crate) mod style;
pub(crate) mod table;
mod text;
pub(crate) mod wrap;

use modest_ohm::Severity;

use entry::Entry;

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
    /// Text of a plan, as it is, with a blank line before it.
    Verbatim(String),
    /// Lines for a plan.
    Lines(Vec<String>),
    /// A finding by itself.
    Entry(Box<Entry>),
    /// The findings of a plan, numbered.
    Entries(Vec<Entry>),
    /// What a trial finds.
    Judged(Severity, String),
    /// What was decided without a finding.
    Passed(Vec<PassedLine>),
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

#[cfg(test)]
mod tests {
    use super::*;

    fn page() -> Document {
        let mut page = Document::default();
        page.heading("Rails");
        page.table(Table::new(
            [named("rail"), values("current"), prose("why")],
            [vec!["five".into(), "1.20 A".into(), "its loads draw no more than this in any scenario".into()]],
        ));
        page.note("wanted: with source limits lifted, boards bursting, and everything on that may be on.");
        page.push(Block::Branch(
            2,
            "keeper 1.20 A = radio 1.00 A + lamp 200 mA + everything that its outputs supply".into(),
        ));
        page.push(Block::Bars(vec![Bar {
            place: "1.00 m".into(),
            value: "4.50 V".into(),
            more: String::new(),
            share: 7.0,
            mark: " lowest",
        }]));
        page.gap();
        page
    }

    /// Without styles: what stands between `ESC [` and `m` is dropped.
    fn plain(text: &str) -> String {
        let mut parts = text.split("\u{1b}[");
        let first = parts.next().unwrap_or_default().to_owned();
        parts.fold(first, |out, part| out + part.split_once('m').map_or("", |(_, rest)| rest))
    }

    #[test]
    fn nothing_is_wider_than_the_terminal() {
        for width in [60, 72, 100, 160] {
            for line in plain(&page().text(width)).lines() {
                assert!(line.chars().count() <= width, "{width}: {line}");
            }
        }
    }

    #[test]
    fn numbers_stand_right_and_prose_breaks() {
        let text = plain(&page().text(60));
        let rows: Vec<&str> = text.lines().take_while(|l| !l.starts_with("wanted")).collect();
        let ends = |row: &str| row.find("1.20 A").map(|at| at + "1.20 A".len());
        assert_eq!(ends(rows[3]), rows[1].find("current").map(|at| at + "current".len()), "{text}");
        assert!(rows.len() > 4, "the reason does not fit on one line of 60: {text}");
    }

    #[test]
    fn a_bar_stays_in_its_room_whatever_its_share() {
        let text = plain(&page().text(100));
        let bar = text.lines().find(|l| l.contains('▆')).unwrap();
        assert_eq!(bar.matches('▆').count(), 71, "{bar}");
        assert!(bar.ends_with(" lowest"), "{bar}");
    }
}
