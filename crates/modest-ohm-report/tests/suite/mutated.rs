//! Whatever a plan says that can be read, every renderer draws and writes it: no panic, no number that is none, JSON
//! that is JSON, pictures that are closed.

use modest_ohm::{Plan, Select};
use modest_ohm_report::{
    Input, Layout, Wanted, assignment_json, assignment_text, budget_text, check_json, check_text, drop_json, drop_text,
    free_pins_text, pins_csv, pins_json, pins_svg, pins_text,
};

struct Dice(u64);

impl Dice {
    fn roll(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(0xda94_2042_e4dd_58b5);
        (self.0 >> 40) as f64 / (1u64 << 24) as f64
    }

    fn pick<'t, T>(&mut self, of: &'t [T]) -> &'t T {
        &of[((self.roll() * of.len() as f64) as usize).min(of.len() - 1)]
    }
}

/// What a slip of the hand, or of a copied line, leaves in a plan.
const VALUES: [&str; 22] = [
    "\"0 Ω\"",
    "\"1 mΩ\"",
    "\"900 MΩ\"",
    "\"0 V\"",
    "\"24 V\"",
    "\"0 V .. 0 V\"",
    "\"100 %\"",
    "\"0 % .. 100 %\"",
    "\"keeper.any\"",
    "\"house.any\"",
    "\"house.p1\"",
    "\"house.io34\"",
    "\"gate.d13\"",
    "\"internal\"",
    "\"none\"",
    "\"4k7\"",
    "true",
    "0",
    "7",
    "\"1 µA\"",
    "\"3 A\"",
    "\"1 Hz\"",
];

fn seeds() -> Vec<String> {
    let root = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let own = std::fs::read_to_string(root.join("plans/orchard-gate.toml")).unwrap();
    let tests = root.join("crates/modest-ohm/tests/plans");
    let mut all = vec![own.clone(), own.clone(), own];
    for code in [
        "pin-overloaded",
        "pin-overvoltage",
        "divider-range",
        "bus-pull-ups",
        "led-overcurrent",
        "output-contention",
        "shifter-direction",
    ] {
        let mut files: Vec<_> = std::fs::read_dir(tests.join(code)).unwrap().map(|f| f.unwrap().path()).collect();
        files.sort();
        all.extend(files.iter().map(|f| std::fs::read_to_string(f).unwrap()));
    }
    all
}

/// The first number of a line that is followed by a blank and a unit, times a factor.
fn scaled(line: &str, factor: f64) -> String {
    let Some(at) = line.find('"').map(|at| at + 1) else { return line.to_owned() };
    let digits = line[at..].find(|c: char| !c.is_ascii_digit() && c != '.').unwrap_or(0);
    match line[at..at + digits].parse::<f64>() {
        Ok(number) => format!("{}{}{}", &line[..at], number * factor, &line[at + digits..]),
        Err(_) => line.to_owned(),
    }
}

fn mutate(dice: &mut Dice, seeds: &[String]) -> String {
    let mut lines: Vec<String> = dice.pick(seeds).lines().map(str::to_owned).collect();
    for _ in 0..1 + (dice.roll() * 4.0) as usize {
        let at = (dice.roll() * lines.len() as f64) as usize;
        let what = dice.roll();
        if what < 0.5 {
            // Another size of the same thing.
            let factor = *dice.pick(&[0.001, 0.1, 0.5, 2.0, 10.0, 1000.0]);
            lines[at] = scaled(&lines[at], factor);
        } else if what < 0.65 {
            if let Some((key, _)) = lines[at].split_once('=') {
                lines[at] = format!("{key}= {}", dice.pick(&VALUES));
            }
        } else if what < 0.85 {
            // The same key as another plan has it.
            let donor = dice.pick(seeds);
            let key = lines[at].split('=').next().unwrap_or_default().to_owned();
            let same: Vec<&str> = donor.lines().filter(|l| l.contains('=') && l.starts_with(&key)).collect();
            if !same.is_empty() && lines[at].contains('=') {
                lines[at] = (*dice.pick(&same)).to_owned();
            }
        } else {
            lines.remove(at);
        }
        if lines.is_empty() {
            break;
        }
    }
    lines.join("\n")
}

#[test]
fn every_renderer_takes_every_plan() {
    let (seeds, mut dice) = (seeds(), Dice(131));
    let (mut read, mut with_pins) = (0, 0);
    for round in 0..170 {
        let text = mutate(&mut dice, &seeds);
        let Ok(plan) = Plan::from_toml(&text) else { continue };
        read += 1;
        let review = plan.review();
        let (input, layout) = (Input { path: "weir.toml" }, Layout { width: 100, passed: true, rows: None });
        let boards = review.pins();
        with_pins += usize::from(!boards.is_empty());
        let wanted = Wanted { abilities: vec!["pwm".into()], as_input: false };
        let found = plan.assign_pins(&[]);
        let select = Select::default();
        let words = [
            check_text(&input, &review, layout),
            pins_text(&boards, layout),
            pins_csv(&boards, None),
            free_pins_text(&boards, &wanted, layout),
            assignment_text(&found, layout),
            budget_text(&review, &select, layout),
            drop_text(&review, &select, layout),
        ];
        for words in &words {
            for token in words.split(|c: char| !c.is_alphanumeric()) {
                assert!(!["NaN", "inf"].contains(&token), "{round}: {words}\n{text}");
            }
        }
        for json in [
            check_json(&input, &review, true),
            pins_json(&input, &boards, None),
            pins_json(&input, &boards, Some(&wanted)),
            assignment_json(&input, &found),
            drop_json(&input, &review, &select),
        ] {
            serde_json::from_str::<serde_json::Value>(&json).unwrap_or_else(|e| panic!("{round}: {e}\n{text}"));
        }
        for board in &boards {
            let Some(svg) = pins_svg(&review, &board.board) else {
                assert!(board.pins.is_empty(), "{round}\n{text}");
                continue;
            };
            assert!(
                svg.trim_end().ends_with("</svg>") && !svg.contains("NaN") && !svg.contains("inf\""),
                "{round}\n{text}"
            );
        }
    }
    assert!(read > 60 && with_pins > 50, "{read} {with_pins}");
}
