//! What a maker reads on a reel or says in everyday words is understood, or answered with what to write.

use crate::bad_input::{WALL, problems};
use modest_ohm::{Plan, Scenario, Select};

/// The demand on `wall` in scenario worst at the typical corner.
fn demand_a(strip: &str) -> f64 {
    let plan = Plan::from_toml(&format!(
        "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"50 A\"\n\
         [strip.shelf]\nfrom = \"wall\"\n{strip}\n"
    ))
    .unwrap_or_else(|e| panic!("{e}"));
    let select =
        Select { scenario: Some(Scenario::Worst), corner: Some(modest_ohm::Corner::Typical), ..Select::default() };
    let review = plan.review();
    let nodes = review.nodes(&select);
    nodes.iter().find(|r| r.row.name == "wall").unwrap().row.demand.unwrap().get()
}

/// A label that counts the whole reel says the same as one that counts a metre.
#[test]
fn totals_on_a_label() {
    let part = "part = \"pixel-5v-rgb\"\nlength = \"5 m\"\n";
    let per_metre = demand_a(&format!("{part}pixels = \"60 /m\"\npower = \"4.8 W/m\""));
    for label in [
        "pixels = \"300\"\npower = \"24 W\"",
        "leds = \"300\"\ncurrent = \"4.8 A\"",
        "pixels = 300\ncurrent = \"0.96 A/m\"",
    ] {
        assert!((demand_a(&format!("{part}{label}")) - per_metre).abs() < 1e-9, "{label}");
    }
    // Copper without resistance: the whole of 4.8 A, and nothing lost on the way.
    let ideal = demand_a(&format!("{part}copper = \"0.000001 Ω/m\"\npixels = \"300\"\npower = \"24 W\""));
    assert!((ideal - 4.8).abs() < 1e-4, "{ideal}");
}

/// The marking of one generic part stands for it; one that several carry is answered with what sets them apart.
#[test]
fn markings() {
    let strip = |part: &str| demand_a(&format!("part = \"{part}\"\nlength = \"1 m\"\npixels = \"60 /m\""));
    assert!((strip("WS2812B") - strip("pixel-5v-rgb")).abs() < 1e-12);
    let part = |part: &str| {
        format!("{WALL}[strip.a]\nfrom = \"wall\"\nlength = \"1 m\"\npixels = \"60 /m\"\npart = «\"{part}\"»\n")
    };
    problems(&part("WS2812X"), &["part"]);
}

#[test]
fn old_names_say_what_they_are_called_now() {
    problems(&format!("{WALL}[«controller».keeper]\nmean = \"1 mA\"\n"), &["renamed to `board`"]);
    problems(
        &format!(
            "{WALL}[strip.a]\nfrom = \"wall\"\npart = \"pixel-5v-rgb\"\nlength = \"1 m\"\npixels = \"60 /m\"\n«firmware-cap» = \"1 A\"\n"
        ),
        &["renamed to `firmware-limit`"],
    );
    problems(
        &format!("{WALL}[load.a]\nfrom = \"wall\"\ncurrent = \"1 A\"\n«wants-capacitor» = \"100 µF\"\n"),
        &["renamed to `local-capacitor`"],
    );
    // A name for two things of today is that of the table it is in.
    problems(
        &format!("{WALL}[load.a]\nfrom = \"wall\"\ncurrent = \"1 A\"\n«rest» = \"off\"\n"),
        &["renamed to `at-power-on`"],
    );
}

/// Everyday words for tables; a table and its keys that an answer names are known to the reader.
#[test]
fn everyday_words() {
    for word in [
        "battery",
        "adapter",
        "relay",
        "transistor",
        "regulator",
        "microcontroller",
        "leds",
        "lamp",
        "button",
        "splice",
        "level-shifter",
        "node",
    ] {
        let text = format!("{WALL}[{word}.x]\nfrom = \"wall\"\n");
        let errors = Plan::from_toml(&text).unwrap_err();
        assert_eq!(errors.problems.len(), 1, "{word}: {errors}");
        let help = errors.problems[0].help.clone();
        let kind = help.split('[').nth(1).and_then(|rest| rest.split('.').next()).unwrap_or_else(|| panic!("{help}"));
        let listed = help.split(" with ").nth(1).unwrap_or_default();
        let listed = listed.split([';', ',']).next().map_or(listed, |_| listed);
        let keys: Vec<&str> = listed
            .split('`')
            .skip(1)
            .step_by(2)
            .filter(|k| k.chars().all(|c| c == '-' || c.is_ascii_lowercase()))
            .collect();
        let asked = Plan::from_toml(&format!("{WALL}[{kind}.x]\nzzzzzzzz = 1\nfrom = \"wall\"\n")).unwrap_err();
        let known = asked.problems.iter().find(|p| p.message.contains("zzzzzzzz")).unwrap_or_else(|| panic!("{asked}"));
        for key in keys {
            assert!(known.known().contains(&key), "{word}: {help}: `{key}` of {kind}");
        }
    }
}

#[test]
fn everyday_words_for_keys_and_numbers() {
    let load = |key: &str| format!("{WALL}[load.a]\nfrom = \"wall\"\ncurrent = \"1 A\"\n{key}\n");
    problems(&load("«amps» = \"1 A\""), &["current"]);
    problems(&load("«volt» = \"5 V\""), &["voltage = \"5 V\""]);
    problems(&load("cable = \"1 m «0,75 mm²»\""), &["write a decimal point: `1 m 0.75 mm²`"]);
    problems(&load("cable = \"«0,5 m» 18 AWG\""), &["write a decimal point: `0.5 m 18 AWG`"]);
    problems(&load("cable = \"«1 m AWG18»\""), &["write `1 m 18 AWG`"]);
    problems(&load("cable = \"«1 m awg-18»\""), &["write `1 m 18 AWG`"]);
}

/// What is missing is one problem: a part that is not given is not also three figures that are not given.
#[test]
fn the_first_cause_only() {
    problems(&format!("{WALL}[strip.«a»]\nfrom = \"wall\"\nlength = \"1 m\"\npixels = \"60 /m\"\n"), &["part"]);
    problems(&format!("{WALL}[board.«b»]\nfrom = \"wall\"\n"), &["part"]);
    problems(&format!("{WALL}[led.«l»]\nfrom = \"wall\"\nresistor = \"100 Ω\"\n"), &["part"]);
}

/// A unit that is written out is answered with its symbol.
#[test]
fn units_written_out() {
    for (key, word, symbol) in [
        ("length", "5 meters", "`5 m`"),
        ("length", "500 centimetres", "`500 cm`"),
        ("power", "4.8 watts/m", "`4.8 W/m`"),
        ("current", "2 amps/m", "`2 A/m`"),
    ] {
        let (number, unit) = word.split_once(' ').unwrap();
        let length = if key == "length" { "" } else { "length = \"5 m\"\n" };
        let text = format!(
            "{WALL}[strip.a]\nfrom = \"wall\"\npart = \"pixel-5v-rgb\"\npixels = \"60 /m\"\n{length}{key} = \"{number} «{unit}»\"\n"
        );
        problems(&text, &[symbol]);
    }
}

/// What is counted on the whole strip waits for its length: only the length is reported.
#[test]
fn one_problem_for_a_length_that_cannot_be_read() {
    let text = format!(
        "{WALL}[strip.a]\nfrom = \"wall\"\npart = \"plain-12v-white\"\nlength = \"5 «fathoms»\"\nleds = \"300\"\npower = \"24 W\"\n"
    );
    problems(&text, &["not a unit of length"]);
}

/// A plain strip has LEDs, not pixels; that is one problem, not two.
#[test]
fn pixels_of_a_plain_strip_are_one_problem() {
    let text = format!(
        "{WALL}[strip.a]\nfrom = \"wall\"\npart = \"plain-12v-white\"\nlength = \"5 m\"\npixels = «\"60 /m\"»\npower = \"24 W\"\n"
    );
    problems(&text, &["leds = \"60 /m\""]);
}

/// A battery that is declared in a table of its own: the table is the one mistake, and a misspelt name is read as it.
#[test]
fn what_stands_in_an_unknown_table_is_declared() {
    let lamp = "[load.a]\nvoltage = \"12 V\"\ncurrent = \"1 A\"\n";
    problems(
        &format!("format = 1\n[«battery».brick]\nvoltage = \"12 V\"\n{lamp}from = \"brick\"\n"),
        &["[supply.pack]"],
    );
    problems(
        &format!("format = 1\n[«battery».brick]\nvoltage = \"12 V\"\n{lamp}from = «\"brik\"»\n"),
        &["[supply.pack]", "did you mean `brick`?"],
    );
}

/// What is missing is written with a name of the plan at hand.
#[test]
fn a_missing_source_is_named_after_the_plan() {
    let text = "format = 1\n[supply.brick]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"2 A\"\n\
                [load.«lamp»]\nvoltage = \"12 V\"\ncurrent = \"1 A\"\n";
    problems(text, &["`from = \"brick\"`"]);
}

/// A charger that is written like an adapter, and a resistor under another name: one problem each, with what to write.
#[test]
fn a_charger_like_an_adapter_and_a_series_resistor() {
    problems(
        "format = 1\n[supply.usb]\nkind = \"negotiated\"\nvoltage = «\"20 V\"»\ncurrent = \"3 A\"\n\
         [load.a]\nfrom = \"usb\"\nvoltage = \"20 V\"\ncurrent = \"1 A\"\n",
        &["`profiles = [\"20 V 3 A\"]`, all that it offers, and `selected = \"20 V\"`"],
    );
    problems(
        &format!("{WALL}[led.l]\npart = \"led-red\"\nfrom = \"wall\"\n«series» = \"470 Ω\"\n"),
        &["`resistor = \"470 Ω\"`"],
    );
}
