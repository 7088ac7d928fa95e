//! One cause, one finding; and which verdicts are connected to what is only assumed.

use crate::common::names;
use modest_ohm::{Finding, Plan, Review, Severity};

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

/// Everything but advice, with what stands under it.
fn heads(r: &Review) -> Vec<(&'static str, String, Vec<&'static str>)> {
    let serious = r.findings().iter().filter(|f| f.severity != Severity::Advisory);
    serious
        .map(|f| {
            let mut also: Vec<&'static str> = f.also.iter().map(|c| c.code).collect();
            also.sort_unstable();
            (f.code, f.subject.clone(), also)
        })
        .collect()
}

fn finding(r: &Review, code: &str) -> Finding {
    let found = r.findings().iter().find(|f| f.code == code).cloned();
    found.unwrap_or_else(|| panic!("no {code} in {:?}", heads(r)))
}

const WALL: &str = "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"10 A\"\n";

fn lamp(name: &str, from: &str, volts: f64, amps: f64) -> String {
    format!(
        "[load.{name}]\nfrom = \"{from}\"\ncable = \"0 m 12 AWG\"\ncurrent = \"{amps} A\"\nvoltage = \"{volts} V\"\n"
    )
}

/// A link between 12 V and 5 V: what burns on the 5 V rail burns for that.
#[test]
fn a_link_explains_what_it_feeds() {
    let body = |closed: bool| {
        format!(
            "{WALL}[converter.five]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"5 V\"\ncurrent = \"3 A\"\n{}{}\
             [link.bridge]\nbetween = [\"wall\", \"five\"]\nclosed = {closed}\n",
            lamp("small", "five", 5.0, 1.0),
            lamp("large", "wall", 12.0, 1.0)
        )
    };
    let r = review(&body(true));
    let all = heads(&r);
    assert_eq!(all.len(), 1, "{all:?}");
    assert_eq!((all[0].0, all[0].1.as_str()), ("back-fed", "small"));
    assert!(all[0].2.contains(&"supply-voltage") && all[0].2.contains(&"rails-joined"), "{all:?}");
    assert!(heads(&review(&body(false))).is_empty());
}

/// A reversed diode: nothing behind it is blamed, and the finding names what gets nothing.
#[test]
fn a_reversed_diode_explains_the_dark() {
    let body = |cathode: &str| {
        format!(
            "{WALL}[diode.guard]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"5 A\"\nvf = \"0.3 V\"\ncathode = \"{cathode}\"\n{}{}",
            lamp("left", "guard", 12.0, 1.0),
            lamp("right", "guard", 12.0, 1.0)
        )
    };
    let r = review(&body("source"));
    assert_eq!(heads(&r).len(), 1, "{:?}", heads(&r));
    let f = finding(&r, "series-diode-reversed");
    assert!(names(&f, "left") && names(&f, "right"), "{}", f.message);
    // What is dark is not passed either.
    assert!(!r.passed().iter().any(|p| p.code == "supply-voltage" && p.subject == "left"));
    assert!(heads(&review(&body("load"))).is_empty());
}

/// A clamp below its rail takes all that the source gives: the overload is its doing.
#[test]
fn a_clamp_explains_the_overload() {
    let body = |clamps: &str| {
        format!(
            "{WALL}[diode.tvs]\nacross = \"wall\"\nclamps = \"{clamps}\"\nresistance = \"0.1 Ω\"\n{}",
            lamp("lamp", "wall", 12.0, 1.0)
        )
    };
    let r = review(&body("9 V"));
    let all = heads(&r);
    assert_eq!((all.len(), all[0].0), (1, "clamp-conducts"), "{all:?}");
    assert!(all[0].2.contains(&"supply-overloaded"), "{all:?}");
    // (12 − 9) V/0.1 Ω = 30 A asked; the bench supply limits at 10 A, and 9 V + 1 V are left at 9 A beside the lamp's 1
    // A.
    assert_eq!(finding(&r, "clamp-conducts").severity, Severity::Danger);
    assert!(heads(&review(&body("12.3 V"))).is_empty());
}

/// 12 V that are not listed: 5 V arrive, and what that brings about goes with it.
#[test]
fn a_profile_explains_what_five_volts_bring() {
    let body = |selected: &str| {
        format!(
            "[supply.brick]\nkind = \"negotiated\"\nprofiles = [\"5 V 3 A\", \"12 V 3 A\"]\nselected = \"{selected}\"\n{}",
            lamp("lamp", "brick", 12.0, 1.0)
        )
    };
    let r = review(&body("13 V"));
    let all = heads(&r);
    assert_eq!((all.len(), all[0].0), (1, "profile-not-offered"), "{all:?}");
    assert_eq!(all[0].2, ["supply-voltage"]);
    assert!(heads(&review(&body("12 V"))).is_empty(), "{:?}", heads(&review(&body("12 V"))));
}

/// A heater of 6 V on 12 V draws four times its power: the fuse and the wire that this overloads are no matters of
/// their own, and the lamp beside it, with a fuse too small for its own current, is.
#[test]
fn a_wrong_voltage_explains_what_it_overloads() {
    let heater = |volts: &str| {
        format!(
            "{WALL}[load.plate]\nfrom = \"wall\"\ncable = \"0.2 m 20 AWG\"\nresistance = \"3 Ω\"\nvoltage = \"{volts}\"\n\
             kind = \"heater\"\nfuse = \"3 A\"\n{}fuse = \"1 A\"\n",
            lamp("lamp", "wall", 12.0, 1.1)
        )
    };
    let all = heads(&review(&heater("6 V")));
    assert_eq!(all.len(), 2, "{all:?}");
    let of = |subject: &str| all.iter().find(|(_, s, _)| s == subject).cloned().unwrap_or_default();
    assert_eq!(of("plate"), ("supply-voltage", "plate".into(), vec!["fuse-too-small"]));
    assert_eq!(of("lamp"), ("fuse-too-small", "lamp".into(), vec![]));
    // With 12 V it is a heater of 48 W, and its fuse is too small.
    let right = heads(&review(&heater("12 V")));
    assert!(right.contains(&("fuse-too-small", "plate".into(), vec![])), "{right:?}");
}

/// A source at its limit: the voltage that follow stand under the overload, and a firmware limit that would do it is
/// reported first.
#[test]
fn an_overload_explains_the_volts() {
    let r = review(&format!(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"2 A\"\n{}{}",
        lamp("left", "wall", 12.0, 1.5),
        lamp("right", "wall", 12.0, 1.5)
    ));
    let all = heads(&r);
    assert_eq!((all.len(), all[0].0), (1, "supply-overloaded"), "{all:?}");
    // Of a rail that has collapsed only the collapse is reported, and nothing on it is passed.
    assert!(all[0].2.is_empty(), "{all:?}");
    assert!(!r.passed().iter().any(|p| p.code == "supply-voltage" && p.subject == "left"));
}

/// Two causes are two findings: opening the link does not fix the reversed diode.
#[test]
fn two_causes_stay_two() {
    let r = review(&format!(
        "{WALL}[supply.five]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"3 A\"\n[ground.tie]\nbetween = [\"wall\", \"five\"]\n\
         [link.bridge]\nbetween = [\"wall\", \"five\"]\n\
         [diode.guard]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"5 A\"\nvf = \"0.3 V\"\ncathode = \"source\"\n{}{}",
        lamp("small", "five", 5.0, 1.0),
        lamp("large", "guard", 12.0, 1.0)
    ));
    let mut codes: Vec<&str> = heads(&r).iter().map(|(code, ..)| *code).collect();
    codes.sort_unstable();
    assert_eq!(codes, ["back-fed", "series-diode-reversed"], "{:?}", heads(&r));
}

fn hangs(r: &Review) -> Option<Finding> {
    r.findings().iter().find(|f| f.code == "assumption-decides").cloned()
}

/// A pump of a class, 0.35 .. 0.8 A, on an adapter of which 80 % may be used.
#[test]
fn a_verdict_hangs_on_a_class_between_its_ends() {
    let pump = |rating: &str, current: &str| {
        review(&format!(
            "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"{rating}\"\nlimit = \"5 A\"\n\
             [load.pump]\npart = \"pump-12v-small\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n{current}"
        ))
    };
    // 0.8 A of 0.9 A are too much, 0.35 A are not.
    let f = hangs(&pump("0.9 A", "")).unwrap();
    assert_eq!((f.severity, f.subject.as_str()), (Severity::Advisory, "pump"));
    assert!(
        f.message.contains("`current` of `pump`") && f.message.contains("supply-headroom of `wall`"),
        "{}",
        f.message
    );
    assert_eq!(f.evidence.iter().map(|e| (e.name, e.value)).collect::<Vec<_>>(), [("low", 0.35), ("high", 0.8)]);
    assert!(
        f.tasks[0].contains("an ammeter in its positive") && f.tasks[0].ends_with("and write `current`"),
        "{}",
        f.tasks[0]
    );
    // Measured it is connected to nothing: the finding is a fact, or it is gone.
    let measured = pump("0.9 A", "current = \"0.8 A\"\n");
    assert!(hangs(&measured).is_none());
    assert_eq!(finding(&measured, "supply-headroom").subject, "wall");
    assert!(hangs(&pump("0.9 A", "current = \"0.6 A\"\n")).is_none());
    // 0.35 A is too much as well: at both ends the same verdict.
    let both = pump("0.4 A", "");
    assert!(hangs(&both).is_none_or(|f| !f.message.contains("supply-headroom")), "{:?}", hangs(&both));
    // Neither end is too much.
    assert!(hangs(&pump("2 A", "")).is_none());
}

/// Every figure that decides is reported with its own measurement; what the plan itself states decides nothing.
#[test]
fn each_figure_has_its_measurement() {
    let r = review(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"2 A\"\n\
         [converter.five]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"5 V ± 0 %\"\ncurrent = \"6 A\"\n\
         [load.motor]\nfrom = \"five\"\ncable = \"0 m 12 AWG\"\ncurrent = \"3.4 A\"\nvoltage = \"5 V\"\n",
    );
    // 17 W/0.85 of 12 V are 1.67 A, above 1.6 A of 2 A; 17 W/0.92 are 1.54 A: the efficiency decides.
    assert_eq!(finding(&r, "supply-headroom").subject, "wall");
    let f = hangs(&r).unwrap();
    assert!(f.message.contains("`efficiency` of `five`"), "{}", f.message);
    assert!(f.tasks[0].starts_with("Measure voltage and current at the input and output of `five`"), "{}", f.tasks[0]);
    let stated = review(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"2 A\"\n\
         [converter.five]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"5 V ± 0 %\"\ncurrent = \"6 A\"\nefficiency = \"85 % .. 92 %\"\n\
         [load.motor]\nfrom = \"five\"\ncable = \"0 m 12 AWG\"\ncurrent = \"3.4 A\"\nvoltage = \"5 V\"\n",
    );
    // The same spread, stated: the maker knows it.
    assert_eq!(finding(&stated, "supply-headroom").subject, "wall");
    assert!(hangs(&stated).is_none());
}

/// An acceptance silences a finding and not what comes instead; one of an unknown subject is stale.
#[test]
fn acceptances_hold_for_what_they_name() {
    let body = |accept: &str| {
        review(&format!(
            "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"2 A\"\n{}\n[[accept]]\n{accept}\nbecause = \"two seconds a day\"\n",
            lamp("lamp", "wall", 12.0, 1.9)
        ))
    };
    let accepted = body("code = \"supply-headroom\"\non = \"wall\"");
    assert_eq!((accepted.accepted(), accepted.count(Severity::Caution)), (1, 0));
    let other = body("code = \"supply-headroom\"\non = \"lamp\"");
    assert_eq!((other.accepted(), other.count(Severity::Caution)), (0, 2));
    assert_eq!(finding(&other, "acceptance-stale").severity, Severity::Caution);
}

/// Too high a voltage in one scenario is not too low in the next: only those follow from the overload.
#[test]
fn severities_of_one_part_are_told_apart() {
    let r = review(&format!(
        "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V .. 16 V\"\ncurrent = \"2 A\"\n{}{}",
        lamp("lamp", "wall", 12.0, 1.0),
        // Rated for what the source can have at its most.
        lamp("heater", "wall", 16.0, 3.0)
            .replace("voltage = \"16 V\"", "recommended = \"5 V .. 17 V\"\nminimum = \"1 V\"")
    ));
    let overload = finding(&r, "supply-overloaded");
    assert!(!overload.also.iter().any(|c| c.code == "supply-voltage"), "{:?}", heads(&r));
    let apart: Vec<Severity> = r.findings().iter().filter(|f| f.code == "supply-voltage").map(|f| f.severity).collect();
    // 16 V of 14.4 V at most, in *idle*, whatever the limit.
    assert_eq!(apart, [Severity::Danger], "{:?}", heads(&r));
}

/// 9 A of clamp through the cable cost the lamp 15 % of its voltage; without it 3 % are left, an advice: the clamp's
/// doing.
#[test]
fn what_is_left_as_advice_is_gone() {
    let body = |clamps: &str| {
        review(&format!(
            "{WALL}[branch.run]\nfrom = \"wall\"\ncable = {{ feed = \"0.1 Ω\", return = \"0.1 Ω\", ampacity = \"20 A\" }}\n\
             [diode.tvs]\nacross = \"run\"\nclamps = \"{clamps}\"\nresistance = \"0.1 Ω\"\n\
             [load.lamp]\nfrom = \"run\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1.8 A\"\nvoltage = \"11 V\"\n"
        ))
    };
    // 1.8 A · 0.2 Ω = 0.36 V, 3 % of 12 V: more than half of the policy's 5 %.
    let sound = body("14 V");
    assert_eq!(finding(&sound, "voltage-drop").severity, Severity::Advisory);
    // 12 V − 0.2 Ω·(1.8 A + i) = 9 V + 0.1 Ω·i: 8.8 A through the clamp, 2.12 V lost.
    let r = body("9 V");
    let all = heads(&r);
    assert_eq!((all.len(), all[0].0), (1, "clamp-conducts"), "{all:?}");
    assert!(all[0].2.contains(&"voltage-drop"), "{all:?}");
}

/// Boards that burst together drive a converter into its limit; all that follows is one finding, and where what follows
/// is worse than its cause, its first fix says whose it is.
#[test]
fn bursts_that_take_everything_down() {
    let text = |amps: &str| {
        format!(
            "format = 1\n[supply.brick]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"5 A\"\n\
             [converter.five]\nkind = \"buck\"\nfrom = \"brick\"\ncable = \"0.2 m 18 AWG\"\noutput = \"5 V\"\ncurrent = \"{amps}\"\n\
             [board.hub]\npart = \"linux-board-3v3\"\nfrom = \"five\"\ncable = \"0.2 m 18 AWG\"\n\
             [board.node]\npart = \"arm-board-3v3-small\"\nfrom = \"five\"\ncable = \"0.3 m 22 AWG\"\n\
             [signal.beat]\npin = \"hub.io17\"\nto = \"node.io2\"\n\
             [load.fan]\nfrom = \"five\"\ncable = \"0.3 m 22 AWG\"\ncurrent = \"0.6 A\"\nvoltage = \"5 V\"\n"
        )
    };
    let review = |amps: &str| Plan::from_toml(&text(amps)).unwrap().review();
    // For long 0.6 + 0.04 + 0.6 A of 3 A; at peak current 3 + 0.1 + 0.6 A.
    let found = review("3 A").with_fixes();
    let grave: Vec<_> = found.findings().iter().filter(|f| f.severity >= Severity::Fault).collect();
    assert_eq!(grave.len(), 1, "{grave:?}");
    assert_eq!((grave[0].code, grave[0].subject.as_str()), ("supply-surge", "five"));
    assert_eq!(grave[0].fixes[0].instruction(), "`current = \"4 A\"` in `[converter.five]`");
    // Of a rail that has collapsed only the collapse is reported.
    assert!(grave[0].also.is_empty(), "{grave:?}");
    // A strip more, and a load behind the small board's regulator: its rail falls so far that a pin of the other board
    // is above it. That is no finding of its own.
    let more = "[load.screen]\nfrom = \"node.3v3\"\ncurrent = \"20 mA\"\nvoltage = \"3.3 V\"\n[strip.bench]\n\
                part = \"pixel-5v-rgb-12ma\"\nfrom = \"five\"\ncable = \"0.4 m 20 AWG\"\nlength = \"0.5 m\"\npixels = \"30 /m\"\n";
    let worse = Plan::from_toml(&format!("{}{more}", text("3 A"))).unwrap().review();
    let grave: Vec<_> = worse.findings().iter().filter(|f| f.severity >= Severity::Fault).collect();
    assert_eq!(grave.iter().map(|f| (f.code, f.subject.as_str())).collect::<Vec<_>>(), [("supply-surge", "five")]);
    // With a converter that gives it nothing is left.
    let mended = review("4 A");
    assert!(mended.findings().iter().all(|f| f.severity < Severity::Fault), "{:?}", mended.findings());
}

/// A start that takes a converter to its limit: the encoder's 3.45 V are above the board's supply only then, and that is
/// no danger of its own.
#[test]
fn a_starved_board_leaves_no_findings_of_its_signals() {
    let text = |limit: &str| {
        format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"{limit}\"\n\
             [board.hub]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\ncable = \"0.1 m 22 AWG\"\n\
             [load.screen]\nfrom = \"hub.3v3\"\ncurrent = \"20 mA\"\nvoltage = \"3.3 V\"\nminimum = \"2.9 V\"\n\
             [input.encoder]\npin = \"hub.io34\"\nkind = \"voltage\"\nlow = \"0 V\"\nhigh = \"3.45 V\"\n\
             [load.lamp]\nfrom = \"wall\"\ncurrent = \"0.5 A\"\nvoltage = \"5 V\"\nsurge = \"1.9 A\"\n"
        )
    };
    let review = |limit: &str| Plan::from_toml(&text(limit)).unwrap().review();
    let starved = review("2.06 A");
    let grave: Vec<_> = starved.findings().iter().filter(|f| f.severity >= Severity::Caution).collect();
    assert_eq!(grave.len(), 1, "{grave:#?}");
    assert_eq!((grave[0].code, grave[0].subject.as_str()), ("supply-surge", "wall"));
    let under: Vec<&str> = grave[0].also.iter().map(|c| c.code).collect();
    assert!(under.contains(&"pin-overvoltage") && under.contains(&"supply-voltage"), "{under:?}");
    assert!(review("4 A").findings().iter().all(|f| f.severity < Severity::Caution));
}

/// What follows is named once for each part, at its worst, and never the finding itself.
#[test]
fn each_consequence_is_named_once() {
    let draft = std::fs::read_to_string(concat!(env!("CARGO_MANIFEST_DIR"), "/../../plans/harbour-first-draft.toml"));
    let r = Plan::from_toml(&draft.unwrap()).unwrap().review();
    let mut seen = 0;
    for f in r.findings() {
        let mut named = vec![(f.code, f.subject.as_str())];
        named.extend(f.also.iter().map(|c| (c.code, c.subject.as_str())));
        seen += f.also.len();
        let all = named.len();
        named.sort_unstable();
        named.dedup();
        assert_eq!(named.len(), all, "{f:#?}");
    }
    assert!(seen > 4, "{seen}");
}
