//! Text with slips next to characters of several bytes: neither the reader of plans nor the renderer of its problems
//! cuts a character in two.

use modest_ohm::Plan;
use modest_ohm_report::{Input, problems_json, problems_text};

const INPUT: Input<'static> = Input { path: "plan.toml" };

/// Reads a text, and shows what is wrong with it in every width and format.
fn shown(text: &str) -> Option<String> {
    let errors = Plan::from_toml(text).err()?;
    for problem in &errors.problems {
        if let Some(span) = problem.span {
            assert!(text.is_char_boundary(span.start) && text.is_char_boundary(span.end), "{span:?} in {text:?}");
        }
    }
    let json: serde_json::Value = serde_json::from_str(&problems_json(&INPUT, &errors)).unwrap();
    assert!(json["problems"].as_array().is_some_and(|p| !p.is_empty()));
    assert!(!problems_text(&INPUT, &errors, 60).is_empty());
    Some(problems_text(&INPUT, &errors, 110))
}

/// What people type every day: a quote closed too early, a forgotten `#`, a unit outside of the quotes.
#[test]
fn slips_before_a_character_of_several_bytes() {
    let lines = [
        "voltage = \"5 V\" ± 5 %",
        "voltage = \"5 V\" – the rail",
        "resistance = \"4.7\" Ω",
        "kind = \"adapter\"  ← here",
        "voltage = [\"5 V\"µ]",
        "voltage = { low = \"5 V\"² }",
        "voltage = 5 V°",
        "Ω = \"5 V\"",
        "voltage ± \"5 V\"",
    ];
    for line in lines {
        let text = format!("format = 1\n[supply.wall]\n{line}\ncurrent = \"2 A\"\n");
        let text = shown(&text).unwrap_or_else(|| panic!("{line} was read"));
        assert!(text.contains("line 3: "), "{line}:\n{text}");
    }
    for text in [
        "format = 1\nambient = \"25 °C\" °\n",
        "format = 1\n[[accept]]é\n",
        "format = 1\n[supply.wall]Ω",
        "±",
        "format = 1\n\"Ω",
    ] {
        assert!(shown(text).is_some(), "{text}");
    }
}

struct Dice(u64);

impl Dice {
    fn below(&mut self, n: usize) -> usize {
        self.0 = self.0.wrapping_mul(0xda94_2042_e4dd_58b5);
        (self.0 >> 33) as usize % n.max(1)
    }
}

/// Plans with characters of one to four bytes, quotes, brackets and line ends put in, taken out and swapped.
#[test]
fn mutated_text_is_read_and_shown() {
    const PUT: [&str; 18] =
        ["±", "Ω", "µ", "°", "²", "–", "é", "😀", "\u{301}", "\"", "'", "[", "]", "{", "=", ",", "\n", "\t"];
    let root = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../plans");
    let mut plans: Vec<_> = std::fs::read_dir(root).unwrap().map(|e| e.unwrap().path()).collect();
    plans.retain(|p| p.extension().is_some_and(|e| e == "toml"));
    plans.sort();
    let seeds: Vec<String> = plans.iter().map(|p| std::fs::read_to_string(p).unwrap()).collect();
    let (mut dice, mut refused) = (Dice(0x5eed), 0);
    for _ in 0..1500 {
        // A piece of a plan: short texts end in more places.
        let seed: Vec<&str> = seeds[dice.below(seeds.len())].lines().collect();
        let from = dice.below(seed.len());
        let mut text: Vec<char> =
            format!("format = 1\n{}\n", seed[from..(from + 12).min(seed.len())].join("\n")).chars().collect();
        for _ in 0..=dice.below(4) {
            let at = dice.below(text.len());
            let put = PUT[dice.below(PUT.len())].chars();
            match dice.below(3) {
                0 => drop(text.splice(at..at, put)),
                1 => drop(text.splice(at..(at + 1).min(text.len()), put)),
                _ => drop(text.splice(at..(at + 1 + dice.below(6)).min(text.len()), "".chars())),
            }
        }
        refused += usize::from(shown(&text.into_iter().collect::<String>()).is_some());
    }
    assert!(refused > 1000, "{refused}");
}
