//! `fix`: shows the edits of a fix as changes of the user's own text, and writes them with consent.

use std::io::{BufRead, IsTerminal};

use modest_ohm::edit::apply;
use modest_ohm::fixes::FixStep;
use modest_ohm::{Finding, Plan, Review, Severity};
use modest_ohm_report::{Input, diff_text, fix_text, fixed_text};

use crate::args::{Fix, Format};
use crate::{files, output, plans};

/// Runs `fix`.
pub fn run(args: &Fix) -> u8 {
    if args.plan.as_os_str() == "-" {
        output::message("`fix` changes a file: name one");
        return output::UNREADABLE;
    }
    let (plan, bytes) = match plans::read_whole(&args.plan, Format::Text) {
        Ok(read) => read,
        Err(code) => return code,
    };
    let items = plan.items();
    if let Some(unknown) = args.keep.iter().find(|name| !items.contains(name)) {
        output::message(&format!("there is no `{unknown}` to keep: {}", output::nearest(unknown, &items)));
        return output::UNREADABLE;
    }
    match if args.all { all(args, &plan) } else { one(args, &plan) } {
        Ok(Some(fixed)) => offer(args, &bytes, &fixed),
        Ok(None) => output::FINE,
        Err(message) => {
            output::message(&message);
            output::UNREADABLE
        }
    }
}

/// The new text, and whether it leaves faults.
struct Fixed {
    before: String,
    after: String,
    /// True where all was to be fixed and a fault is left.
    leaves_faults: bool,
}

/// Fixes one finding after another; `None` where there is nothing to do.
fn all(args: &Fix, plan: &Plan) -> Result<Option<Fixed>, String> {
    let review = plan.review();
    let keep: Vec<&str> = args.keep.iter().map(String::as_str).collect();
    let shows = std::io::stderr().is_terminal();
    let mut progress = |step: &FixStep| {
        if shows {
            output::message(&format!("  {} {}", step.code, step.subject));
        }
    };
    let fixed = review.fix_all(&keep, &mut progress);
    let shown = args.plan.display().to_string();
    output::shown(&fixed_text(&Input { path: &shown }, &review, &fixed, output::layout()))?;
    let leaves_faults = [Severity::Danger, Severity::Fault].into_iter().any(|s| fixed.review.count(s) > 0);
    if fixed.steps.is_empty() {
        return Ok(None);
    }
    let after = fixed.review.plan().source().text().to_owned();
    Ok(Some(Fixed { before: plan.source().text().to_owned(), after, leaves_faults }))
}

/// Fixes one finding.
fn one(args: &Fix, plan: &Plan) -> Result<Option<Fixed>, String> {
    let keep: Vec<&str> = args.keep.iter().map(String::as_str).collect();
    let review = plan.review().with_fixes_but(&keep);
    let shown = args.plan.display().to_string();
    let Some((number, finding)) = chosen(&review, args.finding.as_deref())? else {
        output::result("nothing was found that a change of the plan would fix\n");
        return Ok(None);
    };
    let Some(fix) = finding.fixes.get(usize::from(args.choice) - 1) else {
        let (n, code) = (finding.fixes.len(), finding.code);
        return Err(match n {
            0 => {
                format!("no change that was tried fixes finding {number} ({code}): mohm check {shown} --show {number}")
            }
            _ => format!("finding {number} ({code}) has {n} fixes"),
        });
    };
    output::shown(&fix_text(&Input { path: &shown }, &review, number, finding, fix, output::layout()))?;
    let before = plan.source().text().to_owned();
    let after = apply(&before, &fix.edits).map_err(|e| e.to_string())?;
    Ok(Some(Fixed { before, after, leaves_faults: false }))
}

/// The finding that the user names, with its number; without a name the first that has a fix.
fn chosen<'r>(review: &'r Review, wanted: Option<&str>) -> Result<Option<(usize, &'r Finding)>, String> {
    let groups = review.finding_groups();
    let mut numbered = groups.iter().enumerate().map(|(i, group)| (i + 1, group.worst));
    let Some(wanted) = wanted else { return Ok(numbered.find(|(_, f)| !f.fixes.is_empty())) };
    let number = wanted.parse::<usize>().ok();
    match numbered.find(|(i, f)| Some(*i) == number || f.code == wanted) {
        Some((_, f)) if f.accepted.is_some() => Err(format!("finding `{wanted}` is accepted by the plan")),
        Some(found) => Ok(Some(found)),
        None => Err(format!("there is no finding `{wanted}`; this plan has findings 1 to {}", groups.len())),
    }
}

/// Shows the changes, asks, writes.
fn offer(args: &Fix, bytes: &[u8], fixed: &Fixed) -> u8 {
    let shown = args.plan.display().to_string();
    if let Err(message) = output::shown(&diff_text(&shown, &fixed.before, &fixed.after)) {
        output::message(&message);
        return output::UNREADABLE;
    }
    let left = if fixed.leaves_faults { output::FOUND } else { output::FINE };
    if args.dry_run {
        return left;
    }
    if !args.yes {
        if !std::io::stdin().is_terminal() {
            output::message("nothing written: standard input is no terminal to ask at; --yes writes without asking");
            return output::UNREADABLE;
        }
        if !agrees(&shown) {
            output::message("nothing written");
            return output::FOUND;
        }
    }
    // The mark that a reader skips is the file's own.
    let mark: &[u8] = if bytes.starts_with(b"\xef\xbb\xbf") { b"\xef\xbb\xbf" } else { b"" };
    let after = [mark, fixed.after.as_bytes()].concat();
    match files::replace(&args.plan, bytes, &after) {
        Ok(()) => {
            output::message(&format!("wrote {shown}"));
            left
        }
        Err(message) => {
            output::message(&message);
            output::UNREADABLE
        }
    }
}

fn agrees(file: &str) -> bool {
    output::message(&format!("Write {file}? Type y and Enter:"));
    let mut answer = String::new();
    let read = std::io::stdin().lock().read_line(&mut answer);
    read.is_ok() && ["y", "yes"].contains(&answer.trim().to_lowercase().as_str())
}
