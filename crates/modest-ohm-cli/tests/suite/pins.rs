//! `pins`, `draw pins` and the questions about signals, as a user calls them.

use serde_json::Value;

use crate::tool::{code, err, file, json, mohm, out, root};

const GATE: &str = "plans/orchard-gate.toml";

#[test]
fn the_orchard_gate_is_sound() {
    let check = json(&["check", GATE]);
    for severity in ["danger", "fault", "caution", "advisory", "unknown"] {
        assert_eq!(check["summary"][severity], 0, "{severity}");
    }
}

#[test]
fn pins_by_position() {
    let text = out(&mohm(&["pins", GATE]));
    let line = |start: &str| {
        text.lines().find(|l| l.trim_start().starts_with(start)).unwrap_or_else(|| panic!("{start}\n{text}"))
    };
    assert!(line("p27       io16").contains("open (wire) → lift → gate.d7"), "{text}");
    // Either end of an open-drain wire may pull it low.
    assert!(line("p28       io17").contains("state (wire) → gate.d8"));
    // (3.40 − 1.8) V / (209 + 33) Ω = 6.61 mA into the pin.
    assert!(line("p30       io18").contains("link (sink)") && line("p30       io18").contains("−6.61 mA"));
    assert!(line("p13       io12").contains("needs low"));
    assert!(line("p16       io9").contains("(flash)"));
    let boards = json(&["pins", GATE]);
    let gate = &boards["boards"][1];
    assert_eq!((gate["board"].as_str(), gate["header"].as_str()), (Some("gate"), Some("edges")));
    let d5 = gate["pins"].as_array().unwrap().iter().find(|p| p["name"] == "d5").unwrap();
    // (5.0992 − 1.9) V / (313.5 + 40) Ω: 5.1 V less what the board's lead loses.
    let amps = d5["out_a"].as_f64().unwrap();
    assert!((amps - 3.2 / 353.5).abs() < 3e-5, "{amps}");
    assert_eq!(d5["jobs"][0]["subject"], "open-lamp");
    let csv = out(&mohm(&["pins", GATE, "--board", "gate", "--format", "csv"]));
    assert_eq!(csv.lines().count(), 31);
    assert!(csv.lines().next().unwrap().starts_with("board,position,pin,kind,jobs,out_a"));
}

#[test]
fn pins_that_are_free() {
    let could = json(&["pins", GATE, "--supports", "analogue"]);
    let names = |board: usize| -> Vec<&str> {
        could["boards"][board]["pins"].as_array().unwrap().iter().map(|p| p["name"].as_str().unwrap()).collect()
    };
    // Of six converters that the radio leaves alone three are used.
    assert_eq!(names(0), ["io36", "io39", "io33"]);
    assert_eq!(names(1).len(), 8);
    let outputs = out(&mohm(&["pins", GATE, "--supports", "pwm", "--board", "gate"]));
    assert!(outputs.contains("d3") && !outputs.contains("d5 ") && !outputs.contains("a0"), "{outputs}");
    // As an output a pin that is only read is none.
    let both = out(&mohm(&["pins", GATE, "--supports", "analogue,output", "--board", "house"]));
    assert!(both.contains("io33") && !both.contains("io36"), "{both}");
    let class = out(&mohm(&["pins", "--part", "linux-board-3v3"]));
    assert!(class.lines().any(|l| l.contains("p18") && l.contains("io24")), "{class}");
}

#[test]
fn questions_that_cannot_be_answered() {
    for (args, words) in [
        (&["pins", GATE, "--supports", "pwn"][..], "did you mean `pwm`?"),
        (&["pins", GATE, "--board", "gaet"], "did you mean `gate`?"),
        (&["pins", "--part", "linux-board"], "did you mean `linux-board-3v3`?"),
        (&["pins", "--part", "pixel-5v-rgb"], "boards: "),
        (&["pins"], "required"),
        (&["pins", GATE, "--assign", "--also", "beem"], "did you mean `beam`?"),
        (&["pins", GATE, "--assign", "--format", "csv"], "text or JSON"),
        (&["pins", "nowhere.toml"], "nowhere.toml"),
        (&["draw", "pins", GATE], "name one board with --item; this plan has: house, gate"),
        (&["draw", "pins", GATE, "--item", "gates"], "no board `gates`"),
        (&["draw", "pins", GATE, "--item", "gate", "--scenario", "worst"], "leave out --scenario"),
        (&["draw", "pins", "plans/weather-mast.toml"], ""),
        (&["size", "led", "--supply", "5 V", "--part", "led-rde", "--current", "5 mA"], "did you mean `led-red`?"),
        (&["size", "led", "--supply", "5 V", "--vf", "2 V", "--current", "5 mA", "--e-series", "E95"], "E3, E6, E12"),
        (
            &["size", "led", "--supply", "5 V", "--vf", "2 V", "--current", "5 mA", "--stock", "nowhere.csv"],
            "nowhere.csv: there is no such file",
        ),
        (&["size", "divider", "--input", "9 V", "--max", "3 V", "--min", "4 V"], "must be below the maximum"),
        (&["size", "pull", "--rail", "3.3 V", "--low", "2 V", "--high", "1 V"], "must be below the high"),
        (
            &["size", "level", "--from", "3.3 V", "--to", "5 V", "--high", "30 %", "--low", "70 %"],
            "must be below the high",
        ),
        (
            &[
                "size",
                "level",
                "--from",
                "3.3 V",
                "--to",
                "5 V",
                "--high",
                "70 %",
                "--low",
                "30 %",
                "--tolerance",
                "100 %",
            ],
            "must be below 100 %",
        ),
        (
            &["size", "led", "--supply", "5 V", "--vf", "2 V", "--current", "5 mA", "--absolute", "0 A"],
            "the absolute maximum: 0 A is not above zero",
        ),
        (&["size", "level", "--from", "3.3 V", "--to", "5 A", "--high", "70 %", "--low", "30 %"], "the receiver"),
    ] {
        let output = mohm(args);
        if words.is_empty() {
            continue;
        }
        assert_eq!((code(&output), out(&output).as_str()), (2, ""), "{args:?}");
        assert!(err(&output).contains(words), "{args:?}: {}", err(&output));
    }
}

#[test]
fn pins_are_proposed() {
    let text = std::fs::read_to_string(root().join(GATE)).unwrap();
    let open = text
        .replace("pin = \"house.io35\"", "pin = \"house.any\"")
        .replace("from = \"gate.d5\"", "from = \"gate.any\"")
        .replace("data = \"house.io21\"", "data = \"house.any\"");
    let (_folder, path) = file(&open);
    let answer = json(&["pins", &path, "--assign"]);
    assert_eq!((answer["possible"].as_bool(), answer["findings"].as_array().map(Vec::len)), (Some(true), Some(0)));
    let pins = answer["pins"].as_array().unwrap();
    let paths: Vec<&str> = pins.iter().map(|p| p["path"].as_str().unwrap()).collect();
    assert_eq!(paths, ["led.open-lamp.from", "input.beam.pin", "bus.mast.data"]);
    // Written into the plan as it says, the plan is as sound as before.
    let mut mended = open.clone();
    for pin in pins {
        let value = pin["value"].as_str().unwrap();
        let any = format!("\"{}.any\"", pin["board"].as_str().unwrap());
        let key = pin["path"].as_str().unwrap().rsplit('.').next().unwrap();
        mended = mended.replacen(&format!("{key} = {any}"), &format!("{key} = {value}"), 1);
    }
    assert!(!mended.contains(".any"), "{mended}");
    let (_other, path) = file(&mended);
    let check = mohm(&["check", &path]);
    assert!(out(&check).contains("no findings"), "{}", out(&check));
    // And where none is possible, it says between whom.
    let crowd: String = (0..4)
        .map(|i| {
            format!("[input.more{i}]\npin = \"house.any\"\nkind = \"voltage\"\nhigh = \"2 V\"\nreads = \"analogue\"\n")
        })
        .collect();
    let (_third, path) = file(&format!("{text}\n{crowd}"));
    let output = mohm(&["pins", &path, "--assign"]);
    assert_eq!(code(&output), 1);
    assert!(out(&output).contains("only `house.io36`, `house.io39`, `house.io33` have what any"), "{}", out(&output));
    assert!(out(&mohm(&["pins", GATE, "--assign"])).contains("every signal of the plan has its pin"));
}

#[test]
fn out_of_the_drawer() {
    let folder = tempfile::tempdir().unwrap();
    let drawer = folder.path().join("drawer.csv");
    let path = drawer.display().to_string();
    std::fs::write(&drawer, "value;pieces\n470 Ω;10\n1k;4\n220R;0\n33k;2\n10k;50\n68k;3\n").unwrap();
    let led = ["size", "led", "--supply", "5 V ± 5 %", "--part", "led-red", "--current", "10 mA", "--stock", &path];
    // 310 Ω exactly; the drawer has no 220 Ω left, and 470 Ω is the next.
    let answer = json(&led);
    assert_eq!(answer["chosen"]["ohm"], 470.0);
    let divider = ["size", "divider", "--input", "9 V .. 14.8 V", "--max", "3.6 V", "--min", "1.0 V", "--stock", &path];
    let pairs = json(&divider);
    let all: Vec<(f64, f64)> = (pairs["pairs"].as_array().unwrap().iter())
        .map(|p| (p["top_ohm"].as_f64().unwrap(), p["bottom_ohm"].as_f64().unwrap()))
        .collect();
    // 33 kΩ over 10 kΩ gives 3.71 V at its corner, too much; 68 kΩ over 10 kΩ fits, and nothing else of the drawer.
    assert_eq!(all, [(68e3, 10e3)]);
    // Lines are those of the file, empty ones and all.
    std::fs::write(&drawer, "value\n470 Ω\nblue\n\n12\n12 V\n").unwrap();
    let output = mohm(&led);
    assert_eq!(code(&output), 2);
    assert!(err(&output).contains("line 3") && err(&output).contains("line 6"), "{}", err(&output));
    assert!(!err(&output).contains("line 5"), "{}", err(&output));
}

#[test]
fn a_picture_of_the_header() {
    let folder = tempfile::tempdir().unwrap();
    let to = folder.path().join("gate.svg").display().to_string();
    let output = mohm(&["draw", "pins", GATE, "--item", "gate", "--output", &to]);
    assert_eq!(code(&output), 0, "{}", err(&output));
    let svg = std::fs::read_to_string(&to).unwrap();
    for words in [
        "Orchard gate · pins of gate",
        "open-lamp (feed)",
        "of 20 mA",
        ">d5<",
        ">vin<",
        "open (wire) ← lift ← house.io16",
    ] {
        assert!(svg.contains(words), "{words}");
    }
    // Every position once.
    for place in 1..=30 {
        assert_eq!(svg.matches(&format!(">{place}</text>")).count(), 1, "{place}");
    }
}

fn near(v: &Value, want: f64) {
    let got = v.as_f64().unwrap_or_else(|| panic!("{v} for {want}"));
    assert!((got - want).abs() <= 1e-9 * want.abs(), "{got} {want}");
}

/// The questions about signals as they are typed, each answer computed by hand.
#[test]
fn resistors_of_leds_with_numbers() {
    // 3.3 V − 2.0 V over 6 mA less the pin's 33 Ω: 183.7 Ω; of E12 220 Ω. Worst: (3.4 − 1.8)/(209 + 33).
    let led = json(&[
        "size",
        "led",
        "--supply",
        "3.2 V .. 3.4 V",
        "--vf",
        "1.8 V .. 2.2 V",
        "--current",
        "6 mA",
        "--pin",
        "33 Ω",
        "--e-series",
        "e12",
    ]);
    near(&led["exact_ohm"], 1.3 / 0.006 - 33.0);
    near(&led["chosen"]["ohm"], 220.0);
    near(&led["chosen"]["worst_a"], 1.6 / 242.0);
    // With an absolute maximum of 6.5 mA: (1.6/6.5 mA − 33)/0.95 = 224.4 Ω, so that 220 Ω is passed over for 270 Ω.
    let held = json(&[
        "size",
        "led",
        "--supply",
        "3.2 V .. 3.4 V",
        "--vf",
        "1.8 V .. 2.2 V",
        "--current",
        "6 mA",
        "--pin",
        "33 Ω",
        "--e-series",
        "e12",
        "--absolute",
        "6.5 mA",
    ]);
    near(&held["min_ohm"], (1.6 / 0.0065 - 33.0) / 0.95);
    near(&held["chosen"]["ohm"], 270.0);
}

#[test]
fn dividers_and_pulls_with_numbers() {
    // 24 V to 3.3 V: nothing at 5 %, at 2 % 75 over 11 kΩ or the like.
    let divider = ["size", "divider", "--input", "21 V .. 24 V", "--max", "3.3 V", "--min", "2.55 V"];
    let none = mohm(&divider);
    assert_eq!(code(&none), 1);
    assert!(out(&none).contains("with 2 % resistors one fits"), "{}", out(&none));
    let none = json(&divider);
    let pair = &none["finer"]["pair"];
    let (top, bottom) = (pair["top_ohm"].as_f64().unwrap(), pair["bottom_ohm"].as_f64().unwrap());
    near(&pair["worst_high_v"], 24.0 * bottom * 1.02 / (bottom * 1.02 + top * 0.98));
    near(&pair["worst_low_v"], 21.0 * bottom * 0.98 / (bottom * 0.98 + top * 1.02));
    // A contact that needs 1 mA at 3.2 V: 3.15 kΩ at most with its 50 Ω, 3 kΩ with 5 % of its own.
    let pull = json(&[
        "size",
        "pull",
        "--rail",
        "3.2 V .. 3.4 V",
        "--low",
        "25 %",
        "--high",
        "75 %",
        "--wetting",
        "1 mA",
        "--max-current",
        "1.2 mA",
    ]);
    near(&pull["max_ohm"], 3150.0);
    near(&pull["min_ohm"], 3.4 / 1.2e-3 - 50.0);
    near(&pull["chosen_ohm"], 3000.0);
    // I²C at 400 kHz, three parts on 0.5 m: 67.5 pF.
    let bus = json(&["size", "pull", "--rail", "3.3 V", "--bus", "400 kHz", "--parts", "3", "--length", "0.5 m"]);
    near(&bus["max_ohm"], 300e-9 / (0.8473 * 67.5e-12));
    near(&bus["min_ohm"], 2.9 / 3e-3);
}

#[test]
fn levels_with_numbers() {
    // 5 V into 3.3 V and back, for a receiver of 2.0 and 0.8 V at either end: the FET, for it is slow.
    let level = [
        "size",
        "level",
        "--from",
        "4.75 V .. 5.25 V",
        "--to",
        "3.2 V .. 3.4 V",
        "--high",
        "2 V",
        "--low",
        "0.8 V",
        "--bidirectional",
    ];
    let ways = json(&level);
    let works: Vec<&str> = (ways["options"].as_array().unwrap().iter())
        .filter(|w| w["works"] == true)
        .map(|w| w["option"].as_str().unwrap())
        .collect();
    assert_eq!(works, ["fet-two-way"]);
    let fast = mohm(&[&level[..], &["--rate", "2 MHz"]].concat());
    assert_eq!(code(&fast), 1);
    assert!(out(&fast).starts_with("no option is suitable"), "{}", out(&fast));
}

/// A plan as a beginner writes it, with a beginner's mistakes: each is found once, under its cause; and the plan that
/// follows what is said is sound but for what it leaves open.
#[test]
fn a_first_plan_with_pins() {
    let plan = |level: &str, stop: &str, display: &str, siren: &str| {
        format!(
            "format = 1\n[supply.brick]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"3 A\"\n\
             [board.pilot]\npart = \"wifi-board-3v3-small\"\nfrom = \"brick\"\ncable = \"0.3 m 22 AWG\"\n\
             [input.level]\npin = \"pilot.a0\"\nkind = \"voltage\"\nhigh = \"0.5 V .. 4.5 V\"\nreads = \"analogue\"\n{level}\
             [led.stop]\npart = \"led-red\"\nfrom = \"brick\"\ncable = \"0.2 m 24 AWG\"\nfuse = \"1 A\"\nsink = \"pilot.io13\"\nresistor = \"{stop}\"\n\
             [bus.panel]\ndata = \"pilot.io4\"\nclock = \"pilot.io5\"\npull = \"4k7\"\nlength = \"0.5 m\"\n\
             [sensor.display]\npart = \"sensor-module-5v\"\nbus = \"panel\"\nfrom = \"{display}\"\ncable = \"0.5 m 26 AWG\"\nfuse = \"1 A\"\naddress = \"0x3c\"\n\
             {siren}"
        )
    };
    let found = |text: &str| -> Vec<(String, String, String)> {
        let (_folder, path) = file(text);
        let check = json(&["check", &path]);
        let word = |f: &Value, key: &str| f[key].as_str().unwrap().to_owned();
        let all = check["findings"].as_array().unwrap().iter();
        all.filter(|f| ["danger", "fault"].contains(&f["severity"].as_str().unwrap()))
            .map(|f| (word(f, "severity"), word(f, "subject"), word(f, "code")))
            .collect()
    };
    let siren =
        "[load.siren]\nkind = \"electronics\"\nfrom = \"pilot.io14\"\ncurrent = \"30 mA\"\nvoltage = \"3.3 V\"\n";
    let first = found(&plan("", "220 Ω", "brick", siren));
    let want = [
        // (5 − 1.8) V through 209 and 50 Ω: 12.4 mA; 30 mA out of a pin that stands 12 mA, and what that leaves the
        // siren.
        ("danger", "pilot.io13", "pin-overloaded"),
        ("danger", "pilot.io14", "pin-overloaded"),
        // 4.5 V at a converter that reads 3.2 V as full, behind the board's own 220 kΩ, so that nothing is harmed.
        ("fault", "level", "divider-range"),
        // A 5 V module's pull-ups on 3.3 V pins are a caution: 0.15 mA through their protection.
    ];
    let mut got: Vec<(&str, &str, &str)> = first.iter().map(|(a, b, c)| (a.as_str(), b.as_str(), c.as_str())).collect();
    got.sort_unstable();
    let mut want = want.to_vec();
    want.sort_unstable();
    assert_eq!(got, want);
    let divider = "divider = { top = \"4.7 kΩ ± 1 %\", bottom = \"10 kΩ ± 1 %\" }\n";
    assert_eq!(found(&plan(divider, "560 Ω", "pilot.3v3", "")), []);
}
