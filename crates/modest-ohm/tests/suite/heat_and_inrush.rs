//! Heat in boxes and parts, capacitors that charge and hold: every figure by hand.

use modest_ohm::units::{Farads, Henries, Ohms, Volts};
use modest_ohm::{Finding, Plan, Review, Severity, size};

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn on(r: &Review, code: &str, subject: &str) -> Option<Finding> {
    r.findings().iter().find(|f| f.code == code && f.subject == subject).cloned()
}

fn evidence(f: &Finding, name: &str) -> f64 {
    f.evidence.iter().find(|e| e.name == name).map_or(f64::NAN, |e| e.value)
}

fn margin(r: &Review, code: &str, subject: &str) -> String {
    let passed = r.passed().iter().find(|p| p.code == code && p.subject == subject);
    passed.unwrap_or_else(|| panic!("{code} did not pass on {subject}: {:?}", r.findings())).margin.clone()
}

fn near(got: f64, want: f64, what: &str) {
    assert!((got - want).abs() <= 1e-5 * want.abs(), "{what}: {got} against {want}");
}

const WALL: &str = "[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"10 A\"\nlimit = \"20 A\"\n";

/// A linear regulator from 12 V to 5 V, a motor of 6 W and a converter of 80 % and 10 W share a box.
fn boxed(holds: &str, more: &str) -> Review {
    review(&format!(
        "ambient = \"20 °C .. 30 °C\"\n{WALL}\
         [converter.five]\nkind = \"linear\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"5 V ± 0 %\"\ncurrent = \"1 A\"\nown-current = \"5 mA\"\n\
         theta-ja = \"20 K/W\"\n\
         [converter.six]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"6 V ± 0 %\"\ncurrent = \"3 A\"\nefficiency = \"80 %\"\nquiescent = \"0 W\"\n\
         [load.sensor]\nfrom = \"five\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.2 A\"\nvoltage = \"5 V\"\n\
         [load.motor]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.5 A\"\nvoltage = \"12 V\"\n\
         [load.lamp]\nfrom = \"six\"\ncable = \"0 m 12 AWG\"\npower = \"10 W\"\nvoltage = \"6 V\"\n\
         [enclosure.cabinet]\ncontains = [{holds}]\narea = \"0.05 m²\"\n{more}"
    ))
}

/// 7 V · 0.2 A + 12 V · 5 mA = 1.46 W; a box of 0.05 m² sheds 0.35 W/K.
#[test]
fn a_box_warms_by_what_is_in_it() {
    let linear = 7.0 * 0.2 + 12.0 * 0.005;
    let buck = 10.0 / 0.8 - 10.0;
    let motor = 6.0;
    let kelvin = |watts: f64| watts / (7.0 * 0.05);
    let alone = boxed("\"five\"", "");
    assert!(margin(&alone, "enclosure-heat", "cabinet").starts_with(&format!("{:.0} °C", 30.0 + kelvin(linear))));
    assert!(on(&alone, "converter-heat", "five").is_none());
    // Both converters and the motor: 30 °C + 9.96 W/0.35 W/K = 58.5 °C, below 60.
    let three = boxed("\"five\", \"six\", \"motor\"", "");
    let inside = 30.0 + kelvin(linear + buck + motor);
    assert!(inside < 60.0 && margin(&three, "enclosure-heat", "cabinet").starts_with(&format!("{inside:.0} °C")));
    // With parts that stand 55 °C it is too warm, and the finding says by how much and which box would do.
    let warm = boxed("\"five\", \"six\", \"motor\"", "max-air-temperature = \"55 °C\"\n");
    let f = on(&warm, "enclosure-heat", "cabinet").unwrap();
    assert_eq!(f.severity, Severity::Caution);
    near(evidence(&f, "inside"), inside, "inside");
    near(evidence(&f, "heat"), linear + buck + motor, "heat");
    // 9.96 W over 25 K and 7 W/m²K: 0.0569 m².
    near(evidence(&f, "enough_area"), (linear + buck + motor) / (25.0 * 7.0), "area");
    // What is not in the box does not warm it: the lamp's power goes elsewhere.
    assert!(
        margin(&boxed("\"lamp\"", ""), "enclosure-heat", "cabinet")
            .starts_with(&format!("{:.0} °C", 30.0 + kelvin(10.0)))
    );
}

/// The junction stands in the air of its box: 30 °C + 28.5 K + 1.46 W · 40 K/W.
#[test]
fn a_junction_in_a_box_is_warmer_than_one_outside() {
    let linear = 7.0 * 0.2 + 12.0 * 0.005;
    let hot =
        |holds: &str, theta: f64| boxed(holds, "").plan().source().text().replace("20 K/W", &format!("{theta} K/W"));
    let junction = |text: &str| {
        let r = Plan::from_toml(text).unwrap().review();
        on(&r, "converter-heat", "five").map(|f| (f.severity, evidence(&f, "junction")))
    };
    // Outside the limit of 125 °C less 15 K is reached at 54.8 K/W, inside at 35.3 K/W.
    let rise = (linear + 2.5 + 6.0) / 0.35;
    for (theta, inside, outside) in [
        (34.0, None, None),
        (40.0, Some(Severity::Caution), None),
        (50.0, Some(Severity::Danger), None),
        (60.0, Some(Severity::Danger), Some(Severity::Caution)),
    ] {
        let within = junction(&hot("\"five\", \"six\", \"motor\"", theta));
        let without = junction(&hot("\"six\", \"motor\"", theta));
        assert_eq!((within.map(|j| j.0), without.map(|j| j.0)), (inside, outside), "{theta} K/W");
        if let Some((_, got)) = within {
            near(got, 30.0 + rise + linear * theta, "junction in the box");
        }
        if let Some((_, got)) = without {
            near(got, 30.0 + linear * theta, "junction outside");
        }
    }
}

/// The sides of a box: 2·(0.2·0.1 + 0.1·0.05 + 0.05·0.2) m² = 0.07 m².
#[test]
fn a_box_by_its_sides() {
    let r = review(&format!(
        "{WALL}[load.motor]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.5 A\"\nvoltage = \"12 V\"\n\
         [enclosure.cabinet]\ncontains = [\"motor\"]\nsize = [\"200 mm\", \"10 cm\", \"50 mm\"]\n"
    ));
    let want = 25.0 + 6.0 / (7.0 * 0.07);
    assert!(
        margin(&r, "enclosure-heat", "cabinet").starts_with(&format!("{want:.0} °C")),
        "{}",
        margin(&r, "enclosure-heat", "cabinet")
    );
}

/// A fuse and a contact before the capacitor, at a battery that gives continuously.
fn switched(making: f64, capacitor: &str) -> Review {
    review(&format!(
        "[supply.pack]\nkind = \"battery\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"9 A\"\nkeyed = true\n\
         [switch.main]\nfrom = \"pack\"\ncable = {{ feed = \"0.1 Ω\", return = \"0.1 Ω\", ampacity = \"9 A\" }}\n\
         fuse = {{ rating = \"5 A\", resistance = \"20 mΩ\" }}\nresistance = \"30 mΩ\"\ncurrent = \"5 A\"\nmaking-current = \"{making} A\"\n\
         [capacitor.tank]\n{capacitor}\n\
         [load.lamp]\nfrom = \"main\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"12 V\"\n"
    ))
}

/// (12 V)²·10 mF/(2 · (0.1 + 0.1 + 0.02 + 0.03 + 0.05) Ω) = 2.4 A²s, against 10 ms at the making current: 15.49 A.
#[test]
fn a_contact_closes_on_an_empty_capacitor() {
    let tank = "across = \"main\"\ncapacitance = \"10 mF ± 0 %\"\nesr = \"50 mΩ\"";
    let f = on(&switched(15.0, tank), "inrush", "main").unwrap();
    assert_eq!(f.severity, Severity::Caution);
    near(evidence(&f, "resistance"), 0.3, "loop");
    near(evidence(&f, "peak"), 40.0, "12 V over 0.3 Ω");
    near(evidence(&f, "welding"), 2.4 / (0.010 * 225.0), "share of what welds it");
    assert!(on(&switched(16.0, tank), "inrush", "main").is_none());
    // On the source's side of the contact nothing closes on it.
    let before = tank.replace("main", "pack");
    assert!(on(&switched(1.0, &before), "inrush", "main").is_none());
    // The smallest series resistance of its spread counts.
    let spread = tank.replace("50 mΩ", "10 mΩ .. 90 mΩ");
    let f = on(&switched(15.0, &spread), "inrush", "main").unwrap();
    near(evidence(&f, "welding"), 144.0 * 0.010 / (2.0 * 0.26) / 2.25, "with 10 mΩ");
}

/// Heat and peak of a closing loop by steps of time: R, L and C in series, from an empty capacitor.
#[test]
fn a_closing_loop_by_steps_of_time() {
    let loops: [(f64, f64, f64, f64); 4] = [
        (12.0, 1e-3, 0.1, 1e-6),
        (24.0, 44e-6, 0.066, 1.4e-6),
        (5.0, 100e-9, 0.04, 0.26e-6),
        (12.0, 22e-3, 0.15, 2e-6),
    ];
    for (volts, farads, ohms, henries) in loops {
        let (mut amps, mut held, mut peak, mut heat, mut swing) = (0.0f64, 0.0f64, 0.0f64, 0.0f64, 0.0f64);
        // A thousandth of the faster of the two times, until 12 of the slower have gone by.
        let step = (henries / ohms).min((henries * farads).sqrt()) / 1000.0;
        let all = 12.0 * (ohms * farads).max(2.0 * henries / ohms);
        for _ in 0..(all / step) as usize {
            // Symplectic: the new current charges.
            amps += step * (volts - held - ohms * amps) / henries;
            held += step * amps / farads;
            peak = peak.max(amps);
            heat += step * amps * amps;
            swing = swing.max(held);
        }
        let closing = size::Closing {
            volts: Volts::new(volts),
            capacitance: Farads::new(farads),
            ohms: Ohms::new(ohms),
            inductance: Henries::new(henries),
        };
        let close = |got: f64, want: f64, what: &str| {
            assert!((got / want - 1.0).abs() < 0.01, "{what} of {closing:?}: {got}, by steps {want}");
        };
        close(closing.i2t(), heat, "I²t");
        close(closing.swings_to().get(), swing.max(volts), "swing");
        // Where the loop does not ring the cable's inductance still takes a little from V/R.
        assert!(closing.peak().get() > 0.99 * peak, "{closing:?}: {} and {peak}", closing.peak());
        if closing.swings_to().get() > volts * 1.05 {
            close(closing.peak().get(), peak, "peak");
        }
    }
}

/// An adapter of 2 A limits at 2.2 A; 1.2 A of it are the load's: 0.8·C·12.6 V/1 A against 27 ms is 2.679 mF.
#[test]
fn a_supply_that_hiccups_has_to_be_through_in_time() {
    let body = |capacitance: &str, more: &str| {
        review(&format!(
            "[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"2 A\"\n{more}\
             [capacitor.tank]\nacross = \"wall\"\ncapacitance = \"{capacitance}\"\n\
             [load.lamp]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1.2 A\"\nvoltage = \"12 V\"\n"
        ))
    };
    let f = on(&body("2.73 mF", ""), "inrush", "wall").unwrap();
    near(evidence(&f, "time"), 0.8 * 2.73e-3 * 12.6 / 1.0, "time");
    near(evidence(&f, "enough_capacitance"), 27e-3 * 1.0 / (0.8 * 12.6), "capacitance");
    assert!(on(&body("2.62 mF", ""), "inrush", "wall").is_none());
    // One that holds its limit continuously takes its time.
    assert!(on(&body("100 mF", "limit = \"110 %, constant-current\"\n"), "inrush", "wall").is_none());
    // The load takes all: it never ends.
    let f = on(&body("10 µF", "limit = \"1.1 A\"\n"), "inrush", "wall").unwrap();
    assert!(f.evidence.iter().all(|e| e.name != "time"), "{f:?}");
}

/// A winch of 3 A beside a board on an adapter for 6 A: it dips by 0.1 · 5.2 V · 3/6 = 0.26 V.
#[test]
fn a_step_beside_a_board() {
    let body = |reset: f64, feed: &str, fitted: &str| {
        review(&format!(
            "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5.2 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"6 A\"\n{feed}\
             [board.keeper]\nfrom = {{ 5v = {{ node = \"FROM\", cable = \"0 m 12 AWG\" }} }}\nmean = \"0 A\"\nbrown-out = \"{reset} V\"\nrecommended = \"4.5 V .. 5.5 V\"\n\
             [load.winch]\nfrom = \"FROM\"\ncable = \"0 m 12 AWG\"\ncurrent = \"3 A\"\nvoltage = \"5 V\"\n{fitted}"
        ).replace("FROM", if feed.is_empty() { "wall" } else { "run" }))
    };
    let f = on(&body(4.95, "", ""), "bulk-capacitor", "wall").unwrap();
    assert_eq!(f.severity, Severity::Advisory);
    near(evidence(&f, "step"), 3.0, "step");
    near(evidence(&f, "dip"), 0.26, "dip");
    near(evidence(&f, "margin"), 0.25, "margin");
    assert!(on(&body(4.93, "", ""), "bulk-capacitor", "wall").is_none());
    // A cable of 2 m that both share has 1.45 µH and 3.3 mΩ: beside the 33 µF and 0.1 Ω of the board √(L/C) = 0.21 Ω
    // and ζ = 0.246, 3 A · 0.21 Ω · e^(−0.246 · 1.322/0.969) = 0.449 V, of 0.44 V; with 100 µF more far less.
    let lead = "[branch.run]\nfrom = \"wall\"\ncable = \"2 m 4 AWG\"\nfuse = { rating = \"10 A\", resistance = \"0.01 mΩ\" }\n";
    let f = on(&body(4.75, lead, ""), "bulk-capacitor", "wall").unwrap();
    let (wave, ohms) = ((1.45f64 / 33.0).sqrt(), 0.1033);
    let zeta = ohms / (2.0 * wave);
    let dip = 3.0 * wave * (-zeta * zeta.acos() / (1.0 - zeta * zeta).sqrt()).exp();
    assert!((evidence(&f, "dip") / dip - 1.0).abs() < 0.005, "{f:?} against {dip}");
    let tank = "[capacitor.tank]\nacross = \"run\"\ncapacitance = \"100 µF\"\nesr = \"50 mΩ\"\n";
    assert!(on(&body(4.75, lead, tank), "bulk-capacitor", "wall").is_none());
}
