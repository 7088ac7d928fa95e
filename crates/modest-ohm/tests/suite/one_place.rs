//! What lives in one place cannot be forgotten in another: every figure is visited, every length has its range, every
//! cable one verdict, every class of the catalogue its offer.

use std::collections::BTreeSet;
use std::path::Path;

use modest_ohm::advise::{DriverRequest, drivers};
use modest_ohm::catalogue;
use modest_ohm::units::{Amps, Volts, parse_figure};
use modest_ohm::{Corner, Plan, Review, Select, Severity, size};

/// A plan without its first line.
fn review(text: &str) -> Review {
    crate::common::review(&format!("format = 1\n{text}"))
}

/// A contact on a board whose internal pull is the catalogue's 30 kΩ .. 80 kΩ: with 30 kΩ its low is
/// 3.3 V · 12/(30 + 12) = 0.94 V and more, above the 0.85 V that the pin takes as low; with 80 kΩ 0.43 V.
const LATCH: &str = "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V ± 1 %\"\ncurrent = \"2 A\"\n\
    [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = { 5v = \"wall\" }\n\
    [input.latch]\npin = \"keeper.io32\"\nkind = \"contact\"\nresistance = \"12 kΩ\"\npull = \"internal\"\n";

#[test]
fn an_assumed_pull_that_decides_is_told() {
    let r = review(LATCH);
    let fault = r.findings().iter().find(|f| f.code == "level-low").expect("the low is too high with 30 kΩ");
    assert_eq!((fault.subject.as_str(), fault.severity), ("latch", Severity::Fault));
    let hangs = r.findings().iter().find(|f| f.code == "assumption-decides").expect("the pull decides it");
    assert_eq!(hangs.subject, "keeper");
    // 30 kΩ and 80 kΩ, as the class says.
    let ends: Vec<(f64, &str)> = hangs.evidence.iter().map(|e| (e.value, e.unit)).collect();
    assert_eq!(ends, [(30e3, "Ω"), (80e3, "Ω")]);
    assert!(r.passed().iter().all(|p| p.code != "assumption-decides"));
    // Stated, it decides nothing: the verdict is the plan's own.
    for (pull, fires) in [("30 kΩ", true), ("80 kΩ", false)] {
        let r = review(&LATCH.replace("\"internal\"", &format!("\"{pull} ± 0 %\"")));
        assert_eq!(r.findings().iter().any(|f| f.code == "level-low"), fires, "{pull}");
    }
}

fn shipped(name: &str) -> Plan {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../plans").join(name);
    Plan::from_toml(&std::fs::read_to_string(path).unwrap()).unwrap()
}

#[test]
fn why_speaks_of_every_item_that_has_figures() {
    let r = shipped("orchard-gate.toml").review();
    let traces = r.why("pack-volts").expect("an input with a swing and a divider is full of figures");
    for key in ["divider.top", "divider.bottom", "high"] {
        assert!(
            traces.iter().any(|t| t.what == key),
            "{key} in {:?}",
            traces.iter().map(|t| &t.what).collect::<Vec<_>>()
        );
    }
    for name in ["orchard-gate.toml", "harbour-diorama.toml", "weather-mast.toml", "clock-tower.toml"] {
        let r = shipped(name).review();
        for item in r.why_names() {
            assert!(r.why(&item).is_some(), "{name}: {item}");
        }
    }
}

fn lamp(cable: &str) -> Review {
    review(&format!(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"10 A\"\n\
         [load.lamp]\nfrom = \"wall\"\ncable = {cable}\ncurrent = \"3 A\"\nvoltage = \"12 V\"\n"
    ))
}

fn volts(r: &Review, corner: Corner) -> f64 {
    let select = Select { scenario: Some("worst".into()), corner: Some(corner), ..Select::default() };
    r.loads(&select)[0].row.voltage.get()
}

/// A range of a length is that of the resistance: each corner is that of the length at its end.
#[test]
fn a_length_keeps_its_range() {
    let (short, long) = (lamp("\"1 m 18 AWG\""), lamp("\"19 m 18 AWG\""));
    for ranged in ["{ length = \"1 m .. 19 m\", size = \"18 AWG\" }", "\"1 m .. 19 m 18 AWG\"", "\"10 m ± 9 m 18 AWG\""]
    {
        let r = lamp(ranged);
        for (corner, same) in [(Corner::Low, &long), (Corner::High, &short), (Corner::Hot, &short)] {
            let (got, want) = (volts(&r, corner), volts(same, corner));
            assert!((got - want).abs() < 1e-9, "{ranged} {}: {got} against {want}", corner.name());
        }
    }
    // 18 AWG is 0.823 mm², 0.01724/0.823 = 20.95 mΩ/m (20 °C): 38 m carry 3 A and lose 2.39 V and more, being warm.
    let lost = 12.0 - volts(&lamp("\"1 m .. 19 m 18 AWG\""), Corner::Low);
    assert!((2.39..2.39 * 1.25).contains(&lost), "{lost}");
    // A return of its own has a range of its own.
    let own = lamp("{ length = \"1 m\", return-length = \"1 m .. 3 m\", size = \"18 AWG\" }");
    let three = lamp("{ length = \"1 m\", return-length = \"3 m\", size = \"18 AWG\" }");
    assert!((volts(&own, Corner::Low) - volts(&three, Corner::Low)).abs() < 1e-9);
}

fn strip(length: &str, density: &str, copper: &str) -> Review {
    review(&format!(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"20 A\"\n\
         [strip.arch]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\ncable = {{ feed = \"0 Ω\", return = \"0 Ω\", ampacity = \"30 A\" }}\n\
         length = \"{length}\"\npixels = \"{density}\"\ncopper = \"{copper}\"\n"
    ))
}

/// A strip that may be longer, or whose pixels may lie further apart, has as much more copper between them.
#[test]
fn a_strips_length_and_density_keep_their_range() {
    let lowest = |r: &Review, corner| {
        let select = Select { scenario: Some("worst".into()), corner: Some(corner), ..Select::default() };
        r.strips(&select)[0].row.lowest.get()
    };
    let plain = |copper: f64| strip("1.505 m", "60 /m", &format!("{copper} Ω/m"));
    for (ranged, most, least) in [
        (strip("1.505 m ± 4 %", "60 /m", "0.1 Ω/m"), 1.04, 0.96),
        (strip("1.505 m", "60 /m ± 5 %", "0.1 Ω/m"), 1.0 / 0.95, 1.0 / 1.05),
    ] {
        let (low, high) = (lowest(&ranged, Corner::Low), lowest(&ranged, Corner::High));
        assert!((low - lowest(&plain(0.1 * most), Corner::Low)).abs() < 1e-6, "{low}");
        assert!((high - lowest(&plain(0.1 * least), Corner::High)).abs() < 1e-6, "{high}");
    }
    // A place has no range: it decides which pixels lie on which side.
    let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"5 A\"\n[strip.arch]\n\
        part = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"1 m\"\npixels = \"60 /m\"\n\
        inject = [ { at = \"0.4 m .. 0.6 m\", cable = \"1 m 18 AWG\" } ]\n";
    assert!(Plan::from_toml(text).unwrap_err().problems[0].message.contains("`at`"));
}

/// Records with figures that are no part of a plan: answers, and what is moved into a record that is.
const NO_PART_OF_A_PLAN: [&str; 2] = ["Laid", "Source"];
/// Fields that are not visited, each because what is in it is visited elsewhere.
const SKIPPED: [&str; 5] = ["Board.runs", "Converter.input_limit", "Panel.layout", "Panel.setting", "Fet.sheet"];

/// Every record of the plan that has a figure derives the visitor, which shows all fields or does not compile; what it
/// skips is listed here.
#[test]
fn every_figure_of_the_plan_is_visited() {
    let (mut records, mut figures, mut skipped) = (0, 0, BTreeSet::new());
    let mut folders = vec![Path::new(env!("CARGO_MANIFEST_DIR")).join("src/plan")];
    while let Some(folder) = folders.pop() {
        for path in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
            if path.is_dir() {
                folders.push(path);
                continue;
            }
            let text = std::fs::read_to_string(&path).unwrap();
            let lines: Vec<&str> = text.lines().collect();
            for (n, line) in lines.iter().enumerate() {
                let words: Vec<&str> = line.split([' ', '<', '(', '{']).filter(|w| !w.is_empty()).collect();
                let at = words.iter().position(|w| ["struct", "enum"].contains(w));
                let Some(name) = at.filter(|_| !line.starts_with([' ', '/'])).and_then(|at| words.get(at + 1)) else {
                    continue;
                };
                let end = lines[n..].iter().position(|l| l.starts_with('}') || l.ends_with(");")).unwrap_or(0);
                let body = &lines[n..=n + end];
                let own = body.iter().filter(|l| l.contains("Figure<") && !l.trim_start().starts_with("//")).count();
                for (i, l) in body.iter().enumerate().filter(|(_, l)| l.contains("#[figures(skip)]")) {
                    let field = body[i + 1].trim().trim_start_matches("pub ").split(':').next().unwrap();
                    let _ = l;
                    skipped.insert(format!("{name}.{field}"));
                }
                if own == 0 || NO_PART_OF_A_PLAN.contains(name) {
                    continue;
                }
                let derived = lines[..n].iter().rev().take_while(|l| l.starts_with('#')).any(|l| l.contains("Figures"));
                let by_hand = text.contains(&format!("Figures for {name}")) || *name == "States" || *name == "Plan";
                assert!(derived || by_hand, "{}: `{name}` has figures and is not visited", path.display());
                (records, figures) = (records + 1, figures + own);
            }
        }
    }
    assert!(records >= 50 && figures >= 180, "{records} records with {figures} figures were found");
    let listed: BTreeSet<String> = SKIPPED.iter().map(|s| (*s).to_owned()).collect();
    assert_eq!(skipped, listed, "a field is skipped that is not listed here, or the other way round");
}

/// 0.2 A over 3 m of 28 AWG behind 5 A, accepted: the rows of cables say what the finding says.
#[test]
fn a_lead_has_the_verdict_of_its_finding() {
    let text = "[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"5 A\"\n[load.lamp]\nfrom = \"wall\"\n\
        cable = \"3 m 28 AWG\"\ncurrent = \"0.2 A\"\nvoltage = \"12 V\"\n";
    let row = |r: &Review| {
        let row = r.cables().into_iter().find(|l| l.name == "lamp").unwrap();
        (row.code, row.severity, row.accepted)
    };
    let open = review(text);
    assert_eq!(row(&open), (Some("fuse-missing"), Some(Severity::Danger), false));
    let accepted = "[[accept]]\ncode = \"fuse-missing\"\non = \"lamp\"\nbecause = \"it lies in a steel tube\"\n";
    let accepted = review(&format!("{text}{accepted}"));
    assert_eq!(
        (row(&accepted), accepted.count(Severity::Danger)),
        ((Some("fuse-missing"), Some(Severity::Danger), true), 0)
    );
    for r in [open, accepted] {
        for lead in r.cables() {
            let verdict = lead.code.and_then(|code| r.verdict(code, &lead.name));
            assert_eq!(verdict.map(|v| (v.severity, v.accepted)), lead.severity.map(|s| (s, lead.accepted)));
        }
    }
}

/// The diodes of the catalogue that say what they carry once are the flyback classes, figure by figure.
#[test]
fn flyback_classes_are_the_catalogues() {
    let classes = size::flyback_classes();
    let mut listed = 0;
    for class in catalogue::classes().iter().filter(|c| c.kind == "diode") {
        let text = |key: &str| class.figures.iter().find(|(k, _)| k == key).map(|(_, v)| v.as_str());
        let Some(surge) = text("surge-current") else { continue };
        let own = classes.iter().find(|c| c.name == class.name).unwrap_or_else(|| panic!("{} is left out", class.name));
        assert_eq!(own.surge, parse_figure::<Amps>(surge).unwrap().low);
        assert_eq!(own.current, parse_figure::<Amps>(text("current").unwrap()).unwrap().low);
        assert_eq!(own.reverse, parse_figure::<Volts>(text("reverse").unwrap()).unwrap().low);
        assert_eq!(own.fast, text("speed") == Some("fast"));
        listed += 1;
    }
    assert_eq!(listed, classes.len());
    assert!(classes.windows(2).all(|w| w[0].current <= w[1].current), "from the smallest");
}

/// Every class of driver is offered or passed over with a reason; reasons speak of nothing that was not asked for.
#[test]
fn stages_try_every_class_and_name_only_what_was_asked_for() {
    let found = drivers(&DriverRequest::new("motor-gear-12v", "12 V ± 5 %", "wifi-board-3v3")).unwrap();
    let tried: BTreeSet<&str> =
        found.offers.iter().map(|o| o.part.as_str()).chain(found.rejected.iter().map(|p| p.class.as_str())).collect();
    for class in catalogue::classes().iter().filter(|c| c.kind == "driver") {
        assert!(tried.contains(class.name.as_str()), "{} is never tried", class.name);
    }
    let mut asked = vec!["motor-gear-12v", "wifi-board-3v3", "rail", "logic", "coil-switch"];
    asked.extend(&tried);
    for passed in &found.rejected {
        for name in passed.why.split('`').skip(1).step_by(2) {
            let item = name.split(['.', ' ', '=']).next().unwrap();
            assert!(asked.contains(&item), "`{name}` in: {}", passed.why);
        }
    }
}

/// `deck` has a 5 A fuse that opens from 6.75 A, and of its 6 A source 6.6 A surely flow. Each cable behind it is in
/// the same position, though one finding speaks for all; accepted there, it is accepted for each.
#[test]
fn leads_behind_one_fuse_share_what_is_said_of_it() {
    let name = "harbour-diorama.toml";
    let behind = |r: &Review| {
        let rows: Vec<_> = r.cables().into_iter().filter(|l| l.protected_by.ends_with("of deck")).collect();
        assert!(rows.len() > 3);
        rows.iter().map(|l| (l.code, l.severity, l.accepted)).collect::<BTreeSet<_>>()
    };
    let r = shipped(name).review();
    assert_eq!(behind(&r), BTreeSet::from([(Some("fuse-may-not-blow"), Some(Severity::Advisory), false)]));
    let said = r.findings().iter().find(|f| f.code == "fuse-may-not-blow").unwrap();
    let accept =
        format!("\n[[accept]]\ncode = \"fuse-may-not-blow\"\non = \"{}\"\nbecause = \"known\"\n", said.subject);
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../plans").join(name);
    let text = std::fs::read_to_string(path).unwrap() + &accept;
    let r = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}")).review();
    assert_eq!(behind(&r), BTreeSet::from([(Some("fuse-may-not-blow"), Some(Severity::Advisory), true)]));
}
