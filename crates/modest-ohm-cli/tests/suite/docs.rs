//! The documents are in step with the code: docs/checks.md is generated, every plan in a document is readable, every key
//! is described, every link and picture is there.

use std::collections::BTreeSet;

use modest_ohm::{Plan, PlanErrors};
use modest_ohm_report::checks_page;

use crate::tool::root;

fn document(name: &str) -> String {
    std::fs::read_to_string(root().join(name)).unwrap_or_else(|e| panic!("{name}: {e}"))
}

const DOCUMENTS: [&str; 6] = [
    "README.md",
    "docs/plan-format.md",
    "docs/json-format.md",
    "docs/checks.md",
    "docs/architecture.md",
    "CONTRIBUTING.md",
];

#[test]
fn the_checks_page_is_fresh() {
    let path = root().join("docs/checks.md");
    if std::env::var_os("MOHM_UPDATE_DOCS").is_some() && std::env::var_os("CI").is_none() {
        std::fs::write(&path, checks_page()).unwrap();
    }
    let (page, wanted) = (document("docs/checks.md"), checks_page());
    // Line by line: the whole page twice would bury the difference.
    let mut lines = page.lines().zip(wanted.lines()).enumerate();
    let differs = lines.find(|(_, (is, should))| is != should);
    assert_eq!(differs, None, "MOHM_UPDATE_DOCS=1 cargo test -p modest-ohm-cli --test suite docs");
    assert_eq!(page.len(), wanted.len(), "one of them goes on");
}

fn blocks(text: &str, language: &str) -> Vec<String> {
    text.split(&format!("```{language}\n")).skip(1).map(|rest| rest.split("```").next().unwrap().to_owned()).collect()
}

#[test]
fn plans_in_documents_are_readable() {
    let mut seen = 0;
    for name in DOCUMENTS {
        for block in blocks(&document(name), "toml") {
            let plan = Plan::from_toml(&block).unwrap_or_else(|e| panic!("{name}: {e}\n{block}"));
            assert!(!plan.review().passed().is_empty(), "{name}");
            seen += 1;
        }
    }
    assert!(seen >= 3);
}

/// What README says of its first plan is what the tool says of it.
#[test]
fn the_readme_tells_the_truth_of_its_first_plan() {
    let plan = Plan::from_toml(&blocks(&document("README.md"), "toml")[0]).unwrap();
    let review = plan.review();
    let codes: Vec<&str> = review.findings().iter().map(|f| f.code).collect();
    assert!(codes.contains(&"strip-sags"), "{codes:?}");
    let sags = review.findings().iter().find(|f| f.code == "strip-sags").unwrap();
    assert!(sags.cures.iter().any(|c| c.contains("feed it also at")), "{:?}", sags.cures);
}

/// Keys that a kind knows, out of what it says when asked for one that it does not.
fn known_keys(text: &str) -> BTreeSet<String> {
    let errors: PlanErrors = Plan::from_toml(text).map(|_| ()).unwrap_err();
    let help = errors.problems.iter().find(|p| p.message.contains("zzzzzzzz")).map(|p| p.help.clone());
    let help = help.unwrap_or_else(|| panic!("{errors}"));
    help.strip_prefix("known here: ").unwrap_or_else(|| panic!("{help}")).split(", ").map(str::to_owned).collect()
}

/// The keys in the table of the section on a kind.
fn described_keys(text: &str, kind: &str) -> BTreeSet<String> {
    let section = text.split(&format!("\n## {kind}\n")).nth(1).unwrap_or_else(|| panic!("no section on {kind}"));
    let section = section.split("\n## ").next().unwrap();
    let cells = section.lines().filter(|l| l.starts_with("| `")).filter_map(|l| l.split('|').nth(1));
    cells.flat_map(|c| c.split('`').skip(1).step_by(2)).map(str::to_owned).collect()
}

#[test]
fn every_key_of_the_plan_is_described() {
    let text = document("docs/plan-format.md");
    let wall = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n";
    let of = |kind: &str, more: &str| known_keys(&format!("{wall}[{kind}.x]\nzzzzzzzz = 1\n{more}"));
    let load = "from = \"wall\"\ncurrent = \"1 A\"\n";
    let supply = ["bench", "usb", "negotiated", "battery", "vehicle", "adapter"]
        .iter()
        .flat_map(|kind| of("supply", &format!("kind = \"{kind}\"\n")))
        .collect();
    let mut diode = of("diode", "from = \"wall\"\n");
    diode.extend(of("diode", "across = \"wall\"\n"));
    // Its own pixels, or laid from strips.
    let mut panel = of("panel", "from = \"wall\"\n");
    panel.extend(of("panel", "strips = [\"a\"]\n"));
    let kinds =
        ["npn", "darlington", "nmos", "pmos", "mosfet-module", "bridge", "relay", "relay-module", "solid-state"];
    let driver = kinds.iter().flat_map(|k| of("driver", &format!("kind = \"{k}\"\nfrom = \"wall\"\n"))).collect();
    let mut kinds = vec![
        ("supply", supply),
        ("branch", of("branch", "from = \"wall\"\n")),
        ("limiter", of("limiter", "from = \"wall\"\n")),
        ("joint", of("joint", "from = \"wall\"\n")),
        ("converter", of("converter", "from = \"wall\"\n")),
        ("controller", of("controller", "from = \"wall\"\n")),
        ("shifter", of("shifter", "from = \"wall\"\n")),
        ("strip", of("strip", "from = \"wall\"\n")),
        ("pair", of("pair", "")),
        ("panel", panel),
        ("cap", of("cap", "")),
        ("load", of("load", load)),
        ("driver", driver),
        ("mains", of("mains", "")),
        ("led", of("led", "from = \"wall\"\nvf = \"2 V\"\n")),
        ("wire", of("wire", "")),
        (
            "input",
            ["contact", "open-collector", "swing"]
                .iter()
                .flat_map(|k| of("input", &format!("kind = \"{k}\"\n")))
                .collect(),
        ),
        ("bus", ["i2c", "spi"].iter().flat_map(|k| of("bus", &format!("kind = \"{k}\"\n"))).collect()),
        ("sensor", of("sensor", "from = \"wall\"\n")),
        ("ground", of("ground", "")),
        ("scenario", of("scenario", "")),
        ("switch", of("switch", "from = \"wall\"\n")),
        ("diode", diode),
        ("busbar", of("busbar", "from = \"wall\"\n")),
        ("link", of("link", "")),
        ("stack", of("stack", "")),
        ("capacitor", of("capacitor", "")),
        ("group", of("group", "")),
        ("box", of("box", "size = [\"1 m\", \"1 m\", \"1 m\"]\narea = \"1 m²\"\n")),
    ];
    // What a load draws may be written in three ways, of which it knows the one it is written in.
    kinds.iter_mut().find(|k| k.0 == "load").unwrap().1.extend(["power".to_owned(), "resistance".to_owned()]);
    for (kind, known) in kinds {
        assert_eq!(described_keys(&text, kind), known, "keys of {kind}");
    }
    // A heater is a load with one key more.
    let more: Vec<String> = of("heater", load).into_iter().filter(|key| !of("load", load).contains(key)).collect();
    assert!(more == ["thermostat"] && text.contains("| `thermostat` |"), "{more:?}");
}

/// Keys of the tables inside items, described in tables of their own.
#[test]
fn every_key_of_leads_is_described() {
    let text = document("docs/plan-format.md");
    let of = |more: &str| {
        known_keys(&format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n[branch.x]\nfrom = \"wall\"\n{more}"
        ))
    };
    for (heading, known) in [
        ("| key of a cable ", of("cable = { zzzzzzzz = 1, length = \"1 m\", size = \"16 AWG\" }\n")),
        (
            "| key of a pin ",
            known_keys(
                "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n[controller.x]\nfrom = \"wall\"\nmean = \"1 mA\"\npins = { a = { zzzzzzzz = 1 } }\n",
            ),
        ),
        (
            "| key of an opto ",
            known_keys(
                "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n[wire.x]\npin = \"a.b\"\nopto = { zzzzzzzz = 1 }\n",
            ),
        ),
        ("| key of a fuse ", of("fuse = { zzzzzzzz = 1, rating = \"5 A\", family = \"cartridge\" }\n")),
    ] {
        let table = text.split(heading).nth(1).unwrap_or_else(|| panic!("no table {heading}"));
        let cells = table.lines().skip(2).take_while(|l| l.starts_with('|')).filter_map(|l| l.split('|').nth(1));
        let described: BTreeSet<String> =
            cells.flat_map(|c| c.split('`').skip(1).step_by(2)).map(str::to_owned).collect();
        assert_eq!(described, known, "{heading}");
    }
}

#[test]
fn links_and_pictures_are_there() {
    for name in DOCUMENTS {
        let folder = root().join(name).parent().unwrap().to_owned();
        for target in document(name).split("](").skip(1).map(|r| r.split(')').next().unwrap().to_owned()) {
            if let Some(anchor) = target.strip_prefix('#') {
                assert!(document(name).contains(&format!("\n## {anchor}\n")), "{name}: no heading {anchor}");
            } else {
                assert!(folder.join(&target).exists(), "{name}: {target} is not there");
            }
        }
    }
}

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
const CALLS: [&[&str]; 39] = [
    &["check", "plans/harbour-first-draft.toml", "--passed"],
    &["check", "crates/modest-ohm/tests/plans/acceptance-stale/near-caution.toml"],
    &["check", "clippy.toml"],
    &["budget", "plans/harbour-diorama.toml"],
    &["budget", "crates/modest-ohm/tests/plans/battery-sag/clean.toml"],
    &["drop", "plans/harbour-diorama.toml"],
    &["catalogue", "pixel"],
    &["why", "plans/harbour-diorama.toml", "five"],
    &["size", "supply", "9 V", "1 A", "--offers", "45 W"],
    &["size", "regulator", "--input", "9 V", "--output", "5 V", "--current", "0.1 A"],
    &["size", "battery", "--power", "5 W", "--volts", "9 V .. 13 V", "--lasts", "4 h"],
    &["size", "capacitor", "--step", "2 A", "--dip", "0.25 V"],
    &["size", "wire", "--current", "2 A", "--length", "3 m", "--volts", "12 V"],
    &["size", "fuse", "--current", "2 A", "--wire", "18 AWG", "--volts", "12 V", "--length", "3 m"],
    &["size", "pair", "--current", "2 A", "--length", "3 m", "--volts", "12 V"],
    &["drop", "crates/modest-ohm/tests/plans/cut-off-grid/clean.toml"],
    &["firmware", "plans/clock-tower.toml"],
    &["firmware", "plans/clock-tower.toml", "--coordinates", "dial"],
    &["firmware", "plans/clock-tower.toml", "--pattern", "dial"],
    &["size", "injection", "--plan", "plans/harbour-first-draft.toml", "--strip", "shoreline"],
    &["size", "cap", "--pixels", "120", "--full", "61 mA", "--carries", "converter 5 A"],
    &["size", "frames", "--pixels", "600", "--wish", "60"],
    &["pins", "plans/orchard-gate.toml"],
    &["pins", "crates/modest-ohm/tests/plans/pin-overloaded/fires-danger-group.toml"],
    &["pins", "crates/modest-ohm/tests/plans/pin-unknown/fires-unknown.toml", "--assign"],
    &["size", "led", "--supply", "12 V", "--part", "led-white", "--current", "20 mA", "--wanted", "5 mA"],
    &["size", "divider", "--input", "9 V .. 14.8 V", "--most", "3.3 V", "--least", "1.7 V", "--tolerance", "1 %"],
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
    &["size", "gate", "--gets", "3.2 V", "--part", "nmos-10v-60v", "--current", "0.8 A"],
    &[
        "size",
        "gate",
        "--gets",
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
    &["size", "relay", "--rail", "5 V ± 5 %", "--current", "0.8 A", "--volts", "12 V", "--switches", "motor"],
    &["size", "bridge", "--supply", "6 V ± 5 %", "--runs", "0.25 A", "--stall", "0.9 A", "--wants", "4.5 V"],
    &["size", "stage", "--load", "pump-12v-small", "--rail", "12 V ± 5 %", "--board", "wifi-board-3v3"],
    &["size", "stage", "--load", "solenoid-12v", "--rail", "12 V ± 5 %", "--board", "board-5v-8bit"],
];

/// Words in marks of code that are no keys: commands and values.
const OTHER_WORDS: [&str; 67] = [
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
    "pair",
    "injection",
    "cap",
    "frames",
    "base",
    "gate",
    "flyback",
    "relay",
    "bridge",
    "stage",
    "sheet",
    "works",
    "wished",
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
