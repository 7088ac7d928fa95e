//! Fixes of a plan as text, and the changes of its text.

use anstyle::AnsiColor;
use modest_ohm::findings::{Fix, Obstacle};
use modest_ohm::fixes::FixedPlan;
use modest_ohm::{Finding, Review};
use similar::{ChangeTag, TextDiff};

use crate::document::style::{self, QUIET, SOUND, STRONG, paint, printable};
use crate::document::wrap::wrap;
use crate::first_screen::{counts, title};
use crate::{Input, Layout};

/// Lines around a change that are shown with it.
const AROUND: usize = 2;

/// One fix of a finding: what is wrong, what to do, what becomes of it.
#[must_use]
pub fn fix_text(input: &Input<'_>, review: &Review, number: usize, f: &Finding, fix: &Fix, layout: Layout) -> String {
    let head = format!("{number}  {}  {}  {}", severity(f), f.code, review.in_short(&f.subject));
    let what = wrap(&review.in_short(&f.message), layout.width - 3, 0);
    let way = wrap(&review.in_short(&fix.text()), layout.width - 5, 0);
    format!(
        "{}{head}\n{}{}\n",
        title(input, review, layout.width),
        indented(&what, "   ", "   "),
        indented(&way, "   → ", "     ")
    )
}

/// All fixes of a plan, one after another, and what is left.
#[must_use]
pub fn fixed_text(input: &Input<'_>, before: &Review, fixed: &FixedPlan, layout: Layout) -> String {
    let mut out = format!("{}{}\n", title(input, before, layout.width), wrap(&counts(before), layout.width, 0));
    for (i, step) in fixed.steps.iter().enumerate() {
        let words = format!("{} {}: {}", step.code, step.subject, step.fix.text());
        let way = wrap(&before.in_short(&words), layout.width - 4, 0);
        out.push_str(&indented(&way, &format!("{:<4}", i + 1), "    "));
    }
    let after = &fixed.review;
    let then = if fixed.steps.is_empty() { "Nothing that a change of the plan would fix." } else { "Then" };
    let sep = if fixed.steps.is_empty() { "\n" } else { ": " };
    out.push_str(&format!("\n{}{sep}{}\n", paint(STRONG, then), counts(after)));
    for f in after.findings().iter().filter(|f| f.accepted.is_none()) {
        let words = format!("{} {}: {}", f.code, after.in_short(&f.subject), after.in_short(&f.message));
        out.push_str(&indented(&wrap(&words, layout.width - 12, 0), &format!("  {} ", severity(f)), "            "));
        for left in left_to_do(f).take(1) {
            let left = after.in_short(&left);
            out.push_str(&indented(&wrap(&left, layout.width - 14, 0), "            · ", "              "));
        }
    }
    out.push('\n');
    out
}

/// What no fix does: tasks by hand, then what stands in the way; nothing where a fix ends the finding.
pub(crate) fn left_to_do(f: &Finding) -> impl Iterator<Item = String> {
    let ends = f.fixes.iter().any(Fix::ends);
    let tasks = if ends { &[][..] } else { &f.tasks[..] };
    let obstacle = f.obstacle.as_ref().filter(|o| !ends && (f.tasks.is_empty() || **o != Obstacle::NoChange));
    tasks.iter().cloned().chain(obstacle.map(Obstacle::text))
}

fn severity(f: &Finding) -> String {
    paint(style::of(f.severity), &format!("{:<9}", f.severity.word().to_uppercase()))
}

fn indented(text: &str, first: &str, others: &str) -> String {
    let mark = |i: usize| if i == 0 { first } else { others };
    text.trim_end().lines().enumerate().map(|(i, line)| format!("{}{line}\n", mark(i))).collect()
}

/// The lines of a text that change, with some around them: what goes with a minus, what comes with a plus.
#[must_use]
pub fn diff_text(path: &str, before: &str, after: &str) -> String {
    let diff = TextDiff::from_lines(before, after);
    let mut out = format!("{}\n", paint(STRONG, path));
    for group in diff.grouped_ops(AROUND) {
        let line = group.first().map_or(0, |op| op.old_range().start) + 1;
        out.push_str(&format!("{}\n", paint(QUIET, &format!("line {line}"))));
        for change in group.iter().flat_map(|op| diff.iter_changes(op)) {
            let text = printable(change.value().trim_end_matches(['\n', '\r']));
            out.push_str(&match change.tag() {
                ChangeTag::Equal => format!("  {text}\n"),
                ChangeTag::Delete => paint(AnsiColor::BrightRed.on_default(), &format!("- {text}")) + "\n",
                ChangeTag::Insert => paint(SOUND, &format!("+ {text}")) + "\n",
            });
        }
    }
    out
}
