//! Nothing that is printed is wider than the terminal, down to 60 columns; what stands in a plan is printed as it is.

use crate::tool::{command, err, out, root};

/// What a call prints in a terminal of some columns.
fn printed(call: &[&str], columns: usize) -> String {
    let output = command(call).env("COLUMNS", columns.to_string()).output().unwrap();
    out(&output) + &err(&output)
}

/// Lines that are too wide. Text of a plan stands four columns in, between blank lines, and keeps its lines.
fn too_wide(call: &[&str], widths: &[usize], found: &mut Vec<String>) {
    for &columns in widths {
        for line in printed(call, columns).lines() {
            let of_a_plan = line.starts_with("    ") && (line.contains(" = ") || line.contains("] "));
            if line.chars().count() > columns && !of_a_plan {
                found.push(format!("{columns} {call:?}: {line}"));
            }
        }
    }
}

#[test]
fn every_table_fits() {
    let mut found = Vec::new();
    let mut plans: Vec<_> = std::fs::read_dir(root().join("plans")).unwrap().map(|e| e.unwrap().file_name()).collect();
    plans.sort();
    assert!(plans.len() >= 4, "{plans:?}");
    for plan in &plans {
        let plan = format!("plans/{}", plan.to_str().unwrap());
        let verbs: [&[&str]; 8] = [
            &["check"],
            &["check", "--all"],
            &["check", "--show", "1"],
            &["check", "--passed"],
            &["budget"],
            &["drop"],
            &["pins"],
            &["firmware"],
        ];
        for verb in verbs {
            // Whoever asks for more reads the same layout; one width is enough there.
            let widths: &[usize] = if verb.len() == 1 { &[60, 80, 120] } else { &[60] };
            too_wide(&[&[verb[0], &plan], &verb[1..]].concat(), widths, &mut found);
        }
    }
    assert!(found.is_empty(), "{} lines:\n{}", found.len(), found.join("\n"));
}

#[test]
fn every_answer_fits() {
    let mut found = Vec::new();
    let calls: [&[&str]; 18] = [
        &["catalogue"],
        &["about"],
        &["about", "strip"],
        &["about", "driver"],
        &["about", "fuse-missing"],
        &["about", "tables"],
        &["about", "odds"],
        &["odds", "plans/harbour-first-draft.toml"],
        &["odds", "plans/harbour-diorama.toml"],
        &["about", "nmos-logic-30v"],
        &["why", "plans/harbour-diorama.toml", "five"],
        &["size", "supply", "12 V", "2.5 A"],
        &["size", "wire-and-fuse", "--current", "2 A", "--length", "3 m", "--voltage", "12 V"],
        &["size", "battery", "--power", "5 W", "--voltage", "9 V .. 13 V", "--runtime", "4 h"],
        &["size", "injection", "--plan", "plans/harbour-first-draft.toml", "--strip", "shoreline"],
        &["size", "gate", "--gate-voltage", "3.2 V", "--part", "nmos-logic-30v", "--current", "2 A"],
        &["size", "flyback", "--current", "0.5 A", "--supply", "12 V"],
        &["size", "bridge", "--supply", "12 V", "--running-current", "1 A", "--stall-current", "1.1 A"],
    ];
    for call in calls {
        too_wide(call, &[60, 80, 120], &mut found);
    }
    assert!(found.is_empty(), "{} lines:\n{}", found.len(), found.join("\n"));
}
