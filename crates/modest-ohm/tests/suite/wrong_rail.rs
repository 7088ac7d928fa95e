//! A consumer on a rail that it was not made for: one finding says so, and what is calculated with that voltage does
//! not stand beside it.

use modest_ohm::{Finding, Plan, Review, Severity};

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

/// Everything from caution up that stands by itself.
fn serious(r: &Review) -> Vec<&Finding> {
    r.findings().iter().filter(|f| f.severity >= Severity::Caution).collect()
}

fn adapter(volts: &str, current: &str) -> String {
    format!("[supply.wall]\nkind = \"adapter\"\nvoltage = \"{volts}\"\ncurrent = \"{current}\"\n")
}

fn shelf(part: &str) -> String {
    format!(
        "[strip.shelf]\npart = \"{part}\"\nfrom = \"wall\"\nlength = \"5 m\"\nleds = \"300\"\n\
         cable = \"1 m 18 AWG\"\npower = \"24 W\"\n"
    )
}

#[test]
fn a_12_v_strip_on_5_v_is_one_headline() {
    let r = review(&format!("{}{}", adapter("5 V", "3 A"), shelf("plain-12v-white")));
    let found = serious(&r);
    assert_eq!(found.len(), 1, "{found:#?}");
    let f = found[0];
    assert_eq!((f.severity, f.code), (Severity::Fault, "supply-voltage"));
    assert_eq!(f.message, "`shelf` is a 12 V strip; `wall` supplies 5 V");
    let fixed = r.with_fixes();
    let fix = &serious(&fixed)[0].fixes[0];
    assert!(fix.ends() && fix.edits.iter().any(|e| e.value.as_deref().is_some_and(|v| v.contains("12 V"))), "{fix:?}");
}

/// Three times the current that 5 V would draw, on a wire and an adapter that are too small for it: none of it counts.
#[test]
fn a_5_v_strip_on_12_v_is_one_headline() {
    let strip = "[strip.shelf]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"5 m\"\nleds = \"300\"\n\
                 cable = \"1 m 22 AWG\"\n";
    let r = review(&format!("{}{strip}", adapter("12 V", "2 A")));
    let solved: Vec<&Finding> = serious(&r).into_iter().filter(|f| f.scenario.is_some()).collect();
    assert_eq!(solved.len(), 1, "{solved:#?}");
    let f = solved[0];
    assert_eq!((f.severity, f.code), (Severity::Danger, "supply-voltage"));
    assert!(f.message.starts_with("`shelf` is a 5 V strip; `wall` supplies 12 V; absolute maximum "), "{}", f.message);
    let under: Vec<&str> = f.also.iter().map(|c| c.code).collect();
    assert!(under.contains(&"supply-overloaded") && under.contains(&"wire-overloaded"), "{under:?}");
}

/// What shares the source and is right for it keeps its own findings: the adapter is too small for the pump alone.
#[test]
fn a_neighbour_keeps_its_findings() {
    let pump = "[pump.well]\nfrom = \"wall\"\ncable = \"1 m 18 AWG\"\nvoltage = \"12 V\"\ncurrent = \"3 A\"\n";
    let strip = "[strip.shelf]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"0.5 m\"\nleds = \"30\"\n\
                 cable = \"1 m 18 AWG\"\n";
    let r = review(&format!("{}{strip}{pump}", adapter("12 V", "2 A")));
    let codes: Vec<(&str, &str)> = serious(&r).iter().map(|f| (f.code, f.subject.as_str())).collect();
    assert!(codes.contains(&("supply-voltage", "shelf")), "{codes:?}");
    assert!(codes.contains(&("supply-overloaded", "wall")), "{codes:?}");
}

/// A stage that takes the difference makes a rail the right one: 6 V motor, 7.5 V, and 1.8 V in a bipolar bridge.
#[test]
fn what_a_bridge_drops_counts() {
    let motor = "[supply.logic]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"1 A\"\n\
                 [board.k]\npart = \"board-5v-8bit\"\nfrom = \"logic\"\ncable = \"0.1 m 22 AWG\"\n\
                 [ground.t]\nbetween = [\"wall\", \"logic\"]\n\
                 [driver.d]\npart = \"bridge-bipolar-2a\"\n\
                 from = { motor = { node = \"wall\", cable = \"0.2 m 20 AWG\" }, logic = \"k.5v\" }\n\
                 pins = [\"k.d5\", \"k.d6\"]\n\
                 [motor.m]\nfrom = \"d.a\"\ncable = \"0.3 m 20 AWG\"\nvoltage = \"6 V\"\n\
                 recommended = \"3 V .. 7 V\"\nabsolute = \"8.6 V\"\ncurrent = \"0.4 A\"\nstall = \"0.8 A\"\n";
    let headline = |volts: &str| {
        let wall = format!("[supply.wall]\nkind = \"bench\"\nvoltage = \"{volts} ± 0 %\"\ncurrent = \"2 A\"\n");
        let r = review(&format!("{wall}{motor}"));
        r.findings().iter().any(|f| f.message.starts_with("`m` is a 6 V motor"))
    };
    assert!(!headline("8.5 V"));
    assert!(headline("12 V"));
}

/// Where the bridge makes the rail right, an overloaded source keeps its own finding: it is no consequence of a voltage
/// that is as it should be.
#[test]
fn a_rail_that_a_bridge_makes_right_is_no_cause() {
    let text = |current: &str| {
        format!(
            "[supply.wall]\nkind = \"bench\"\nvoltage = \"8.5 V ± 0 %\"\ncurrent = \"{current}\"\nlimit = \"3 A\"\n\
             [supply.logic]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"1 A\"\n\
             [board.k]\npart = \"board-5v-8bit\"\nfrom = \"logic\"\ncable = \"0.1 m 22 AWG\"\n\
             [ground.t]\nbetween = [\"wall\", \"logic\"]\n\
             [driver.d]\npart = \"bridge-bipolar-2a\"\n\
             from = {{ motor = {{ node = \"wall\", cable = \"0.2 m 20 AWG\" }}, logic = \"k.5v\" }}\n\
             pins = [\"k.d5\", \"k.d6\"]\n\
             [motor.m]\nfrom = \"d.a\"\ncable = \"0.3 m 20 AWG\"\nvoltage = \"6 V\"\n\
             recommended = \"3 V .. 7 V\"\nabsolute = \"8.6 V\"\ncurrent = \"0.8 A\"\nstall = \"1 A\"\n"
        )
    };
    let heads = |current: &str| -> Vec<(&'static str, Severity)> {
        review(&text(current)).findings().iter().map(|f| (f.code, f.severity)).collect()
    };
    assert!(heads("0.5 A").contains(&("supply-overloaded", Severity::Danger)), "{:?}", heads("0.5 A"));
    assert!(!heads("2 A").iter().any(|(code, _)| *code == "supply-overloaded"));
}

/// A node that two sources feed through diodes has the voltage of the higher one, whichever is written first.
#[test]
fn another_source_makes_the_rail_right() {
    let plan = |second: &str| {
        review(&format!(
            "[supply.spare]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"5 A\"\n\
             [supply.main]\nkind = \"bench\"\nvoltage = \"{second}\"\ncurrent = \"5 A\"\n\
             [ground.tie]\nbetween = [\"spare\", \"main\"]\n\
             [diode.one]\nfrom = \"spare\"\ncable = \"0.1 m 18 AWG\"\ncurrent = \"5 A\"\nvf = \"0.4 V\"\n\
             [diode.two]\nfrom = \"main\"\ncable = \"0.1 m 18 AWG\"\ncurrent = \"5 A\"\nvf = \"0.4 V\"\n\
             [strip.shelf]\npart = \"plain-12v-white\"\nlength = \"1 m\"\nleds = \"60 /m\"\npower = \"4.8 W/m\"\n\
             inject = [{{ at = \"start\", from = \"one\", cable = \"0.2 m 18 AWG\" }}, \
             {{ at = \"end\", from = \"two\", cable = \"0.2 m 18 AWG\" }}]\n"
        ))
    };
    let headline = |r: &Review| r.findings().iter().any(|f| f.message.starts_with("`shelf` is a 12 V strip"));
    assert!(!headline(&plan("12 V")), "{:#?}", serious(&plan("12 V")));
    assert!(headline(&plan("5 V")));
}
