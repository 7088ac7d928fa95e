//! What a data line does between parts that are on and off, and what a switch in a − does to it; by hand.

use crate::common::{evidence, names};
use modest_ohm::{Finding, Plan, Review, Severity};

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn found(r: &Review, code: &str) -> Option<Finding> {
    r.findings().iter().find(|f| f.code == code).cloned()
}

fn through(f: &Finding) -> f64 {
    f.evidence.iter().find(|e| e.name == "through").map_or(f64::NAN, |e| e.value)
}

/// 5 V for a board of 3.3 V logic; a strip on `from`, its data over a resistor.
fn line(series: &str, from: &str, more: &str) -> String {
    format!(
        "[supply.logic]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"10 A\"\n\
         [board.keeper]\nfrom = \"logic\"\nmean = \"50 mA\"\nrecommended = \"4.5 V .. 5.5 V\"\n\
         regulator = {{ output = \"3v3\", voltage = \"3.3 V ± 0 %\" }}\n\
         [strip.arch]\npart = \"pixel-5v-rgb-12ma\"\nfrom = \"{from}\"\ncable = \"0 m 12 AWG\"\nlength = \"0.1 m\"\npixels = \"30 /m\"\n\
         vih = \"2.5 V\"\nvil = \"0.8 V\"\ndata = {{ pin = \"keeper.io2\", series = \"{series}\" }}\n{more}"
    )
}

const SWITCH: &str = "[switch.main]\nfrom = \"logic\"\ncable = \"0 m 12 AWG\"\ncurrent = \"3 A\"\n";

/// What a strip of three pixels takes at its dead rail, 3 · 1 mA/1.5 V = 2 mS, through 33 Ω and a resistor.
fn into_dead(ohms: f64) -> f64 {
    2.7 * 0.002 / (1.0 + 0.002 * (33.0 + ohms))
}

/// 2.7 V · 2 mS/(1 + (33 Ω + R) · 2 mS): 5 mA at 7 Ω, 1 mA at 2167 Ω.
#[test]
fn what_flows_into_a_strip_that_is_off() {
    for (ohms, severity) in [
        (1.0, Some(Severity::Fault)),
        (6.0, Some(Severity::Fault)),
        (8.0, Some(Severity::Caution)),
        (2150.0, Some(Severity::Caution)),
        (2180.0, None),
    ] {
        let f = found(&review(&line(&format!("{ohms} Ω"), "main", SWITCH)), "powered-through-signal");
        assert_eq!(f.as_ref().map(|f| f.severity), severity, "{ohms} Ω");
        if let Some(f) = f {
            assert!((through(&f) - into_dead(ohms)).abs() < 1e-9, "{}", through(&f));
            assert!(f.message.starts_with("with switch `main` open"), "{}", f.message);
        }
    }
    // On one rail with the board it is never off alone.
    assert!(found(&review(&line("100 Ω", "logic", "")), "powered-through-signal").is_none());
    // A switch before both takes both.
    let both =
        line("100 Ω", "main", SWITCH).replace("[board.keeper]\nfrom = \"logic\"", "[board.keeper]\nfrom = \"main\"");
    assert!(found(&review(&both), "powered-through-signal").is_none());
}

/// Two supplies: one may be off while the other is on, which is a caution at most; a scenario that says so is a fault.
#[test]
fn what_the_plan_speaks_of_weighs_more() {
    let two = "[supply.lights]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"10 A\"\n[ground.tie]\nbetween = [\"logic\", \"lights\"]\nresistance = \"1 mΩ\"\n";
    let f = found(&review(&line("1 Ω", "lights", two)), "powered-through-signal").unwrap();
    assert_eq!(f.severity, Severity::Caution);
    assert!(f.message.starts_with("while `lights` is off"), "{}", f.message);
    let said = format!("{two}[scenario.day]\noff = [\"lights\"]\n");
    let f = found(&review(&line("1 Ω", "lights", &said)), "powered-through-signal").unwrap();
    assert_eq!(f.severity, Severity::Fault);
    assert!(f.message.starts_with("in scenario `day`"), "{}", f.message);
}

/// A buffer between: one that turns off takes nothing, another takes it for the strip.
#[test]
fn a_buffer_that_lets_go() {
    let through_buffer = |partial_power_down: bool| {
        let buffer = format!(
            "{SWITCH}[shifter.lift]\npart = \"hct-buffer\"\nfrom = \"main\"\ncable = \"0 m 12 AWG\"\npartial-power-down = {partial_power_down}\ncurrent = \"20 mA ± 0 %\"\n"
        );
        review(&line("100 Ω", "main", &buffer).replace("series =", "through = \"lift\", series ="))
    };
    assert!(found(&through_buffer(true), "powered-through-signal").is_none());
    // The resistor stands behind the buffer, which takes 20 mA/4.5 V at its dead rail: 2.7 V · G/(1 + 33 Ω · G).
    let f = found(&through_buffer(false), "powered-through-signal").unwrap();
    assert!((through(&f) - 2.7 * (0.020 / 4.5) / (1.0 + 33.0 * 0.020 / 4.5)).abs() < 1e-9, "{}", through(&f));
}

/// A − that is switched goes through the data line; a + or both does not; nor does one before both ends of the line.
#[test]
fn the_minus_of_a_part_with_a_signal() {
    let switched = |breaks: &str| SWITCH.replace("current", &format!("breaks = \"{breaks}\"\ncurrent"));
    for (breaks, fires) in [("minus", true), ("plus", false), ("both", false)] {
        let f = found(&review(&line("3 kΩ", "main", &switched(breaks))), "low-side-with-signal");
        assert_eq!(f.is_some(), fires, "{breaks}");
        if let Some(f) = f {
            assert_eq!((f.severity, f.subject.as_str()), (Severity::Fault, "main"));
            assert!(names(&f, "arch"), "{}", f.message);
        }
    }
    let before_both = line("3 kΩ", "main", &switched("minus"))
        .replace("[board.keeper]\nfrom = \"logic\"", "[board.keeper]\nfrom = \"main\"");
    assert!(found(&review(&before_both), "low-side-with-signal").is_none());
    // The board in the − is the same mistake, seen from the other end.
    let board = line("3 kΩ", "logic", &switched("minus"))
        .replace("[board.keeper]\nfrom = \"logic\"", "[board.keeper]\nfrom = \"main\"");
    let f = found(&review(&board), "low-side-with-signal").unwrap();
    assert!(names(&f, "keeper"), "{}", f.message);
    // A part without a signal may be switched wherever it likes.
    let lamp = format!(
        "{}[load.lamp]\nfrom = \"main\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"5 V\"\n",
        switched("minus")
    );
    assert!(found(&review(&line("3 kΩ", "logic", &lamp)), "low-side-with-signal").is_none());
}

/// A switch that leaves a way in is reported by what still has voltage behind it.
#[test]
fn a_switch_and_the_way_round_it() {
    let lamp = "[load.lamp]\nfrom = \"main\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"5 V\"\n";
    let body = |more: &str| {
        review(&format!(
            "[supply.logic]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"10 A\"\n{SWITCH}{lamp}{more}"
        ))
    };
    assert!(found(&body(""), "switch-bypassed").is_none());
    let jumper = "[link.jumper]\nbetween = [\"logic\", \"main\"]\n";
    let f = found(&body(jumper), "switch-bypassed").unwrap();
    assert_eq!((f.severity, f.subject.as_str()), (Severity::Fault, "main"));
    assert!(names(&f, "lamp") && (evidence(&f, "open") - 4.99).abs() < 0.005, "{f:?}");
    assert!(found(&body(&format!("{jumper}closed = false\n")), "switch-bypassed").is_none());
    // A board with a second feed, or on a computer's USB, is meant to go on.
    let board = |more: &str| format!("[board.keeper]\nmean = \"50 mA\"\nrecommended = \"3.5 V .. 5.5 V\"\n{more}");
    let second = board("from = { 5v = \"main\", usb = \"pc\" }\ninputs = \"selects\"\n");
    assert!(found(&body(&format!("[supply.pc]\nkind = \"usb\"\n{second}")), "switch-bypassed").is_none());
    // The lamp beside it, which the board's USB feeds backwards, is not.
    let always = board("from = \"main\"\nusb = \"always\"\ninputs = \"joined\"\n");
    let f = found(&body(&always), "switch-bypassed").unwrap();
    assert!(names(&f, "lamp") && !names(&f, "keeper"), "{}", f.message);
}
