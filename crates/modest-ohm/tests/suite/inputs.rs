//! What arrives at inputs and over wires, against a second method: dense nodal equations with every tolerance thrown
//! many times, and the ground between two boards computed by hand.

use std::fmt::Write as _;

use crate::common::{Dice, evidence};
use modest_ohm::edit::apply;
use modest_ohm::findings::Fix;
use modest_ohm::{Finding, Plan, Review};
use modest_ohm_dense::resistors::node_volts;

const WALL: &str = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\ncurrent = \"10 A\"\n\
                    [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n\
                    regulator = { voltage = \"3.3 V ± 3 %\" }\n";

fn review(text: &str) -> Review {
    let text = format!("{WALL}{text}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn found<'r>(review: &'r Review, code: &str) -> Option<&'r Finding> {
    review.findings().iter().find(|f| f.code == code)
}

/// Dividers and pulls of random values: the level that the check compares lies at the end of what thousands of throws
/// of the tolerances give, and none of them lies beyond it.
#[test]
fn levels_at_every_tolerance() {
    let mut dice = Dice(71);
    let (mut compared, mut touched) = (0, 0);
    for round in 0..300 {
        let (top, bottom, pull) = (dice.log(1e3, 3e5), dice.log(1e3, 1e5), dice.log(1e3, 3e5));
        let (has_pull, t) = (dice.roll() < 0.5, [0.0, 1.0, 5.0, 10.0][(dice.roll() * 4.0) as usize]);
        let high = (dice.between(2.0, 12.0), dice.between(0.0, 3.0));
        let high = (high.0, high.0 + high.1);
        let leak = [0.0, 1e-6, 2e-5][(dice.roll() * 3.0) as usize];
        let mut text = format!(
            "[input.probe]\npin = \"keeper.io16\"\nkind = \"voltage\"\nhigh = \"{} V .. {} V\"\nresistance = \"100 Ω\"\nleakage = \"{leak} A\"\n\
             divider = {{ top = \"{top} Ω ± {t} %\", bottom = \"{bottom} Ω ± {t} %\" }}\n",
            high.0, high.1
        );
        if has_pull {
            let _ = writeln!(text, "pull = \"{pull} Ω ± {t} %\"");
        }
        let review = review(&text);
        let f = review
            .findings()
            .iter()
            .find(|f| f.code == "divider-range" && f.evidence.iter().any(|e| e.name == "level"));
        let Some(f) = f else { continue };
        let got = evidence(f, "level");
        // The supply that goes with the finding's threshold: VIH is three quarters of it.
        let vdd = evidence(f, "threshold") / 0.75;
        let mut least = f64::MAX;
        for throw in 0..400 {
            // Mostly ends, occasionally something between.
            let off =
                |dice: &mut Dice| 1.0 + t / 100.0 * if throw < 300 { dice.end() } else { dice.between(-1.0, 1.0) };
            let (r1, r2, r3) = (100.0 + top * off(&mut dice), bottom * off(&mut dice), pull * off(&mut dice));
            let source = if dice.roll() < 0.7 { high.0 } else { dice.between(high.0, high.1) };
            let leaks = leak * if throw < 300 { dice.end() } else { dice.between(-1.0, 1.0) };
            let mut resistors = vec![(2, 1, r1), (1, 0, r2)];
            let mut held = vec![(2, source)];
            if has_pull {
                resistors.push((3, 1, r3));
                held.push((3, vdd));
            }
            least = least.min(node_volts(&resistors, &held, &[(1, leaks)]));
        }
        assert!(got <= least + 1e-9 * least.abs().max(1.0), "{round}: {got} and {least}\n{text}");
        touched += usize::from(least - got < 1e-6 * least.abs().max(1.0));
        compared += 1;
    }
    assert!(compared > 100 && touched > compared * 8 / 10, "{touched} of {compared}");
}

/// Through the protection of a pin: (V − VDD − 0.6 V)/(what lies before), the largest of all corners; 0.2 mA, 1 mA and
/// 5 mA part its severities, and only what does not conduct is silent.
#[test]
fn currents_into_the_protection() {
    let mut dice = Dice(72);
    let (mut loud, mut silent) = (0, 0);
    for _ in 0..120 {
        let (volts, ohms) = (dice.between(2.0, 9.0), dice.log(50.0, 2e4));
        let text = format!(
            "[input.probe]\npin = \"keeper.io16\"\nkind = \"voltage\"\nhigh = \"{volts} V\"\nseries = \"{ohms} Ω ± 2 %\"\nleakage = \"0 A\"\n"
        );
        let review = review(&text);
        // The board's lowest rail meets the highest signal.
        let vdd = 3.3 * 0.97;
        let amps = (volts - vdd - 0.6) / (ohms * 0.98);
        match found(&review, "pin-overvoltage") {
            Some(f) => {
                let bands = [(0.2e-3, "advisory"), (1e-3, "caution"), (5e-3, "fault")];
                let word = bands.into_iter().find(|(most, _)| amps < *most).map_or("danger", |(_, word)| word);
                assert_eq!(f.severity.word(), word, "{amps} {text}");
                assert!((evidence(f, "through") - amps).abs() < 1e-9 + 1e-6 * amps, "{f:?} {amps}");
                assert!(amps >= 1e-6 - 1e-9);
                loud += 1;
            }
            None => {
                assert!(amps < 1e-6 + 1e-9, "{amps} {text}");
                silent += 1;
            }
        }
    }
    assert!(loud > 20 && silent > 20, "{loud} {silent}");
}

/// Two boards on thin returns of their own: the larger current lifts its board's ground, and the sign of the shift
/// decides which level suffers.
#[test]
fn the_ground_between_two_boards() {
    let boards = |house_amps: &str, gate_amps: &str| {
        format!(
            "[board.house]\npart = \"arm-board-3v3-small\"\nfrom = \"wall\"\ncable = {{ feed = \"0.2 Ω\", return = \"0.2 Ω\" }}\n\
             mean = \"{house_amps}\"\npeak = \"{house_amps}\"\n\
             [board.gate]\npart = \"arm-board-3v3-small\"\nfrom = \"wall\"\ncable = {{ feed = \"0.2 Ω\", return = \"0.2 Ω\" }}\n\
             mean = \"{gate_amps}\"\npeak = \"{gate_amps}\"\n[signal.beat]\npin = \"house.io2\"\nto = \"gate.io2\"\n"
        )
    };
    let link = |text: &str| {
        let review = review(text);
        let rows =
            review.signals(&modest_ohm::Select { corner: Some(modest_ohm::Corner::Typical), ..Default::default() });
        let row = rows.iter().find(|r| r.scenario.name() == "worst").unwrap().row.clone();
        (row, review)
    };
    // The receiver draws 1 A: its ground stands 0.2 V above, 2 mV of the sender's own 10 mA less.
    let (row, _) = link(&boards("10 mA", "1 A"));
    let shift = 0.2 - 0.002;
    assert!((row.shift.get() - shift).abs() < 1e-9, "{}", row.shift);
    // VOH = 3.3 − 0.1 V and VIH = 2.0 V; VIL = 0.8 V and VOL = 0.1 V (Arm board).
    assert!((row.high_margin.unwrap().get() - (3.2 - shift - 2.0)).abs() < 1e-9);
    assert!((row.low_margin.unwrap().get() - (0.8 - 0.1 + shift)).abs() < 1e-9);
    assert!((row.below_margin.get() - (0.3 - shift)).abs() < 1e-9);
    // The sender draws it: its low is lifted, and at 3 A the margin is 0.8 − 0.1 − 0.6 V.
    let (row, review) = link(&boards("3 A", "10 mA"));
    let shift = 0.002 - 0.6;
    assert!((row.low_margin.unwrap().get() - (0.7 + shift)).abs() < 1e-9);
    // Without the shift it would be 0.7 V: the ground is why.
    let low = found(&review, "ground-shift").unwrap();
    assert_eq!((low.severity.word(), low.subject.as_str()), ("caution", "beat"));
    assert_eq!((low.also.len(), low.also[0].code, low.also[0].subject.as_str()), (1, "level-low", "beat"));
    assert!((evidence(low, "ground_shift") - shift).abs() < 1e-9);
    assert!(found(&review, "level-high").is_none() && found(&review, "level-low").is_none());
}

/// A level at the current that is drawn: 10 mA out of a pin of 33 Ω leave 0.33 V less.
#[test]
fn a_level_under_load() {
    let text = |amps: &str| {
        format!("[signal.horn]\npin = \"keeper.io16\"\nvih = \"2.85 V\"\nvil = \"0.8 V\"\ninput-current = \"{amps}\"\n")
    };
    let loaded = review(&text("11 mA"));
    let f = found(&loaded, "level-high").unwrap();
    assert!((evidence(f, "level") - (3.3 * 0.97 - 0.011 * 33.0)).abs() < 1e-9);
    assert_eq!(f.severity.word(), "fault");
    assert!((evidence(f, "margin") - (3.201 - 0.363 - 2.85)).abs() < 1e-9);
    // Less than 3 mA cost no more than an output into an input: 0.1 V.
    let light = review(&text("2 mA"));
    assert!((evidence(found(&light, "level-high").unwrap(), "level") - (3.3 * 0.97 - 0.1)).abs() < 1e-9);
    let pins = loaded.pins();
    let pin = pins[0].pins.iter().find(|p| p.name == "io16").unwrap();
    assert!((pin.out.get() - 0.011).abs() < 1e-12);
}

/// A threshold with a spread counts at its worse end: the upper one for a high, the lower one for a low.
#[test]
fn thresholds_with_a_spread() {
    let text =
        |vih: &str, vil: &str| format!("[signal.horn]\npin = \"keeper.io16\"\nvih = \"{vih}\"\nvil = \"{vil}\"\n");
    // VOH is 3.3 V − 3 % − 0.1 V at its lowest.
    let high = review(&text("2.0 V .. 2.9 V", "0.9 V"));
    let f = found(&high, "level-high").unwrap();
    assert!((evidence(f, "margin") - (3.201 - 0.1 - 2.9)).abs() < 1e-9, "{f:?}");
    assert!(found(&review(&text("2.0 V .. 2.7 V", "0.9 V")), "level-high").is_none());
    // VOL is 0.1 V: 0.35 V less is enough, 0.05 V less is caution.
    let low = review(&text("2.0 V", "10 % .. 30 %"));
    let f = found(&low, "level-low").unwrap();
    assert!((evidence(f, "threshold") - 0.1 * 3.201).abs() < 1e-9, "{f:?}");
    assert!(found(&review(&text("2.0 V", "15 % .. 30 %")), "level-low").is_none());
}

/// A shifter between two supplies: each side is judged on its own rail, in the direction in which it sends.
#[test]
fn both_sides_of_a_shifter() {
    let text = |sends: &str, from: &str, to: &str| {
        format!(
            "[board.gate]\npart = \"board-5v-8bit\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n\
             [shifter.step]\nfrom = {{ low = \"keeper.3v3\", high = \"wall\" }}\nsends = \"{sends}\"\nvih = \"70 %\"\nvil = \"20 %\"\n\
             recommended = \"3 V .. 5.5 V\"\nabsolute = \"7 V\"\n\
             [signal.beat]\npin = \"{from}\"\nto = \"{to}\"\nthrough = \"step\"\n"
        )
    };
    let margins = |text: &str| {
        let review = review(text);
        let rows =
            review.signals(&modest_ohm::Select { corner: Some(modest_ohm::Corner::Typical), ..Default::default() });
        let of = |to: &str| {
            rows.iter().find(|r| r.scenario.name() == "worst" && r.row.to == to).unwrap().row.high_margin.unwrap().get()
        };
        (of("step"), of(if text.contains("to = \"gate") { "gate.d7" } else { "keeper.io16" }), review)
    };
    // Up: 3.2 V against 0.7 · 3.3 V; then 4.9 V against 0.6 · 5 V.
    let (first, second, up) = margins(&text("up", "keeper.io16", "gate.d7"));
    assert!((first - (3.2 - 2.31)).abs() < 1e-9 && (second - (4.9 - 3.0)).abs() < 1e-9, "{first} {second}");
    assert!(up.findings().is_empty(), "{:?}", up.findings());
    // Down: 4.9 V against 0.7 · 5 V; then 3.2 V against 0.75 · 3.3 V.
    let (first, second, down) = margins(&text("down", "gate.d7", "keeper.io16"));
    assert!((first - (4.9 - 3.5)).abs() < 1e-9 && (second - (3.2 - 2.475)).abs() < 1e-9, "{first} {second}");
    assert!(down.findings().is_empty(), "{:?}", down.findings());
    // The wrong way it is reversed, and nothing else is blamed for it alone.
    let (.., wrong) = margins(&text("down", "keeper.io16", "gate.d7"));
    assert_eq!(found(&wrong, "shifter-direction").unwrap().severity.word(), "fault");
}

/// By the plain formula at every corner: no pair of E24 keeps a level 0.3 V above VIH and within 0.3 V of the supply.
fn no_pair_fits(board: &str, low: f64, high: f64) -> bool {
    let (vih, top) = match board {
        "board-5v-8bit" => (0.6 * 5.05 + 0.3, 4.95 + 0.3),
        "arm-board-3v3-small" => (2.0 + 0.3, 3.2 + 0.3),
        _ => (0.75 * 3.4 + 0.3, 3.2 + 0.3),
    };
    high / low > 0.93 * (top / vih)
}

/// The divider that is proposed, put into the plan: nothing is found any more. Random sources at random boards, read as
/// levels or by the converter; and where none is proposed, no pair of E24 would have done.
#[test]
fn dividers_that_are_proposed_do() {
    let boards = ["wifi-board-3v3", "wifi-board-3v3-small", "board-5v-8bit", "arm-board-3v3-small"];
    let mut dice = Dice(127);
    let (mut proposed, mut silent, mut diodes) = (0, 0, 0);
    for round in 0..160 {
        let board = boards[round % 4];
        let analogue = dice.roll() < 0.5;
        let vehicle = !analogue && dice.roll() < 0.2;
        let pin = match (board, analogue) {
            ("wifi-board-3v3", _) => "io34",
            ("wifi-board-3v3-small", true) => "a0",
            ("wifi-board-3v3-small", false) => "io14",
            ("arm-board-3v3-small", true) => "io26",
            ("arm-board-3v3-small", false) => "io15",
            (_, true) => "a0",
            (_, false) => "d7",
        };
        let high = dice.between(5.6, 30.0);
        let low = if analogue { 0.0 } else { high * dice.between(0.75, 1.0) };
        let source = dice.between(0.0, 300.0);
        let pull = if dice.roll() < 0.3 { "pull = \"100 kΩ\"\n" } else { "" };
        let keys = format!(
            "[input.dusk]\npin = \"keeper.{pin}\"\nkind = \"voltage\"\nhigh = \"{low:.2} V .. {high:.2} V\"\nvehicle = {vehicle}\n\
             resistance = \"{source:.0} Ω\"\n{pull}{}",
            if analogue { "reads = \"analogue\"\n" } else { "" }
        );
        let text = |divider: &str| {
            format!(
                "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"10 A\"\n[board.keeper]\n\
                 part = \"{board}\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n{keys}{divider}\n"
            )
        };
        let review = |divider: &str| Plan::from_toml(&text(divider)).unwrap_or_else(|e| panic!("{e}")).review();
        let before = review("").with_fixes();
        let about = ["pin-overvoltage", "divider-range"];
        let of_input = before.findings().iter().filter(|f| about.contains(&f.code));
        let is_divider = |fix: &&Fix| fix.ends() && fix.edits.iter().any(|e| e.path == "input.dusk.divider");
        let fix = of_input.flat_map(|f| &f.fixes).find(is_divider).cloned();
        // The divider, and the diode where it takes one.
        diodes += usize::from(fix.as_ref().is_some_and(|fix| fix.edits.iter().any(|e| e.path.ends_with("clamp"))));
        let Some(fix) = fix else {
            silent += 1;
            if !(analogue || vehicle || pull.len() > 1) && found(&before, "pin-overvoltage").is_some() {
                assert!(no_pair_fits(board, low, high), "{round}: {low} {high} {board}");
            }
            continue;
        };
        proposed += 1;
        let after = Plan::from_toml(&apply(&text(""), &fix.edits).unwrap()).unwrap().review();
        let left: Vec<_> = after
            .findings()
            .iter()
            .filter(|f| f.subject == "dusk" && f.severity > modest_ohm::Severity::Advisory)
            .collect();
        assert!(left.is_empty(), "{round}: {}\n{}\n{left:?}", fix.text(), text(""));
    }
    // A soft Zener diode seldom lets a 3.3 V board read its high: mostly a divider alone does, or nothing.
    assert!(proposed > 70 && diodes > 0, "{proposed} {silent} {diodes}");
}

/// A wire that both ends send over, through a two-way shifter: each direction comes in at the side of its own sender.
/// Up 3.2 V against 1.8 V and 5 V against 3 V; down 4.9 V against 1.8 V and 3.3 V against 2.475 V; through a buffer it
/// goes one way.
#[test]
fn both_ways_through_a_shifter() {
    let text = |part: &str, from: &str, to: &str, more: &str| {
        format!(
            "[board.gate]\npart = \"board-5v-8bit\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n\
             [shifter.step]\npart = \"{part}\"\nfrom = {}\n[signal.beat]\npin = \"{from}\"\nto = \"{to}\"\nthrough = \"step\"\n{more}",
            if part == "fet-two-way" {
                "{ low = \"keeper.3v3\", high = \"wall\" }"
            } else {
                "\"wall\"\ncable = \"0 m 12 AWG\""
            }
        )
    };
    let margins = |review: &Review, from: &str, to: &str| {
        let rows =
            review.signals(&modest_ohm::Select { corner: Some(modest_ohm::Corner::Typical), ..Default::default() });
        let of = |a: &str, b: &str| {
            rows.iter()
                .find(|r| r.scenario.name() == "worst" && r.row.from == a && r.row.to == b)
                .unwrap_or_else(|| panic!("{a} {b}"))
                .row
                .high_margin
                .unwrap()
                .get()
        };
        (of(from, "step"), of("step", to))
    };
    for (from, to) in [("keeper.io16", "gate.d7"), ("gate.d7", "keeper.io16")] {
        let review = review(&text("fet-two-way", from, to, "bidirectional = true\n"));
        assert!(review.findings().is_empty(), "{:?}", review.findings());
        let (up, down) = (margins(&review, "keeper.io16", "gate.d7"), margins(&review, "gate.d7", "keeper.io16"));
        // A stage's own output loses 0.1 V: 4.9 against 0.6 · 5 V, 3.2 against 0.75 · 3.3 V.
        for (got, want) in [(up.0, 3.2 - 1.8), (up.1, 4.9 - 3.0), (down.0, 4.9 - 1.8), (down.1, 3.2 - 2.475)] {
            assert!((got - want).abs() < 1e-9, "{from}: {got} {want}");
        }
    }
    // One way through a two-way part, either way.
    for (from, to) in [("keeper.io16", "gate.d7"), ("gate.d7", "keeper.io16")] {
        let review = review(&text("fet-two-way", from, to, ""));
        assert!(review.findings().is_empty(), "{:?}", review.findings());
    }
    let review = review(&text("hct-buffer", "keeper.io16", "gate.d7", "bidirectional = true\n"));
    let f = found(&review, "shifter-direction").unwrap();
    assert_eq!((f.severity.word(), f.subject.as_str()), ("fault", "step"));
    assert!(f.message.contains("works in one direction only"), "{}", f.message);
}
