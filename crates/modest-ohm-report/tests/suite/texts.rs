//! What the renderers make of a review: nothing lost, nothing decided, the same in text and JSON.

use modest_ohm::catalogue::classes;
use modest_ohm::checks::registry;
use modest_ohm::{Corner, Plan, Review, Select, Severity};
use modest_ohm_report::{
    Input, Layout, about_text, budget_json, budget_text, catalogue_text, check_json, check_terse, check_text,
    codes_text, drop_json, drop_text, finding_text, problems_json, problems_text,
};
use serde_json::Value;

const PLAN: &str = "format = 1
title = \"Planetarium\"
[supply.wall]
kind = \"adapter\"
voltage = \"12 V\"
current = \"8 A\"
[converter.five]
kind = \"buck\"
from = \"wall\"
cable = \"0.5 m 18 AWG\"
output = \"5 V\"
current = \"3 A\"
[strip.horizon]
part = \"pixel-5v-rgb\"
from = \"five\"
cable = \"0.3 m 20 AWG\"
length = \"1 m\"
pixels = \"60 /m\"
[load.motor]
from = \"wall\"
cable = \"4 m 24 AWG\"
count = 2
current = \"0.5 A\"
surge = \"1.5 A\"
voltage = \"12 V\"
[load.lamp]
from = \"wall\"
current = \"0.6 A\"
[[accept]]
code = \"voltage-drop\"
on = \"motor\"
because = \"it turns once an hour\"
";

const INPUT: Input<'static> = Input { path: "planetarium.toml" };

fn review() -> Review {
    Plan::from_toml(PLAN).unwrap().review()
}

fn layout(width: usize) -> Layout {
    Layout { width, passed: false, rows: None }
}

/// The text without its styles.
pub fn plain(text: &str) -> String {
    let mut out = String::new();
    let mut rest = text;
    while let Some(at) = rest.find('\u{1b}') {
        out.push_str(&rest[..at]);
        rest = &rest[at..];
        rest = &rest[rest.find('m').unwrap() + 1..];
    }
    out + rest
}

#[test]
fn every_finding_is_told_with_its_fixes_and_its_place() {
    let review = review().with_fixes();
    let text = plain(&check_text(&INPUT, &review, layout(4000)));
    assert!(review.findings().len() >= 4, "{text}");
    for f in review.findings() {
        assert!(text.contains(&f.message), "{}", f.message);
        assert!(text.contains(f.code) && text.contains(&f.severity.word().to_uppercase()));
        for fix in &f.fixes {
            assert!(text.contains(&format!("→ {}", review.in_short(&fix.text()))), "{}", fix.text());
        }
        for task in f.tasks.iter().filter(|_| f.fixes.is_empty()) {
            assert!(text.contains(&format!("· {task}")), "{task}");
        }
        let place = review.plan().source().place(f.span.unwrap().start);
        assert!(text.contains(&format!("planetarium.toml:{}:{}", place.line, place.column)));
    }
    assert!(text.contains("(accepted)") && text.contains("accepted: it turns once an hour"));
    // The worst first, accepted ones last.
    let order = |word: &str| text.find(&format!("{word}  ")).unwrap_or(usize::MAX);
    assert!(order("DANGER") < order("UNKNOWN"));
}

#[test]
fn the_verdict_counts_what_is_listed() {
    let review = review();
    let text = plain(&check_text(&INPUT, &review, layout(110)));
    let line = text.lines().nth(1).unwrap();
    for severity in Severity::LISTED {
        let n = review.count(severity);
        let word = if n == 1 { severity.word() } else { severity.plural() };
        assert_eq!(n > 0, line.contains(&format!("{n} {word}")), "{line}");
    }
    assert!(line.contains("1 accepted"), "{line}");
    let all = text.split_whitespace().collect::<Vec<_>>().join(" ");
    assert!(
        all.contains(&format!("{} checks passed (5 scenarios × 4 tolerance corners)", review.passed().len())),
        "{all}"
    );
}

/// Twelve equal lines on one supply: the first screen has the verdict, the counts, each matter once, and how to go on.
#[test]
fn the_first_screen_of_a_large_plan() {
    let mut text = "format = 1\ntitle = \"Ferry landing\"\n[supply.psu]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"30 A\"\n".to_owned();
    for n in 1..=12 {
        text.push_str(&format!(
            "[strip.lane-{n}]\npart = \"pixel-12v-rgb-threes\"\nfrom = \"psu\"\ncable = \"{} m 16 AWG\"\nlength = \"5 m\"\npixels = \"20 /m\"\n",
            0.5 + 0.1 * f64::from(n)
        ));
    }
    let review = Plan::from_toml(&text).unwrap().review().with_fixes();
    assert!(review.findings().len() > 12, "{}", review.findings().len());
    let groups = review.finding_groups();
    assert!(groups.len() < 10, "{}", groups.len());
    assert_eq!(groups.iter().map(|g| g.findings.len()).sum::<usize>(), review.findings().len(), "nothing is lost");
    for width in [60, 80, 120] {
        let screen = plain(&check_text(&INPUT, &review, Layout { width, passed: false, rows: Some(23) }));
        let lines: Vec<&str> = screen.lines().collect();
        assert!(lines.len() <= 23, "{}\n{screen}", lines.len());
        assert!(lines.iter().all(|l| l.chars().count() <= width), "{width}\n{screen}");
        for words in
            ["Ferry landing", "findings:", "Do not power on.", "1 ", "DANGER", "→ ", "alike", "--all", "mohm about "]
        {
            assert!(screen.contains(words), "{words}\n{screen}");
        }
    }
    let all = plain(&check_text(&INPUT, &review, layout(80)));
    for group in &groups {
        assert!(all.contains(group.worst.code), "{all}");
    }
}

/// One in full says what it means; one line each is what it says.
#[test]
fn a_finding_in_full_and_all_of_them_tersely() {
    let review = review();
    let first = review.finding_groups()[0].worst.clone();
    let by_number = plain(&finding_text(&INPUT, &review, "1", layout(80)).unwrap());
    let by_code = plain(&finding_text(&INPUT, &review, first.code, layout(80)).unwrap());
    assert_eq!(by_number, by_code);
    assert!(by_number.contains(&format!("mohm about {}", first.code)), "{by_number}");
    assert!(finding_text(&INPUT, &review, "99", layout(80)).is_none());
    let terse = plain(&check_terse(&INPUT, &review));
    let open = review.findings().iter().filter(|f| f.accepted.is_none());
    for f in open {
        assert!(terse.contains(&format!("{} {} {}: {}", f.severity.word(), f.code, f.subject, f.message)), "{terse}");
    }
}

#[test]
fn lines_keep_to_the_width() {
    let review = review();
    for width in [60, 80, 100, 120] {
        for line in plain(&check_text(&INPUT, &review, layout(width))).lines() {
            // A single word may be longer than the line.
            let words = line.split_whitespace().count();
            assert!(line.chars().count() <= width || words < 4, "{width}: {line}");
        }
    }
    let passed = plain(&check_text(&INPUT, &review, Layout { width: 100, passed: true, rows: None }));
    assert_eq!(passed.matches("passed   ").count(), review.passed().len());
}

#[test]
fn json_and_text_hold_the_same() {
    let review = review().with_fixes();
    let json: Value = serde_json::from_str(&check_json(&INPUT, &review, true)).unwrap();
    let findings = json["findings"].as_array().unwrap();
    assert_eq!(findings.len(), review.findings().len());
    for (shape, f) in findings.iter().zip(review.findings()) {
        assert_eq!(shape["code"], f.code);
        assert_eq!(shape["message"], f.message);
        assert_eq!(shape["accepted"], f.accepted.is_some());
        let kinds = |kind: &str| shape["proposals"].as_array().unwrap().iter().filter(|p| p["kind"] == kind).count();
        assert_eq!((kinds("fix"), kinds("task")), (f.fixes.len(), f.tasks.len()));
        assert_eq!(shape["evidence"].as_array().unwrap().len(), f.evidence.len());
        for (e, want) in shape["evidence"].as_array().unwrap().iter().zip(&f.evidence) {
            assert!((e["value"].as_f64().unwrap() - want.value).abs() <= 1e-12 * want.value.abs());
            assert_eq!(e["origin"], want.origin.word());
        }
    }
    assert_eq!(json["summary"]["accepted"], 1);
    assert_eq!(json["passed"].as_array().unwrap().len(), review.passed().len());
}

#[test]
fn tables_have_a_row_for_everything() {
    let review = review();
    let select = Select::default();
    let budget = plain(&budget_text(&review, &select, layout(120)));
    for name in ["wall", "five", "surge of motor", "Converters", "horizon.inject[0]"] {
        assert!(budget.contains(name), "{name}\n{budget}");
    }
    let drop = plain(&drop_text(&review, &select, layout(120)));
    for name in ["horizon", "motor.1", "motor.2", "lamp", "lowest", "bars start at"] {
        assert!(drop.contains(name), "{name}\n{drop}");
    }
    let one = Select { scenario: Some("worst".into()), corner: Some(Corner::Hot), ..Select::default() };
    let json: Value = serde_json::from_str(&budget_json(&INPUT, &review, &one)).unwrap();
    assert_eq!(json["nodes"].as_array().unwrap().len(), 2);
    assert!(json["nodes"].as_array().unwrap().iter().all(|n| n["corner"] == "hot" && n["scenario"] == "worst"));
    let json: Value = serde_json::from_str(&drop_json(&INPUT, &review, &one)).unwrap();
    assert_eq!(json["strips"][0]["profile"].as_array().unwrap().len(), 60);
    assert_eq!(json["loads"].as_array().unwrap().len(), 3);
}

/// A feed that collapses has no voltage: said in words, null in JSON, and nothing invented.
#[test]
fn a_collapse_has_no_numbers() {
    let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"50 A\"\n[load.p]\nfrom = \"wall\"\n\
                cable = \"20 m 24 AWG\"\npower = \"40 W\"\nvoltage = \"12 V\"\n";
    let review = Plan::from_toml(text).unwrap().review();
    let select = Select::default();
    let budget = plain(&budget_text(&review, &select, layout(120)));
    // Lowest voltage, *typical*, *worst*, *start* and headroom: what *idle* leaves would be no comfort.
    let wall = budget.lines().find(|l| l.trim_start().starts_with("wall")).unwrap();
    assert_eq!(wall.matches("collapses").count(), 5, "{budget}");
    assert!(!wall.contains('%'), "{budget}");
    let json: Value = serde_json::from_str(&budget_json(&INPUT, &review, &select)).unwrap();
    let worst = json["nodes"].as_array().unwrap().iter().find(|n| n["scenario"] == "worst").unwrap();
    assert!(worst["voltage_v"].is_null() && worst["demand_a"].is_null() && worst["headroom"].is_null(), "{worst}");
    assert_eq!(worst["limit_a"], 50.0);
    let feed = json["feed"].as_array().unwrap().iter().find(|n| n["scenario"] == "worst").unwrap();
    assert_eq!(feed["has_solution"], false);
    let drop = plain(&drop_text(&review, &select, layout(120)));
    assert!(!drop.contains("NaN") && !drop.contains("inf"), "{drop}");
}

#[test]
fn problems_are_underlined_where_they_are() {
    let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 Volt\"\n[load.wall]\nfrom = \"wall\"\ncurrent = \"1 A\"\n";
    let errors = Plan::from_toml(text).unwrap_err();
    let shown = plain(&problems_text(&INPUT, &errors, 100));
    for words in ["line 4: ", "`Volt` is not a unit of voltage", "used twice", "first used here", "2 errors"] {
        assert!(shown.contains(words), "{words}\n{shown}");
    }
    let json: Value = serde_json::from_str(&problems_json(&INPUT, &errors)).unwrap();
    assert_eq!((json["problems"][0]["line"].as_u64(), json["problems"][0]["column"].as_u64()), (Some(4), Some(14)));
    // A mistake at the very end, one without a place, and a great many.
    for text in ["format = 1\nx = ", "", "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n[load.a]"] {
        let errors = Plan::from_toml(text).unwrap_err();
        assert!(!plain(&problems_text(&INPUT, &errors, 80)).is_empty());
    }
    let many: String = (0..200).map(|i| format!("[load.l{i}]\nfrom = \"wal\"\ncurrent = \"1 A\"\n")).collect();
    let errors = Plan::from_toml(&format!("format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n{many}"))
        .unwrap_err();
    let shown = plain(&problems_text(&INPUT, &errors, 100));
    assert!(shown.contains("… and 140 more") && shown.contains("200 errors"), "{shown}");
}

/// Escape sequences of a plan's text do not reach the terminal.
#[test]
fn a_plan_cannot_steer_the_terminal() {
    let text = "format = 1\n[supply.wall]\nkind = \"\\u001b[31mred\"\nvoltage = \"5 V\"\n";
    let errors = Plan::from_toml(text).unwrap_err();
    assert!(!plain(&problems_text(&INPUT, &errors, 100)).contains('\u{1b}'));
    assert!(!problems_text(&INPUT, &errors, 100).contains("\u{1b}[31mred"));
    let accepted = PLAN.replace("it turns once an hour", "\\u001b]0;title\\u0007");
    let errors = Plan::from_toml(&accepted).unwrap_err();
    assert_eq!(errors.source.slice(errors.problems[0].span.unwrap()), "\"\\u001b]0;title\\u0007\"");
    // A sentence may have several lines, and is shown on one.
    let accepted = PLAN.replace("it turns once an hour", "it turns\\nonce an hour");
    let review = Plan::from_toml(&accepted).unwrap().review();
    assert!(plain(&check_text(&INPUT, &review, layout(100))).contains("accepted: it turns once an hour"));
}

#[test]
fn every_check_and_class_has_its_page() {
    for check in registry() {
        let text = plain(&about_text(check, 80));
        assert!(text.starts_with(check.code) && text.contains(check.severities[0].word()));
        // Nothing of the long text is lost in breaking it anew.
        let words = |t: &str| t.split_whitespace().filter(|w| *w != "##").map(str::to_owned).collect::<Vec<_>>();
        let shown = words(text.split("\n\n").skip(1).collect::<Vec<_>>().join("\n\n").as_str());
        assert_eq!(shown, words(check.about), "{}", check.code);
    }
    let list = plain(&codes_text(100));
    assert!(registry().iter().all(|c| list.contains(c.code)));
    let classes = classes();
    let text = plain(&catalogue_text(&classes, 100));
    assert!(classes.iter().all(|c| text.contains(&c.name) && !c.source.is_empty() && !c.title.is_empty()));
}
