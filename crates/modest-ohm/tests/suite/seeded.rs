//! Mistakes that makers make, put into sound plans: a supply that is too small, a wire too thin, a fuse forgotten, a diode
//! the wrong way. Fixing all of the plan ends what one mistake brought, and never leaves more findings of any severity.

use std::path::{Path, PathBuf};

use crate::common::Dice;
use modest_ohm::edit::{Edit, apply};
use modest_ohm::{Finding, Plan, Review, Severity};

/// What is one line on all that depends on assumed values, and changes with every verdict.
const ON_VERDICTS: &str = "assumption-decides";

/// The clean plan of every check, and the sound ones that ship.
fn sound_plans() -> Vec<PathBuf> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    let of_checks = std::fs::read_dir(root.join("tests/plans")).unwrap().map(|e| e.unwrap().path().join("clean.toml"));
    let shipped = ["clock-tower", "ferry-landing", "harbour-diorama", "orchard-gate", "planetarium", "puppet-stage"];
    let shipped = shipped.map(|name| root.join(format!("../../plans/{name}.toml")));
    let mut files: Vec<PathBuf> = of_checks.chain(shipped).filter(|p| p.exists()).collect();
    files.sort();
    files
}

/// One line of a plan: the item that it belongs to, its key and its value.
struct Line<'t> {
    item: String,
    key: &'t str,
    value: &'t str,
}

/// The plain lines `key = value` of a plan's tables.
fn lines(text: &str) -> Vec<Line<'_>> {
    let mut item = String::new();
    let mut lines = Vec::new();
    for line in text.lines() {
        if let Some(head) = line.strip_prefix('[').and_then(|l| l.split(']').next()) {
            item = head.trim_start_matches('[').to_owned();
        } else if let Some((key, value)) = line.split_once(" = ")
            && key.chars().all(|c| c.is_ascii_alphanumeric() || c == '-')
            && item.matches('.').count() == 1
        {
            lines.push(Line { item: item.clone(), key, value: value.trim() });
        }
    }
    lines
}

/// A quoted number with its unit, multiplied.
fn scaled(value: &str, factor: f64) -> Option<String> {
    let text = value.strip_prefix('"')?.strip_suffix('"')?;
    let (number, unit) = text.split_once(' ')?;
    let number: f64 = number.parse().ok()?;
    (!unit.contains("..")).then(|| format!("\"{} {unit}\"", (number * factor * 1e4).round() / 1e4))
}

/// A cable of another size.
fn resized(value: &str, size: &str) -> Option<String> {
    let text = value.strip_prefix('"')?.strip_suffix('"')?;
    let length = text.split(" m ").next().filter(|_| text.contains(" m "))?;
    Some(format!("\"{length} m {size}\""))
}

/// The mistakes that one line can have.
fn mistakes(line: &Line<'_>) -> Vec<Edit> {
    let path = format!("{}.{}", line.item, line.key);
    let kind = line.item.split('.').next().unwrap_or_default();
    let set = |value: Option<String>| value.map(|v| Edit::set(path.clone(), v)).into_iter().collect::<Vec<_>>();
    match (kind, line.key) {
        ("supply" | "converter", "current") => set(scaled(line.value, 0.4)),
        ("supply", "voltage") => [scaled(line.value, 0.4), scaled(line.value, 2.4)].into_iter().flat_map(set).collect(),
        ("converter", "output") => set(scaled(line.value, 1.5)),
        (_, "cable") => ["30 AWG", "26 AWG"].iter().flat_map(|size| set(resized(line.value, size))).collect(),
        (_, "fuse") => {
            let mut all = set(scaled(line.value, 4.0));
            all.extend(set(scaled(line.value, 0.25)));
            all.push(Edit::remove(path.clone()));
            all
        }
        (_, "flyback" | "pull-down" | "pull-up" | "pull" | "series" | "firmware-limit" | "keyed" | "soft-start") => {
            vec![Edit::remove(path)]
        }
        (_, "resistor" | "base-resistor") => {
            [scaled(line.value, 0.1), scaled(line.value, 20.0)].into_iter().flat_map(set).collect()
        }
        ("strip", "length") => set(scaled(line.value, 2.5)),
        ("load" | "motor" | "pump", "current" | "stall" | "surge") => set(scaled(line.value, 3.0)),
        ("diode", "cathode") => vec![Edit::remove(path)],
        ("capacitor", "voltage") => set(scaled(line.value, 0.3)),
        _ => Vec::new(),
    }
}

/// What is found, those under a cause too, but for the line on assumed values.
fn found(review: &Review) -> Vec<(&'static str, String)> {
    let open = review.findings().iter().filter(|f| f.accepted.is_none() && f.code != ON_VERDICTS);
    let all = |f: &Finding| {
        let under = f.also.iter().map(|c| (c.code, c.subject.clone()));
        std::iter::once((f.code, f.subject.clone())).chain(under).collect::<Vec<_>>()
    };
    open.flat_map(all).collect()
}

/// A plan with mistakes in it, which can be read and has findings above advice that the sound plan does not have.
fn seeded(text: &str, edits: &[Edit], sound: &Review) -> Option<Review> {
    let review = Plan::from_toml(&apply(text, edits).ok()?).ok()?.review();
    let more = |s: Severity| review.count(s) > sound.count(s);
    [Severity::Danger, Severity::Fault, Severity::Caution].into_iter().any(more).then_some(review)
}

/// Never more findings of any severity.
fn is_no_worse(before: &Review, after: &Review) {
    for severity in Severity::LISTED {
        let (was, is) = (before.count(severity), after.count(severity));
        assert!(is <= was, "{is} {} after {was}\n{}", severity.plural(), before.plan().source().text());
    }
}

#[test]
fn one_mistake_in_a_sound_plan_ends_clean() {
    let (mut tried, mut clean, mut open) = (0, 0, Vec::new());
    let every: usize = std::env::var("EVERY").ok().and_then(|n| n.parse().ok()).unwrap_or(12);
    let mut at = 0;
    for file in sound_plans() {
        let text = std::fs::read_to_string(&file).unwrap();
        let sound = Plan::from_toml(&text).unwrap().review();
        for edit in lines(&text).iter().flat_map(mistakes) {
            at += 1;
            if at % every != 0 {
                continue;
            }
            let Some(before) = seeded(&text, std::slice::from_ref(&edit), &sound) else { continue };
            let fixed = before.fix_all(&[], &mut |_| ());
            is_no_worse(&before, &fixed.review);
            tried += 1;
            let own = found(&sound);
            let left: Vec<_> = found(&fixed.review).into_iter().filter(|f| !own.contains(f)).collect();
            clean += usize::from(left.is_empty());
            if !left.is_empty() {
                let name = file.strip_prefix(env!("CARGO_MANIFEST_DIR")).unwrap_or(&file).display().to_string();
                open.push(format!("{name}: {} = {:?}: {left:?}", edit.path, edit.value));
            }
        }
    }
    println!("{clean} of {tried}\n{}", open.join("\n"));
    assert!(tried >= 40 && 10 * clean >= 9 * tried, "{clean} of {tried} end clean:\n{}", open.join("\n"));
}

#[test]
fn several_mistakes_are_never_made_worse() {
    let mut dice = Dice(0x5eed_0021 | 1);
    let files = sound_plans();
    let mut tried = 0;
    while tried < 25 {
        let text = std::fs::read_to_string(&files[dice.within(0, files.len())]).unwrap();
        let all: Vec<Edit> = lines(&text).iter().flat_map(mistakes).collect();
        let mut edits: Vec<Edit> = Vec::new();
        for _ in 0..dice.within(2, 6) {
            if all.is_empty() {
                break;
            }
            let edit = &all[dice.within(0, all.len())];
            if edits.iter().all(|known| known.path != edit.path) {
                edits.push(edit.clone());
            }
        }
        let sound = Plan::from_toml(&text).unwrap().review();
        let Some(before) = seeded(&text, &edits, &sound) else { continue };
        tried += 1;
        let after = before.fix_all(&[], &mut |_| ()).review;
        is_no_worse(&before, &after);
        let grave = |r: &Review| r.count(Severity::Danger) + r.count(Severity::Fault);
        assert!(after.findings().is_empty() || grave(&after) <= grave(&before));
    }
}
