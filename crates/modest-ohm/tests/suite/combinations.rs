//! Worst cases that are none of the four corners: combinations of tolerances.

use modest_ohm::{Finding, Plan, Review, Severity};

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

/// A source that is overloaded all the time has no finding on its starts as well, neither in a corner nor in a combination.
#[test]
fn no_start_of_a_source_that_is_overloaded_anyway() {
    let rover = include_str!("../../../modest-ohm-bench/benches/rover.toml");
    let r = review(rover);
    assert!(find(&r, "supply-overloaded", "logic").is_some(), "{:#?}", r.findings());
    assert!(find(&r, "supply-surge", "logic").is_none(), "{:#?}", find(&r, "supply-surge", "logic"));
    assert!(r.verdict("supply-surge", "logic").is_none());
}
