//! Stages through the binary: sizes, offers, the picture of a release, pins of drivers, and what tables and checks say.

use serde_json::Value;

use crate::tool::{code_and_streams, json_and_code as json, root};

fn text(args: &[&str]) -> (i32, String) {
    let (code, out, err) = code_and_streams(args);
    (code, out + &err)
}

fn near(value: &Value, want: f64) {
    let got = value.as_f64().unwrap_or_else(|| panic!("{value}"));
    assert!((got - want).abs() <= 1e-6 * want.abs().max(1e-9), "{got} against {want}");
}

const DEMO: &str = "plans/harbour-diorama.toml";

#[test]
fn size_base() {
    let pin = ["--vdd", "5 V", "--pin", "40 Ω", "--recommended", "20 mA"];
    let (code, a) = json(&[&["size", "base"], &pin[..], &["--current", "80 mA"]].concat());
    assert_eq!(code, 0);
    near(&a["exact_ohm"], 497.5);
    near(&a["chosen_ohm"], 470.0);
    near(&a["base_a"], 4.3 / 510.0);
    // 2 A want 200 mA.
    let (code, a) = json(&[&["size", "base"], &pin[..], &["--current", "2 A"]].concat());
    assert_eq!((code, a["chosen_ohm"].is_null()), (1, true));
    let (_, said) = text(&[&["size", "base"], &pin[..], &["--current", "2 A"]].concat());
    assert!(said.contains("2 A needs 200 mA at its base; the pin is rated 20 mA"), "{said}");
    // A Darlington pair needs 8 mA for them.
    let (code, a) = json(
        &[&["size", "base"], &pin[..], &["--current", "2 A", "--ratio", "250", "--vbe", "1.2 V .. 1.6 V"]].concat(),
    );
    assert_eq!(code, 0);
    near(&a["exact_ohm"], (5.0 - 1.6) / 0.008 - 40.0);
    near(&a["base_a"], (5.0 - 1.2) / (a["chosen_ohm"].as_f64().unwrap() + 40.0));
    // The drawer's value.
    let folder = tempfile::tempdir().unwrap();
    let drawer = folder.path().join("drawer.csv");
    std::fs::write(&drawer, "ohms\n100\n390\n1000\n").unwrap();
    let (_, a) =
        json(&[&["size", "base"], &pin[..], &["--current", "80 mA", "--stock", drawer.to_str().unwrap()]].concat());
    near(&a["chosen_ohm"], 390.0);
    let (code, a) = json(&[
        "size",
        "base",
        "--vdd",
        "3.3 V",
        "--pin",
        "33 Ω",
        "--recommended",
        "12 mA",
        "--current",
        "200 mA",
        "--resistor",
        "4.7 kΩ",
        "--gain",
        "50",
    ]);
    assert_eq!((code, a["verdict"].as_str()), (1, Some("fault")));
    near(&a["overdrive"], 50.0 * 2.6 / 4733.0 / 0.2);
}

#[test]
fn size_gate() {
    let gate =
        |part: &str, gets: &str| json(&["size", "gate", "--gate-voltage", gets, "--part", part, "--current", "2 A"]);
    assert_eq!(gate("nmos-logic-30v", "3.2 V").1["verdict"], "pass");
    let (code, a) = gate("nmos-10v-60v", "3.2 V");
    assert_eq!((code, a["verdict"].as_str()), (1, Some("fault")));
    // 4.95 V are not 1 V above a threshold of 4 V.
    assert_eq!(gate("nmos-10v-60v", "4.95 V").1["verdict"], "fault");
    assert_eq!(gate("nmos-10v-60v", "5.05 V").1["verdict"], "caution");
    let (code, said) =
        text(&["size", "gate", "--gate-voltage", "13 V", "--part", "nmos-logic-30v", "--current", "2 A"]);
    assert!(code == 1 && said.contains("13 V above its gate rating of 12 V"), "{said}");
    let (_, a) = json(&[
        "size",
        "gate",
        "--gate-voltage",
        "3.2 V",
        "--part",
        "nmos-logic-30v",
        "--current",
        "2 A",
        "--pwm",
        "20 kHz",
        "--supply",
        "12 V",
        "--resistor",
        "200 Ω",
    ]);
    // 8 nC through 200 Ω over 1.6 V either way: 1 µs; half of 12 V · 2 A for 2 µs, 20 000 times a second.
    near(&a["on_s"], 1e-6);
    near(&a["off_s"], 1e-6);
    near(&a["switching_w"], 0.5 * 24.0 * 2e-6 * 20e3);
    let (code, said) =
        text(&["size", "gate", "--gate-voltage", "3.2 V", "--part", "nmos-logik-30v", "--current", "2 A"]);
    assert!(code == 2 && said.contains("did you mean `nmos-logic-30v`?"), "{said}");
}

#[test]
fn size_flyback() {
    let (code, a) = json(&[
        "size",
        "flyback",
        "--current",
        "0.5 A",
        "--supply",
        "12 V",
        "--inductance",
        "60 mH",
        "--resistance",
        "24 Ω",
        "--zener",
        "24 V",
    ]);
    assert_eq!((code, a["class"].as_str()), (0, Some("schottky-1a-40v")));
    near(&a["plain"]["time_s"], 2.5e-3 * ((0.5f64 + 0.7 / 24.0) / (0.05 + 0.7 / 24.0)).ln());
    near(&a["zener"]["time_s"], 2.5e-3 * ((0.5f64 + 24.7 / 24.0) / (0.05 + 24.7 / 24.0)).ln());
    near(&a["zener"]["peak_v"], 36.7);
    near(&a["plain"]["energy_j"], 7.5e-3);
    assert_eq!(json(&["size", "flyback", "--current", "50 A", "--supply", "12 V"]).0, 1);
    assert_eq!(text(&["size", "flyback", "--current", "1 A", "--supply", "12 V", "--inductance", "1 mH"]).0, 2);
}

#[test]
fn size_relay_and_bridge() {
    let (code, a) = json(&[
        "size",
        "relay",
        "--rail",
        "5 V ± 5 %",
        "--current",
        "2.4 A",
        "--voltage",
        "12 V",
        "--switches",
        "motor",
    ]);
    assert_eq!(code, 0);
    let five = a["classes"].as_array().unwrap().iter().find(|c| c["class"] == "relay-5v").unwrap();
    assert_eq!(five["suitable"], true);
    // 75 % of 5 V, 17 K above 23 °C; a motor of 5 A starts with the 30 A that 10 A contacts close on.
    near(&five["pulls_in_v"], 3.75 * (1.0 + 0.0039 * 17.0));
    near(&five["rating_a"], 5.0);
    let (code, said) = text(&[
        "size",
        "relay",
        "--rail",
        "5 V ± 5 %",
        "--current",
        "5.2 A",
        "--voltage",
        "12 V",
        "--switches",
        "motor",
    ]);
    assert!(code == 1 && said.contains("its 10 A derates to 5 A for this load"), "{said}");

    let (code, a) = json(&[
        "size",
        "bridge",
        "--supply",
        "12 V ± 5 %",
        "--running-current",
        "1 A",
        "--stall-current",
        "1.1 A",
        "--ambient",
        "30 °C",
    ]);
    assert_eq!(code, 0);
    let of = |name: &str| a["classes"].as_array().unwrap().iter().find(|c| c["class"] == name).unwrap().clone();
    // 11.4 V less 1.5 V and 1.7 Ω; 3.2 W over 15 K/W.
    near(&of("bridge-bipolar-2a")["load_v"], 8.2);
    near(&of("bridge-bipolar-2a")["junction_c"], 78.0);
    near(&of("bridge-mosfet-13v")["load_v"], 10.4);
    assert_eq!(of("bridge-mosfet-10v")["suitable"], false);
    assert_eq!(
        text(&["size", "bridge", "--supply", "12 V", "--running-current", "1 A", "--stall-current", "0.5 A"]).0,
        2
    );
}

/// What is offered is put into a plan by its tables, and the tool has nothing to say of it but words of advice.
#[test]
fn size_stage_into_a_plan() {
    let ask = ["size", "driver", "--load", "pump-12v-small", "--rail", "12 V ± 5 %", "--board", "wifi-board-3v3"];
    let (code, a) = json(&ask);
    assert_eq!(code, 0);
    let offers = a["offers"].as_array().unwrap();
    assert!(offers.len() >= 6 && a["rejected"].as_array().unwrap().len() >= 6);
    let folder = tempfile::tempdir().unwrap();
    for offer in offers {
        let plan = format!(
            "format = 1\n[supply.rail]\nkind = \"adapter\"\nvoltage = \"12 V ± 5 %\"\ncurrent = \"5 A\"\n\
             [converter.logic]\nkind = \"buck\"\nfrom = \"rail\"\ncable = \"0.1 m 18 AWG\"\nfuse = \"2 A\"\noutput = \"5 V\"\ncurrent = \"2 A\"\ninput = \"8 V .. 28 V\"\n\
             [board.wifi-board-3v3]\npart = \"wifi-board-3v3\"\nfrom = {{ 5v = {{ node = \"logic\", cable = \"0.1 m 20 AWG\" }} }}\n{}\n",
            offer["toml"].as_str().unwrap()
        );
        let path = folder.path().join("plan.toml");
        std::fs::write(&path, plan).unwrap();
        let (code, check) = json(&["check", path.to_str().unwrap(), "--fail-on", "caution"]);
        assert_eq!(code, 0, "{}: {check}", offer["class"]);
        assert_eq!(check["summary"]["unknown"], 0, "{}: {check}", offer["class"]);
    }
    let (code, tables) = text(&[&ask[..], &["--tables", "nmos-logic-30v"]].concat());
    assert!(
        code == 0
            && tables.contains("[driver.nmos-logic-30v]\npart = \"nmos-logic-30v\"\npin = \"wifi-board-3v3.io32\""),
        "{tables}"
    );
    let (code, said) = text(&[&ask[..], &["--tables", "nmos-10v-60v"]].concat());
    assert!(code == 2 && said.contains("is not suitable") && said.contains("10 V"), "{said}");
    let (code, said) = text(&["size", "driver", "--load", "servo-micro", "--rail", "5 V", "--board", "wifi-board-3v3"]);
    assert!(code == 2 && said.contains("it needs no driver"), "{said}");
}

#[test]
fn draw_release() {
    let (code, svg) = text(&["draw", "release", DEMO, "--item", "foghorn"]);
    assert_eq!(code, 0);
    assert!(svg.starts_with("<svg ") && svg.ends_with("</svg>\n") && !svg.contains("NaN"), "{svg}");
    for words in
        ["As planned", "With an additional 24 V Zener diode", "releases at 40 mA, 10 % of it", "rectifier-1a across it"]
    {
        assert!(svg.contains(words), "{words}");
    }
    // The draft's pump has no path.
    let (_, svg) = text(&["draw", "release", "plans/harbour-first-draft.toml"]);
    assert!(svg.contains("No path is known for this current.") && svg.contains("breaks down at 60 V"), "{svg}");
    let (code, said) = text(&["draw", "release", DEMO]);
    assert!(code == 2 && said.contains("tide, lens, horn-relay, foghorn"), "{said}");
    let (code, said) = text(&["draw", "release", DEMO, "--item", "foghron"]);
    assert!(code == 2 && said.contains("did you mean `foghorn`?"), "{said}");
    assert_eq!(text(&["draw", "release", DEMO, "--item", "foghorn", "--scenario", "worst"]).0, 2);
    assert!(text(&["draw", "release", "plans/planetarium.toml"]).1.contains("switches no coil or motor"));
    let folder = tempfile::tempdir().unwrap();
    let png = folder.path().join("release.png");
    assert_eq!(text(&["draw", "release", DEMO, "--item", "tide", "--output", png.to_str().unwrap()]).0, 0);
    assert!(std::fs::read(png).unwrap().starts_with(b"\x89PNG"));
}

/// Stages in tables, and pins of drivers in the header and in proposals.
#[test]
fn stages_in_tables_and_on_pins() {
    let (_, budget) = json(&["budget", DEMO]);
    let nodes = budget["nodes"].as_array().unwrap();
    let stage = nodes.iter().find(|n| n["name"] == "tide-switch" && n["scenario"] == "worst").unwrap();
    assert_eq!(stage["kind"], "driver");
    near(&stage["demand_a"], 0.8);
    near(&stage["limit_a"], 20.0);
    let (_, pins) = json(&["pins", DEMO]);
    let said = pins.to_string();
    for job in ["tide-switch", "lens-drive.a", "horn-switch"] {
        assert!(said.contains(job), "{job}");
    }
    // What stands on `any` gets pins that can do it, and that rest where the stage is off.
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("open.toml");
    let open = std::fs::read_to_string(root().join(DEMO)).unwrap();
    let open = open
        .replace("\"keeper.io32\"", "\"keeper.any\"")
        .replace("[\"keeper.io25\", \"keeper.io26\"]", "[\"keeper.any\", \"keeper.any\"]");
    std::fs::write(&path, open).unwrap();
    let (code, said) = text(&["pins", path.to_str().unwrap(), "--assign"]);
    assert_eq!(code, 0, "{said}");
    for path in ["driver.tide-switch.pin", "driver.lens-drive.pins[0]", "driver.lens-drive.pins[1]"] {
        assert!(said.contains(path) || said.contains(path.split('.').nth(1).unwrap()), "{path}: {said}");
    }
}

/// The demo is sound, and its draft is told what a beginner does to stages, coils and servos.
#[test]
fn the_drafts_stages() {
    let (_, check) = json(&["check", "plans/harbour-first-draft.toml"]);
    let findings = check["findings"].as_array().unwrap();
    let of = |code: &str| findings.iter().find(|f| f["code"] == code).unwrap_or_else(|| panic!("{code}")).clone();
    assert_eq!(
        (of("gate-drive")["severity"].as_str(), of("gate-drive")["subject"].as_str()),
        (Some("fault"), Some("tide-switch"))
    );
    assert_eq!(
        (of("flyback-missing")["severity"].as_str(), of("flyback-missing")["subject"].as_str()),
        (Some("danger"), Some("tide"))
    );
    assert_eq!(of("gate-floating")["severity"], "caution");
    let servo = of("servo-supply");
    assert_eq!(servo["severity"], "danger");
    let also: Vec<&str> = servo["also"].as_array().unwrap().iter().filter_map(Value::as_str).collect();
    assert!(also.contains(&"supply-overloaded") && also.contains(&"supply-voltage"), "{also:?}");
    let (_, sound) = json(&["check", DEMO]);
    for severity in ["danger", "fault", "caution", "unknown"] {
        assert_eq!(sound["summary"][severity], 0, "{sound}");
    }
}

/// `why` goes through the stage: 800 mA over 12 mΩ; and says nothing of a cable that a stage has not.
#[test]
fn why_goes_through_a_stage() {
    let (code, said) = text(&["why", DEMO, "tide"]);
    assert_eq!(code, 0);
    assert!(said.contains("drop in the driver tide-switch  9.6 mV"), "{said}");
    assert!(!said.contains("taken as ideal") && !said.contains("the lead to tide-switch"), "{said}");
    // 1.5 m of 20 AWG, out and back.
    assert!(said.contains("drop in the cable to tide  85.0 mV"), "{said}");
    // A bridge's lead is its own.
    let (_, said) = text(&["why", DEMO, "lens"]);
    assert!(said.contains("drop in the driver lens-drive.a"), "{said}");
    assert!(said.contains("the cable to lens-drive.motor"), "{said}");
}

/// What sources give is what arrives and what is lost on the way, in stages too.
#[test]
fn power_adds_up() {
    let (_, budget) = json(&["budget", DEMO]);
    let totals = budget["totals"].as_array().unwrap();
    let scenarios: Vec<&str> = totals.iter().filter_map(|t| t["scenario"].as_str()).collect();
    assert!(scenarios.contains(&"worst") && scenarios.contains(&"surge"), "{scenarios:?}");
    for row in totals {
        let of = |key: &str| row[key].as_f64().unwrap_or_else(|| panic!("{key} in {row}"));
        let arrives: f64 =
            ["load_w", "conductor_w", "diode_w", "converter_loss_w", "source_internal_w"].map(of).iter().sum();
        assert!((of("source_w") - arrives).abs() < 1e-6 * of("source_w"), "{row}: {arrives}");
    }
    // The only junction on a way is the horn's transistor, of its class 30 .. 100 mV and up to 1.8 Ω, behind a coil of
    // 63 .. 77 Ω at 5 V ± 2 %. MOSFETs, bridges and contacts are ohmic.
    let worst = totals.iter().find(|t| t["scenario"] == "worst").unwrap()["diode_w"].as_f64().unwrap();
    let (low, high) = ((4.9 - 0.3) / 77.0, 5.1 / 63.0);
    let (least, most) = (0.03 * low, (0.1 + 1.8 * high) * high);
    assert!((least..=most).contains(&worst), "{worst} not in {least} .. {most}");
    let start = totals.iter().find(|t| t["scenario"] == "start").unwrap();
    assert_eq!(start["diode_w"], 0.0, "the horn rests as the bridge starts the lens");
    let (_, said) = text(&["budget", DEMO]);
    assert!(said.contains("ohmic losses") && said.contains("junctions"), "{said}");
}
