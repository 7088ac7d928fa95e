//! What a hostile plan, a narrow terminal and a full disk do to the tool.

use std::process::{Command, Stdio};

use crate::tool::{code, command, err, file, json, mohm, out, root};

/// What cannot be written is no success; a reader that has gone away is.
#[cfg(unix)]
#[test]
fn a_result_that_is_lost_is_an_error() {
    let shell = |line: &str| {
        let line = line.replace("mohm", env!("CARGO_BIN_EXE_mohm"));
        Command::new("sh").args(["-c", &line]).current_dir(root()).output().unwrap()
    };
    let plan = "plans/harbour-diorama.toml";
    if std::path::Path::new("/dev/full").exists() {
        for verb in ["check", "budget", "draw power", "drop", "pins", "firmware"] {
            let full = shell(&format!("mohm {verb} {plan} > /dev/full"));
            assert_eq!(code(&full), 2, "{verb}");
            assert!(err(&full).contains("cannot write to standard output"), "{verb}: {}", err(&full));
        }
        assert_eq!(code(&shell("mohm --help > /dev/full")), 2);
        assert_eq!(code(&shell("mohm about gate-drive > /dev/full")), 2);
    }
    // Many callers give a null device that is open for reading too; to them only the exit code matters.
    for null in ["> /dev/null", "1<> /dev/null"] {
        let quiet = shell(&format!("mohm check {plan} {null}"));
        assert_eq!((code(&quiet), err(&quiet).as_str()), (0, ""), "{null}");
    }
    let piped = shell(&format!("mohm budget {plan} | head -n 1"));
    assert_eq!((code(&piped), err(&piped).as_str()), (0, ""));
}

/// Sequences that steer a terminal do not get into a plan by any name, and so into no output.
#[test]
fn a_pin_cannot_carry_an_escape_sequence() {
    let plan = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"2 A\"\n\
        [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = { 5v = \"wall\" }\n[input.gate]\nkind = \"contact\"\n";
    let pins = [
        "keeper.\\u001b]0;owned\\u0007io21",
        "keeper.\\u001b[2Jio21",
        "keeper.io\\u202e21",
        "keeper.io\\n21",
        "keeper.i o21",
    ];
    for pin in pins {
        let (_folder, path) = file(&format!("{plan}pin = \"{pin}\"\n"));
        for args in [vec!["check", &path], vec!["pins", &path], vec!["why", &path, "gate"], vec!["draw", "pins", &path]]
        {
            let output = command(&args).env("CLICOLOR_FORCE", "1").output().unwrap();
            assert_eq!((code(&output), output.stdout.len()), (2, 0), "{args:?} {pin}");
            let shown = err(&output);
            let steers = ["\u{1b}]", "\u{1b}[2J", "\u{202e}", "\u{7}"];
            assert!(steers.iter().all(|s| !shown.contains(s)), "{args:?} {pin}: {shown:?}");
        }
    }
    // Near misses: names that boards have.
    for pin in ["keeper.io21", "keeper.p13", "keeper.tx_0", "keeper.gpio-21"] {
        let (_folder, path) = file(&format!("{plan}pin = \"{pin}\"\n"));
        assert_ne!(code(&mohm(&["check", &path])), 2, "{pin}");
    }
}

/// A regulator whose rating the board uses up: 0.5 A of 0.5 A, and nothing else on it.
#[test]
fn nothing_of_nothing_is_told_in_words() {
    let plan = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"2 A\"\n[board.keeper]\n\
        part = \"wifi-board-3v3\"\nfrom = { 5v = { node = \"wall\", cable = \"0.3 m 20 AWG\" } }\nmean = \"0.5 A\"\npeak = \"0.5 A\"\n";
    let (_folder, path) = file(plan);
    for args in [vec!["check", &path, "--passed"], vec!["budget", &path], vec!["drop", &path]] {
        let text = out(&mohm(&args));
        assert!(!text.contains("NaN") && !text.contains("inf "), "{args:?}\n{text}");
    }
    let passed = json(&["check", &path, "--passed"]);
    let own = passed["passed"]
        .as_array()
        .unwrap()
        .iter()
        .find(|p| p["code"] == "supply-headroom" && p["subject"] == "keeper.3v3");
    assert!(own.is_some_and(|p| p["margin"].as_str().unwrap().contains("no headroom is left")), "{own:?}");
}

/// `size` follows the terminal like all else.
#[test]
fn answers_are_no_wider_than_the_terminal() {
    let stage = ["size", "driver", "--load", "pump-12v-small", "--rail", "12 V", "--board", "wifi-board-3v3"];
    let battery = ["size", "battery", "--power", "3 W", "--voltage", "6 V .. 12 V", "--runtime", "24 h"];
    for args in [&stage[..], &battery[..]] {
        for columns in ["70", "80", "100"] {
            let output = command(args).env("COLUMNS", columns).stdout(Stdio::piped()).output().unwrap();
            let text = out(&output);
            let widest = text.lines().map(|l| l.chars().count()).max().unwrap();
            assert!(text.lines().count() > 3 && widest <= columns.parse().unwrap(), "{widest} of {columns}:\n{text}");
        }
    }
}

/// An accepted finding is accepted in every table.
#[test]
fn the_budget_does_not_contradict_an_acceptance() {
    let plan = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"5 A\"\n[load.lamp]\nfrom = \"wall\"\n\
        cable = \"3 m 28 AWG\"\ncurrent = \"0.2 A\"\nvoltage = \"12 V\"\n";
    let accepted = format!("{plan}[[accept]]\ncode = \"fuse-missing\"\non = \"lamp\"\nbecause = \"in a steel tube\"\n");
    for (text, is_accepted, words) in
        [(plan, false, "danger fuse-missing"), (accepted.as_str(), true, "accepted: fuse-missing")]
    {
        let (_folder, path) = file(text);
        let lead = &json(&["budget", &path])["cables"][0];
        assert_eq!((lead["severity"].as_str(), lead["accepted"].as_bool()), (Some("danger"), Some(is_accepted)));
        let shown = out(&mohm(&["budget", &path]));
        let row = shown.lines().find(|l| l.trim_start().starts_with("lamp") && l.contains("28 AWG")).unwrap();
        assert!(row.ends_with(words), "{row}");
    }
}
