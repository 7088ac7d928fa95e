//! Every fix that is offered is applied to the text, read and reviewed in full: the finding is gone, or milder as stated,
//! and nothing as bad or worse is there that was not before.

use std::path::{Path, PathBuf};

use modest_ohm::checks::registry;
use modest_ohm::edit::apply;
use modest_ohm::findings::{Consequence, Effect, Fix};
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
    // What stands under the finding goes with every fix that is shown for it, or the fix says that it does not.
    let said = |c: &&Consequence| fix.brings.iter().any(|(_, code, subject)| *code == c.code && *subject == c.subject);
    let under = finding.also.iter().find(|c| worst(&is, c.code, &c.subject).is_some() && !said(c));
    if let Some(c) = under {
        return Some(format!("{} {} stands under it and is left", c.code, c.subject));
    }
    let bad = |s: Severity| s >= severity;
    let new = is.iter().find(|(code, subject, s)| {
        bad(*s) && *code != ON_VERDICTS && worst(&was, code, subject).is_none_or(|was| was < *s)
    });
    new.map(|(code, subject, s)| format!("brings {} {code} on {subject}", s.word()))
}

/// Codes of which no plan has a fix that ends the finding, each with the reason.
const WITHOUT: &[(&str, &str)] = &[
    ("bulk-capacitor", "the source itself dips: no capacitor that one can build bridges it"),
    ("enclosure-heat", "openings are not in the plan"),
    ("switch-bypassed", "which connection is meant is not in the plan"),
    ("battery-no-cutoff", "a cut-off that saves the cells also ends the runtime"),
    ("cable-unknown", "the length has to be measured"),
    ("wire-size-mismatch", "its plans have sizes that are not sold"),
    ("connector-mix-up", "connectors have to be marked or exchanged"),
    ("firmware-limit-too-low", "more light is the maker's choice"),
    ("frame-rate-low", "pixels have to be divided among lines"),
    ("firmware-differs", "the firmware or the plan is right"),
    ("stack-pin-conflict", "a pin of a stacked board has to be cut"),
    ("touch-voltage", "a supply of lower voltage suits none of the loads"),
    ("header-polarity", "two wires have to be exchanged"),
    ("figure-implausible", "the figure has to be looked up"),
    ("data-missing", "where the data comes from is not in the plan"),
    ("assumption-decides", "the figure has to be measured"),
];

#[test]
fn every_offered_fix_does_what_it_says() {
    let only = std::env::var("CODE").ok();
    let (mut offered, mut faults, mut without) = (0, Vec::new(), Vec::new());
    for check in registry().iter().filter(|c| only.as_deref().is_none_or(|code| c.code.starts_with(code))) {
        let mut is_fixed = false;
        for file in plans(check.code) {
            let review = Plan::from_toml(&std::fs::read_to_string(&file).unwrap()).unwrap().review().with_fixes();
            for finding in review.findings() {
                for fix in &finding.fixes {
                    offered += 1;
                    let words = format!("{}: {} {}: {}", file.display(), finding.code, finding.subject, fix.text());
                    if only.is_some() {
                        println!("{words}");
                    }
                    faults.extend(fault_of(&review, finding, fix).map(|fault| format!("{words}: {fault}")));
                }
                let is_own = finding.code == check.code || finding.also.iter().any(|c| c.code == check.code);
                is_fixed |= is_own && finding.fixes.iter().any(Fix::ends);
            }
        }
        if !is_fixed {
            without.push(check.code);
        }
    }
    assert!(faults.is_empty(), "{} fixes do not do what they say:\n{}", faults.len(), faults.join("\n"));
    if only.is_none() {
        assert!(offered > 600, "{offered}");
        let known: Vec<&str> = WITHOUT.iter().map(|(code, _)| *code).collect();
        assert_eq!(without, known, "codes without a fix");
        assert!(registry().len() - without.len() >= 95);
    }
}

/// Fixing all never makes a plan worse by the number of findings of any severity, and what it says it did is what the
/// text has.
#[test]
fn fixing_all_makes_nothing_worse() {
    let (mut tried, mut clean) = (0, 0);
    let files: Vec<PathBuf> = registry().iter().flat_map(|c| plans(c.code)).collect();
    for file in files.iter().step_by(3) {
        let review = Plan::from_toml(&std::fs::read_to_string(file).unwrap()).unwrap().review();
        let fixed = review.fix_all(&[], &mut |_| ());
        let mut text = review.plan().source().text().to_owned();
        for step in &fixed.steps {
            text = apply(&text, &step.fix.edits).unwrap();
        }
        assert_eq!(text, fixed.review.plan().source().text(), "{}", file.display());
        for severity in Severity::LISTED {
            let (before, after) = (review.count(severity), fixed.review.count(severity));
            assert!(after <= before, "{}: {after} {} after {before}", file.display(), severity.plural());
        }
        let open = fixed.review.findings().iter().filter(|f| f.accepted.is_none() && f.code != ON_VERDICTS);
        tried += 1;
        clean += usize::from(open.count() == 0);
    }
    // What is left are findings that no change of the plan ends: something to measure, to look up or to rewire by hand.
    assert!(2 * clean >= tried, "{clean} of {tried} end clean");
}
