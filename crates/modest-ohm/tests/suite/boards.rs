//! Boards with several ways in: which of them gives, how much, and what a computer's port sees of it. Every number by
//! hand from the plan and the defaults that it names.

use crate::common::names;
use modest_ohm::{Corner, Finding, Plan, Review, Select, Severity};

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn at(scenario: &str, corner: Corner) -> Select {
    Select { scenario: Some(scenario.into()), corner: Some(corner), ..Select::default() }
}

fn volts(r: &Review, node: &str, scenario: &str, corner: Corner) -> f64 {
    let rows = r.nodes(&at(scenario, corner));
    rows.iter().find(|x| x.row.name == node).and_then(|x| x.row.voltage).map_or(f64::NAN, |v| v.get())
}

fn amps(r: &Review, node: &str, scenario: &str, corner: Corner) -> f64 {
    let rows = r.nodes(&at(scenario, corner));
    rows.iter().find(|x| x.row.name == node).and_then(|x| x.row.demand).map_or(f64::NAN, |a| a.get())
}

fn near(got: f64, want: f64) {
    assert!((got - want).abs() <= 1e-6 * want.abs().max(1e-3), "{got} against {want}");
}

fn found(r: &Review, code: &str) -> Option<Finding> {
    r.findings().iter().find(|f| f.code == code).cloned()
}

fn evidence(f: &Finding, name: &str) -> f64 {
    f.evidence.iter().find(|e| e.name == name).map_or(f64::NAN, |e| e.value)
}

/// A port of 4.75 .. 5.25 V (USB 2.0) behind a cable of 0.25 Ω.
const LEAD: f64 = 0.25;

/// A board of 0.1 A on a rail, its USB plugged in occasionally.
fn beside(inputs: &str, rail: &str, more: &str) -> Review {
    review(&format!(
        "[supply.main]\nkind = \"bench\"\nvoltage = \"{rail}\"\ncurrent = \"10 A\"\n\
         [board.keeper]\nfrom = \"main\"\nusb = \"sometimes\"\ninputs = \"{inputs}\"\nmean = \"0.1 A\"\nknee = \"1 V\"\n\
         usb-diode = \"0.3 V ± 0 %\"\nrecommended = \"3.5 V .. 5.5 V\"\nabsolute = \"6 V\"\n{more}"
    ))
}

/// The inputs are one: what the rail has more than the port flows into it through the cable, and the other way.
#[test]
fn joined_inputs_push_into_the_port() {
    for rail in [5.05, 5.3] {
        let r = beside("joined", &format!("{rail} V ± 0 %"), "");
        // The port at its lowest, the rail at its highest: (rail − 4.75 V)/0.25 Ω.
        let f = found(&r, "usb-while-fed").unwrap();
        assert_eq!(f.severity, Severity::Danger);
        near(evidence(&f, "back"), (rail - 4.75) / LEAD);
    }
    // A rail of 4.7 V gives nothing beside a port of more, and takes nothing back: the board's 0.1 A come from the
    // port.
    let f = found(&beside("joined", "4.7 V ± 0 %", "usb-current = \"0.09 A\"\n"), "usb-while-fed").unwrap();
    assert_eq!((f.severity, f.scenario.as_ref().map(|s| s.name())), (Severity::Fault, Some("programming")));
    near(evidence(&f, "demand"), 0.1);
}

/// USB comes in through 0.3 V + 0.1 Ω: nothing flows back into the port, and a rail that is off is lifted.
#[test]
fn a_diode_lets_nothing_back() {
    let r = beside("diode-joined", "5.3 V ± 0 %", "");
    let f = found(&r, "usb-while-fed").unwrap();
    assert_eq!((f.severity, f.scenario.as_ref().map(|s| s.name())), (Severity::Caution, Some("programming-alone")));
    // 5.25 V − 0.3 V − 0.1 A·(0.1 Ω + 0.25 Ω).
    near(evidence(&f, "lifted"), 5.25 - 0.3 - 0.1 * 0.35);
    near(volts(&r, "keeper.5v", "programming", Corner::Typical), 5.3);
}

/// One that selects takes USB only while it has nothing else, and lifts nothing.
#[test]
fn a_board_that_selects_keeps_its_inputs_apart() {
    let r = beside("selects", "5.3 V ± 0 %", "");
    assert!(found(&r, "usb-while-fed").is_none(), "{:?}", r.findings());
    assert!(r.passed().iter().any(|p| p.code == "usb-while-fed" && p.subject == "keeper"));
    near(volts(&r, "keeper.5v", "programming", Corner::Typical), 5.3);
    near(amps(&r, "main", "programming", Corner::Typical), 0.1);
    near(volts(&r, "keeper.5v", "programming-alone", Corner::Typical), 5.0 - 0.1 * LEAD);
}

/// A scenario of the maker that plugs a board in is judged like the built-in ones.
#[test]
fn a_scenario_that_plugs_it_in() {
    let body = |plugged: &str| {
        review(&format!(
            "[supply.main]\nkind = \"bench\"\nvoltage = \"5.1 V ± 0 %\"\ncurrent = \"10 A\"\n\
             [board.keeper]\nfrom = \"main\"\ninputs = \"joined\"\nmean = \"0.1 A\"\nknee = \"1 V\"\nrecommended = \"3.5 V .. 5.5 V\"\nabsolute = \"6 V\"\n\
             [scenario.update]\n{plugged}"
        ))
    };
    let f = found(&body("plugged = [\"keeper\"]\n"), "usb-while-fed").unwrap();
    assert_eq!((f.severity, f.scenario.as_ref().map(|s| s.name())), (Severity::Danger, Some("update")));
    near(evidence(&f, "back"), (5.1 - 4.75) / LEAD);
    assert!(found(&body("off = []\n"), "usb-while-fed").is_none());
}

/// A strip on the rail of a board is connected to its port while the rail's own supply is off.
#[test]
fn what_hangs_on_the_rail_hangs_on_the_port() {
    let lamp = |amps: f64| {
        format!(
            "[load.lamp]\nfrom = \"main\"\ncable = \"0 m 12 AWG\"\ncurrent = \"{amps} A\"\nvoltage = \"5 V\"\nknee = \"1 V\"\n"
        )
    };
    let r = beside("diode-joined", "5.3 V ± 0 %", &lamp(0.41));
    let f = found(&r, "usb-while-fed").unwrap();
    assert_eq!((f.severity, f.scenario.as_ref().map(|s| s.name())), (Severity::Fault, Some("programming-alone")));
    near(evidence(&f, "demand"), 0.51);
    // 0.49 A are within the 0.5 A of the port.
    assert_eq!(
        found(&beside("diode-joined", "5.3 V ± 0 %", &lamp(0.39)), "usb-while-fed").unwrap().severity,
        Severity::Caution
    );
    // A diode in the board's feed keeps it from the rail.
    let apart = beside("diode-joined", "5.3 V ± 0 %", &lamp(2.0));
    assert!(found(&apart, "usb-while-fed").is_some());
    let guarded = "[supply.main]\nkind = \"bench\"\nvoltage = \"5.3 V\"\ncurrent = \"10 A\"\n\
         [diode.guard]\nfrom = \"main\"\ncable = \"0 m 12 AWG\"\nvf = \"0.2 V\"\ncurrent = \"1 A\"\n\
         [board.keeper]\nfrom = \"guard\"\nusb = \"sometimes\"\nmean = \"0.1 A\"\nrecommended = \"3.5 V .. 5.5 V\"\nabsolute = \"6 V\"\n";
    let r = review(&format!("{guarded}{}", lamp(2.0)));
    assert!(found(&r, "usb-while-fed").is_none(), "{:?}", r.findings());
}

/// On USB alone the voltage is lowest in *low*: 4.75 V − 0.5 A·(0.25 Ω + 0.1 Ω) − 0.35 V. A source of the plan's own
/// and `usb = "always"` are the same port.
#[test]
fn a_board_on_usb_alone() {
    let board = "[board.keeper]\nmean = \"0.12 A\"\npeak = \"0.5 A\"\nbrown-out = \"4.2 V\"\nknee = \"3 V\"\nrecommended = \"4.6 V .. 5.5 V\"\n";
    let lamp = "[load.lamp]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.1 A\"\nvoltage = \"12 V\"\n";
    let wall = "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\ncurrent = \"1 A\"\n";
    let own = review(&format!("[supply.pc]\nkind = \"usb\"\n{board}from = {{ usb = \"pc\" }}\n"));
    let always = review(&format!("{wall}{lamp}{board}usb = \"always\"\n"));
    // A computer's lead is the longest there may be; that of a source of its own has 0.08 Ω .. 0.25 Ω.
    for (r, least_lead) in [(&own, 0.08), (&always, LEAD)] {
        near(volts(r, "keeper.5v", "worst", Corner::Low), 4.75 - 0.5 * (LEAD + 0.1) - 0.35);
        near(volts(r, "keeper.5v", "idle", Corner::High), 5.25 - 0.12 * (least_lead + 0.1) - 0.25);
        // 4.225 V are above the brown-out, and what lies below 4.6 V is by design.
        assert!(r.findings().is_empty(), "{:?}", r.findings());
    }
    // A little more current and it resets: 4.75 − 0.7·0.35 − 0.35 = 4.155 V.
    let more = review(&format!(
        "[supply.pc]\nkind = \"usb\"\nport = \"usb-3\"\n{}from = {{ usb = \"pc\" }}\n",
        board.replace("0.5 A", "0.7 A")
    ));
    let f = found(&more, "supply-voltage").unwrap();
    assert_eq!(f.severity, Severity::Fault);
    near(evidence(&f, "voltage"), 4.75 - 0.7 * 0.35 - 0.35);
}

/// Plugged in for good, and the rail's own supply off in a scenario: the port feeds the rail, and that is reported,
/// with what it cannot carry.
#[test]
fn a_computer_that_stays() {
    let body = |lamp: &str| {
        format!(
            "[supply.main]\nkind = \"bench\"\nvoltage = \"5.3 V ± 0 %\"\ncurrent = \"10 A\"\n\
             [board.keeper]\nfrom = \"main\"\nusb = \"always\"\nmean = \"0.1 A\"\nusb-diode = \"0.3 V ± 0 %\"\nknee = \"1 V\"\n\
             recommended = \"3.5 V .. 5.5 V\"\nabsolute = \"6 V\"\n\
             [load.lamp]\nfrom = \"main\"\ncable = \"0 m 12 AWG\"\ncurrent = \"{lamp}\"\nvoltage = \"5 V\"\nknee = \"1 V\"\nminimum = \"3 V\"\n\
             recommended = \"3 V .. 5.5 V\"\n[scenario.night]\noff = [\"main\"]\nset = {{ lamp = \"0.2 A\" }}\n"
        )
    };
    let r = review(&body("0.3 A"));
    let f = found(&r, "usb-while-fed").unwrap();
    assert_eq!((f.severity, f.scenario.as_ref().map(|s| s.name())), (Severity::Caution, Some("night")));
    near(evidence(&f, "lifted"), 5.25 - 0.3 - 0.3 * 0.35);
    assert!(names(&f, "main"), "{}", f.message);
    // 2 A of lamp while the rail is on is its own supply's affair: the diode blocks.
    assert_eq!(found(&review(&body("2 A")), "usb-while-fed").unwrap().severity, Severity::Caution);
}

/// 12 V through the regulator behind `vin`: it makes 5 V, carries what the main terminal gives, and its heat is the
/// rest.
#[test]
fn an_unregulated_input() {
    let body = |volts: &str| {
        format!(
            "[supply.wall]\nkind = \"bench\"\nvoltage = \"{volts} ± 0 %\"\ncurrent = \"3 A\"\n\
             [board.keeper]\nfrom = {{ vin = {{ node = \"wall\", cable = \"0 m 12 AWG\" }} }}\nmean = \"0.05 A\"\nknee = \"2 V\"\n\
             recommended = \"4.5 V .. 5.5 V\"\n\
             unregulated = {{ recommended = \"7 V .. 12 V\", absolute = \"20 V\", makes = \"5 V ± 0 %\", dropout = \"1.2 V\", theta-ja = \"80 K/W\" }}\n\
             [load.relay]\nfrom = \"keeper.5v\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.07 A\"\nvoltage = \"5 V\"\n"
        )
    };
    let r = review(&body("12 V"));
    near(volts(&r, "keeper.5v", "worst", Corner::Typical), 5.0);
    near(amps(&r, "keeper.vin", "worst", Corner::Typical), 0.12);
    // What the board takes in by its only way, and what that is made of.
    near(amps(&r, "keeper.5v", "worst", Corner::Typical), 0.12);
    let row = r.nodes(&at("worst", Corner::Typical)).into_iter().find(|x| x.row.name == "keeper.5v").unwrap().row;
    let mut parts: Vec<(String, f64)> =
        row.parts.iter().map(|(n, a)| (n.clone(), (a.get() * 1e6).round() / 1e6)).collect();
    parts.sort_by(|a, b| a.0.cmp(&b.0));
    assert_eq!(parts, [("keeper itself".to_owned(), 0.05), ("relay".to_owned(), 0.07)]);
    // 25 °C + 7 V · 0.12 A · 80 K/W = 92.2 °C of 125: quiet; 13.9 V are above 12 V and reach 110.4 °C: within 15 K.
    assert!(found(&r, "converter-heat").is_none() && found(&r, "unregulated-input").is_none(), "{:?}", r.findings());
    let warm = review(&body("13.9 V"));
    let f = found(&warm, "converter-heat").unwrap();
    assert_eq!((f.severity, f.subject.as_str()), (Severity::Caution, "keeper.vin"));
    near(evidence(&f, "junction"), 25.0 + 8.9 * 0.12 * 80.0);
    near(evidence(&f, "heat"), 8.9 * 0.12);
    assert_eq!(found(&warm, "unregulated-input").unwrap().severity, Severity::Caution);
    // 6 V less 1.2 V: the rail follows its input.
    near(volts(&review(&body("6 V")), "keeper.5v", "worst", Corner::Typical), 4.8);
    assert_eq!(found(&review(&body("20.5 V")), "unregulated-input").unwrap().severity, Severity::Danger);
}

/// The logic regulator carries the board's own mean as well, and what its output has left is less by that.
#[test]
fn what_a_boards_output_has_left() {
    let body = |amps: f64| {
        format!(
            "[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"3 A\"\n\
             [board.keeper]\nfrom = \"wall\"\nmean = \"0.1 A\"\nrecommended = \"4.5 V .. 5.5 V\"\n\
             regulator = {{ output = \"3v3\", voltage = \"3.3 V ± 0 %\", limit = \"0.3 A\", theta-ja = \"50 K/W\" }}\n\
             [load.sensor]\nfrom = \"keeper.3v3\"\ncable = \"0 m 12 AWG\"\ncurrent = \"{amps} A\"\nvoltage = \"3.3 V\"\n"
        )
    };
    let fits = review(&body(0.155));
    let row = fits.node("keeper.3v3").unwrap();
    near(row.limit.unwrap().get(), 0.2);
    near(row.demand.unwrap().get(), 0.155);
    assert!(found(&fits, "supply-overloaded").is_none());
    let over = review(&body(0.21));
    let f = found(&over, "supply-overloaded").unwrap();
    assert_eq!((f.severity, f.subject.as_str()), (Severity::Danger, "keeper.3v3"));
    // The feed carries both: the output adds one to one.
    near(over.node("keeper.5v").unwrap().demand.unwrap().get(), 0.31);
}

/// A board with an unregulated input selects between that and USB. Its main terminal lies behind: fed there it meets
/// USB.
#[test]
fn a_selector_before_the_main_terminal() {
    let board = "[board.keeper]\nusb = \"sometimes\"\ninputs = \"selects\"\nmean = \"0.1 A\"\nknee = \"1 V\"\nrecommended = \"3.5 V .. 5.5 V\"\nabsolute = \"6 V\"\n\
         unregulated = { recommended = \"7 V .. 12 V\", absolute = \"20 V\", makes = \"5 V ± 0 %\", dropout = \"1.2 V\" }\n";
    let wall =
        |volts: &str| format!("[supply.wall]\nkind = \"bench\"\nvoltage = \"{volts} ± 0 %\"\ncurrent = \"3 A\"\n");
    let vin = review(&format!("{}{board}from = {{ vin = \"wall\" }}\n", wall("9 V")));
    // With 9 V at the other input nothing comes out of the port or goes into it.
    assert!(found(&vin, "usb-while-fed").is_none(), "{:?}", vin.findings());
    near(amps(&vin, "wall", "programming", Corner::Typical), 0.1);
    near(volts(&vin, "keeper.5v", "programming-alone", Corner::Typical), 5.0 - 0.1 * LEAD);
    let main = review(&format!("{}{board}from = \"wall\"\n", wall("5.1 V")));
    let f = found(&main, "usb-while-fed").unwrap();
    assert_eq!(f.severity, Severity::Danger);
    near(evidence(&f, "back"), (5.1 - 4.75) / LEAD);
}
