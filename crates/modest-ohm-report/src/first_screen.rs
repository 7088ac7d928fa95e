//! The first screen of `check`: the verdict, how much was found, and the first things to do.

use modest_ohm::{Review, Severity};

use crate::Input;
use crate::document::entry::{Columns, Entry};
use crate::document::style::{self, QUIET, SOUND, STRONG, paint, printable};
use crate::document::wrap::{cut, wrap};
use crate::findings::entries;

/// What fits on one screen: the worst in short with its best fix, then a line each, then how to see the rest.
pub(crate) fn first_screen(input: &Input<'_>, review: &Review, width: usize, rows: usize) -> String {
    let entries = entries(input, review);
    let columns = Columns::of(&entries, width);
    let head = top(input, review, width);
    let all: String = entries.iter().map(|e| e.full(columns) + "\n").collect();
    let words = last(review, width);
    let lines = |text: &str| text.lines().count();
    if lines(&head) + 1 + lines(&all) + lines(&words) <= rows {
        return format!("{head}\n{all}{words}");
    }
    // Two lines say how to see the rest.
    let room = rows.saturating_sub(lines(&head) + 1 + 2);
    let urgent = entries.iter().filter(|e| e.worst >= Severity::Fault && e.accepted.is_none()).count().max(1);
    let taken = |whole: usize| -> usize {
        let short: usize = entries.iter().take(whole).map(|e| lines(&e.short(columns))).sum();
        short + urgent.saturating_sub(whole)
    };
    let whole = (1..=entries.len()).rev().find(|n| taken(*n) <= room).unwrap_or(1);
    let mut body: String = entries.iter().take(whole).map(|e| e.short(columns)).collect();
    let mut shown = whole;
    for entry in &entries[whole..] {
        if lines(&body) >= room {
            break;
        }
        body.push_str(&entry.brief(columns));
        shown += 1;
    }
    format!("{head}\n{body}{}", rest(input, &entries, shown, width))
}

/// The title and the file, how much was found, and what that means.
pub(crate) fn top(input: &Input<'_>, review: &Review, width: usize) -> String {
    let first = title(input, review, width);
    let counts = wrap(&counts(review), width, 0);
    format!("{first}{counts}\n{}\n", wrap(&verdict(review), width, 0))
}

/// The title at the left and the file at the right end of a line.
pub(crate) fn title(input: &Input<'_>, review: &Review, width: usize) -> String {
    let title = printable(review.plan().title());
    let path = cut(input.path, width / 2);
    let title = cut(&title, width.saturating_sub(path.chars().count() + 2));
    let gap = width.saturating_sub(title.chars().count() + path.chars().count()).max(1);
    let first = format!("{}{}{}", paint(STRONG, &title), " ".repeat(gap), paint(QUIET, &path));
    let first = if title.is_empty() { paint(STRONG, &path) } else { first.trim_end().to_owned() };
    format!("{first}\n")
}

/// How many findings of each severity there are.
pub(crate) fn counts(review: &Review) -> String {
    let open: usize = Severity::LISTED.into_iter().map(|s| review.count(s)).sum();
    let each = |s: Severity| paint(style::of(s), &counted(review.count(s), s.word(), s.plural()));
    let mut parts: Vec<String> = Severity::LISTED.into_iter().filter(|s| review.count(*s) > 0).map(each).collect();
    if review.accepted() > 0 {
        parts.push(format!("{} accepted", review.accepted()));
    }
    match open {
        0 if parts.is_empty() => paint(SOUND, "no findings"),
        0 => format!("{}, {}", paint(SOUND, "no findings"), parts.join(", ")),
        _ => format!("{}: {}", counted(open, "finding", "findings"), parts.join(", ")),
    }
}

/// What was decided without a finding.
fn passed(review: &Review) -> String {
    let checks = counted(review.passed().len(), "check", "checks");
    format!("{checks} passed ({} × 4 tolerance corners).", counted(review.scenarios().len(), "scenario", "scenarios"))
}

pub(crate) fn counted(n: usize, one: &str, many: &str) -> String {
    format!("{n} {}", if n == 1 { one } else { many })
}

/// The verdict in one line.
fn verdict(review: &Review) -> String {
    let count = |s| review.count(s);
    let (dangers, faults, cautions) = (count(Severity::Danger), count(Severity::Fault), count(Severity::Caution));
    let (advisories, unknowns) = (count(Severity::Advisory), count(Severity::Unknown));
    let open = review.findings().iter().filter(|f| f.accepted.is_none());
    let first = match open.map(modest_ohm::Finding::consequences).sum() {
        0 => "Fix from the top.".to_owned(),
        1 => "Fix from the top: 1 of them goes with its cause.".to_owned(),
        n => format!("Fix from the top: {n} of them go with their causes."),
    };
    match (dangers, faults, cautions, advisories, unknowns) {
        (1.., ..) => format!("{} {first}", paint(style::of(Severity::Danger), "Do not power on.")),
        (0, 1.., ..) => format!("{} {first}", paint(style::of(Severity::Fault), "It will not work as planned.")),
        (0, 0, 1.., ..) => {
            format!("{} {first}", paint(style::of(Severity::Caution), "It works, but with too little margin."))
        }
        (0, 0, 0, 1.., _) => format!("{} Good practice suggests a change or two.", paint(SOUND, "It works.")),
        (0, 0, 0, 0, 1..) => "Nothing wrong was found, but not everything could be checked.".to_owned(),
        _ => paint(SOUND, "It works."),
    }
}

/// How much passed, and what the severities mean that were found.
pub(crate) fn last(review: &Review, width: usize) -> String {
    let mut words = severities(review).unwrap_or_default();
    words.push_str(if words.is_empty() { "" } else { " " });
    words.push_str(&passed(review));
    wrap(&words, width, 0).lines().map(|line| paint(QUIET, line) + "\n").collect()
}

fn severities(review: &Review) -> Option<String> {
    let found: Vec<String> = Severity::LISTED
        .into_iter()
        .filter(|s| review.count(*s) > 0)
        .map(|s| format!("{}: {}", s.word(), s.meaning()))
        .collect();
    (!found.is_empty()).then(|| format!("{}.", found.join(" · ")))
}

/// What is not shown, and how to see it.
fn rest(input: &Input<'_>, entries: &[Entry], shown: usize, width: usize) -> String {
    let left = &entries[shown..];
    let all = format!("All: mohm check {} --all", input.path);
    let mut first = String::new();
    if let (Some(from), Some(to)) = (left.first().and_then(|e| e.number), left.last().and_then(|e| e.number)) {
        let words: Vec<String> = Severity::LISTED
            .into_iter()
            .map(|s| (s, left.iter().filter(|e| e.worst == s).count()))
            .filter(|(_, n)| *n > 0)
            .map(|(s, n)| counted(n, s.word(), s.plural()))
            .collect();
        let range = if from == to { from.to_string() } else { format!("{from}-{to}") };
        first = format!("{range}: {}.  ", words.join(", "));
    }
    let code = entries.first().map_or("", |e| e.code);
    let about = format!("What it means: mohm about {code}");
    let fixed = entries.first().is_some_and(|e| !e.fixes.is_empty());
    let write = if fixed { format!("Write its fix: mohm fix {} 1.  ", input.path) } else { String::new() };
    let second = format!("One in full: --show 1.  {write}{about}");
    let second = if second.chars().count() <= width { second } else { format!("One in full: --show 1.  {about}") };
    format!("{}\n{}\n", paint(QUIET, &cut(&format!("{first}{all}"), width)), paint(QUIET, &cut(&second, width)))
}
