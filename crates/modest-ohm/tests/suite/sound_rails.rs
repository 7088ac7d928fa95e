//! Random plans as a good engineer would build them, from every kind of source, with all ratings doubled: no danger and
//! no fault; and the same plan with one mistake put in, which has to be found.

use std::fmt::Write as _;

use modest_ohm::{Plan, Review, Severity};
use modest_ohm_dense::model::Dice;
use proptest::prelude::*;
use proptest::test_runner::RngSeed;

fn cases() -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(60)
}

fn seed() -> RngSeed {
    if std::env::var_os("PROPTEST_CASES").is_some() { RngSeed::Random } else { RngSeed::Fixed(20_261_125) }
}

fn review_of(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn loud(review: &Review) -> Vec<String> {
    let loud = review.findings().iter().filter(|f| f.severity >= Severity::Fault);
    loud.map(|f| format!("{} {} {}: {}", f.severity.word(), f.code, f.subject, f.message)).collect()
}

/// A source of about 12 V that gives `amps` twice over, and the node that everything else is connected to.
fn source(dice: &mut Dice, amps: f64) -> (String, &'static str) {
    let fuse = [3.0, 5.0, 7.5, 10.0, 15.0, 20.0, 30.0].into_iter().find(|f| *f >= 2.0 * amps).unwrap();
    let run = format!("[branch.run]\nfrom = \"SOURCE\"\ncable = \"0.8 m 10 AWG\"\nfuse = \"{fuse} A\"\n");
    match dice.below(4) {
        0 => (
            format!("[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"{:.1} A\"\n", 2.0 * amps + 1.0)
                + &run.replace("SOURCE", "wall"),
            "run",
        ),
        1 => {
            let parallel = (2.0 * amps / 5.0).ceil().max(2.0);
            let text = format!(
                "[supply.pack]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nseries = 3\nparallel = {parallel}\nholder = \"10 mΩ\"\n\
                 cut-off = \"9 V\"\n[diode.guard]\npart = \"p-fet-30v\"\nfrom = \"run\"\ncurrent = \"{:.1} A\"\nresistance = \"5 mΩ\"\n\
                 cable = \"0.1 m 10 AWG\"\n",
                2.0 * amps
            );
            (text + &run.replace("SOURCE", "pack"), "guard")
        }
        2 => {
            let text = format!(
                "[supply.van]\nkind = \"vehicle\"\nsystem = \"12 V\"\ncurrent = \"{:.1} A\"\n[diode.guard]\nfrom = \"run\"\nvf = \"0.3 V\"\n\
                 resistance = \"10 mΩ\"\ncurrent = \"{:.1} A\"\ncable = \"0.1 m 10 AWG\"\n[diode.clamp]\nacross = \"guard\"\nclamps = \"24 V\"\n",
                2.0 * amps + 1.0,
                2.0 * amps
            );
            (text + &run.replace("SOURCE", "van"), "guard")
        }
        _ => {
            let text = format!(
                "[supply.brick]\nkind = \"negotiated\"\nprofiles = [\"5 V 3 A\", \"15 V {:.1} A\"]\nselected = \"15 V\"\nmarked-cable = true\n\
                 cable-resistance = \"50 mΩ\"\n",
                2.0 * amps + 1.0
            );
            (text + &run.replace("SOURCE", "brick"), "run")
        }
    }
}

/// A whole plan; and what it is made of, for mistakes.
fn sound(dice: &mut Dice) -> String {
    let mut loads = String::new();
    let (mut five_a, mut names) = (0.6, Vec::new());
    for i in 0..1 + dice.below(4) {
        let amps = dice.between(0.05, 0.8);
        let surges = dice.chance(0.5);
        five_a += amps * if surges { 2.0 } else { 1.0 };
        names.push(format!("\"lamp{i}\""));
        let _ = write!(
            loads,
            "[load.lamp{i}]\nfrom = \"five\"\ncable = \"0.3 m 16 AWG\"\nfuse = \"5 A\"\ncurrent = \"{amps} A\"\nvoltage = \"5 V\"\n"
        );
        if surges {
            let _ = writeln!(loads, "surge = \"{:.4} A\"", 2.0 * amps);
        }
    }
    let five_rating = 2.0 * five_a;
    // Worst: 5.1 V over 85 % from 9 V, and the linear rail.
    let input_a = five_a * 5.1 / (0.85 * 8.0) + 0.1;
    let (head, feed) = source(dice, input_a);
    let mut text = format!("format = 1\ntitle = \"Random rails\"\n{head}");
    let mut feed = feed;
    if dice.chance(0.5) {
        let _ = write!(
            text,
            "[switch.main]\nfrom = \"{feed}\"\ncurrent = \"{:.1} A\"\ncable = \"0.1 m 10 AWG\"\n",
            2.0 * input_a
        );
        feed = "main";
    }
    let _ = write!(
        text,
        "[converter.five]\nkind = \"buck\"\nfrom = \"{feed}\"\noutput = \"5.1 V ± 1 %\"\ncurrent = \"{five_rating:.2} A\"\ninput = \"6.5 V .. 36 V\"\n\
         cable = \"0.2 m 14 AWG\"\n{loads}"
    );
    if dice.chance(0.5) {
        text += "[converter.sense]\nkind = \"linear\"\nfrom = \"five\"\noutput = \"3.3 V\"\ncurrent = \"0.2 A\"\ndropout = \"0.6 V\"\n\
                 [load.probe]\nfrom = \"sense\"\ncurrent = \"40 mA\"\nvoltage = \"3.3 V\"\ncable = \"0.5 m 24 AWG\"\n";
    }
    if dice.chance(0.6) {
        text += "[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = { 5v = { node = \"five\", cable = \"0.2 m 18 AWG\", fuse = \"3 A\" } }\n";
    }
    if names.len() > 1 && dice.chance(0.4) {
        let kind = if dice.chance(0.5) { "together" } else { "exclusive" };
        let _ = write!(text, "[group.turns]\nkind = \"{kind}\"\nmembers = [{}]\n", names.join(", "));
    }
    if dice.chance(0.5) {
        text += "[capacitor.reserve]\nacross = \"five\"\ncapacitance = \"2200 µF\"\n";
    }
    text
}

/// A mistake in a plan, and the code that has to come of it; `None` where the plan has no place for it.
fn mistake(text: &str, which: usize) -> Option<(String, &'static str)> {
    let made = match which {
        0 => (text.replacen("clamps = \"24 V\"", "clamps = \"11 V\"", 1), "clamp-conducts"),
        1 => (text.replacen("[diode.guard]\n", "[diode.guard]\ncathode = \"source\"\n", 1), "series-diode-reversed"),
        2 => (text.replacen("cut-off = \"9 V\"\n", "", 1), "battery-no-cutoff"),
        3 => (text.replacen("selected = \"15 V\"", "selected = \"12 V\"", 1), "profile-not-offered"),
        4 => (format!("{text}[link.slip]\nbetween = [\"five\", \"run\"]\n"), "rails-joined"),
        5 if text.contains("[switch.main]") => {
            (format!("{text}[link.slip]\nbetween = [\"run\", \"main\"]\n"), "switch-bypassed")
        }
        6 if text.contains("sense") => {
            (text.replacen("output = \"3.3 V\"", "output = \"4.9 V\"", 1), "converter-input")
        }
        7 if text.contains("vehicle") => {
            (text.replacen("[diode.clamp]\nacross = \"guard\"\nclamps = \"24 V\"\n", "", 1), "transient-unprotected")
        }
        8 if text.contains("keeper") => {
            (format!("{text}[link.slip]\nbetween = [\"five\", \"keeper.3v3\"]\n"), "rails-joined")
        }
        9 => (text.replacen("voltage = \"5 V\"", "voltage = \"5 V\"\nselected = \"12 V\"", 1), "selector-mismatch"),
        _ => return None,
    };
    (made.0 != text).then_some(made)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(), failure_persistence: None, rng_seed: seed(), ..ProptestConfig::default() })]

    #[test]
    fn nothing_dangerous_is_said_of_sound_rails(seed in any::<u64>()) {
        let text = sound(&mut Dice::new(seed));
        let found = loud(&review_of(&text));
        prop_assert!(found.is_empty(), "{found:#?}\n{text}");
    }

    /// One mistake in a sound plan is found, by its code or under the head that it causes.
    #[test]
    fn one_mistake_is_found(seed in any::<u64>(), which in 0usize..10) {
        let text = sound(&mut Dice::new(seed));
        let Some((wrong, code)) = mistake(&text, which) else { return Ok(()) };
        let review = review_of(&wrong);
        let told = |f: &modest_ohm::Finding| f.code == code || f.also.iter().any(|c| c.code == code);
        prop_assert!(review.findings().iter().any(told), "{code} not in {:#?}\n{wrong}", review.findings().iter().map(|f| f.code).collect::<Vec<_>>());
    }
}
