//! One fix for findings that are alike: the first fix of each, tried together.

use super::Search;
use super::bench::candidate::Candidate;
use super::bench::trial::Bench;
use super::{Fix, MOST};
use crate::findings::finding::Finding;
use crate::findings::fix::listed;
use crate::review::Review;
use crate::verdict::severity::Severity;

/// Where a finding stands for others of its check, its fixes are those that end all of them, if there is one.
pub(super) fn of_alike(bench: &Bench, head: &mut Finding) {
    let own =
        |code: &str, subject: &str| bench.found().findings.iter().find(|f| f.code == code && f.subject == subject);
    let alike = head.also.iter().filter(|c| c.code == head.code);
    let others: Vec<&Finding> = alike.filter_map(|c| own(c.code, &c.subject)).collect();
    if others.is_empty() || head.fixes.is_empty() {
        return;
    }
    let ends_all = |fix: &Fix| others.iter().all(|f| fix.removes(f.code, &f.subject));
    if head.fixes.iter().any(ends_all) {
        head.fixes.retain(ends_all);
        return;
    }
    let first = |f: &&Finding| Search::new(bench, f).fixes().into_iter().next();
    let rest: Vec<(&Finding, Option<Fix>)> = others.iter().map(|f| (*f, first(f))).collect();
    let fixes: Vec<Fix> = head.fixes.iter().filter_map(|first| combined(bench, head, first, &rest)).collect();
    if !fixes.is_empty() {
        head.fixes = fixes;
    }
}

/// Puts a fix for all of them before those of the worst, where several findings are one group.
pub(super) fn of_groups(bench: &Bench, review: &mut Review) {
    let groups = review.finding_groups();
    let several = groups.iter().filter(|g| g.findings.len() > 1 && g.worst.accepted.is_none());
    let fix_of = |worst: &Finding, all: &[&Finding]| {
        let others = all.iter().filter(|f| f.subject != worst.subject || f.code != worst.code);
        let rest: Vec<(&Finding, Option<Fix>)> = others.map(|f| (*f, f.fixes.first().cloned())).collect();
        if worst.fixes.iter().any(|fix| rest.iter().all(|(f, _)| fix.removes(f.code, &f.subject))) {
            return None;
        }
        combined(bench, worst, worst.fixes.first()?, &rest)
    };
    let found: Vec<(&'static str, String, Fix)> =
        several.filter_map(|g| Some((g.worst.code, g.worst.subject.clone(), fix_of(g.worst, &g.findings)?))).collect();
    for (code, subject, fix) in found {
        let worst = review.findings.iter_mut().find(|f| f.code == code && f.subject == subject);
        if let Some(worst) = worst {
            worst.fixes.insert(0, fix);
            worst.fixes.truncate(MOST);
        }
    }
}

/// The first fix of each as one that ends all, and what the first one ends beside; `None` where two of them write
/// different values in one place, or it is no fix.
fn combined(bench: &Bench, head: &Finding, first: &Fix, rest: &[(&Finding, Option<Fix>)]) -> Option<Fix> {
    if !first.ends() {
        return None;
    }
    let mut edits = first.edits.clone();
    let mut names: Vec<String> = Vec::new();
    for (f, fix) in rest.iter().filter(|(f, _)| !first.removes(f.code, &f.subject)) {
        let fix = fix.as_ref().filter(|fix| fix.ends())?;
        for edit in &fix.edits {
            match edits.iter().find(|known| known.path == edit.path) {
                Some(known) if known.value != edit.value => return None,
                Some(_) => {}
                None => edits.push(edit.clone()),
            }
        }
        names.push(format!("`{}`", f.subject));
    }
    let title = format!("{}; likewise for {}", first.title, listed(&names));
    let tried = bench.attempt(head, &Candidate::new(title, edits))?;
    let brings_no_more = tried.worse.is_empty() && tried.milder.iter().all(|g| g.severity < Severity::Fault);
    let ends_all = rest.iter().all(|(f, _)| tried.fix.removes(f.code, &f.subject));
    let ends_under =
        head.also.iter().all(|c| !first.removes(c.code, &c.subject) || tried.fix.removes(c.code, &c.subject));
    (tried.fix.ends() && brings_no_more && ends_all && ends_under).then_some(tried.fix)
}
