//! Documents as text for a terminal of some width.

use comfy_table::{Cell, CellAlignment, ColumnConstraint, ContentArrangement, Table as Grid, Width, presets};

use super::entry::Columns;
use super::table::{Column, Holds, Table};
use super::{Bar, Block, Document, PassedLine};
use crate::document::style::{self, QUIET, SOUND, STRONG, paint};
use crate::document::wrap::{with_units_held, wrap, wrap_hanging};

impl Document {
    /// For a terminal of some width.
    pub fn text(&self, width: usize) -> String {
        self.0.iter().map(|block| block.text(width)).collect()
    }
}

impl Block {
    fn text(&self, width: usize) -> String {
        let strong = |text: &str| paint(STRONG, &wrap(text, width, 0));
        match self {
            Block::Heading(text) => format!("{}\n", strong(text)),
            Block::Caption(text) => format!("\n{}\n", strong(text)),
            Block::Line(text) => format!("  {}\n", wrap(text, width.saturating_sub(2), 4)),
            Block::Paragraph(text) => format!("{}\n", wrap(text, width, 0)),
            Block::Branch(depth, text) => {
                let indent = 2 * depth;
                format!("{}{}\n", " ".repeat(indent), wrap(text, width.saturating_sub(indent), indent + 4))
            }
            Block::Note(text) => format!("{}\n", paint(QUIET, &wrap(text, width, 0))),
            Block::Sound(text) => format!("{}\n", paint(SOUND, text)),
            Block::Table(table) => format!("\n{}", table.text(width)),
            Block::Captioned(table) => table.text(width),
            Block::Verbatim(text) => format!("\n{text}\n"),
            Block::Lines(lines) => lines.iter().map(|line| format!("  {line}\n")).collect(),
            Block::Entry(entry) => entry.full(Columns::of(std::slice::from_ref(entry), width)),
            Block::Entries(entries) => {
                let columns = Columns::of(entries, width);
                entries.iter().map(|e| e.full(columns) + "\n").collect()
            }
            Block::Judged(severity, text) => {
                let word = paint(style::of(*severity), severity.word());
                format!("  {word} {}\n", wrap(text, width.saturating_sub(10), 10))
            }
            Block::Passed(lines) => passed(lines, width),
            Block::Bars(bars) => self::bars(bars, width),
            Block::Gap => "\n".into(),
        }
    }
}

fn passed(lines: &[PassedLine], width: usize) -> String {
    let wide = lines.iter().map(|p| p.code.len()).max().unwrap_or(0);
    let line = |p: &PassedLine| {
        let line = format!("passed   {:<wide$}  {}: {}", p.code, p.subject, p.margin);
        let line = wrap_hanging(&line, width, 9 + if width < 80 { 2 } else { wide + 2 });
        let subject = format!("  {}: ", p.subject);
        let line = line.replacen(&subject, &format!("  {}: ", paint(STRONG, &p.subject)), 1);
        line.replacen("passed", &paint(SOUND, "passed"), 1) + "\n"
    };
    lines.iter().map(line).collect()
}

/// Bars take what is left beside their words, within reason.
fn bars(bars: &[Bar], width: usize) -> String {
    let words = bars.iter().map(|b| b.more.chars().count()).max().unwrap_or(0);
    let room = width.saturating_sub(29 + words).clamp(20, 80);
    let line = |b: &Bar| {
        let bar = "▆".repeat((b.share.clamp(0.0, 1.0) * room as f64).round() as usize);
        format!("{:>9} {:>8}  {}{bar}{}\n", b.place, b.value, b.more, b.mark)
    };
    bars.iter().map(line).collect()
}

/// Wrapped prose is no narrower than this.
const LEAST_BREAK: usize = 12;

/// How a table is laid out where it is too wide as it stands.
#[derive(Clone, Copy)]
struct Lay<'a> {
    width: usize,
    /// What may break.
    breaks: &'a [Holds],
    /// True where a heading that is wider than its column takes several lines.
    folds_heads: bool,
}

impl Table {
    /// A rule under the heading, columns by blanks.
    fn text(&self, width: usize) -> String {
        let lay = |breaks, folds_heads| Lay { width, breaks, folds_heads };
        let ways: [Lay<'_>; 3] =
            [lay(&[Holds::Prose], false), lay(&[Holds::Prose], true), lay(&[Holds::Prose, Holds::List], true)];
        let mut texts = ways.into_iter().map(|lay| self.laid(lay));
        texts.find(|text| fits(text, width)).unwrap_or_else(|| self.parted(width))
    }

    /// The columns that fit side by side, and the rest below them; what the rows are about stands before each part.
    fn parted(&self, width: usize) -> String {
        let keys = self.columns.iter().take_while(|c| matches!(c.holds, Holds::Name | Holds::Word)).count().clamp(1, 3);
        let whole = Lay { width, breaks: &[Holds::Prose, Holds::List], folds_heads: true };
        let goes = |columns: &[usize]| fits(&self.of(columns).laid(whole), width);
        let mut parts: Vec<Vec<usize>> = Vec::new();
        for column in keys..self.columns.len() {
            let mut wider = parts.last().cloned().unwrap_or_else(|| (0..keys).collect());
            wider.push(column);
            match parts.last_mut() {
                Some(part) if goes(&wider) => *part = wider,
                _ => parts.push((0..keys).chain([column]).collect()),
            }
        }
        // As many columns in each part where that fits as well: one alone looks lost.
        let each = (self.columns.len() - keys).div_ceil(parts.len().max(1));
        let all: Vec<usize> = (keys..self.columns.len()).collect();
        let even: Vec<Vec<usize>> =
            all.chunks(each.max(1)).map(|c| (0..keys).chain(c.iter().copied()).collect()).collect();
        if even.iter().all(|part| goes(part)) {
            parts = even;
        }
        let text = |part: &Vec<usize>| {
            let table = self.of(part);
            let text = table.laid(whole);
            // Long names are broken last: a row is found by them.
            let names = Lay { breaks: &[Holds::Prose, Holds::List, Holds::Name], ..whole };
            if fits(&text, width) { text } else { table.laid(names) }
        };
        parts.iter().map(text).collect::<Vec<_>>().join("\n")
    }

    /// The table with some of its columns.
    fn of(&self, columns: &[usize]) -> Table {
        let pick = |row: &Vec<String>| columns.iter().filter_map(|c| row.get(*c).cloned()).collect();
        Table {
            columns: columns.iter().map(|c| self.columns[*c].clone()).collect(),
            rows: self.rows.iter().map(pick).collect(),
        }
    }

    /// The headings, over several lines where a column is narrower than its heading.
    fn heads(&self, lay: Lay<'_>) -> Vec<String> {
        let wide = |i: usize| self.rows.iter().filter_map(|r| r.get(i)).map(|t| t.chars().count()).max().unwrap_or(0);
        let head = |(i, c): (usize, &Column)| {
            let word = c.head.split(' ').map(|w| w.chars().count()).max().unwrap_or(0);
            let room = if lay.breaks.contains(&c.holds) { word.max(LEAST_BREAK) } else { word.max(wide(i)) };
            if lay.folds_heads { textwrap::wrap(&c.head, room).join("\n") } else { c.head.clone() }
        };
        self.columns.iter().enumerate().map(head).collect()
    }

    fn laid(&self, lay: Lay<'_>) -> String {
        let mut grid = Grid::new();
        grid.load_style(presets::NOTHING)
            .set_content_arrangement(ContentArrangement::Dynamic)
            .set_width(u16::try_from(lay.width.clamp(40, 400)).unwrap_or(100));
        let breaks = |c: &Column| lay.breaks.contains(&c.holds);
        let cell = |c: &Column, text: &str, whole: bool| {
            // A number and its unit stay together: a break inside them would be misread. So do indented names.
            let start = text.len() - text.trim_start().len();
            let (before, rest) = text.split_at(start);
            let rest = if whole { rest.replace(' ', "\u{a0}") } else { with_units_held(rest) };
            let right = c.holds == Holds::Number;
            Cell::new(format!("{}{rest}", before.replace(' ', "\u{a0}"))).set_alignment(if right {
                CellAlignment::Right
            } else {
                CellAlignment::Left
            })
        };
        let heads = self.heads(lay);
        grid.set_header(self.columns.iter().zip(&heads).map(|(c, head)| cell(c, head, true)));
        for row in &self.rows {
            grid.add_row(self.columns.iter().zip(row).map(|(c, text)| cell(c, text, !breaks(c))));
        }
        let longest = |head: &String| head.lines().map(|l| l.chars().count()).max().unwrap_or(0);
        grid.set_constraints(self.columns.iter().zip(&heads).map(|(c, head)| match breaks(c) {
            true => {
                let least = u16::try_from(longest(head).max(LEAST_BREAK)).unwrap_or(u16::MAX);
                ColumnConstraint::LowerBoundary(Width::Fixed(least))
            }
            false => ColumnConstraint::ContentWidth,
        }));
        let lines: Vec<String> = grid.lines().map(|l| l.trim_end().replace('\u{a0}', " ")).collect();
        let rule = "─".repeat(lines.iter().map(|l| l.chars().count()).max().unwrap_or(0));
        let high = heads.iter().map(|h| h.lines().count()).max().unwrap_or(1);
        let mut out = String::new();
        for (i, line) in lines.iter().enumerate() {
            out.push_str(line);
            out.push('\n');
            if i + 1 == high {
                out.push_str(&rule);
                out.push('\n');
            }
        }
        out
    }
}

fn fits(text: &str, width: usize) -> bool {
    text.lines().all(|l| l.chars().count() <= width)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::document::table::{list, named, values};

    fn table() -> Table {
        let rows = [["deck", "11.2 V", "1.27 A + 1.01 A"], ["  lens-drive.motor", "10.4 V", "64 mA + 64 mA + 64 mA"]];
        let rows = rows.into_iter().map(|r| r.into_iter().map(str::to_owned).collect());
        Table::new([named("rail"), values("lowest voltage"), list("feed currents")], rows)
    }

    /// The heading gives way first, then the list; names keep their indent and are whole, numbers keep their units.
    #[test]
    fn tables_give_way_from_the_heading_on() {
        let lines = |width| table().text(width).lines().map(str::to_owned).collect::<Vec<_>>();
        assert_eq!(lines(80)[0], " rail                lowest voltage  feed currents");
        let folded = lines(54);
        assert_eq!(folded[0].trim_end(), " rail                 lowest  feed currents");
        assert_eq!(folded[1].trim(), "voltage");
        assert!(folded[2].starts_with("──"), "{folded:#?}");
        for width in 40..60 {
            let text = table().text(width);
            assert!(text.contains("\n   lens-drive.motor "), "{width}:\n{text}");
            assert!(text.lines().all(|l| l.chars().count() <= width), "{width}:\n{text}");
            assert!(!text.lines().any(|l| l.trim_start().starts_with("mA")), "{width}:\n{text}");
        }
    }
}
