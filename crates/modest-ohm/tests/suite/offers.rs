//! Every stage that is offered, for every load of the catalogue and every class of board, in a plan that this test
//! makes up itself, with leads, fuses and a converter: nothing may be found of it that would have to be fixed.

use std::collections::BTreeMap;

use modest_ohm::advise::{DriverOffers, DriverRequest, drivers};
use modest_ohm::catalogue;
use modest_ohm::units::Hertz;
use modest_ohm::{Plan, Severity};

fn classes_of(kinds: &[&str]) -> Vec<(String, String)> {
    catalogue::classes().into_iter().filter(|c| kinds.contains(&c.kind.as_str())).map(|c| (c.kind, c.name)).collect()
}

/// Loads whose rated voltage their names say; what runs on alternating current no stage here can switch.
fn loads() -> Vec<(String, String)> {
    let rated = |name: &str| ["5v", "6v", "9v", "12v", "24v"].iter().any(|v| name.contains(v)) && !name.contains("vac");
    classes_of(&["motor", "pump", "solenoid", "load"]).into_iter().filter(|(_, name)| rated(name)).collect()
}

/// Boards with pins for anything; those for strips only have none.
fn boards() -> Vec<(String, String)> {
    classes_of(&["board"]).into_iter().filter(|(_, name)| !name.starts_with("pixel-board")).collect()
}

/// Its rated voltage: what a maker would feed it with.
fn rail_of(class: &str) -> &'static str {
    match class {
        c if c.contains("12v") => "12 V ± 5 %",
        c if c.contains("24v") => "24 V ± 5 %",
        c if c.contains("9v") => "9 V ± 5 %",
        c if c.contains("6v") => "6 V ± 5 %",
        _ => "5 V ± 5 %",
    }
}

/// A plan with the stage as offered, on a rail that comes from elsewhere: another supply, other cables, a fuse, a board
/// on a converter or on the rail's own 5 V.
fn plan_with(toml: &str, rail: &str, board: &str) -> String {
    let (logic, tie) = if rail.starts_with("12") || rail.starts_with("24") {
        (
            "[converter.logic]\nkind = \"buck\"\nfrom = \"rail\"\ncable = \"0.1 m 18 AWG\"\nfuse = \"5 A\"\noutput = \"5.05 V\"\ncurrent = \"4 A\"\n\
             input = \"8 V .. 28 V\"\n",
            "",
        )
    } else {
        (
            "[supply.logic]\nkind = \"adapter\"\nvoltage = \"5.05 V ± 2 %\"\ncurrent = \"4 A\"\n",
            "[ground.tie]\nbetween = [\"rail\", \"logic\"]\ncable = \"0.2 m 16 AWG\"\n",
        )
    };
    format!(
        "format = 1\nambient = \"25 °C\"\n[supply.mains]\nkind = \"adapter\"\nvoltage = \"{rail}\"\ncurrent = \"20 A\"\n\
         [branch.rail]\nfrom = \"mains\"\ncable = \"0.2 m 12 AWG\"\n{logic}{tie}\
         [board.{board}]\npart = \"{board}\"\nfrom = \"logic\"\ncable = \"0.2 m 18 AWG\"\nfuse = \"4 A\"\n{toml}\n"
    )
}

/// Codes that speak of this test's rail, and not of the stage on it.
const OF_THE_RAIL: [&str; 3] = ["fuse-missing", "bulk-capacitor", "local-capacitor"];

fn judge(offers: &DriverOffers, wish: &DriverRequest, count: &mut BTreeMap<String, usize>) {
    for offer in &offers.offers {
        let text = plan_with(&offer.toml, &wish.rail, &wish.board);
        let plan = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{}: {e}\n{text}", offer.part));
        let review = plan.review();
        let bad: Vec<String> = review
            .findings()
            .iter()
            .filter(|f| f.severity != Severity::Advisory && !OF_THE_RAIL.contains(&f.code))
            .map(|f| format!("{} {} on {}: {}", f.severity.word(), f.code, f.subject, f.message))
            .collect();
        assert!(bad.is_empty(), "{} for {wish:?}:\n{}\n{text}", offer.part, bad.join("\n"));
        assert!(!offer.parts.is_empty() && offer.leaves.is_some_and(|v| v.get() > 0.5), "{offer:?}");
        *count.entry(offer.part.clone()).or_default() += 1;
    }
    for passed in &offers.rejected {
        assert!(passed.why.chars().any(|c| c.is_ascii_digit()) || passed.why.len() > 30, "{passed:?}");
    }
}

#[test]
fn every_offer_passes_in_another_plan() {
    let loads = loads();
    let boards = boards();
    assert!(loads.len() >= 9 && boards.len() >= 6);
    let mut count = BTreeMap::new();
    for (i, (_, load)) in loads.iter().step_by(2).enumerate() {
        // Every other load with one board, each board with a sixth of those: each is tried with every class of driver.
        for (_, board) in boards.iter().enumerate().filter(|(j, _)| (i + j) % 6 == 0).map(|(_, b)| b) {
            let wish = DriverRequest::new(load, rail_of(load), board);
            let offers = drivers(&wish).unwrap();
            // Only what starts with more than 20 A may be too much for every stage that a board can drive.
            let heavy = ["lamp-12v-21w", "lamp-12v-55w", "motor-wiper-12v"].contains(&load.as_str());
            assert!(heavy || !offers.offers.is_empty(), "{wish:?} {:#?}", offers.rejected);
            judge(&offers, &wish, &mut count);
        }
    }
    // Nothing that is offered is one and the same; what no board can drive is not.
    assert!(count.len() >= 12, "{count:?}");
    assert!(!count.contains_key("solid-state-ac") && !count.contains_key("nmos-10v-60v"), "{count:?}");
}

#[test]
fn offers_under_pwm_on_grounded_loads_and_both_ways() {
    let boards = boards();
    let mut count = BTreeMap::new();
    for (i, (kind, load)) in loads().into_iter().enumerate() {
        // A third of the loads, with a board each: every one of them is tried with every class of driver.
        for (_, board) in boards.iter().skip(i % 6).step_by(6).filter(|_| i % 3 == 0) {
            let plain = DriverRequest::new(&load, rail_of(&load), board);
            let pwm = DriverRequest { pwm: Some(Hertz::new(800.0)), ..plain.clone() };
            let offers = drivers(&pwm).unwrap();
            judge(&offers, &pwm, &mut count);
            assert!(offers.offers.iter().all(|o| !o.kind.starts_with("relay")), "a relay under PWM: {pwm:?}");
            let grounded = DriverRequest { grounded: true, ..plain.clone() };
            let offers = drivers(&grounded).unwrap();
            judge(&offers, &grounded, &mut count);
            let in_plus = ["P-channel MOSFET", "relay", "relay module"];
            assert!(offers.offers.iter().all(|o| in_plus.contains(&o.kind)), "{:?}", offers.offers);
            if kind == "motor" {
                let both = DriverRequest { reversible: true, ..plain };
                let offers = drivers(&both).unwrap();
                judge(&offers, &both, &mut count);
                assert!(offers.offers.iter().all(|o| o.kind == "bridge"));
            }
        }
    }
    assert!(count.len() >= 8, "{count:?}");
}

#[test]
fn what_cannot_be_asked_is_said() {
    let why =
        |load: &str, rail: &str, board: &str| drivers(&DriverRequest::new(load, rail, board)).unwrap_err().to_string();
    assert!(why("pump-12v-smal", "12 V", "wifi-board-3v3").contains("did you mean `pump-12v-small`?"));
    assert!(why("servo-micro", "5 V", "wifi-board-3v3").contains("needs no driver"));
    assert!(why("pixel-5v-rgb", "5 V", "wifi-board-3v3").contains("is a strip"));
    assert!(why("pump-12v-small", "12", "wifi-board-3v3").contains('V'));
    assert!(why("pump-12v-small", "0 V", "wifi-board-3v3").contains("not above zero"));
    assert!(why("pump-12v-small", "-12 V", "wifi-board-3v3").contains("not above zero"));
    assert!(why("pump-12v-small", "12 V", "relay-5v").contains("not a board"));
    assert!(why("pump-12v-small", "12 V", "wifi-bord-3v3").contains("did you mean `wifi-board-3v3`?"));
}

/// On a rail that burns it nothing is offered, and each reason is reported.
#[test]
fn a_load_on_the_wrong_rail() {
    let offers = drivers(&DriverRequest::new("motor-gear-6v", "24 V", "wifi-board-3v3")).unwrap();
    assert!(offers.offers.is_empty() && offers.rejected.len() > 15);
    assert!(
        offers.rejected.iter().any(|p| p.why.contains("is a 6 V motor; `rail` supplies 24 V")),
        "{:?}",
        offers.rejected
    );
}
