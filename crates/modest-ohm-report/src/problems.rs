//! What is wrong with a plan's text, in the layout of findings: the place, the line with the characters underlined, and
//! what to write.

use modest_ohm::{PlanErrors, Problem};

use crate::Input;
use crate::document::style::{self, QUIET, STRONG, paint, printable};
use crate::document::wrap::{cut, wrap, wrap_hanging};
use crate::json::{self, ProblemShape, ProblemsShape};

/// More problems than this are counted, not shown: they have one cause.
const MOST_SHOWN: usize = 60;

/// Where everything below a head begins.
const INDENT: usize = 7;

/// All problems with the plan's lines.
#[must_use]
pub fn problems_text(input: &Input<'_>, errors: &PlanErrors, width: usize) -> String {
    let mut out = String::new();
    for problem in errors.problems.iter().take(MOST_SHOWN) {
        out.push_str(&one(errors, problem, width));
        out.push('\n');
    }
    let n = errors.problems.len();
    if n > MOST_SHOWN {
        out.push_str(&format!("… and {} more\n\n", n - MOST_SHOWN));
    }
    let things = if n == 1 { "error" } else { "errors" };
    out.push_str(&wrap(&format!("{}: {n} {things} in the text; nothing was checked", input.path), width, 0));
    out.push('\n');
    out
}

fn one(errors: &PlanErrors, problem: &Problem, width: usize) -> String {
    let word = paint(style::of(modest_ohm::Severity::Danger), "ERROR  ");
    let place = problem.span.map(|s| format!("line {}", errors.source.place(s.start).line));
    let room = width.saturating_sub(INDENT);
    let pad = " ".repeat(INDENT);
    let message = printable(&problem.message);
    let message = match &place {
        Some(place) => format!("{place}: {message}"),
        None => message,
    };
    let mut out = String::new();
    for (i, line) in wrap_hanging(&message, room, 0).lines().enumerate() {
        out.push_str(&format!("{}{}\n", if i == 0 { &word } else { &pad }, paint(STRONG, line)));
    }
    let marked = |place, label: Option<&str>| underlined(errors, place, label, room);
    let places = problem.span.map(|s| marked((s.start, s.end), None)).into_iter();
    let related = problem.related.as_ref().map(|(s, label)| marked((s.start, s.end), Some(label)));
    for line in places.chain(related).flatten() {
        out.push_str(&format!("{pad}{line}\n"));
    }
    if !problem.help.is_empty() {
        for line in
            wrap_hanging(&format!("→ {}", crate::document::entry::sentence(&printable(&problem.help))), room, 2).lines()
        {
            out.push_str(&format!("{pad}{line}\n"));
        }
    }
    out
}

/// The line of a place, and marks under its characters; of a long line the part around the place.
fn underlined(
    errors: &PlanErrors,
    (from_byte, to_byte): (usize, usize),
    label: Option<&str>,
    room: usize,
) -> Vec<String> {
    let text = errors.source.text();
    let start = text[..from_byte].rfind('\n').map_or(0, |i| i + 1);
    let end = text[from_byte..].find('\n').map_or(text.len(), |i| from_byte + i);
    let line: Vec<char> = printable(&text[start..end]).chars().collect();
    let from = text[start..from_byte].chars().count();
    let wide = text[from_byte..to_byte.clamp(from_byte, end)].chars().count().max(1);
    // A window of the line in which the place lies near the beginning.
    let skip = if from + wide.min(room / 2) > room.saturating_sub(4) { from.saturating_sub(room / 4) } else { 0 };
    let shown: String = line.iter().skip(skip).collect();
    let shown = if skip > 0 { format!("…{}", shown.chars().skip(1).collect::<String>()) } else { shown };
    let at = from - skip;
    let marks = wide.min(room.saturating_sub(at)).max(1);
    let words = label.map_or_else(String::new, |label| format!(" {}", printable(label)));
    let number = label.map_or_else(String::new, |_| format!("line {}: ", errors.source.place(from_byte).line));
    let marks = format!("{}{}{words}", " ".repeat(at + number.chars().count()), "^".repeat(marks));
    vec![cut(&format!("{number}{shown}"), room), paint(QUIET, &marks)]
}

/// All problems as JSON; lines and columns from 1, columns in characters, ends exclusive.
#[must_use]
pub fn problems_json(input: &Input<'_>, errors: &PlanErrors) -> String {
    let problems = errors
        .problems
        .iter()
        .map(|p| {
            let at = p.span.map(|s| (errors.source.place(s.start), errors.source.place(s.end)));
            ProblemShape {
                message: &p.message,
                help: &p.help,
                line: at.map(|(a, _)| a.line),
                column: at.map(|(a, _)| a.column),
                end_line: at.map(|(_, b)| b.line),
                end_column: at.map(|(_, b)| b.column),
            }
        })
        .collect();
    json::pretty(&ProblemsShape { format: json::FORMAT, plan: input.path, problems })
}
