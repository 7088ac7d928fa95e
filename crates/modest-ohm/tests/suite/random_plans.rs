//! Random and mutated plans: the parser and the review may say anything, and never panic, hang or invent a pass.

use std::path::Path;

use modest_ohm::findings::Consequence;
use modest_ohm::{Finding, Plan, Review, Select, Severity};
use proptest::prelude::*;
use proptest::test_runner::RngSeed;

/// The shipped plans and the checks' own.
fn seeds() -> Vec<String> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    let mut texts = Vec::new();
    let mut folders = vec![root.join("tests/plans"), root.join("../../plans")];
    while let Some(folder) = folders.pop() {
        let mut entries: Vec<_> = std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()).collect();
        entries.sort();
        for path in entries {
            if path.is_dir() {
                folders.push(path);
            } else if path.extension().is_some_and(|e| e == "toml") {
                texts.push(std::fs::read_to_string(path).unwrap());
            }
        }
    }
    texts
}

/// Values at the ends of what may be written, and beyond.
const VALUES: [&str; 26] = [
    "0 Ω",
    "1 nΩ",
    "1 GΩ",
    "0 A",
    "1 nA",
    "10000 A",
    "1000 V",
    "1 mV",
    "0 V",
    "0 W",
    "1 MW",
    "0 m 4 AWG",
    "10 km 40 AWG",
    "1 mm 300 mm²",
    "-60 °C",
    "250 °C",
    "0 %",
    "100 %",
    "999 %",
    "0.001 %",
    "1 nV .. 1000 V",
    "5 V ± 100 %",
    "0.02 m",
    "30 /m",
    "nonsense",
    "",
];
const WORDS: [&str; 18] = [
    "wall",
    "five",
    "deck",
    "keeper",
    "keeper.3v3",
    "shoreline.end",
    "arch.start",
    "tide",
    "span",
    "lamp",
    "off",
    "surge",
    "closed = false",
    "return = { to = \"wall\" }",
    "fuse = \"3 A\"",
    "fuse = { rating = \"2 A\", family = \"resettable\" }",
    "cable = { length = \"1 m\", size = \"24 AWG\", parallel = 2, connectors = [\"barrel-2mm1\"] }",
    "part = \"breadboard-row\"",
];

/// Values of the wrong kind.
const KINDS: [&str; 8] = ["{}", "[]", "true", "0", "-1", "1e308", "[\"wall\"]", "{ wall = \"wall\" }"];

/// Changes a text in `steps` places.
fn mutate(text: &str, steps: &[(u8, prop::sample::Index, prop::sample::Index)]) -> String {
    let mut lines: Vec<String> = text.lines().map(str::to_owned).collect();
    for (kind, at, with) in steps {
        if lines.is_empty() {
            break;
        }
        let i = at.index(lines.len());
        match kind % 7 {
            0 => drop(lines.remove(i)),
            1 => {
                let other = lines[with.index(lines.len())].clone();
                lines.insert(i, other);
            }
            2 | 3 => {
                // Another value in place of the first one in quotes.
                let quotes: Vec<usize> = lines[i].match_indices('"').map(|(at, _)| at).collect();
                if let [open, close, ..] = quotes[..] {
                    let value = if kind % 7 == 2 { with.get(&VALUES) } else { with.get(&WORDS) };
                    lines[i].replace_range(open + 1..close, value);
                }
            }
            4 => lines.insert(i, (*with.get(&WORDS)).to_owned()),
            5 => {
                if let Some(equals) = lines[i].find('=') {
                    lines[i].replace_range(equals.., &format!("= {}", with.get(&KINDS)));
                }
            }
            _ => {
                let chars: Vec<char> = lines[i].chars().collect();
                if !chars.is_empty() {
                    let k = with.index(chars.len());
                    lines[i] = chars.iter().enumerate().filter(|(n, _)| *n != k).map(|(_, c)| c).collect();
                }
            }
        }
    }
    lines.join("\n")
}

/// What has to hold of any review.
fn consistent(review: &Review) {
    for severity in Severity::LISTED {
        let open = review.findings().iter().filter(|f| f.accepted.is_none());
        // What stands under a head counts by its own severity; the same advice on several parts counts once.
        let count = |f: &Finding| {
            let alike = |c: &&Consequence| c.code == f.code && c.severity == f.severity;
            let under = f.also.iter().filter(|c| c.severity == severity && !alike(c)).count();
            under + usize::from(f.severity == severity)
        };
        assert_eq!(review.count(severity), open.map(count).sum::<usize>());
    }
    for f in review.findings() {
        assert!(!f.message.is_empty() && !f.message.contains("NaN"), "{}", f.message);
        assert!(!f.message.contains("inf "), "{}", f.message);
    }
    // What collapses or does not settle must not pass for its voltage.
    let dead = review.findings().iter().any(|f| f.code == "feed-collapses" && f.accepted.is_none());
    if dead {
        let on_volts = [
            "supply-voltage",
            "strip-voltage-low",
            "converter-input",
            "voltage-drop",
            "data-level",
            "unregulated-input",
            "clamp-conducts",
            "back-fed",
            "supply-surge",
            "battery-stops-early",
        ];
        let passed = review.passed().iter().find(|p| on_volts.contains(&p.code));
        assert!(passed.is_none(), "{passed:?}");
    }
    for r in review.nodes(&Select::default()) {
        assert!(r.row.voltage.is_none_or(|v| v.get().is_finite()), "{:?}", r.row);
    }
    // A panel has a map, or is told to have none; its pixels lie side by side, none on another.
    for name in review.plan().panels() {
        match review.plan().panel_map(name) {
            Ok(map) => {
                let places: std::collections::BTreeSet<_> = map.walk.places.iter().collect();
                assert_eq!(places.len(), map.walk.columns * map.walk.rows, "{name}");
                assert!((0..places.len()).all(|k| map.on_strip(k).is_some()), "{name}");
            }
            Err(why) => {
                let told = review.findings().iter().any(|f| f.code == "panel-order" && f.subject == name);
                assert!(told, "{name}: {why}");
            }
        }
    }
    for lead in review.cables() {
        assert!(lead.sustained_fault.is_none_or(|a| !a.get().is_nan()) && lead.ampacity.get() >= 0.0, "{lead:?}");
        // What there is to say of a cable is said, once.
        let told = review.findings().iter().filter(|f| f.code.starts_with("fuse-") || !f.also.is_empty());
        let all = told.flat_map(|f| {
            std::iter::once((f.code, f.subject.as_str())).chain(f.also.iter().map(|c| (c.code, c.subject.as_str())))
        });
        let codes = ["fuse-missing", "fuse-too-large", "fuse-may-not-blow"];
        let of_lead = all.filter(|(code, subject)| codes.contains(code) && *subject == lead.name).count();
        assert!(of_lead <= 1, "{} has {of_lead} verdicts\n{}", lead.name, review.plan().source().text());
    }
    let unsettled = review.findings().iter().find(|f| f.message.contains("did not settle"));
    assert!(unsettled.is_none(), "{unsettled:?}\n{}", review.plan().source().text());
}

fn cases() -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(400)
}

/// The same cases every time, so that a change is judged by what it changes; others where more are asked for.
fn seed() -> RngSeed {
    if std::env::var_os("PROPTEST_CASES").is_some() { RngSeed::Random } else { RngSeed::Fixed(20_261_124) }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(), failure_persistence: None, rng_seed: seed(), ..ProptestConfig::default() })]

    #[test]
    fn mutated_plans(
        seed in any::<prop::sample::Index>(),
        steps in prop::collection::vec((any::<u8>(), any::<prop::sample::Index>(), any::<prop::sample::Index>()), 1..8),
    ) {
        let seeds = seeds();
        let text = mutate(&seeds[seed.index(seeds.len())], &steps);
        match Plan::from_toml(&text) {
            Ok(plan) => {
                let review = plan.review();
                consistent(&review);
                // The pins of its boards, and an allocation or the proof that there is none.
                for board in review.pins() {
                    prop_assert!(board.pins.iter().all(|p| p.out.get() >= 0.0 && p.into.get() >= 0.0));
                }
                if let Ok(found) = plan.assign_pins(&plan.signals()) {
                    prop_assert!(found.pins.iter().all(|p| !p.pin.is_empty() && p.pin != "any"));
                }
            }
            Err(errors) => {
                prop_assert!(!errors.problems.is_empty());
                for p in &errors.problems {
                    prop_assert!(!p.message.is_empty());
                    if let Some(span) = p.span {
                        prop_assert!(span.start <= span.end && span.end <= errors.source.text().len());
                        prop_assert!(errors.source.text().get(span.start..span.end).is_some(), "inside a letter");
                    }
                }
            }
        }
    }

    #[test]
    fn random_bytes(bytes in prop::collection::vec(any::<u8>(), 0..300)) {
        let _ = Plan::from_bytes(&bytes);
    }

    #[test]
    fn random_toml_like_text(text in "(\\[|\\]|=|\"|'|\\.|,|\\{|\\}|#|\n| |a|supply|wall|5 V|Ω|[0-9]|e|-|µ){0,80}") {
        let _ = Plan::from_toml(&text);
        let _ = Plan::from_toml(&format!("format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"{text}\"\n"));
    }
}
