//! What is wrong with a plan's text: the line, the characters underlined, what to write.

use annotate_snippets::{AnnotationKind, Level, Renderer, Snippet};
use modest_ohm::{PlanErrors, Problem};

use crate::Input;
use crate::document::style::printable;
use crate::json::{self, ProblemShape, ProblemsShape};

/// More problems than this are counted, not shown: they have one cause.
const MOST_SHOWN: usize = 60;

/// All problems with the plan's lines.
#[must_use]
pub fn problems_text(input: &Input<'_>, errors: &PlanErrors, width: usize) -> String {
    let renderer = Renderer::styled().term_width(width);
    let mut out = String::new();
    for problem in errors.problems.iter().take(MOST_SHOWN) {
        let words = (printable(&problem.message), printable(&problem.help));
        out.push_str(&renderer.render(&[group(input, errors, problem, &words)]));
        out.push_str("\n\n");
    }
    let n = errors.problems.len();
    if n > MOST_SHOWN {
        out.push_str(&format!("… and {} more\n", n - MOST_SHOWN));
    }
    let things = if n == 1 { "problem" } else { "problems" };
    out.push_str(&format!("{}: {n} {things}; nothing was checked\n", input.path));
    out
}

fn group<'a>(
    input: &Input<'a>,
    errors: &'a PlanErrors,
    problem: &'a Problem,
    (message, help): &'a (String, String),
) -> annotate_snippets::Group<'a> {
    let title = Level::ERROR.primary_title(message.as_str());
    let mut group = match problem.span {
        None => annotate_snippets::Group::with_title(title),
        Some(span) => {
            let text = errors.source.text();
            // Quote only the lines around the place: the renderer would walk a long text again for every problem.
            let start = text[..span.start].rfind('\n').map_or(0, |i| i + 1);
            let far = problem.related.as_ref().map_or(span.start, |(s, _)| s.start.min(span.start));
            let start = start.min(text[..far].rfind('\n').map_or(0, |i| i + 1));
            let last = problem.related.as_ref().map_or(span.end, |(s, _)| s.end.max(span.end));
            let end = text[last.min(text.len())..].find('\n').map_or(text.len(), |i| last + i);
            let quoted = &text[start..end];
            // An empty place is shown as the character there, however many bytes that has.
            let width = |a: usize| text[a..end].chars().next().map_or(0, char::len_utf8);
            let shift = |a: usize, b: usize| (a - start)..(b.max(a + width(a)) - start).min(quoted.len());
            let mut snippet = Snippet::source(quoted)
                .line_start(errors.source.place(start).line)
                .path(input.path)
                .annotation(AnnotationKind::Primary.span(shift(span.start, span.end)));
            if let Some((related, label)) = &problem.related {
                snippet = snippet
                    .annotation(AnnotationKind::Context.span(shift(related.start, related.end)).label(label.as_str()));
            }
            title.element(snippet)
        }
    };
    if !help.is_empty() {
        group = group.element(Level::HELP.message(help.as_str()));
    }
    group
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
