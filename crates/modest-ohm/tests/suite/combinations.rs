//! Worst cases that are none of the four corners: combinations of tolerances.

use modest_ohm::{Finding, Plan, Review, Scenario, Select, Severity};

fn review(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn find<'r>(r: &'r Review, code: &str, subject: &str) -> Option<&'r Finding> {
    r.findings().iter().find(|f| f.code == code && f.subject == subject)
}

/// Two adapters, each through a diode, at the ends of a strip of 135 pixels of 37 mA.
fn two_feeds(east: &str, west: &str) -> String {
    let mut text = String::from("format = 1\n");
    for (name, volts) in [("east", east), ("west", west)] {
        text += &format!(
            "[supply.{name}]\nkind = \"adapter\"\nvoltage = \"{volts}\"\ncurrent = \"3 A\"\n\
             [diode.from-{name}]\nfrom = \"{name}\"\ncable = \"0.1 m 16 AWG\"\npart = \"schottky-3a-40v\"\n\
             vf = \"0.30 V .. 0.40 V\"\nresistance = \"20 mΩ\"\n"
        );
    }
    text + "[strip.row]\npart = \"pixel-5v-rgb-12ma\"\nlength = \"1.5 m\"\npixels = \"90 /m\"\n\
            inject = [ { from = \"from-east\", at = \"start\", cable = \"0.3 m 16 AWG\" }, \
            { from = \"from-west\", at = \"end\", cable = \"0.3 m 16 AWG\" } ]\n"
}

/// 5.78 V against 5.22 V: 0.55 V more than the other, and the strip's copper drops less than that at 5 A. So the higher
/// one carries all 4.99 A (135 pixels of 36 mA and 1 mA), through a diode of 3 A. In every corner both carry half.
#[test]
fn one_diode_carries_the_whole_strip() {
    let r = review(&two_feeds("5.5 V ± 5 %", "5.5 V ± 5 %"));
    let f = find(&r, "switch-overloaded", "from-east").expect("4.99 A through a diode of 3 A");
    assert_eq!(f.severity, Severity::Danger);
    let (judged, limit) = f.comparison().unwrap();
    assert!((judged.value - 4.995).abs() < 0.005, "{}", judged.value);
    assert!((limit.value - 3.0).abs() < 1e-9, "{}", limit.value);
    let mix = f.mix.as_ref().expect("no corner shows it");
    let at = |item: &str| mix.figures.iter().find(|m| m.item == item && m.key == "voltage").unwrap();
    assert!((at("east").value - 5.775).abs() < 1e-9 && (at("west").value - 5.225).abs() < 1e-9, "{:?}", mix.figures);
    assert!(mix.words().contains("`east` is at 5.78 V") || mix.words().contains("`east` at 5.78 V"), "{}", mix.words());
    // A plan with exactly these voltages shows it in its corners; the other diode is idle there.
    let exact = review(&two_feeds("5.775 V ± 0 %", "5.225 V ± 0 %"));
    let f = find(&exact, "switch-overloaded", "from-east").expect("the same, in a corner");
    assert!(f.mix.is_none() && f.severity == Severity::Danger);
    assert!(find(&exact, "switch-overloaded", "from-west").is_none());
}

/// With 0.2 % of tolerance the two share: 11 mV between them move 11 mV/(2·(20 mΩ + …)) at most, some 0.1 A.
#[test]
fn close_voltages_share() {
    let r = review(&two_feeds("5.5 V ± 0.2 %", "5.5 V ± 0.2 %").replace("0.30 V .. 0.40 V", "0.35 V"));
    assert!(find(&r, "switch-overloaded", "from-east").is_none(), "{:#?}", r.findings());
    assert!(r.findings().iter().all(|f| f.mix.is_none() || f.severity < Severity::Fault), "{:#?}", r.findings());
}

/// A converter draws most where its input is low and its output high. No corner has both.
#[test]
fn a_converter_draws_most_at_low_input() {
    let plan = |rating: &str| {
        format!(
            "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V ± 5 %\"\ncurrent = \"{rating}\"\n\
             [converter.five]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0.2 m 16 AWG\"\noutput = \"5 V ± 2 %\"\n\
             current = \"8 A\"\nefficiency = \"90 %\"\nquiescent = \"0 W\"\n\
             [load.motor]\nfrom = \"five\"\ncable = \"0.2 m 16 AWG\"\nvoltage = \"5 V\"\ncurrent = \"4.7 A .. 4.9 A\"\n"
        )
    };
    // 5.1 V · 4.9 A/0.9/11.4 V = 2.44 A (a little more for the cable); no corner has 5.1 V beside 11.4 V: *low* has 4.9 V
    // (2.34 A), *hot* 12.6 V (2.20 A).
    let r = review(&plan("3 A"));
    let f = find(&r, "supply-headroom", "wall").expect("81 % of 3 A");
    let judged = f.comparison().unwrap().0.value;
    assert!((2.43..2.47).contains(&judged), "{judged}");
    let mix = f.mix.as_ref().expect("no corner has both");
    assert!(mix.words().contains("`wall`") && mix.words().contains("`five`"), "{}", mix.words());
    // 2.44 A are 78 % of 3.12 A.
    assert!(find(&review(&plan("3.12 A")), "supply-headroom", "wall").is_none());
}

/// The same number beside the tables of corners: in the list of what is worse than they show, and under `why`. By hand as
/// above.
#[test]
fn views_that_show_corners_name_what_is_worse() {
    let r = review(&two_feeds("5.5 V ± 5 %", "5.5 V ± 5 %"));
    let all = r.selected(&Select::default());
    let east = find(&r, "supply-overloaded", "east").expect("4.99 A of 3 A");
    assert_eq!(
        east.mix.as_ref().unwrap().words(),
        "`east` at 5.78 V and `copper` of `row` at 50 mΩ/m while `west` is at 5.22 V"
    );
    // One number, one finding: in the corners it is 2.5 A, which alone would be too little headroom.
    assert!(find(&r, "supply-headroom", "east").is_none() && find(&r, "supply-headroom", "west").is_none());
    let beyond = r.beyond_corners(&all);
    let east = beyond.iter().find(|b| b.subject == "east" && b.what == "demand").expect("4.99 A");
    assert!((east.value - 4.995).abs() < 0.005 && east.unit == "A", "{}", east.value);
    assert!(east.words().contains("demand of `east` 4.99 A in worst, with `east` at 5.78 V and `copper` of `row` at 50 mΩ/m while `west` is at 5.22 V"), "{}", east.words());
    let rows = r.nodes(&Select::default());
    let row = rows.iter().find(|n| n.row.name == "east" && n.scenario == Scenario::Worst).unwrap();
    assert!((row.row.demand.unwrap().get() - 2.4975).abs() < 0.01, "half of it in the corners");
    let why = r.why("east").unwrap();
    assert!(why.iter().any(|t| t.what.starts_with("demand on east, largest of the corners")), "{why:#?}");
    let finding = why.iter().find(|t| t.what.starts_with("supply-overloaded")).unwrap();
    assert!(
        finding.from.iter().any(|t| t.what == "worst case" && t.value.contains("`west` is at 5.22 V")),
        "{finding:#?}"
    );
    // Of a part that has nothing to do with it nothing is listed; where no combination is worse, nothing at all.
    let west_only = r.selected(&Select { items: vec!["west".into()], ..Select::default() });
    assert!(r.beyond_corners(&west_only).iter().all(|b| b.subject == "west"));
    let one = "format = 1\n[supply.east]\nkind = \"adapter\"\nvoltage = \"5 V ± 5 %\"\ncurrent = \"1 A\"\n\
               [load.lamp]\nfrom = \"east\"\ncable = \"1 m 20 AWG\"\nvoltage = \"5 V\"\ncurrent = \"2 A .. 3 A\"\n";
    let one = review(one);
    assert!(find(&one, "supply-overloaded", "east").is_some());
    assert!(one.beyond_corners(&one.selected(&Select::default())).is_empty());
    assert!(one.why("east").unwrap().iter().any(|t| t.what.starts_with("demand on east, largest (worst")));
}

/// A source that is overloaded all the time has no finding on its starts as well, neither in a corner nor in a combination.
#[test]
fn no_start_of_a_source_that_is_overloaded_anyway() {
    let rover = include_str!("../../../modest-ohm-bench/benches/rover.toml");
    let r = review(rover);
    assert!(find(&r, "supply-overloaded", "logic").is_some(), "{:#?}", r.findings());
    assert!(find(&r, "supply-surge", "logic").is_none(), "{:#?}", find(&r, "supply-surge", "logic"));
    assert!(r.verdict("supply-surge", "logic").is_none());
}
