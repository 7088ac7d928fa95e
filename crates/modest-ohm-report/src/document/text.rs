//! Documents as text for a terminal of some width.

use comfy_table::{Cell, CellAlignment, ColumnConstraint, ContentArrangement, Table as Grid, Width, presets};
use modest_ohm::findings::Evidence;
use modest_ohm::units::Origin;
use modest_ohm::{Finding, Severity};

use super::table::{Column, Holds, Table};
use super::{Bar, Block, Document, PassedLine, Summary};
use crate::document::style::{self, QUIET, SOUND, STRONG, paint, printable};
use crate::document::wrap::wrap;

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
            Block::Finding(finding, place) => finding_text(finding, place.as_deref(), width),
            Block::Judged(severity, text) => {
                let word = paint(style::of(*severity), severity.word());
                format!("  {word} {}\n", wrap(text, width.saturating_sub(10), 10))
            }
            Block::Passed(lines) => passed(lines),
            Block::Summary(summary) => summary.text(),
            Block::Bars(bars) => self::bars(bars, width),
            Block::Gap => "\n".into(),
        }
    }
}

fn finding_text(f: &Finding, place: Option<&str>, width: usize) -> String {
    let indent = 9;
    let pad = " ".repeat(indent);
    let word = format!("{:<7}", f.severity.word());
    let accepted = if f.accepted.is_some() { "  (accepted)" } else { "" };
    let head = [paint(style::of(f.severity), &word), paint(STRONG, &f.subject), paint(QUIET, f.code)].join("  ");
    let mut out = format!("{head}{accepted}\n");
    let mut line = |text: &str| out.push_str(&format!("{pad}{}\n", wrap(text, width, indent)));
    line(&f.message);
    for cure in &f.cures {
        line(&format!("→ {cure}"));
    }
    if !f.also.is_empty() && f.severity != Severity::Advice {
        let also: Vec<String> = f.also.iter().map(|c| format!("{} on {}", c.code, c.subject)).collect();
        line(&format!("the same cause: {}", also.join(", ")));
    }
    if let Some(because) = &f.accepted {
        line(&format!("accepted because: {}", printable(because)));
    }
    let mut about = Vec::new();
    if let (Some(scenario), Some(corner)) = (&f.scenario, f.corner) {
        about.push(format!("scenario {scenario}, corner {}", corner.name()));
    }
    about.extend(place.map(str::to_owned));
    let assumed: Vec<String> = f.evidence.iter().filter(|e| e.origin.is_assumed()).map(assumption).collect();
    if !assumed.is_empty() {
        about.push(format!("assumed: {}", assumed.join("; ")));
    }
    if !about.is_empty() {
        out.push_str(&format!("{pad}{}\n", paint(QUIET, &wrap(&about.join(" · "), width, indent))));
    }
    out
}

fn assumption(e: &Evidence) -> String {
    match &e.origin {
        Origin::Catalogue { part, source } => format!("{} of {part} ({source})", e.name),
        Origin::Default(why) => format!("{} ({why})", e.name),
        _ => e.name.to_owned(),
    }
}

fn passed(lines: &[PassedLine]) -> String {
    let wide = lines.iter().map(|p| p.code.len()).max().unwrap_or(0);
    let line = |p: &PassedLine| {
        let (word, subject) = (paint(SOUND, "passed "), paint(STRONG, &p.subject));
        format!("{word}  {:<wide$}  {subject}: {}\n", p.code, p.margin)
    };
    lines.iter().map(line).collect()
}

impl Summary {
    fn text(&self) -> String {
        let count =
            |(severity, n): &(Severity, usize)| paint(style::of(*severity), &format!("{n} {}", severity.word()));
        let mut parts: Vec<String> = self.found.iter().map(count).collect();
        if self.accepted > 0 {
            parts.push(format!("{} accepted", self.accepted));
        }
        let found = if parts.is_empty() { paint(SOUND, "nothing found") } else { parts.join(", ") };
        format!("{found} · {} passed · {} scenarios in 4 corners\n", self.passed, self.scenarios)
    }
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
        let width = width.max(self.least_width);
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
        let lay = |columns: &[usize]| self.of(columns).broken(width, &[Holds::Prose, Holds::List]);
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
            least_width: self.least_width,
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
