//! Leads, connectors and fuses as a user meets them: `size wire|fuse|pair`, and what `budget`, `drop`, `why`, `draw`
//! and `check` say of the shipped plans.

use serde_json::Value;

use crate::tool::{code_and_streams, json, mohm, near};

const SOUND: &str = "plans/harbour-diorama.toml";
const DRAFT: &str = "plans/harbour-first-draft.toml";
const FERRY: &str = "plans/ferry-landing.toml";

/// What it says, and how it ends.
fn said(args: &[&str]) -> (String, i32) {
    let output = mohm(args);
    (String::from_utf8(output.stdout).unwrap(), output.status.code().unwrap())
}

fn row<'v>(list: &'v Value, name: &str) -> &'v Value {
    list.as_array().unwrap().iter().find(|r| r["name"] == name).unwrap_or_else(|| panic!("no {name} in {list:#}"))
}

/// 2 A over 3 m from 5 V may lose 0.15 V: 25 mΩ/m of loop. 2.5 mm² has 2 · 7.98, 1.5 mm² 2 · 13.3 mΩ/m. The port's 4 A
/// take 0.25 mm² of 4.7 A, a 7.5 A blade fuse 0.5 mm² of 9.4 A.
#[test]
fn a_wire_answers_three_questions_apart() {
    let ask = [
        "size",
        "wire",
        "--current",
        "2 A",
        "--length",
        "3 m",
        "--voltage",
        "5 V",
        "--drop",
        "3 %",
        "--limit",
        "4 A",
        "--fuse",
        "7.5 A",
        "--metric",
    ];
    let answer = json(&ask);
    assert_eq!(answer["load"]["size"], "2.5 mm²");
    assert_eq!(answer["limit"]["size"], "0.25 mm²");
    assert_eq!(answer["for_protection"]["size"], "0.5 mm²");
    assert_eq!(answer["choice"], "2.5 mm²");
    // 14.6 · 2.5^0.63 = 26.0 A: 25 °C + 40 K · (2/26)² = 25.24 °C: 7.98 mΩ/m · (1 + 0.00393 · 5.24) · 6 m · 2 A.
    let warm = 5.0 + 40.0 * (2.0 / (14.6 * 2.5f64.powf(0.63))).powi(2);
    near(&answer["load"]["drop_v"], 0.007_98 * (1.0 + 0.003_93 * warm) * 12.0, 1e-6);
    let (text, code) = said(&ask);
    assert_eq!(code, 0);
    assert!(
        text.starts_with("use 2.5 mm² or thicker") && text.contains("blade fuse, which needs a wire rated"),
        "{text}"
    );
    // A cartridge of the same rating asks for 7.5/0.69 = 10.9 A.
    let cartridge = json(&[&ask[..], &["--family", "cartridge"]].concat());
    assert_eq!(cartridge["for_protection"]["size"], "0.75 mm²");
}

/// What a bundle and warm air leave of a wire.
#[test]
fn how_it_is_laid_counts() {
    let laid = ["--ambient", "45 °C", "--bundle", "3"];
    let fuse = json(&[&["size", "fuse", "--current", "3 A", "--wire", "16 AWG"], &laid[..]].concat());
    // 16 AWG, 1.3087 mm², carries 14.6 · S^0.63; √((70 − 45)/(70 − 30)) is left in 45 °C, 0.7 among three.
    near(&fuse["allowed_a"], 14.6 * 1.308_74f64.powf(0.63) * 0.625f64.sqrt() * 0.7, 1e-4);
    assert_eq!(fuse["rating_a"], 4.0);
    let wire =
        json(&[&["size", "wire", "--current", "6 A", "--length", "0.1 m", "--voltage", "24 V"], &laid[..]].concat());
    assert_eq!(wire["load"]["size"], "18 AWG");
    near(&wire["load"]["ampacity_a"], 14.6 * 0.823_08f64.powf(0.63) * 0.625f64.sqrt() * 0.7, 1e-4);
}

#[test]
fn a_fuse_or_why_there_is_none() {
    let (text, code) = said(&["size", "fuse", "--current", "8 A", "--wire", "18 AWG"]);
    assert_eq!(code, 1);
    assert!(text.contains("no blade fuse is made between the two") && text.contains("10.7 A"), "{text}");
    // 12.9 A carried by 18 AWG: 10.7 A are needed; between 10 A and 15 A none is made.
    let (text, code) = said(&["size", "fuse", "--current", "20 A", "--wire", "18 AWG"]);
    assert_eq!(code, 1);
    assert!(
        text.contains("no blade fuse fits") && text.contains("26.7 A") && text.contains("size wire-and-fuse"),
        "{text}"
    );
    // 11.4 V over 50 mΩ, the 3.15 A fuse's 29.5 mΩ and 2 · 6 m of 0.5 mm² at 70 °C, 46.66 mΩ/m.
    let far = json(&[
        "size",
        "fuse",
        "--current",
        "2.3 A",
        "--wire",
        "0.5 mm²",
        "--family",
        "cartridge",
        "--voltage",
        "11.4 V",
        "--length",
        "6 m",
        "--source",
        "50 mΩ",
    ]);
    let ohms = 0.05 + 0.029_47 + 12.0 * 0.039 * (1.0 + 0.003_93 * 50.0);
    near(&far["min_fault_a"], 11.4 / ohms, 1e-5);
    near(&far["blows_a"], 2.1 * 3.15, 1e-9);
    near(&far["clears_a"], 2.75 * 3.15, 1e-9);
    let limited = said(&[
        "size",
        "fuse",
        "--current",
        "2.3 A",
        "--wire",
        "0.5 mm²",
        "--family",
        "cartridge",
        "--voltage",
        "11.4 V",
        "--length",
        "6 m",
        "--source-limit",
        "5 A",
    ]);
    assert!(limited.0.contains("does not blow it") && limited.0.contains("limited by the source"), "{}", limited.0);
}

#[test]
fn a_pair_or_none() {
    let pair = json(&["size", "wire-and-fuse", "--current", "8 A", "--length", "2 m", "--voltage", "12 V"]);
    assert_eq!((&pair["wire"]["size"], &pair["rating_a"]), (&Value::from("16 AWG"), &Value::from(15.0)));
    let (text, code) = said(&["size", "wire-and-fuse", "--current", "80 A", "--length", "4 m", "--voltage", "5 V"]);
    assert_eq!(code, 1);
    assert!(text.starts_with("no listed wire has a blade fuse for this"), "{text}");
}

#[test]
fn odd_questions_are_refused_with_all_their_faults() {
    for (args, words) in [
        (
            vec!["size", "wire", "--current", "0 A", "--length", "3 m", "--voltage", "0 V", "--drop", "120 %"],
            vec!["the current: 0 A", "the voltage", "the drop is 120 %"],
        ),
        (vec!["size", "fuse", "--current", "1 A", "--wire", "99 AWG", "--wire", "0.01 mm²"], vec!["99 AWG"]),
        (vec!["size", "wire-and-fuse", "--current", "1 A", "--length", "-1 m", "--voltage", "5 V"], vec!["length"]),
        (vec!["size", "wire", "--current", "1 A", "--length", "1 m", "--voltage", "5 V", "--bundle", "40"], vec!["40"]),
        (vec!["size", "fuse", "--current", "1 A", "--wire", "16 AWG", "--voltage", "5 V"], vec!["--length"]),
    ] {
        let output = mohm(&args);
        let told = String::from_utf8(output.stderr).unwrap();
        assert_eq!((output.status.code(), output.stdout.len()), (Some(2), 0), "{args:?}");
        for word in words {
            assert!(told.contains(word), "{args:?}: {told}");
        }
    }
}

/// The numbers the demo was designed with: 6.75 A behind the 5 A fuse, 6.6 A surely, 17.3 A of wire; and how warm the
/// wire of the run gets, boards at their mean: 28 °C + 40 K · (I/17.3 A)².
#[test]
fn budget_says_what_protects_and_warms_the_leads() {
    let budget = json(&["budget", SOUND]);
    let deck = row(&budget["cables"], "deck");
    near(&deck["sustained_fault_a"], 6.75, 1e-9);
    near(&deck["min_fault_a"], 6.6, 1e-9);
    let carries = 14.6 * 1.308_74f64.powf(0.63);
    near(&deck["ampacity_a"], carries, 1e-4);
    assert_eq!((&deck["code"], &deck["severity"]), (&Value::from("fuse-may-not-blow"), &Value::from("advisory")));
    let shore = row(&budget["cables"], "shoreline.inject[0]");
    assert_eq!((&shore["code"], &shore["protected_by"]), (&Value::Null, &Value::from("the limit of five")));
    near(&shore["sustained_fault_a"], 7.5, 1e-9);
    let worst = json(&["budget", SOUND, "--scenario", "worst", "--corner", "low"]);
    let lead = row(&worst["conductors"], "deck");
    assert_eq!((&lead["limit_a"], &lead["limited_by"]), (&Value::from(3.75), &Value::from("fuse")));
    // For long the board takes its mean, 380 mA less than in its bursts: at 90 % and 5.0 V out of 11.27 V.
    let feed = lead["feed_a"].as_f64().unwrap();
    let amps = feed - 0.38 * 5.0 / (0.9 * 11.27);
    near(&lead["temperature_c"], 28.0 + 40.0 * (amps / carries).powi(2), 1e-3);
    // What both conductors lose is their current times their loss's share.
    near(&lead["feed_loss_w"], lead["feed_drop_v"].as_f64().unwrap() * lead["feed_a"].as_f64().unwrap(), 1e-9);
    let text = said(&["budget", SOUND]).0;
    for words in ["Cable protection", "5 A blade fuse of deck", "3.75 A fuse", "protected by"] {
        assert!(text.contains(words), "{words}: {text}");
    }
    assert!(said(&["drop", SOUND]).0.contains("Cables: voltage drop of feed and return"));
}

#[test]
fn the_draft_is_told_about_its_fuse() {
    let check = json(&["check", DRAFT]);
    let of = |code: &str| check["findings"].as_array().unwrap().iter().find(|f| f["code"] == code).cloned().unwrap();
    let large = of("fuse-too-large");
    assert_eq!((&large["severity"], &large["subject"]), (&Value::from("advisory"), &Value::from("deck")));
    let missing = of("fuse-missing");
    assert_eq!(missing["subject"], "shoreline.inject[0]");
    let first = &missing["proposals"][0];
    assert_eq!((&first["verified"], &first["ends"]), (&Value::from(true), &Value::from(true)), "{missing:#}");
    assert_eq!(first["edits"][0]["path"], "strip.shoreline.cable", "{missing:#}");
}

#[test]
fn the_ferry_landing_is_sound_and_its_leads_are_traced() {
    assert_eq!(said(&["check", FERRY, "--fail-on", "caution"]).1, 0);
    let why = said(&["why", FERRY, "bilge"]).0;
    for words in
        ["rating of the cable to bilge  2.25 A", "continuous current in the cable to bilge  4.05 A", "only resistance"]
    {
        assert!(why.contains(words), "{words}: {why}");
    }
    let keeper = said(&["why", FERRY, "keeper"]).0;
    assert!(keeper.contains("contact, header-2mm54  3 A"), "{keeper}");
    let svg = said(&["draw", "power", FERRY]).0;
    assert!(svg.contains(">connector<") && svg.contains(">quay<"));
    let listed = said(&["catalogue", "connector"]).0;
    assert!(listed.contains("lever-splice-2mm5") && listed.contains("barrel-2mm1"), "{listed}");
}

/// `--item` shows a part and what feeds it, and nothing of its neighbours.
#[test]
fn one_part_of_many() {
    let plan = "plans/harbour-diorama.toml";
    let drop = json(&["drop", plan, "--item", "shoreline"]);
    let names = |list: &Value| -> Vec<String> {
        let mut names: Vec<String> =
            list.as_array().unwrap().iter().map(|row| row["name"].as_str().unwrap().to_owned()).collect();
        names.dedup();
        names
    };
    assert_eq!(names(&drop["strips"]), ["shoreline"]);
    assert_eq!(drop["loads"].as_array().unwrap().len(), 0);
    let budget = json(&["budget", plan, "--item", "shoreline"]);
    let rails = names(&budget["nodes"]);
    let all = names(&json(&["budget", plan])["nodes"]);
    assert!(rails.contains(&"five".to_owned()) && rails.len() < all.len(), "{rails:?} of {all:?}");
    assert_eq!(budget["totals"].as_array().unwrap().len(), 0);
    // The same rows as without the choice.
    let of = |table: &Value| -> Vec<Value> {
        table["strips"].as_array().unwrap().iter().filter(|s| s["name"] == "shoreline").cloned().collect()
    };
    assert_eq!(of(&drop), of(&json(&["drop", plan])));
    let (code, _, err) = code_and_streams(&["drop", plan, "--item", "shorelin"]);
    assert!(code == 2 && err.contains("did you mean `shoreline`?"), "{err}");
}
