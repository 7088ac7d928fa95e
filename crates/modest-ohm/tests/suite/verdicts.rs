//! Plans with the verdict that an engineer gives them: what `check` must say of each, and what it must not.
//!
//! `#: must: CODE SEVERITY SUBJECT` asks for a finding of its own, `(also ok)` lets it stand under another one; `#:
//! must-not:` allows none, with the severity `*` under no other either. Each of the three may be `*` or alternatives,
//! `fault|danger`.

use std::path::{Path, PathBuf};

use modest_ohm::{Finding, Plan};

fn one_of(pattern: &str, word: &str) -> bool {
    pattern == "*" || pattern.split('|').any(|p| p == word)
}

/// A line of a head: code, severity, subject.
struct Wish<'l> {
    code: &'l str,
    severity: &'l str,
    subject: &'l str,
}

impl<'l> Wish<'l> {
    fn read(line: &'l str) -> Self {
        let mut words = line.split_whitespace();
        let mut next = || words.next().unwrap_or_else(|| panic!("{line}: a code, a severity and a subject"));
        Self { code: next(), severity: next(), subject: next() }
    }

    fn stands(&self, findings: &[&Finding]) -> bool {
        let mut own = findings.iter();
        own.any(|f| {
            one_of(self.code, f.code) && one_of(self.severity, f.severity.word()) && one_of(self.subject, &f.subject)
        })
    }

    fn stands_under_another(&self, findings: &[&Finding]) -> bool {
        let mut also = findings.iter().flat_map(|f| &f.also);
        also.any(|c| one_of(self.code, c.code) && one_of(self.subject, &c.subject))
    }
}

fn plans() -> Vec<PathBuf> {
    let mut folders = vec![Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/verdicts")];
    let mut plans = Vec::new();
    while let Some(folder) = folders.pop() {
        for path in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if path.is_dir() { folders.push(path) } else { plans.push(path) }
        }
    }
    plans.sort();
    plans
}

#[test]
fn what_an_engineer_says_of_each_plan() {
    let (mut failed, mut wishes) = (Vec::new(), 0);
    for path in plans() {
        let text = std::fs::read_to_string(&path).unwrap();
        let name = path.display();
        let review = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{name}: {e}")).review();
        let findings: Vec<&Finding> = review.findings().iter().filter(|f| f.accepted.is_none()).collect();
        for line in text.lines().filter_map(|l| l.strip_prefix("#: ")) {
            wishes += 1;
            let holds = if let Some(line) = line.strip_prefix("must: ") {
                let wish = Wish::read(line);
                wish.stands(&findings) || (line.contains("(also ok)") && wish.stands_under_another(&findings))
            } else {
                let wish = Wish::read(line.strip_prefix("must-not: ").unwrap_or_else(|| panic!("{name}: {line}")));
                let under = wish.severity == "*" && wish.stands_under_another(&findings);
                !wish.stands(&findings) && !under
            };
            if !holds {
                let told: Vec<_> = findings.iter().map(|f| (f.severity.word(), f.code, f.subject.as_str())).collect();
                failed.push(format!("{name}: {line}; told: {told:?}"));
            }
        }
    }
    assert!(wishes >= 90, "only {wishes} lines were found");
    assert!(failed.is_empty(), "{failed:#?}");
}
