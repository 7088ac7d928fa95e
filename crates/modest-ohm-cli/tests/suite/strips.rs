//! What strips ask of the tool: feed points, firmware limits, frames; new kinds of strips in its tables.

use std::path::PathBuf;

use crate::tool::{code_and_streams as mohm, json_and_code as json};

/// A plan file of a test's own.
fn plan(name: &str, text: &str) -> String {
    let path = PathBuf::from(env!("CARGO_TARGET_TMPDIR")).join(name);
    std::fs::write(&path, text).unwrap();
    path.display().to_string()
}

/// One pixel a metre of 1 A in 1 m of copper of 0.1 Ω/m: from either end 0.5 m of it lie before the pixel. Over a cable
/// of 0 Ω, at 5 V, it gets 5 − 1 · 2 · 0.5 · 0.1 = 4.9 V from an end, and 5 V from the middle.
#[test]
fn feed_points_of_a_plan() {
    let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\n\
                [strip.quay]\nfrom = \"wall\"\nlength = \"1 m\"\npixels = \"1 /m\"\ncopper = \"0.1 Ω/m\"\nquiescent = \"0 A\"\n\
                cut-spacing = \"0.5 m\"\nminimum = \"3 V\"\nrecommended = \"4.92 V .. 5.5 V\"\ncable = \"0 m 4 AWG\"\n\
                colours.white = { current = \"1 A\", vf = \"1 V\", vreg = \"2 V\" }\n";
    let path = plan("quay.toml", text);
    let (code, answer) = json(&["size", "injection", "--plan", &path, "--strip", "quay"]);
    assert_eq!((code, answer["fewest"].as_u64(), answer["places"].as_u64()), (0, Some(1), Some(3)));
    assert_eq!((answer["limit_v"].as_f64(), answer["limit_of"].as_str()), (Some(4.92), Some("recommended")));
    let option = &answer["options"][0];
    assert_eq!(option["feeds"][0]["at_m"].as_f64(), Some(0.5));
    // 1 A over a load factor of 0.75 takes a 2 A blade fuse, cold 53 mΩ; the cable is 0.5 m of 4 AWG, 0.84 mΩ/m each
    // way.
    assert_eq!(option["feeds"][0]["fuse_a"].as_f64(), Some(2.0));
    let lowest = option["lowest_v"].as_f64().unwrap();
    assert!((lowest - (5.0 - 0.053 - 0.00084)).abs() < 1e-4, "{lowest}");
    let planned = &answer["alternatives"][0];
    assert_eq!(planned["option"], "as planned");
    assert!((planned["lowest_v"].as_f64().unwrap() - 4.9).abs() < 1e-6, "{planned}");
    assert_eq!(planned["suitable"], false);
    let (code, text, _) = mohm(&["size", "injection", "--plan", &path, "--strip", "quay"]);
    assert_eq!(code, 0);
    assert!(text.starts_with("feed `quay` at 0.5 m: lowest pixel then 4.95 V\n"), "{text}");
    for heading in ["The best places for each number of feed points", "Other options, side by side"] {
        assert!(text.contains(heading), "{text}");
    }
    // What cannot be reached is said, and is no error.
    let (code, text, _) = mohm(&["size", "injection", "--plan", &path, "--strip", "quay", "--min-voltage", "5.2 V"]);
    assert_eq!(code, 1);
    assert!(text.contains("are not enough for `quay`: lowest pixel 4.97 V of 5.2 V"), "{text}");
}

#[test]
fn feed_points_without_a_plan() {
    let asked = [
        "size",
        "injection",
        "--part",
        "pixel-12v-rgb-threes",
        "--length",
        "2 m",
        "--leds",
        "60 /m",
        "--voltage",
        "12 V ± 5 %",
    ];
    let (code, answer) = json(&asked);
    assert_eq!(code, 0);
    assert_eq!((answer["strip"].as_str(), answer["places"].as_u64()), (Some("asked"), Some(41)));
    let lowest = answer["options"][0]["lowest_v"].as_f64().unwrap();
    assert!(lowest >= 10.8, "{answer}");
}

/// A voltage without a tolerance is the same adapter with and without a plan: ± 5 %.
#[test]
fn a_plain_voltage_is_an_adapter_with_and_without_a_plan() {
    let asked = |volts: &str| {
        let (code, answer) = json(&[
            "size",
            "injection",
            "--part",
            "pixel-5v-rgb",
            "--length",
            "2 m",
            "--leds",
            "30 /m",
            "--voltage",
            volts,
            "--cable-length",
            "0.3 m",
        ]);
        assert_eq!(code, 0);
        answer["options"].clone()
    };
    let plain = asked("5 V");
    assert_eq!(plain, asked("5 V ± 5 %"));
    assert_ne!(plain, asked("5 V ± 1 %"));
    let text = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"100 A\"\n\
                [strip.asked]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"2 m\"\nleds = \"30 /m\"\n\
                cable = \"0.3 m 18 AWG\"\n";
    let path = plan("asked.toml", text);
    let (_, planned) = json(&["size", "injection", "--plan", &path, "--strip", "asked"]);
    let lowest = |options: &serde_json::Value| options[0]["lowest_v"].as_f64().unwrap();
    assert!((lowest(&planned["options"]) - lowest(&plain)).abs() < 0.01, "{planned} {plain}");
}

#[test]
fn feed_points_without_a_plan_want_every_figure() {
    // Nothing is taken twice or left out.
    for (args, words) in [
        (&["size", "injection", "--part", "pixel-5v-rgb", "--length", "2 m", "--voltage", "5 V"][..], "--pixels"),
        (
            &["size", "injection", "--part", "pixel-7v", "--length", "2 m", "--pixels", "60 /m", "--voltage", "5 V"],
            "pixel-7v",
        ),
        (
            &[
                "size",
                "injection",
                "--part",
                "plain-12v-white",
                "--length",
                "2 m",
                "--leds",
                "60 /m",
                "--voltage",
                "12 V",
            ],
            "power",
        ),
        (
            &[
                "size",
                "injection",
                "--part",
                "pixel-5v-rgb",
                "--length",
                "2 m",
                "--pixels",
                "60 /m",
                "--voltage",
                "5 V",
                "--wire",
                "thick",
            ],
            "wire",
        ),
        (&["size", "injection", "--plan", "plans/harbour-diorama.toml", "--strip", "pier"], "no strip `pier`"),
        (&["size", "injection", "--plan", "plans/harbour-diorama.toml"], "--strip"),
    ] {
        let (code, out, err) = mohm(args);
        assert_eq!(code, 2, "{args:?}: {out}{err}");
        assert!(err.contains(words), "{args:?}: {err}");
    }
}

/// By hand: 5 A × 80 % − 0.35 A = 3.65 A; (3.65 − 0.12)/(7.32 − 0.12) = 49.03 %.
#[test]
fn a_cap_by_hand() {
    let asked = ["size", "firmware-limit", "--pixels", "120", "--full-white", "61 mA", "--path-limit"];
    let with = |carries: &'static str| asked.iter().copied().chain([carries]).collect::<Vec<_>>();
    let (code, answer) = json(&with("converter 5 A 80 % 0.35 A"));
    assert_eq!((code, answer["binding"].as_str()), (0, Some("converter")));
    assert!((answer["limit_a"].as_f64().unwrap() - 3.65).abs() < 1e-12);
    assert!((answer["brightness"].as_f64().unwrap() - 3.53 / 7.2).abs() < 1e-12);
    let (_, text, _) = mohm(&with("converter 5A 80% 350mA"));
    assert!(text.starts_with("set the firmware to 3.65 A: limited by converter"), "{text}");
    let (code, text, _) = mohm(&with("rail 20 A"));
    assert_eq!(code, 0);
    assert!(text.starts_with("no firmware limit is needed: full white draws 7.32 A"), "{text}");
    let (code, text, _) = mohm(&with("port 0.1 A"));
    assert_eq!(code, 1);
    assert!(text.starts_with("no firmware limit is small enough"), "{text}");
    for wrong in
        ["converter", "converter five", "converter 5 A 80 V", "converter 5 A 80 % 1 A 50 % 3", "converter -5 A"]
    {
        let (code, _, err) = mohm(&with(wrong));
        assert_eq!(code, 2, "{wrong}");
        assert!(err.contains(wrong), "{err}");
    }
}

/// 600 pixels × 30 µs + 300 µs = 18.3 ms; 2000 × 40 µs + 0.3 ms = 80.3 ms, and at 30 a second a line carries
/// (33.33 − 0.3)/0.04 = 825 pixels: three lines of 667.
#[test]
fn frames_by_hand() {
    let (code, answer) = json(&["size", "frames", "--pixels", "600"]);
    assert_eq!((code, answer["bytes"].as_u64()), (0, Some(1800)));
    assert!((answer["frame_s"].as_f64().unwrap() - 0.0183).abs() < 1e-12);
    let (code, answer) = json(&["size", "frames", "--pixels", "2000", "--colours", "4", "--fps", "30"]);
    assert_eq!((code, answer["max_pixels"].as_u64(), answer["lines"].as_u64()), (1, Some(825), Some(3)));
    let (_, text, _) = mohm(&["size", "frames", "--pixels", "2000", "--colours", "4", "--fps", "30"]);
    assert!(text.contains("split them over 3 lines of 667 or fewer"), "{text}");
    assert_eq!(mohm(&["size", "frames", "--pixels", "0"]).0, 2);
}

/// A plain RGB strip, two strips under one firmware limit and a cut one, as the tables show them.
#[test]
fn new_strips_in_the_tables() {
    let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"20 A\"\n\
                [strip.cornice]\npart = \"plain-12v-rgb\"\nfrom = \"wall\"\ncable = \"1 m 18 AWG\"\nlength = \"1 m\"\nleds = \"60 /m\"\n\
                power = \"7.2 W/m\"\nswitched = { red = { by = \"stage-red\", resistance = \"0 Ω\" } }\n\
                [strip.quay]\npart = \"pixel-12v-rgb-threes\"\nfrom = \"wall\"\ncable = \"1 m 18 AWG\"\nlength = \"1 m\"\nleds = \"60 /m\"\n\
                [strip.pier]\npart = \"pixel-12v-rgb-threes\"\nfrom = \"wall\"\ncable = \"1 m 18 AWG\"\nlength = \"2 m\"\nleds = \"60 /m\"\n\
                [firmware-limit.both]\nstrips = [\"quay\", \"pier\"]\ncurrent = \"0.6 A\"\n\
                [scenario.dusk]\nset = { cornice = { red = \"50 %\" }, quay = { blue = \"10 %\" } }\n";
    let path = plan("new-strips.toml", text);
    let (_, drop) = json(&["drop", &path, "--scenario", "worst", "--corner", "typical"]);
    let strip = |name: &str| drop["strips"].as_array().unwrap().iter().find(|s| s["name"] == name).unwrap().clone();
    assert_eq!((strip("cornice")["leds"].as_u64(), strip("cornice")["pixels"].as_u64()), (Some(60), Some(20)));
    assert_eq!(strip("cornice")["switched"][0]["by"], "stage-red");
    // One factor for both: 60 pixels of 1 mA and 54 mA each; (0.6 − 0.06)/3.24 = 1/6 of full light.
    for (name, pixels) in [("quay", 20.0), ("pier", 40.0)] {
        assert_eq!(
            (strip(name)["shared_limit"].as_str(), strip(name)["firmware_limit_a"].as_f64()),
            (Some("both"), Some(0.6))
        );
        let want = pixels * (0.001 + 0.054 / 6.0);
        assert!(
            (strip(name)["current_a"].as_f64().unwrap() - want).abs() < 1e-9,
            "{name}: {}",
            strip(name)["current_a"]
        );
    }
    // Half of the time red is on, and while it is on it draws all of its current; green and blue draw nothing.
    let (_, dusk) = json(&["budget", &path, "--scenario", "dusk", "--corner", "typical"]);
    let lead = |name: &str| {
        let rows = dusk["conductors"].as_array().unwrap();
        rows.iter().find(|r| r["name"] == name).unwrap_or_else(|| panic!("{name}"))["return_a"].as_f64().unwrap()
    };
    let red = -lead("cornice.inject[0]");
    assert!((0.19..0.2).contains(&red), "a third of 0.6 A, less a little sag: {red}");
    for dark in ["cornice.inject[0].green", "cornice.inject[0].blue"] {
        assert!(lead(dark).abs() < 1e-12, "{dark}: {}", lead(dark));
    }
}
