//! Every fix that is offered is applied to the text, read and reviewed in full: the finding is gone, or milder as stated,
//! and nothing as bad or worse is there that was not before.

use std::path::{Path, PathBuf};

use modest_ohm::checks::registry;
use modest_ohm::edit::apply;
use modest_ohm::findings::{Effect, Fix};
use modest_ohm::{Finding, Plan, Review, Severity};

/// What fixes are not held to: it is one line on all that depends on assumed values, and changes with every verdict.
const ON_VERDICTS: &str = "assumption-decides";

fn plans(code: &str) -> Vec<PathBuf> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/plans").join(code);
    let mut files: Vec<PathBuf> = std::fs::read_dir(folder)
        .unwrap()
        .map(|e| e.unwrap().path())
        .filter(|p| p.file_name().unwrap().to_str().unwrap().starts_with("fires"))
        .collect();
    files.sort();
    files
}

/// Every finding, those under a cause too: code, part, severity.
fn lines(review: &Review) -> Vec<(&'static str, String, Severity)> {
    let open = review.findings().iter().filter(|f| f.accepted.is_none());
    open.flat_map(|f| {
        let own = (f.code, f.subject.clone(), f.severity);
        std::iter::once(own).chain(f.also.iter().map(|c| (c.code, c.subject.clone(), c.severity)))
    })
    .collect()
}

/// What is wrong with a fix.
fn fault_of(before: &Review, finding: &Finding, fix: &Fix) -> Option<String> {
    let text = match apply(before.plan().source().text(), &fix.edits) {
        Ok(text) => text,
        Err(e) => return Some(format!("cannot be applied: {e}")),
    };
    let after = match Plan::from_toml(&text) {
        Ok(plan) => plan.review(),
        Err(e) => return Some(format!("cannot be read: {e}")),
    };
    let (was, is) = (lines(before), lines(&after));
    let worst = |all: &[(&str, String, Severity)], code: &str, subject: &str| {
        all.iter().filter(|l| l.0 == code && l.1 == subject).map(|l| l.2).max()
    };
    let severity = worst(&was, finding.code, &finding.subject)?;
    let left = worst(&is, finding.code, &finding.subject);
    match (&fix.effect, left) {
        (Effect::Ends { .. }, Some(_)) => return Some("the finding is still there".into()),
        (Effect::Helps { severity: stated, .. }, Some(left)) if left != *stated => {
            return Some(format!("it is {} then, not {}", left.word(), stated.word()));
        }
        _ => {}
    }
    let bad = |s: Severity| s >= severity;
    let new = is.iter().find(|(code, subject, s)| {
        bad(*s) && *code != ON_VERDICTS && worst(&was, code, subject).is_none_or(|was| was < *s)
    });
    new.map(|(code, subject, s)| format!("brings {} {code} on {subject}", s.word()))
}

#[test]
fn every_offered_fix_does_what_it_says() {
    let only = std::env::var("CODE").ok();
    let (mut offered, mut with, mut faults, mut without) = (0, 0, Vec::new(), Vec::new());
    for check in registry().iter().filter(|c| only.as_deref().is_none_or(|code| c.code.starts_with(code))) {
        let files = plans(check.code);
        let mut fixed = 0;
        for file in &files {
            let review = Plan::from_toml(&std::fs::read_to_string(file).unwrap()).unwrap().review().with_fixes();
            let fixes = review.findings();
            for finding in fixes {
                for fix in &finding.fixes {
                    offered += 1;
                    if only.is_some() {
                        println!(
                            "{} {} {}: {} {:?}\n    {:?} {:?}",
                            file.file_name().unwrap().display(),
                            finding.code,
                            finding.subject,
                            fix.title,
                            fix.edits,
                            fix.effect,
                            fix.gone
                        );
                    }
                    if let Some(fault) = fault_of(&review, finding, fix) {
                        faults.push(format!(
                            "{}: {} {}: {} {:?}: {fault}",
                            file.display(),
                            finding.code,
                            finding.subject,
                            fix.title,
                            fix.edits
                        ));
                    }
                }
            }
            let own = fixes.iter().find(|f| f.code == check.code || f.also.iter().any(|c| c.code == check.code));
            let does = own.is_some_and(|own| own.fixes.iter().any(Fix::ends));
            if does {
                fixed += 1
            } else {
                without.push(format!("{}/{}", check.code, file.file_name().unwrap().display()))
            }
        }
        with += usize::from(fixed > 0);
        println!("{} {fixed} of {}", check.code, files.len());
    }
    for plan in &without {
        println!("- {plan}");
    }
    println!("{offered} fixes, {with} codes");
    for fault in &faults {
        println!("! {fault}");
    }
    assert!(faults.is_empty(), "{} fixes do not do what they say", faults.len());
}
