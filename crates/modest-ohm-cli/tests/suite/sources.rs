//! `size`, `why`, `draw` and `budget` as a user calls them, on the shipped plans of every kind of source.

use crate::tool::{json, mohm, near};

fn ok(args: &[&str]) -> String {
    let output = mohm(args);
    assert_eq!(output.status.code(), Some(0), "{args:?}: {}", String::from_utf8_lossy(&output.stderr));
    String::from_utf8(output.stdout).unwrap()
}

/// Exit code and what is reported on standard error.
fn refused(args: &[&str]) -> String {
    let output = mohm(args);
    assert_eq!((output.status.code(), output.stdout.len()), (Some(2), 0), "{args:?}");
    String::from_utf8(output.stderr).unwrap()
}

const PLANS: [&str; 5] = [
    "plans/harbour-diorama.toml",
    "plans/weather-mast.toml",
    "plans/puppet-stage.toml",
    "plans/planetarium.toml",
    "plans/ferry-landing.toml",
];

#[test]
fn shipped_plans_are_sound() {
    for plan in PLANS {
        let check = json(&["check", plan]);
        for severity in ["danger", "fault", "caution", "unknown"] {
            assert_eq!(check["summary"][severity], 0, "{plan}: {check:#}");
        }
    }
}

/// (2.5 A + 0.8 A)/0.8 = 4.125 A; 12 V · 4.125 A = 49.5 W.
#[test]
fn size_supply() {
    let text = ok(&["size", "supply", "12 V", "2.5 A", "800 mA"]);
    assert!(text.starts_with("12 V, 4.12 A or more, 49.5 W: use a 5 A supply"), "{text}");
    let answer = json(&["size", "supply", "9V", "1.5A", "--headroom", "0 %", "--source-power", "45 W"]);
    near(&answer["min_a"], 1.5, 1e-12);
    assert_eq!(answer["profiles"].as_array().unwrap().len(), 1);
    near(&answer["profiles"][0]["current_a"], 3.0, 1e-12);
    let none = mohm(&["size", "supply", "12 V", "1 A", "--source-power", "45 W"]);
    assert_eq!(none.status.code(), Some(1), "45 W lists no 12 V");
    assert!(refused(&["size", "supply", "12 V", "1 W"]).contains("350 mA"));
    assert!(refused(&["size", "supply", "12 V", "1 A", "--headroom", "100 %"]).contains("below 100 %"));
    assert!(refused(&["size", "supply", "0 V", "1 A"]).contains("above zero"));
}

/// (12.6 V − 5 V)·0.3 A + 12.6 V·5 mA = 2.343 W; 25 °C + 2.343 W·62 K/W = 170.3 °C; (125 − 15 − 25) K/2.343 W = 36.3
/// K/W; 1.5 W/0.85 − 1.5 W = 0.2647 W; 1.5 W/(0.85·11.4 V) = 154.8 mA.
#[test]
fn size_regulator() {
    let args = ["size", "regulator", "--input", "12 V ± 5 %", "--output", "5 V", "--current", "300 mA"];
    let answer = json(&args);
    assert_eq!(answer["linear_suitable"], false);
    near(&answer["linear_heat_w"], 2.343, 1e-9);
    near(&answer["junction_c"], 25.0 + 2.343 * 62.0, 1e-9);
    near(&answer["theta_ja_max_k_per_w"], 85.0 / 2.343, 1e-9);
    near(&answer["switching_heat_w"], 1.5 / 0.85 - 1.5, 1e-9);
    near(&answer["switching_input_a"], 1.5 / (0.85 * 11.4), 1e-9);
    assert!(ok(&args).starts_with("use a switching regulator"));
    let starved = mohm(&["size", "regulator", "--input", "6 V", "--output", "5 V", "--current", "0.1 A"]);
    assert_eq!(starved.status.code(), Some(1));
    assert!(String::from_utf8(starved.stdout).unwrap().contains("needs 7 V"));
    assert!(
        refused(&["size", "regulator", "--input", "5 X", "--output", "5 V", "--current", "0.1 A"])
            .contains("the input")
    );
}

/// Two hundred milliamperes at a cell's nominal curve: three lithium cells, and none of 9 V.
#[test]
fn size_battery() {
    let answer = json(&["size", "battery", "--power", "5 W", "--voltage", "9 V .. 13 V", "--runtime", "4 h"]);
    let packs = answer["packs"].as_array().unwrap();
    assert_eq!(packs.len(), 11);
    let of = |cell: &str| packs.iter().find(|p| p["cell"] == cell).unwrap();
    assert_eq!((of("li-ion-18650")["series"].as_u64(), of("li-ion-18650")["parallel"].as_u64()), (Some(3), Some(1)));
    assert!(of("li-ion-18650")["runtime_s"].as_f64().unwrap() >= 4.0 * 3600.0);
    assert!(of("lifepo4")["series"].is_null(), "its charge is not known");
    let why_not = |cell: &str| of(cell)["reasons"].as_str().map(str::to_owned);
    assert_eq!(
        ["lifepo4", "alkaline-9v", "nimh-aa"].map(why_not),
        [Some("charge-unknown".into()), Some("too-many".into()), None]
    );
    let told = json(&[
        "size",
        "battery",
        "--power",
        "5 W",
        "--voltage",
        "11 V .. 14 V",
        "--runtime",
        "4 h",
        "--cell",
        "lifepo4",
        "--cell-charge",
        "3 Ah",
    ]);
    assert_eq!(told["packs"][0]["series"], 4);
    assert!(
        refused(&["size", "battery", "--power", "5 W", "--voltage", "9 V", "--runtime", "4 h", "--cell", "lemon"])
            .contains("no cell `lemon`")
    );
}

/// 2 A·200 µs/(0.25 V − 2 A·30 mΩ) = 2.105 mF, and 3.3 mF less a fifth is the first of E6 to have it.
#[test]
fn size_capacitor() {
    let args = ["size", "capacitor", "--step", "2 A", "--dip", "0.25 V", "--delay", "200 µs", "--esr", "30 mΩ"];
    let answer = json(&args);
    near(&answer["min_f"], 0.002105263157894737, 1e-9);
    near(&answer["standard_f"], 0.0033, 1e-9);
    let none = mohm(&["size", "capacitor", "--step", "2 A", "--dip", "0.05 V"]);
    assert_eq!(none.status.code(), Some(1));
}

#[test]
fn why_traces_numbers_to_the_plan() {
    let text = ok(&["why", "plans/harbour-diorama.toml", "five"]);
    for words in [
        "demand on five, largest (worst, hot)  3.70 A",
        "horn-switch  80.9 mA",
        "the plan: \"5.1 V\"; tolerance of the generic part · plans/harbour-diorama.toml:20",
        "assumed: 0.05 W typical of modules",
    ] {
        assert!(text.contains(words), "{words}\n{text}");
    }
    let all = json(&["why", "plans/harbour-diorama.toml", "span"]);
    let volts = all["traces"]
        .as_array()
        .unwrap()
        .iter()
        .find(|t| t["what"].as_str().unwrap().starts_with("voltage at span.1"))
        .unwrap();
    let lost = volts["from"].as_array().unwrap().iter().find(|t| t["what"] == "drop in the cable to span.1").unwrap();
    assert_eq!(lost["because"], "\"0.3 m 26 AWG\"");
    assert_eq!(lost["from"].as_array().unwrap().len(), 2, "feed and return");
    assert!(refused(&["why", "plans/harbour-diorama.toml", "fife"]).contains("did you mean `five`?"));
}

#[test]
fn why_answers_for_every_name_of_every_plan() {
    for plan in PLANS {
        for row in json(&["budget", plan])["nodes"].as_array().unwrap() {
            let name = row["name"].as_str().unwrap();
            let traces = json(&["why", plan, name]);
            assert!(!traces["traces"].as_array().unwrap().is_empty(), "{plan}: {name}");
        }
    }
}

#[test]
fn budget_shows_the_tree_and_its_sums() {
    let text = ok(&["budget", "plans/weather-mast.toml"]);
    let at = |words: &str| text.find(words).unwrap_or_else(|| panic!("{words} not in\n{text}"));
    // Depth first: what a rail feeds stands below it, further in.
    assert!(
        at("\n pack ") < at("\n   guard ")
            && at("\n   guard ") < at("\n     main ")
            && at("\n       five ") < at("\n         sense ")
    );
    assert!(at("\n         keeper.5v ") < at("\n       twelve "));
    assert!(text.contains("five 560 mA = sense 40 mA + keeper.5v 400 mA + radio 120 mA"), "{text}");
    assert!(text.contains("Battery runtime from full charge"));
    let budget = json(&["budget", "plans/weather-mast.toml"]);
    for node in budget["nodes"].as_array().unwrap() {
        let parts = node["parts"].as_array().unwrap();
        if parts.is_empty() || node["kind"] == "strip end" {
            continue;
        }
        // The parts are the sum (a board's own output is part of its input, and so on down).
        let sum: f64 = parts.iter().map(|p| p["current_a"].as_f64().unwrap()).sum();
        let wanted = node["demand_a"].as_f64().unwrap();
        assert!((sum - wanted).abs() < 1e-6 * wanted.abs().max(1e-3), "{}: {sum} of {wanted}", node["name"]);
    }
    assert_eq!(budget["batteries"].as_array().unwrap().len(), 4);
}

/// A well-formed picture: every element closed, every name there, nothing outside.
#[test]
fn draw_power_as_svg() {
    for plan in PLANS {
        let svg = ok(&["draw", "power", plan]);
        assert!(svg.starts_with("<svg ") && svg.ends_with("</svg>\n"));
        assert!(!svg.contains("NaN") && !svg.contains("inf"), "{plan}");
        let budget = json(&["budget", plan, "--scenario", "worst"]);
        for row in budget["nodes"].as_array().unwrap() {
            let name = row["name"].as_str().unwrap();
            assert!(svg.contains(&format!(">{name}<")), "{plan}: {name} is not drawn");
        }
    }
    let draft = ok(&["draw", "power", "plans/harbour-first-draft.toml"]);
    for words in ["8 dangers · 1 fault · 7 cautions", ">supply-overloaded<", "#a3122a"] {
        assert!(draft.contains(words), "{words}");
    }
    // In a sound plan the red of a danger is in the legend only.
    assert_eq!(ok(&["draw", "power", PLANS[0]]).matches("#fbd9dc").count(), 1);
}

#[test]
fn draw_writes_files_whole_and_never_over_others() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str| folder.path().join(name).display().to_string();
    let (svg, png) = (path("tree.svg"), path("tree.png"));
    for file in [&svg, &png] {
        assert_eq!(mohm(&["draw", "power", PLANS[0], "--output", file]).status.code(), Some(0));
        assert!(refused(&["draw", "power", PLANS[0], "--output", file]).contains("--force replaces it"));
        assert_eq!(mohm(&["draw", "power", PLANS[0], "--output", file, "--force"]).status.code(), Some(0));
    }
    let bytes = std::fs::read(&png).unwrap();
    assert_eq!(&bytes[1..4], b"PNG");
    let side = |at: usize| u32::from_be_bytes(bytes[at..at + 4].try_into().unwrap());
    assert_eq!((side(16), side(20)), (1280, 800));
    // Texts are really drawn: a picture of boxes alone is a tenth of this.
    assert!(bytes.len() > 25_000, "{}", bytes.len());
    assert!(refused(&["draw", "power", PLANS[0], "--output", &path("tree.gif")]).contains("--output power.svg"));
    assert!(refused(&["draw", "power", PLANS[0], "--scenario", "noon"]).contains("no scenario `noon`"));
    assert!(
        refused(&["draw", "power", PLANS[0], "--output", &path("no/such/folder/x.svg")])
            .contains("there is no such folder")
    );
}

/// 7.6 V · 0.15 A = 1.14 W; −10 °C + 1.14 W · 62 K/W = 60.7 °C: a minus in a value is no option.
#[test]
fn frost_is_a_temperature_too() {
    let args =
        ["size", "regulator", "--input", "12 V ± 5 %", "--output", "5 V", "--current", "150 mA", "--ambient", "-10 °C"];
    near(&json(&args)["junction_c"], -10.0 + (7.6 * 0.15 + 12.6 * 0.005) * 62.0, 1e-9);
    assert!(ok(&args).starts_with("a linear regulator is suitable"));
    let up = mohm(&["size", "regulator", "--input", "5 V", "--output", "12 V", "--current", "0.1 A"]);
    let text = String::from_utf8(up.stdout).unwrap().replace('\n', " ");
    assert!(text.contains("a boost or buck-boost converter would do") && !text.contains("linear:"), "{text}");
}

#[test]
fn a_wrong_question_is_told_all_that_is_wrong() {
    let battery = ["size", "battery", "--power", "0 W", "--voltage", "9 V", "--runtime", "4 h", "--cell", "lemon"];
    let told = refused(&battery);
    for words in ["the power: 0 W is not above zero", "write a range", "no cell `lemon`"] {
        assert!(told.contains(words), "{words} in {told}");
    }
    assert_eq!(told.lines().count(), 3, "{told}");
    let told = refused(&["size", "regulator", "--input", "0 V .. 5 V", "--output", "0 V", "--current", "-1 A"]);
    for words in ["the input: 0 V is not above zero", "the output: 0 V", "the current: −1 A is below zero"] {
        assert!(told.contains(words), "{words} in {told}");
    }
    assert!(refused(&["size", "capacitor", "--step", "-2 A", "--dip", "0 V"]).lines().count() == 2);
    assert!(refused(&["size", "supply", "0 V", "1 A", "--headroom", "100 %"]).lines().count() == 2);
}

/// What does not do says why, and what would.
#[test]
fn an_answer_of_no_says_why() {
    let text = |args: &[&str]| {
        let run = mohm(args);
        assert_eq!(run.status.code(), Some(1), "{args:?}");
        String::from_utf8(run.stdout).unwrap()
    };
    // 4 A/0.8 = 5 A: the 20 V profile of 100 W has them over a marked lead only.
    let supply = text(&["size", "supply", "20 V", "4 A", "--source-power", "100 W"]);
    assert!(supply.contains("it offers 5 V 3 A, 9 V 3 A, 15 V 3 A, 20 V 5 A"), "{supply}");
    assert!(supply.contains("20 V 5 A: `--marked-cable`"), "{supply}");
    assert!(
        ok(&["size", "supply", "20 V", "4 A", "--source-power", "100 W", "--marked-cable"])
            .contains("suitable profiles of the source: 20 V 5 A")
    );
    // No lead makes 12 V of a source that does not list them.
    assert!(!text(&["size", "supply", "12 V", "1 A", "--source-power", "45 W"]).contains("--marked-cable"));
    let packs = text(&["size", "battery", "--power", "50 W", "--voltage", "5 V .. 5.5 V", "--runtime", "40 h"]);
    for words in [
        "alkaline-aa: none; 4.65 V full, and too low a voltage",
        "alkaline-9v: none; one has 9.3 V when full; maximum 5.5 V",
        "lead-acid-12v: none; its charge is not known",
    ] {
        assert!(packs.contains(words), "{words} in {packs}");
    }
}

/// Every link has its line and its name, also where it joins boxes of one column, of two, or of one row.
#[test]
fn links_are_drawn_and_named() {
    let plan = |links: &str| {
        format!(
            "format = 1\n[supply.left]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"3 A\"\n\
             [supply.right]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"3 A\"\n[ground.tie]\nbetween = [\"left\", \"right\"]\n\
             [branch.near]\nfrom = \"left\"\ncable = \"0 m 12 AWG\"\n[branch.far]\nfrom = \"near\"\ncable = \"0 m 12 AWG\"\n\
             [load.lamp]\nfrom = \"far\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"5 V\"\n{links}"
        )
    };
    let link = |name: &str, a: &str, b: &str| format!("[link.{name}]\nbetween = [\"{a}\", \"{b}\"]\nclosed = false\n");
    let three =
        format!("{}{}{}", link("column", "left", "right"), link("across", "right", "far"), link("row", "left", "far"));
    let folder = std::env::temp_dir().join(format!("mohm-links-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let path = folder.join("links.toml");
    let draw = |text: &str| {
        std::fs::write(&path, text).unwrap();
        ok(&["draw", "power", path.to_str().unwrap()])
    };
    let (without, with) = (draw(&plan("")), draw(&plan(&three)));
    std::fs::remove_dir_all(&folder).unwrap();
    for name in ["column", "across", "row"] {
        assert!(with.contains(&format!("{name} (open)")), "{name}");
    }
    let lines = |svg: &str| svg.matches("stroke-dasharray=\"2 4\"").count();
    assert_eq!((lines(&without), lines(&with)), (0, 3));
}
