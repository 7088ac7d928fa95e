//! Heat in boxes and parts, capacitors that charge and hold: every figure by hand.

use modest_ohm::{Finding, Plan, Review, Severity};

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
         theta = \"20 K/W\"\n\
         [converter.six]\nkind = \"buck\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\noutput = \"6 V ± 0 %\"\ncurrent = \"3 A\"\nefficiency = \"80 %\"\nquiescent = \"0 W\"\n\
         [load.sensor]\nfrom = \"five\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.2 A\"\nvoltage = \"5 V\"\n\
         [load.motor]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"0.5 A\"\nvoltage = \"12 V\"\n\
         [load.lamp]\nfrom = \"six\"\ncable = \"0 m 12 AWG\"\npower = \"10 W\"\nvoltage = \"6 V\"\n\
         [box.cabinet]\nholds = [{holds}]\narea = \"0.05 m²\"\n{more}"
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
    assert!(margin(&alone, "box-heat", "cabinet").starts_with(&format!("{:.1} °C", 30.0 + kelvin(linear))));
    assert!(on(&alone, "converter-heat", "five").is_none());
    // Both converters and the motor: 30 °C + 9.96 W/0.35 W/K = 58.5 °C, below 60.
    let three = boxed("\"five\", \"six\", \"motor\"", "");
    let inside = 30.0 + kelvin(linear + buck + motor);
    assert!(inside < 60.0 && margin(&three, "box-heat", "cabinet").starts_with(&format!("{inside:.1} °C")));
    // With parts that stand 55 °C it is too warm, and the finding says by how much and which box would do.
    let warm = boxed("\"five\", \"six\", \"motor\"", "stands = \"55 °C\"\n");
    let f = on(&warm, "box-heat", "cabinet").unwrap();
    assert_eq!(f.severity, Severity::Caution);
    near(evidence(&f, "inside"), inside, "inside");
    near(evidence(&f, "heat"), linear + buck + motor, "heat");
    // 9.96 W over 25 K and 7 W/m²K: 0.0569 m².
    near(evidence(&f, "enough_area"), (linear + buck + motor) / (25.0 * 7.0), "area");
    // What is not in the box does not warm it: the lamp's watts go elsewhere.
    assert!(
        margin(&boxed("\"lamp\"", ""), "box-heat", "cabinet").starts_with(&format!("{:.1} °C", 30.0 + kelvin(10.0)))
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
         [box.cabinet]\nholds = [\"motor\"]\nsize = [\"200 mm\", \"10 cm\", \"50 mm\"]\n"
    ));
    let want = 25.0 + 6.0 / (7.0 * 0.07);
    assert!(
        margin(&r, "box-heat", "cabinet").starts_with(&format!("{want:.1} °C")),
        "{}",
        margin(&r, "box-heat", "cabinet")
    );
}

/// 1 m of 24 AWG each way, a fuse and a contact before the capacitor.
fn switched(making: f64, capacitor: &str) -> Review {
    review(&format!(
        "{WALL}[switch.main]\nfrom = \"wall\"\ncable = {{ feed = \"0.1 Ω\", return = \"0.1 Ω\", ampacity = \"9 A\" }}\n\
         fuse = {{ rating = \"5 A\", resistance = \"20 mΩ\" }}\nresistance = \"30 mΩ\"\ncurrent = \"5 A\"\nmaking-current = \"{making} A\"\n\
         [capacitor.tank]\n{capacitor}\n\
         [load.lamp]\nfrom = \"main\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"12 V\"\n"
    ))
}

/// 12 V/(0.1 + 0.1 + 0.02 + 0.03 + 0.05) Ω = 40 A through the contact as it closes.
#[test]
fn a_contact_closes_on_an_empty_capacitor() {
    let tank = "across = \"main\"\ncapacitance = \"1 mF\"\nesr = \"50 mΩ\"";
    let f = on(&switched(39.0, tank), "inrush", "tank").unwrap();
    assert_eq!(f.severity, Severity::Caution);
    near(evidence(&f, "peak"), 40.0, "peak");
    near(evidence(&f, "resistance"), 0.3, "loop");
    // 12 V/39 A − 0.3 Ω = 7.69 mΩ more.
    near(evidence(&f, "enough_series"), 12.0 / 39.0 - 0.3, "series");
    assert!(on(&switched(41.0, tank), "inrush", "tank").is_none());
    // On the source's side of the contact nothing closes on it.
    assert!(
        on(&switched(1.0, "across = \"wall\"\ncapacitance = \"1 mF\"\nesr = \"50 mΩ\""), "inrush", "tank").is_none()
    );
    // The smallest series resistance of its spread counts.
    let spread = "across = \"main\"\ncapacitance = \"1 mF\"\nesr = \"10 mΩ .. 90 mΩ\"";
    near(evidence(&on(&switched(39.0, spread), "inrush", "tank").unwrap(), "peak"), 12.0 / 0.26, "peak");
}

/// An adapter of 2 A limits at 2.2 A; 1.2 A of it are the load's: C·12.6 V/1 A against 20 ms is 1.587 mF.
#[test]
fn a_supply_that_hiccups_has_to_be_through_in_time() {
    let body = |capacitance: &str, more: &str| {
        review(&format!(
            "[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"2 A\"\n{more}\
             [capacitor.tank]\nacross = \"wall\"\ncapacitance = \"{capacitance}\"\n\
             [load.lamp]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1.2 A\"\nvoltage = \"12 V\"\n"
        ))
    };
    let f = on(&body("1.62 mF", ""), "inrush", "wall").unwrap();
    near(evidence(&f, "time"), 1.62e-3 * 12.6 / 1.0, "time");
    near(evidence(&f, "enough_capacitance"), 20e-3 * 1.0 / 12.6, "capacitance");
    assert!(on(&body("1.55 mF", ""), "inrush", "wall").is_none());
    // One that holds its limit for ever takes its time.
    assert!(on(&body("100 mF", "limit = \"110 %, constant-current\"\n"), "inrush", "wall").is_none());
    // The load takes all: it never ends.
    let f = on(&body("10 µF", "limit = \"1.1 A\"\n"), "inrush", "wall").unwrap();
    assert!(f.evidence.iter().all(|e| e.name != "time"), "{f:?}");
}

/// A winch of 3 A beside a board on an adapter: 500 µs until it follows, 5.2 V less 3.8 V to lose.
#[test]
fn a_capacitor_that_holds_a_board() {
    let body = |fitted: &str| {
        review(&format!(
            "[supply.wall]\nkind = \"adapter\"\nvoltage = \"5.2 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"6 A\"\n\
             [controller.keeper]\nfrom = {{ 5v = {{ node = \"wall\", cable = \"0 m 12 AWG\" }} }}\nmean = \"50 mA\"\nbrown-out = \"3.8 V\"\nrecommended = \"4.5 V .. 5.5 V\"\n\
             [load.winch]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\ncurrent = \"3 A\"\nvoltage = \"5 V\"\n{fitted}"
        ))
    };
    let f = on(&body(""), "bulk-capacitor", "wall").unwrap();
    assert_eq!(f.severity, Severity::Advice);
    near(evidence(&f, "step"), 3.0, "step");
    near(evidence(&f, "margin"), 1.4, "margin");
    // 3 A · 500 µs/(1.4 V − 3 A · 50 mΩ) = 1.2 mF.
    near(evidence(&f, "needed"), 3.0 * 500e-6 / (1.4 - 0.15), "needed");
    near(evidence(&f, "enough_capacitance"), 1.5e-3, "the next usual size");
    let tank =
        |farads: &str| format!("[capacitor.tank]\nacross = \"wall\"\ncapacitance = \"{farads}\"\nesr = \"50 mΩ\"\n");
    assert!(on(&body(&tank("1.21 mF")), "bulk-capacitor", "wall").is_none());
    assert!(on(&body(&tank("1.19 mF")), "bulk-capacitor", "wall").is_some());
    // Its tolerance counts: 20 % less than 1.5 mF are the 1.2 mF that it takes.
    assert!(on(&body(&tank("1.49 mF ± 20 %")), "bulk-capacitor", "wall").is_some());
    assert!(on(&body(&tank("1.51 mF ± 20 %")), "bulk-capacitor", "wall").is_none());
}
