//! docs/json-format.md describes exactly the keys that the tool writes.

use std::collections::BTreeSet;

use crate::docs::document;
use crate::tool::root;

fn keys(value: &serde_json::Value, skip: &[&str], found: &mut BTreeSet<String>) {
    match value {
        serde_json::Value::Object(map) => {
            for (key, inner) in map {
                found.insert(key.clone());
                if !skip.contains(&key.as_str()) {
                    keys(inner, skip, found);
                }
            }
        }
        serde_json::Value::Array(list) => list.iter().for_each(|v| keys(v, skip, found)),
        _ => {}
    }
}

/// Calls that write every key there is.
const CALLS: [&[&str]; 42] = [
    &["check", "plans/harbour-first-draft.toml", "--passed"],
    &["check", "crates/modest-ohm/tests/plans/acceptance-stale/near-caution.toml"],
    &["check", "clippy.toml"],
    &["budget", "plans/harbour-diorama.toml"],
    &["budget", "plans/harbour-first-draft.toml"],
    &["budget", "crates/modest-ohm/tests/plans/battery-stops-early/clean.toml"],
    &["drop", "plans/harbour-diorama.toml"],
    &["catalogue", "pixel"],
    &["why", "plans/harbour-diorama.toml", "five"],
    &["odds", "plans/harbour-first-draft.toml"],
    &["odds", "crates/modest-ohm/tests/plans/strip-voltage-low/fires-fault.toml"],
    &["size", "supply", "9 V", "1 A", "--source-power", "45 W"],
    &["size", "regulator", "--input", "9 V", "--output", "5 V", "--current", "0.1 A"],
    &["size", "battery", "--power", "5 W", "--voltage", "9 V .. 13 V", "--runtime", "4 h"],
    &["size", "capacitor", "--step", "2 A", "--dip", "0.25 V"],
    &["size", "wire", "--current", "2 A", "--length", "3 m", "--voltage", "12 V"],
    &["size", "fuse", "--current", "2 A", "--wire", "18 AWG", "--voltage", "12 V", "--length", "3 m"],
    &["size", "wire-and-fuse", "--current", "2 A", "--length", "3 m", "--voltage", "12 V"],
    &["drop", "crates/modest-ohm/tests/plans/cut-mark-missed/clean.toml"],
    &["firmware", "plans/clock-tower.toml"],
    &["firmware", "plans/clock-tower.toml", "--coordinates", "dial"],
    &["firmware", "plans/clock-tower.toml", "--pattern", "dial"],
    &["size", "injection", "--plan", "plans/harbour-first-draft.toml", "--strip", "shoreline"],
    &["size", "firmware-limit", "--pixels", "120", "--full-white", "61 mA", "--path-limit", "converter 5 A"],
    &["size", "frames", "--pixels", "600", "--fps", "60"],
    &["pins", "plans/orchard-gate.toml"],
    &["pins", "crates/modest-ohm/tests/plans/pin-overloaded/fires-danger-group.toml"],
    &["pins", "crates/modest-ohm/tests/plans/pin-unknown/fires-unknown.toml", "--assign"],
    &["size", "led", "--supply", "12 V", "--part", "led-white", "--current", "20 mA", "--minimum", "5 mA"],
    &["size", "divider", "--input", "9 V .. 14.8 V", "--max", "3.3 V", "--min", "1.7 V", "--tolerance", "1 %"],
    &["size", "pull", "--rail", "3.3 V", "--bus", "400 kHz"],
    &["size", "level", "--from", "3.3 V", "--to", "5 V", "--high", "70 %", "--low", "30 %"],
    &["size", "base", "--vdd", "5 V", "--pin", "40 Ω", "--recommended", "20 mA", "--current", "80 mA"],
    &[
        "size",
        "base",
        "--vdd",
        "5 V",
        "--pin",
        "40 Ω",
        "--recommended",
        "20 mA",
        "--current",
        "80 mA",
        "--resistor",
        "1 kΩ",
        "--gain",
        "50",
    ],
    &["size", "gate", "--gate-voltage", "3.2 V", "--part", "nmos-10v-60v", "--current", "0.8 A"],
    &[
        "size",
        "gate",
        "--gate-voltage",
        "3 V",
        "--part",
        "nmos-logic-30v",
        "--current",
        "2 A",
        "--pwm",
        "9 kHz",
        "--supply",
        "12 V",
    ],
    &["size", "flyback", "--current", "2.4 A", "--supply", "12.6 V"],
    &[
        "size",
        "flyback",
        "--current",
        "1 A",
        "--supply",
        "12 V",
        "--inductance",
        "9 mH",
        "--resistance",
        "12 Ω",
        "--zener",
        "24 V",
    ],
    &["size", "relay", "--rail", "5 V ± 5 %", "--current", "0.8 A", "--voltage", "12 V", "--switches", "motor"],
    &[
        "size",
        "bridge",
        "--supply",
        "6 V ± 5 %",
        "--running-current",
        "0.25 A",
        "--stall-current",
        "0.9 A",
        "--min-voltage",
        "4.5 V",
    ],
    &["size", "driver", "--load", "pump-12v-small", "--rail", "12 V ± 5 %", "--board", "wifi-board-3v3"],
    &["size", "driver", "--load", "solenoid-12v", "--rail", "12 V ± 5 %", "--board", "board-5v-8bit"],
];

/// Words in marks of code that are no keys: commands and values.
const OTHER_WORDS: [&str; 68] = [
    "odds",
    "check",
    "budget",
    "drop",
    "firmware",
    "why",
    "size",
    "supply",
    "regulator",
    "battery",
    "capacitor",
    "wire",
    "fuse",
    "wire-and-fuse",
    "injection",
    "firmware-limit",
    "frames",
    "base",
    "gate",
    "flyback",
    "relay",
    "bridge",
    "driver",
    "recommended",
    "minimum",
    "requested",
    "contact",
    "catalogue",
    "null",
    "judged",
    "at-most",
    "at-least",
    "context",
    "typical",
    "low",
    "high",
    "hot",
    "plan",
    "default",
    "computed",
    "consumer",
    "cut-off",
    "collapse",
    "empty",
    "charge-unknown",
    "too-high",
    "too-low",
    "too-many",
    "front",
    "pins",
    "edges",
    "two-row",
    "row",
    "io",
    "input",
    "ground",
    "reset",
    "open",
    "out",
    "in",
    "shared",
    "led",
    "divider",
    "pull",
    "level",
    "pass",
    "caution",
    "danger",
];

/// Every key that the tool writes is described, and every key that is described is written.
#[test]
fn every_key_of_the_json_is_described() {
    let text = document("docs/json-format.md");
    let mut written = BTreeSet::new();
    for call in CALLS {
        let output = std::process::Command::new(env!("CARGO_BIN_EXE_mohm"))
            .args(call)
            .args(["--format", "json"])
            .current_dir(root())
            .output()
            .unwrap();
        let json = serde_json::from_slice(&output.stdout).unwrap_or_else(|e| panic!("{call:?}: {e}"));
        // The keys of a class's figures are those of the plan.
        keys(&json, &["figures"], &mut written);
    }
    let named: BTreeSet<String> = text.split('`').skip(1).step_by(2).map(str::to_owned).collect();
    let missing: Vec<_> = written.difference(&named).collect();
    assert!(missing.is_empty(), "not described: {missing:?}");
    let stale: Vec<_> =
        named.difference(&written).filter(|k| !OTHER_WORDS.contains(&k.as_str()) && !k.starts_with("--")).collect();
    assert!(stale.is_empty(), "described and not written: {stale:?}");
}
