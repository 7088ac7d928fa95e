//! The documents are in step with the code: docs/checks.md is generated, every plan in a document is readable, every
//! key is described, every link and picture is there.

use std::collections::BTreeSet;

use modest_ohm::{Plan, PlanErrors};
use modest_ohm_report::checks_page;

use crate::tool::root;

pub fn document(name: &str) -> String {
    std::fs::read_to_string(root().join(name)).unwrap_or_else(|e| panic!("{name}: {e}"))
}

const DOCUMENTS: [&str; 10] = [
    "README.md",
    "docs/glossary.md",
    "docs/screenshots/README.md",
    "docs/plan-format.md",
    "docs/fixes.md",
    "docs/odds.md",
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

/// The first plan of README stands in the repository, and `check` prints what README shows.
#[test]
fn the_readme_tells_the_truth_of_its_first_plan() {
    let readme = document("README.md");
    assert_eq!(blocks(&readme, "toml")[0].trim(), document("plans/reading-corner.toml").trim());
    assert!(readme.lines().count() < 120, "{}", readme.lines().count());
    let output = std::process::Command::new(env!("CARGO_BIN_EXE_mohm"))
        .args(["check", "plans/reading-corner.toml"])
        .env("COLUMNS", "78")
        .current_dir(root())
        .output()
        .unwrap();
    let printed = String::from_utf8(output.stdout).unwrap();
    let shown = &blocks(&readme, "text")[0];
    assert!(printed.starts_with(shown.trim_end()), "{printed}\n{shown}");
}

/// `odds` prints of the example what its page shows.
#[test]
fn the_page_on_odds_tells_the_truth_of_its_example() {
    let page = document("docs/odds.md");
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("dial.toml"), &blocks(&page, "toml")[0]).unwrap();
    let output = std::process::Command::new(env!("CARGO_BIN_EXE_mohm"))
        .args(["odds", "dial.toml"])
        .env("COLUMNS", "56")
        .current_dir(folder.path())
        .output()
        .unwrap();
    assert_eq!(String::from_utf8(output.stdout).unwrap(), blocks(&page, "text")[0]);
}

/// Keys that a kind knows, out of what it says when asked for one that it does not.
fn known_keys(text: &str) -> BTreeSet<String> {
    let errors: PlanErrors = Plan::from_toml(text).map(|_| ()).unwrap_err();
    let known = errors.problems.iter().find(|p| p.message.contains("zzzzzzzz")).map(modest_ohm::Problem::known);
    known.unwrap_or_else(|| panic!("{errors}")).iter().map(|key| (*key).to_owned()).collect()
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
        ("connector", of("connector", "from = \"wall\"\n")),
        ("converter", of("converter", "from = \"wall\"\n")),
        ("board", of("board", "from = \"wall\"\n")),
        ("shifter", of("shifter", "from = \"wall\"\n")),
        ("strip", of("strip", "from = \"wall\"\n")),
        ("differential-pair", of("differential-pair", "")),
        ("panel", panel),
        ("firmware-limit", of("firmware-limit", "")),
        ("load", of("load", load)),
        ("driver", driver),
        ("mains", of("mains", "")),
        ("led", of("led", "from = \"wall\"\nvf = \"2 V\"\n")),
        ("signal", of("signal", "")),
        (
            "input",
            ["contact", "open-collector", "voltage"]
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
        ("enclosure", of("enclosure", "size = [\"1 m\", \"1 m\", \"1 m\"]\narea = \"1 m²\"\n")),
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
                "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n[board.x]\nfrom = \"wall\"\nmean = \"1 mA\"\npins = { a = { zzzzzzzz = 1 } }\n",
            ),
        ),
        (
            "| key of an opto ",
            known_keys(
                "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n[signal.x]\npin = \"a.b\"\nopto = { zzzzzzzz = 1 }\n",
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
