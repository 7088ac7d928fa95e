//! The budget and the traces as people and programs read them: the tree of rails, what sums are made of, batteries,
//! why.

use modest_ohm::{Plan, Review, Select};
use modest_ohm_report::{Input, Layout, budget_json, budget_text, why_json, why_text};
use serde_json::Value;

const INPUT: Input<'static> = Input { path: "belfry.toml" };

/// A battery, a switch, a converter of 80 % with two loads, a board on USB.
const BELFRY: &str = "format = 1
title = \"Belfry\"
[supply.pack]
kind = \"battery\"
cell = \"li-ion-18650\"
series = 3
parallel = 2
cut-off = \"9 V\"
keyed = true
runtime = \"1 h\"
[switch.main]
from = \"pack\"
cable = { feed = \"0.1 Ω\", return = \"0.1 Ω\", ampacity = \"8 A\" }
current = \"6 A\"
resistance = \"0 Ω\"
[converter.five]
kind = \"buck\"
from = \"main\"
cable = { feed = \"0 Ω\", return = \"0 Ω\", ampacity = \"8 A\" }
output = \"5 V ± 0 %\"
current = \"3 A\"
efficiency = \"80 %\"
quiescent = \"0 W\"
[load.bell]
from = \"five\"
cable = \"0 m 12 AWG\"
current = \"1 A\"
idle = \"0.25 A\"
voltage = \"5 V\"
[load.lamp]
from = \"five\"
cable = \"0 m 12 AWG\"
current = \"0.6 A\"
voltage = \"5 V\"
";

fn review() -> Review {
    Plan::from_toml(BELFRY).unwrap().review()
}

fn plain(text: &str) -> String {
    let mut out = String::new();
    let mut rest = text;
    while let Some(at) = rest.find('\u{1b}') {
        out.push_str(&rest[..at]);
        rest = rest[at..].split_once('m').map_or("", |(_, after)| after);
    }
    out + rest
}

fn text(width: usize, select: &Select) -> String {
    plain(&budget_text(&review(), select, Layout { width, passed: false, rows: None }))
}

/// The row of a table that begins with a name, its cells by two blanks or more.
fn row(text: &str, name: &str) -> Vec<String> {
    let line =
        text.lines().find(|l| l.trim_start().starts_with(name)).unwrap_or_else(|| panic!("no {name} in\n{text}"));
    line.split("  ").map(str::trim).filter(|c| !c.is_empty()).map(str::to_owned).collect()
}

#[test]
fn rails_stand_under_what_feeds_them() {
    let text = text(110, &Select::default());
    let indent = |name: &str| {
        let line = text.lines().find(|l| l.trim_start().starts_with(name)).unwrap();
        line.len() - line.trim_start().len()
    };
    assert_eq!((indent("pack "), indent("main "), indent("five ")), (1, 3, 5));
    // idle, typical, worst, start; 3 A of limit; 1.6 A of it are 46.7 % of headroom.
    let five = row(&text, "five ");
    assert_eq!(five[2..6], ["250 mA", "1.6 A", "1.6 A", "1.6 A"]);
    assert_eq!(five[6..], ["3 A", "47 %"]);
    // The switch's own rating is the smallest of its way.
    assert_eq!(row(&text, "main ")[6], "6 A");
}

#[test]
fn sums_are_taken_apart() {
    let text = text(110, &Select::default());
    assert!(text.contains("five 1.6 A = bell 1 A + lamp 600 mA"), "{text}");
    // One part is no sum.
    assert!(!text.contains("pack 8") && !text.contains("main = "), "{text}");
}

/// 8 W from three cells of 3.75 V half full, 11.25 V, less 0.2 Ω and the cells' own.
#[test]
fn a_battery_has_a_row_for_every_scenario_in_which_it_gives() {
    let text = text(110, &Select::default());
    let batteries = text.split("Battery runtime from full charge").nth(1).unwrap();
    let scenarios: Vec<String> = batteries
        .lines()
        .filter(|l| l.trim_start().starts_with("pack"))
        .map(|l| l.split_whitespace().nth(1).unwrap().to_owned())
        .collect();
    assert_eq!(scenarios, ["idle", "typical", "worst"]);
    let json: Value = serde_json::from_str(&budget_json(&INPUT, &review(), &Select::default())).unwrap();
    let worst = json["batteries"].as_array().unwrap().iter().find(|b| b["scenario"] == "worst").unwrap();
    assert_eq!(worst["ends_by"], "cut-off");
    assert!(worst["first_to_stop"].is_null());
    // 5 Ah of about 11.3 V hold 56 Wh; 10 W and what the cable takes empty them in five and a half hours.
    let hours = worst["runtime_s"].as_f64().unwrap() / 3600.0;
    assert!((5.0..6.0).contains(&hours), "{hours}");
    let idle = json["batteries"].as_array().unwrap().iter().find(|b| b["scenario"] == "idle").unwrap();
    // 0.25 A against 1.6 A, and a little less lost on the way.
    let ratio = idle["runtime_s"].as_f64().unwrap() / worst["runtime_s"].as_f64().unwrap();
    assert!((1.0..1.08).contains(&(ratio / (1.6 / 0.25))), "{ratio}");
}

#[test]
fn one_scenario_and_one_corner() {
    let select = Select { scenario: Some("idle".into()), ..Select::default() };
    let text = text(110, &select);
    let heading = text.lines().find(|l| l.contains("lowest voltage")).unwrap();
    assert!(heading.contains("idle") && !heading.contains("typical"), "{text}");
    assert_eq!(row(&text, "five ")[2], "250 mA");
}

/// At any width nothing but the table's own rows is wider than it.
#[test]
fn the_budget_keeps_to_its_width() {
    for width in [80, 110, 200] {
        let text = text(width, &Select::default());
        let prose = text.lines().filter(|l| l.contains(' ') && !l.contains("  "));
        prose.for_each(|l| assert!(l.chars().count() <= width, "{width}: {l}"));
    }
}

#[test]
fn a_trace_is_a_tree_in_text_and_in_json() {
    let r = review();
    let traces = r.why("main").unwrap();
    let text = plain(&why_text(&INPUT, &traces, Layout { width: 110, passed: false, rows: None }));
    let lines: Vec<&str> = text.lines().collect();
    let at =
        |words: &str| lines.iter().position(|l| l.contains(words)).unwrap_or_else(|| panic!("no {words} in\n{text}"));
    // What a number is made of stands below it, deeper.
    let volts = at("voltage of main");
    assert!(lines[volts + 1].starts_with("  drop in the cable to main"), "{text}");
    assert!(lines[volts + 2].starts_with("    feed") && lines[volts + 2].contains("· 100 mΩ"), "{text}");
    assert!(text.contains("belfry.toml:13"), "{text}");
    let json: Value = serde_json::from_str(&why_json(&INPUT, "main", &traces)).unwrap();
    let found = json["traces"]
        .as_array()
        .unwrap()
        .iter()
        .find(|t| t["what"].as_str().unwrap().starts_with("voltage of main"))
        .unwrap();
    assert_eq!(found["from"][0]["from"][0]["what"], "feed");
    assert_eq!(found["from"][0]["line"], 13);
}
