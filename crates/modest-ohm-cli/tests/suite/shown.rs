//! What the tool prints, as a whole: tables, answers and long help, on the shipped plans. A change of it shows as a
//! diff of the files in `snapshots`, which is to be read; `.cargo/config.toml` says how they are written.

use crate::tool::{command, err, out};

/// What a call prints in a window of some columns, with its exit code.
fn shown(args: &[&str], columns: &str) -> String {
    let output = command(args).env("COLUMNS", columns).output().unwrap();
    assert!(output.stderr.is_empty(), "{args:?}: {}", err(&output));
    format!("exit code {}\n\n{}", output.status.code().unwrap(), out(&output))
}

/// The snapshot, and the words of the call.
const CALLS: [(&str, &str); 29] = [
    ("help", "--help"),
    ("help-check", "check --help"),
    ("help-budget", "budget --help"),
    ("help-draw", "draw --help"),
    ("help-pins", "pins --help"),
    ("help-size", "size --help"),
    ("help-size-wire", "size wire --help"),
    ("help-size-stage", "size driver --help"),
    ("help-size-injection", "size injection --help"),
    ("budget", "budget plans/harbour-diorama.toml"),
    ("budget-draft", "budget plans/harbour-first-draft.toml"),
    ("budget-battery", "budget plans/weather-mast.toml"),
    ("budget-corners", "budget plans/ferry-landing.toml --all-corners --scenario worst"),
    ("drop", "drop plans/harbour-diorama.toml"),
    ("drop-panel", "drop plans/clock-tower.toml"),
    ("pins", "pins plans/orchard-gate.toml"),
    ("firmware", "firmware plans/clock-tower.toml"),
    ("why", "why plans/harbour-diorama.toml five"),
    ("why-draft", "why plans/harbour-first-draft.toml wall"),
    ("check", "check plans/harbour-diorama.toml"),
    ("odds", "odds plans/harbour-first-draft.toml"),
    ("about", "about strip-voltage-low"),
    ("catalogue", "catalogue pixel"),
    ("size-supply", "size supply 12_V 2.5_A 800_mA"),
    ("size-wire", "size wire --current 2_A --length 3_m --voltage 12_V"),
    ("size-led", "size led --supply 12_V --part led-white --current 20_mA"),
    ("size-divider", "size divider --input 9_V..14.8_V --max 3.3_V --min 1.7_V --tolerance 1_%"),
    ("size-stage", "size driver --load pump-12v-small --rail 12_V --board wifi-board-3v3"),
    ("size-injection", "size injection --plan plans/harbour-first-draft.toml --strip shoreline"),
];

#[test]
fn tables_answers_and_help_are_as_they_were() {
    for (name, call) in CALLS {
        // An underscore stands for a space within a word.
        let words: Vec<String> = call.split(' ').map(|w| w.replace('_', " ").replace("..", " .. ")).collect();
        let words: Vec<&str> = words.iter().map(String::as_str).collect();
        insta::with_settings!({ description => call, omit_expression => true, prepend_module_to_snapshot => false }, {
            insta::assert_snapshot!(name, shown(&words, "100"));
        });
    }
}

/// In a narrow window, where paragraphs and tables break.
#[test]
fn narrow_pages_are_as_they_were() {
    let calls = [
        ("narrow-budget", ["budget", "plans/harbour-diorama.toml"]),
        ("narrow-drop", ["drop", "plans/clock-tower.toml"]),
        ("narrow-pins", ["pins", "plans/orchard-gate.toml"]),
        ("narrow-firmware", ["firmware", "plans/clock-tower.toml"]),
        ("narrow-why", ["why", "plans/harbour-diorama.toml"]),
    ];
    for (name, call) in calls {
        let words = if name == "narrow-why" { [&call[..], &["five"]].concat() } else { call.to_vec() };
        insta::with_settings!({ description => words.join(" "), omit_expression => true, prepend_module_to_snapshot => false }, {
            insta::assert_snapshot!(name, shown(&words, "64"));
        });
    }
}
