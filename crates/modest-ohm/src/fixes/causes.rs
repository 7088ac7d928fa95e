//! What stands under a finding once its fixes are known: only what every fix shown for it removes.

use rayon::prelude::*;

use super::Search;
use super::bench::trial::Bench;
use super::together;
use crate::findings::finding::{Consequence, Finding};
use crate::findings::fix::Fix;
use crate::verdict::severity::Severity;

/// Looks for the fixes of each finding. What stands under one, and is left by one of its fixes, comes out and is listed
/// by itself, with fixes of its own.
pub(super) fn fixed(bench: &Bench, open: Vec<Finding>) -> Vec<Finding> {
    let fix = |mut f: Finding| {
        // No value is guessed to decide what is not known.
        if f.severity == Severity::Unknown {
            return f;
        }
        let found = Search::new(bench, &f).found();
        (f.fixes, f.obstacle) = (found.fixes, found.obstacle);
        together::of_alike(bench, &mut f);
        f
    };
    let mut heads: Vec<Finding> = open.into_par_iter().map(fix).collect();
    let left: Vec<Vec<Finding>> = heads.iter_mut().map(|head| let_go(bench, head)).collect();
    for left in left.into_iter().filter(|left| !left.is_empty()) {
        let alone: Vec<Finding> = left.into_par_iter().map(fix).collect();
        heads.extend(gathered(alone));
    }
    heads
}

/// Whether every fix shown removes it; where none is known nothing says that it is another matter.
fn removes(head: &Finding, code: &str, subject: &str) -> bool {
    head.fixes.iter().all(|fix| fix.removes(code, subject))
}

/// Takes out what a fix of the head leaves.
fn let_go(bench: &Bench, head: &mut Finding) -> Vec<Finding> {
    let own = |c: &Consequence| {
        let same = bench.found().findings.iter().filter(|f| f.code == c.code && f.subject == c.subject);
        same.max_by_key(|f| f.severity)
    };
    // What the check itself puts under it has no finding of its own: a fix that leaves it says so,
    // and is no offer beside one that does not.
    let declared: Vec<Consequence> = head.also.iter().filter(|c| own(c).is_none()).cloned().collect();
    let ends_declared = |fix: &Fix| fix.ends() && declared.iter().all(|c| fix.removes(c.code, &c.subject));
    if head.fixes.iter().any(ends_declared) {
        head.fixes.retain(|fix| !fix.ends() || ends_declared(fix));
    }
    // Beside one that ends all, what only helps and leaves some of it is no offer.
    let ends_all = |fix: &Fix| head.also.iter().all(|c| fix.removes(c.code, &c.subject));
    if head.fixes.iter().any(|fix| fix.ends() && ends_all(fix)) {
        let also = head.also.clone();
        head.fixes.retain(|fix| fix.ends() || also.iter().all(|c| fix.removes(c.code, &c.subject)));
    }
    let mut left: Vec<Finding> = Vec::new();
    for c in std::mem::take(&mut head.also) {
        match own(&c) {
            Some(own) if !removes(head, c.code, &c.subject) => left.push(own.clone()),
            _ => head.also.push(c),
        }
    }
    left
}

/// What came out from under one head, worst first; what all fixes of one remove stands under that.
fn gathered(mut alone: Vec<Finding>) -> Vec<Finding> {
    alone.sort_by_key(|f| std::cmp::Reverse(f.severity));
    let mut heads: Vec<Finding> = Vec::new();
    for f in alone {
        let is_under = |head: &&mut Finding| !head.fixes.is_empty() && removes(head, f.code, &f.subject);
        match heads.iter_mut().find(is_under) {
            Some(head) => head.also.extend(Consequence::all_of(f)),
            None => heads.push(f),
        }
    }
    heads
}

/// Notes with each finding the first one, as severe or more, whose first fix ends it too; of two that end each other the
/// later one.
pub(super) fn note_shared(findings: &mut [Finding]) {
    let first_ends = |head: &Finding, f: &Finding| {
        head.fixes.first().is_some_and(|fix| fix.ends() && fix.removes(f.code, &f.subject))
    };
    let of = |i: usize, f: &Finding| {
        let mut heads = findings.iter().enumerate().filter(|(_, head)| head.accepted.is_none());
        let found = heads.find(|(at, head)| {
            *at != i && head.worst() >= f.worst() && first_ends(head, f) && (*at < i || !first_ends(f, head))
        });
        found.map(|(_, head)| (head.code, head.subject.clone()))
    };
    let notes: Vec<_> = findings.iter().enumerate().map(|(i, f)| of(i, f)).collect();
    for (f, note) in findings.iter_mut().zip(notes).filter(|(f, _)| f.accepted.is_none()) {
        f.goes_with = note;
    }
}
