//! Plans with what the tool must answer, read from the binary: the plans of `tests/answers`, by topic.
//!
//! The head of a plan says it, line by line after `#:`.
//!
//! - `run: VERB ARGS` runs a command, `THIS` stands for the plan's path; without it `check` is run.
//! - `prints: /RE/`, `prints-not: /RE/`, `columns: N`: of what the last command prints, 80 columns wide.
//! - `number: PATH LOW .. HIGH`: of its JSON, `a.b[2].c`, or `list[name=lamp].x`.
//! - `says: CODE SUBJECT /RE/`, `says-not: …`: of messages and proposals of findings; `*` and alternatives as `a|b`.
//! - `reads`: the plan is read; `refuses: /RE/`: it is not, in these words.

use std::path::{Path, PathBuf};

use regex::Regex;
use serde_json::Value;

use crate::tool::{code, command, err, out};

/// What a line asks of an answer.
struct Asked<'l> {
    word: &'l str,
    rest: &'l str,
}

impl<'l> Asked<'l> {
    fn of(line: &'l str) -> Option<Self> {
        let line = line.strip_prefix("#:")?.trim();
        let (word, rest) = line.split_once(':').unwrap_or((line, ""));
        Some(Self { word, rest: rest.trim() })
    }

    fn pattern(&self) -> Regex {
        let text = self.rest.trim_start_matches(|c| c != '/').trim_matches('/');
        Regex::new(text).unwrap_or_else(|e| panic!("{}: {e}", self.rest))
    }
}

/// What the last command wrote.
struct Answer {
    ok: bool,
    printed: String,
    complained: String,
}

fn run(args: &[&str], plan: &Path) -> Answer {
    let path = plan.display().to_string();
    let args: Vec<&str> = args.iter().map(|a| if *a == "THIS" { path.as_str() } else { a }).collect();
    let output = command(&args).env("COLUMNS", "80").env("NO_COLOR", "1").output().unwrap();
    Answer { ok: code(&output) <= 1, printed: out(&output).replace(&path, "PLAN"), complained: err(&output) }
}

/// Words of a command, those in quotes together.
fn words(line: &str) -> Vec<&str> {
    let mut words = Vec::new();
    for (i, part) in line.split('"').enumerate() {
        if i % 2 == 1 { words.push(part) } else { words.extend(part.split_whitespace()) }
    }
    words
}

fn one_of(pattern: &str, word: &str) -> bool {
    pattern == "*" || pattern.split('|').any(|p| p == word)
}

/// The texts of the findings of some code on some subject.
fn told(check: &Value, code: &str, subject: &str) -> Vec<String> {
    let texts = |f: &Value| {
        let proposals = f["proposals"].as_array().unwrap().iter().map(|p| p["text"].as_str().unwrap().to_owned());
        std::iter::once(f["message"].as_str().unwrap().to_owned()).chain(proposals).collect::<Vec<_>>()
    };
    let findings = check["findings"].as_array().unwrap();
    let wanted =
        |f: &&Value| one_of(code, f["code"].as_str().unwrap()) && one_of(subject, f["subject"].as_str().unwrap_or("-"));
    findings.iter().filter(wanted).flat_map(texts).collect()
}

/// The values at `totals[scenario=worst].load_w`, or at `strips[*].lowest_v`.
fn at<'v>(value: &'v Value, path: &str) -> Vec<&'v Value> {
    let step = |value: &'v Value, step: &str| -> Vec<&'v Value> {
        let Some((key, rest)) = step.split_once('[') else { return vec![&value[step]] };
        let list = value[key].as_array().unwrap();
        match (rest.trim_end_matches(']'), rest.split_once('=')) {
            ("*", _) => list.iter().collect(),
            (pick, Some((key, _))) => {
                let word = pick.split_once('=').unwrap().1;
                list.iter().filter(|v| v[key] == word).collect()
            }
            (pick, None) => list.get(pick.parse::<usize>().unwrap()).into_iter().collect(),
        }
    };
    path.split('.').fold(vec![value], |values, next| values.into_iter().flat_map(|v| step(v, next)).collect())
}

fn within(answer: &Answer, asked: &str) -> bool {
    let json: Value = serde_json::from_str(&answer.printed).unwrap();
    let (path, range) = asked.split_once(' ').unwrap();
    let (low, high) = range.split_once("..").unwrap();
    let (low, high): (f64, f64) = (low.trim().parse().unwrap(), high.trim().parse().unwrap());
    at(&json, path).iter().any(|v| v.as_f64().is_some_and(|v| (low..=high).contains(&v)))
}

fn holds(asked: &Asked<'_>, plan: &Path, answer: &Answer, check: &Value) -> bool {
    let of_findings = || {
        let mut words = asked.rest.split_whitespace();
        let (code, subject) = (words.next().unwrap(), words.next().unwrap());
        let pattern = asked.pattern();
        told(check, code, subject).iter().any(|text| pattern.is_match(text))
    };
    match asked.word {
        "prints" => asked.pattern().is_match(&answer.printed),
        "prints-not" => answer.ok && !asked.pattern().is_match(&answer.printed),
        "columns" => answer.printed.lines().all(|l| l.chars().count() <= asked.rest.parse().unwrap()),
        "number" => within(answer, asked.rest),
        "says" => of_findings(),
        "says-not" => check["findings"].is_array() && !of_findings(),
        "reads" => check["findings"].is_array(),
        "refuses" => {
            let refused = run(&["check", "THIS"], plan);
            !refused.ok && asked.pattern().is_match(&refused.complained)
        }
        other => panic!("{}: `{other}` is no word of these heads", plan.display()),
    }
}

fn plans() -> Vec<PathBuf> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/answers");
    let inside = |folder: &Path| std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()).collect::<Vec<_>>();
    let mut plans: Vec<PathBuf> = inside(&folder).iter().flat_map(|topic| inside(topic)).collect();
    plans.sort();
    plans
}

#[test]
fn what_the_tool_answers_to_each_plan() {
    let (mut failed, mut asked) = (Vec::new(), 0);
    for plan in plans() {
        let text = std::fs::read_to_string(&plan).unwrap();
        let check = run(&["check", "--format", "json", "--fail-on", "never", "THIS"], &plan);
        let check: Value = serde_json::from_str(&check.printed).unwrap_or(Value::Null);
        let mut answer = run(&["check", "--fail-on", "never", "THIS"], &plan);
        let before = asked;
        for line in text.lines().filter_map(Asked::of) {
            if line.word == "run" {
                answer = run(&words(line.rest), &plan);
                continue;
            }
            asked += 1;
            if !holds(&line, &plan, &answer, &check) {
                failed.push(format!("{}: {}: {}", plan.display(), line.word, line.rest));
            }
        }
        assert!(asked > before, "{} asks nothing", plan.display());
    }
    assert!(failed.is_empty() && asked >= 40, "{asked} asked, of which fail:\n{}", failed.join("\n"));
}
