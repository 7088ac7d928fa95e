//! What `new` writes: plans to start from, sound as they stand, short enough to read, together with every kind of table.

use std::collections::BTreeSet;

use crate::tool::{code, err, json, mohm, out, root};

/// The starters, by their files.
fn names() -> Vec<String> {
    let folder = std::fs::read_dir(root().join("plans/starters")).unwrap();
    let name = |e: std::fs::DirEntry| e.path().file_stem().unwrap().to_str().unwrap().to_owned();
    folder.map(|e| name(e.unwrap())).collect()
}

#[test]
fn each_is_sound_and_short() {
    let folder = tempfile::tempdir().unwrap();
    assert!(names().len() >= 9, "{:?}", names());
    for name in names() {
        let file = folder.path().join(format!("{name}.toml"));
        let file = file.to_str().unwrap();
        assert_eq!(code(&mohm(&["new", "--like", &name, file])), 0, "{name}");
        let text = std::fs::read_to_string(file).unwrap();
        assert_eq!(text, std::fs::read_to_string(root().join(format!("plans/starters/{name}.toml"))).unwrap());
        assert!((15..=60).contains(&text.lines().count()), "{name}: {} lines", text.lines().count());
        assert!(text.lines().next().is_some_and(|l| l.starts_with("# ") && l.len() > 20), "{name}: says what it is");
        let check = json(&["check", file]);
        for severity in ["danger", "fault", "caution", "unknown"] {
            assert_eq!(check["summary"][severity], 0, "{name}: {check:#}");
        }
    }
}

/// Every kind of table stands in one of them, so that each can be copied from a plan that works.
#[test]
fn together_they_have_every_kind_of_table() {
    let used: BTreeSet<String> = names()
        .iter()
        .map(|name| std::fs::read_to_string(root().join(format!("plans/starters/{name}.toml"))).unwrap())
        .flat_map(|text| {
            let heads = text.lines().filter(|l| l.starts_with('[')).map(str::to_owned).collect::<Vec<_>>();
            heads.into_iter().map(|l| l.trim_start_matches('[').split(['.', ']']).next().unwrap().to_owned())
        })
        .collect();
    let format = std::fs::read_to_string(root().join("docs/plan-format.md")).unwrap();
    let not_tables = ["Quantities", "The plan itself", "pins", "opto"];
    let kinds = format.lines().filter_map(|l| l.strip_prefix("## ")).filter(|h| !not_tables.contains(h));
    let missing: Vec<&str> = kinds.flat_map(|h| h.split(", ")).filter(|kind| !used.contains(*kind)).collect();
    assert!(missing.is_empty(), "no starter has {missing:?}");
}

#[test]
fn help_lists_them_and_a_script_gets_the_first() {
    let help = out(&mohm(&["new", "--help"]));
    for name in names() {
        assert!(help.contains(&format!("- {name}:")), "{name}: {help}");
    }
    let wrong = mohm(&["new", "--like", "boat", "x.toml"]);
    assert!(code(&wrong) == 2 && err(&wrong).contains("strip"), "{}", err(&wrong));
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("shed.toml");
    assert_eq!(code(&mohm(&["new", file.to_str().unwrap()])), 0);
    assert!(std::fs::read_to_string(file).unwrap().contains("[strip."));
}
