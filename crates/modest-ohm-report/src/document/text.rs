//! Documents as text for a terminal of some width.

use comfy_table::{Cell, CellAlignment, ColumnConstraint, ContentArrangement, Table as Grid, Width, presets};

use super::entry::Columns;
use super::table::{Column, Holds, Table};
use super::{Bar, Block, Document, PassedLine};
use crate::document::style::{self, QUIET, SOUND, STRONG, paint};
use crate::document::wrap::{wrap, wrap_hanging};

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
const LEAST_BREAK: u16 = 12;

impl Table {
    /// A rule under the heading, columns by blanks.
    fn text(&self, width: usize) -> String {
        let fits = |text: &str| text.lines().all(|l| l.chars().count() <= width);
        let first = self.broken(width, &[Holds::Prose]);
        if fits(&first) {
            return first;
        }
        let second = self.broken(width, &[Holds::Prose, Holds::List]);
        if fits(&second) { second } else { self.parted(width, &fits) }
    }

    /// The columns that fit side by side, and the rest below them; what the rows are about stands before each part.
    fn parted(&self, width: usize, fits: &dyn Fn(&str) -> bool) -> String {
        let keys = self.columns.iter().take_while(|c| matches!(c.holds, Holds::Name | Holds::Word)).count().clamp(1, 3);
        let lay = |columns: &[usize]| {
            let table = self.of(columns);
            let text = table.broken(width, &[Holds::Prose, Holds::List]);
            // Long names are broken last: a row is found by them.
            if fits(&text) { text } else { table.broken(width, &[Holds::Prose, Holds::List, Holds::Name]) }
        };
        let mut parts: Vec<Vec<usize>> = Vec::new();
        for column in keys..self.columns.len() {
            let mut wider = parts.last().cloned().unwrap_or_else(|| (0..keys).collect());
            wider.push(column);
            match parts.last_mut() {
                Some(part) if fits(&lay(&wider)) => *part = wider,
                _ => parts.push((0..keys).chain([column]).collect()),
            }
        }
        // As many columns in each part where that fits as well: one alone looks lost.
        let each = (self.columns.len() - keys).div_ceil(parts.len().max(1));
        let all: Vec<usize> = (keys..self.columns.len()).collect();
        let even: Vec<String> =
            all.chunks(each.max(1)).map(|c| lay(&(0..keys).chain(c.iter().copied()).collect::<Vec<_>>())).collect();
        let texts = if even.iter().all(|text| fits(text)) { even } else { parts.iter().map(|p| lay(p)).collect() };
        texts.join("\n")
    }

    /// The table with some of its columns.
    fn of(&self, columns: &[usize]) -> Table {
        let pick = |row: &Vec<String>| columns.iter().filter_map(|c| row.get(*c).cloned()).collect();
        Table {
            columns: columns.iter().map(|c| self.columns[*c].clone()).collect(),
            rows: self.rows.iter().map(pick).collect(),
        }
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
