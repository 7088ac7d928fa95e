//! `firmware` and the figures of strips and panels, as the tool gives them.

use std::path::PathBuf;

use crate::tool::{code_and_streams as mohm, json, root};

const TOWER: &str = "plans/clock-tower.toml";

/// A file of a test's own.
fn file(name: &str, text: &str) -> String {
    let path = PathBuf::from(env!("CARGO_TARGET_TMPDIR")).join(name);
    std::fs::write(&path, text).unwrap();
    path.display().to_string()
}

/// 256 pixels of 61 mA and 48 of 55 mA are 18.256 A at full white; dark 304 mA.
#[test]
fn outputs_caps_and_layouts_of_the_tower() {
    let all = json(&["firmware", TOWER]);
    let output = &all["outputs"][0];
    assert_eq!((output["pin"].as_str(), output["pixels"].as_u64()), (Some("keeper.io27"), Some(304)));
    assert_eq!(output["parts"][1]["first"].as_u64(), Some(256));
    // 304 pixels of 24 bits of 1.25 µs, and 300 µs of pause.
    assert!((output["frame_s"].as_f64().unwrap() - (304.0 * 30e-6 + 300e-6)).abs() < 1e-9);
    let cap = &all["firmware_limits"][0];
    assert!((cap["full_a"].as_f64().unwrap() - (256.0 * 0.061 + 48.0 * 0.055)).abs() < 1e-9, "{cap}");
    let share = (4.5 - 0.304) / (18.256 - 0.304);
    assert!((cap["brightness"].as_f64().unwrap() - share).abs() < 1e-9, "{cap}");
    assert!((cap["per_pixel_a"].as_f64().unwrap() - 4.5 / 304.0).abs() < 1e-9);
    assert_eq!(cap["binding"].as_str(), Some("`five`"), "the 5 V converter at 80 %");
    assert!((cap["usable_a"].as_f64().unwrap() - 4.8).abs() < 1e-9);
    // Tile 2 begins beside tile 1 and ends at top right; tile 3 begins below right, tile 4 ends below left.
    assert_eq!(all["layouts"][0]["corners"], serde_json::json!([0, 127, 255, 128]));
    assert_eq!(all["differs"].as_array().unwrap().len(), 0);
    let (code, text, _) = mohm(&["firmware", TOWER]);
    assert_eq!(code, 0);
    for words in
        ["Outputs:", "Firmware limits:", "Panels:", "256 .. 303", "16 × 16", "as planned, as far as given", "grb"]
    {
        assert!(text.contains(words), "{words}: {text}");
    }
    let (_, csv, _) = mohm(&["firmware", TOWER, "--format", "csv"]);
    let lines: Vec<&str> = csv.lines().collect();
    assert_eq!(lines.len(), 3);
    assert_eq!(lines[0], "pin,first,pixels,strip,panel,part,order,bits,clocked,limit_a,frame_s");
    assert!(lines[2].starts_with("keeper.io27,256,48,ridge,,pixel-12v-rgb-threes,,24,false,4.5,0.00942"), "{csv}");
}

/// The firmware limit that `firmware` names is not too high for `check`; a twentieth more is.
#[test]
fn the_largest_cap_holds() {
    let root = root();
    let text = std::fs::read_to_string(root.join("plans/harbour-diorama.toml")).unwrap();
    let cap = json(&["firmware", "plans/harbour-diorama.toml"])["firmware_limits"][0]["available_a"].as_f64().unwrap();
    for (amps, fires) in [(cap, false), (1.05 * cap, true)] {
        let with = text.replace("firmware-limit = \"2.6 A\"", &format!("firmware-limit = \"{amps:.3} A\""));
        let found = json(&["check", &file("capped.toml", &with)]);
        // A stall of the servos is short, and no matter of the firmware limit.
        let findings = found["findings"].as_array().unwrap();
        let codes: Vec<String> = findings.iter().map(|f| format!("{} {}", f["code"], f["also"])).collect();
        let codes: Vec<String> = codes.into_iter().filter(|c| c.contains("firmware-limit-too-high")).collect();
        assert_eq!(!codes.is_empty(), fires, "{amps}: {codes:?}");
    }
}

#[test]
fn coordinates_and_pattern_agree() {
    let map = json(&["firmware", TOWER, "--coordinates", "dial"]);
    let pixels = map["pixels"].as_array().unwrap();
    assert_eq!((map["columns"].as_u64(), map["rows"].as_u64(), pixels.len()), (Some(16), Some(16), 256));
    // Of the last tile, upside down, the first pixel lies at its lower right.
    let first = &pixels[192];
    assert_eq!((first["column"].as_u64(), first["row"].as_u64()), (Some(7), Some(15)));
    assert!((first["x_m"].as_f64().unwrap() - 0.075).abs() < 1e-12);
    let (_, csv, _) = mohm(&["firmware", TOWER, "--coordinates", "dial", "--format", "csv"]);
    assert_eq!(csv.lines().nth(193), Some("192,dial,192,7,15,0.075,0.155"));
    let pattern = json(&["firmware", TOWER, "--pattern", "dial"]);
    let colours = pattern["pixels"].as_array().unwrap();
    for p in colours {
        let (x, y) = (p["column"].as_u64().unwrap(), p["row"].as_u64().unwrap());
        let bright = |key: &str| p[key].as_u64().unwrap() == 64;
        assert_eq!(bright("red") && bright("green"), (x, y) == (0, 0), "{p}");
        assert_eq!(bright("red"), y == 0, "{p}");
    }
    // Reckoned from the listed levels: 1 mA each, and 20 mA a colour at 255.
    let sum: u64 = colours.iter().flat_map(|p| ["red", "green", "blue"].map(|c| p[c].as_u64().unwrap())).sum();
    let amps = 0.256 + sum as f64 * 0.020 / 255.0;
    assert!((pattern["current_a"].as_f64().unwrap() - amps).abs() < 1e-9);
    let (_, text, _) = mohm(&["firmware", TOWER, "--coordinates", "dial"]);
    let rows: Vec<&str> = text.lines().collect();
    assert!(rows[1].trim_start().starts_with("0  15  16"), "{}", rows[1]);
    let (_, text, _) = mohm(&["firmware", TOWER, "--pattern", "dial"]);
    assert!(text.lines().nth(1).unwrap().starts_with("W R R R"), "{text}");
    assert!(text.lines().nth(2).unwrap().starts_with("G . . ."), "{text}");
}

#[test]
fn what_is_set_otherwise_is_told() {
    let root = root();
    let text = std::fs::read_to_string(root.join(TOWER)).unwrap();
    let other = text.replace("order = \"grb\", entry = \"top-left\"", "order = \"rgb\", entry = \"bottom-left\"");
    let all = json(&["firmware", &file("other.toml", &other)]);
    let message = all["differs"][0]["message"].as_str().unwrap();
    assert!(message.contains("colour order `rgb`; plan says `grb`"), "{message}");
    assert!(message.contains("`entry = bottom-left`; plan says `top-left`"), "{message}");
    let silent = text.lines().filter(|l| !l.starts_with("firmware =")).collect::<Vec<_>>().join("\n");
    let (_, said, _) = mohm(&["firmware", &file("silent.toml", &silent)]);
    assert!(said.contains("no firmware settings given"), "{said}");
    let (_, none, _) = mohm(&["firmware", "plans/ferry-landing.toml"]);
    assert!(none.contains("no pixels"), "{none}");
}

#[test]
fn figures_of_strips_and_panels() {
    for args in [
        &["draw", "drop", TOWER][..],
        &["draw", "drop", TOWER, "--item", "dial,ridge", "--scenario", "worst,chime"],
        &["draw", "panel", TOWER, "--item", "dial"],
        &["draw", "pattern", TOWER],
    ] {
        let (code, svg, err) = mohm(args);
        assert_eq!(code, 0, "{args:?}: {err}");
        assert!(svg.starts_with("<svg ") && svg.trim_end().ends_with("</svg>"), "{args:?}");
    }
    let path = PathBuf::from(env!("CARGO_TARGET_TMPDIR")).join("dial.png");
    let (code, _, err) = mohm(&["draw", "panel", TOWER, "--output", path.to_str().unwrap(), "--force"]);
    assert_eq!(code, 0, "{err}");
    assert!(std::fs::read(&path).unwrap().starts_with(b"\x89PNG"));
    for (args, says) in [
        (&["draw", "panel", TOWER, "--item", "dail"][..], "did you mean `dial`"),
        (&["draw", "panel", TOWER, "--scenario", "worst"], "leave out --scenario"),
        (&["draw", "panel", "plans/harbour-diorama.toml"], "the plan has no panel"),
        (&["draw", "drop", "plans/ferry-landing.toml"], "the plan has no strips"),
        (&["draw", "drop", TOWER, "--item", "belfri"], "did you mean `belfry`"),
        (&["draw", "drop", TOWER, "--scenario", "nigth"], "no scenario `nigth`"),
        (&["draw", "power", TOWER, "--item", "dial"], "leave out --item"),
        (&["draw", "power", TOWER, "--scenario", "worst,idle"], "in one scenario"),
        (&["firmware", TOWER, "--coordinates", "dail"], "did you mean `dial`"),
        (&["firmware", TOWER, "--pattern", "ridge"], "no such panel"),
    ] {
        let (code, out, err) = mohm(args);
        assert_eq!(code, 2, "{args:?}");
        assert!(out.is_empty() && err.contains(says), "{args:?}: {err}");
    }
}

/// A pair in a plan: its two ends are fed, its levels told hop by hop, and nothing of the ground between them is asked.
#[test]
fn a_pair_over_distance() {
    let drop = json(&["drop", TOWER]);
    let links = drop["signals"].as_array().unwrap();
    let hop = |from: &str, to: &str| links.iter().find(|l| l["from"] == from && l["to"] == to).is_some();
    assert!(hop("keeper.io27", "down.near") && hop("down.far", "dial") && hop("dial.end", "ridge"), "{links:?}");
    let loads = drop["loads"].as_array().unwrap();
    let of = |name: &str| loads.iter().find(|l| l["name"] == name).unwrap()["current_a"].as_f64().unwrap();
    // A terminated end takes 60 mA at most, a receiving one 5 mA.
    assert!((of("down.near") - 0.060).abs() < 1e-9, "{}", of("down.near"));
    assert!((of("down.far") - 0.005).abs() < 1e-9, "{}", of("down.far"));
    let (code, out, _) = mohm(&["check", TOWER]);
    assert_eq!(code, 0, "{out}");
    assert!(out.contains("no findings"), "{out}");
}
