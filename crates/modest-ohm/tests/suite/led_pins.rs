//! LEDs on pins: several on one, by Ohm's law at the pin; and one finding with one fix for a resistor that is too
//! small.

use modest_ohm::{Finding, Plan, Review, Severity};

/// 5 V without tolerance, a board whose pins have 40 Ω, LEDs that drop 2 V.
fn plan(board: &str, leds: &str) -> Review {
    let text = format!(
        "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"10 A\"\n\
         [board.keeper]\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nmean = \"50 mA\"\npin-resistance = \"40 Ω ± 0 %\"\n{board}\n{leds}"
    );
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

const LIMITS: &str = "pin-current = \"20 mA\"\npin-absolute = \"40 mA\"";

fn led(name: &str, keys: &str) -> String {
    format!("[led.{name}]\nvf = \"2 V ± 0 %\"\n{keys}\n")
}

fn out_ma(review: &Review, pin: &str) -> f64 {
    let boards = review.pins();
    let pin = boards[0].pins.iter().find(|p| p.name == pin).unwrap_or_else(|| panic!("{pin}"));
    pin.out.get().max(pin.into.get()) * 1e3
}

fn of<'r>(review: &'r Review, code: &str) -> Vec<&'r Finding> {
    review.findings().iter().filter(|f| f.code == code).collect()
}

/// Three alike on one pin: 3 V over a resistor and three times the pin's 40 Ω, each.
#[test]
fn several_on_one_pin() {
    for (count, ohms) in [(1, 330.0), (2, 470.0), (3, 680.0), (8, 1000.0)] {
        let keys = format!("from = \"keeper.io5\"\ncount = {count}\nresistor = \"{ohms} Ω ± 0 %\"");
        let review = plan(LIMITS, &led("row", &keys));
        let want = 1e3 * f64::from(count) * 3.0 / (ohms + 40.0 * f64::from(count));
        assert!((out_ma(&review, "io5") - want).abs() < 1e-3 * want, "{count}: {} {want}", out_ma(&review, "io5"));
    }
}

/// Two that are not alike, one mirrors the other: the pin's voltage v from (5 − v)/40 = (v − 2)/330 + (v − 3)/1000.
#[test]
fn two_that_differ_on_one_pin() {
    let leds = led("one", "from = \"keeper.io5\"\nresistor = \"330 Ω ± 0 %\"")
        + "[led.other]\nvf = \"3 V ± 0 %\"\nfrom = \"keeper.io5\"\nresistor = \"1 kΩ ± 0 %\"\nmirror = true\n";
    let review = plan(LIMITS, &leds);
    let v = (5.0 / 40.0 + 2.0 / 330.0 + 3.0 / 1000.0) / (1.0 / 40.0 + 1.0 / 330.0 + 1.0 / 1000.0);
    let want = 1e3 * (5.0 - v) / 40.0;
    assert!((out_ma(&review, "io5") - want).abs() < 1e-3 * want, "{} {want}", out_ma(&review, "io5"));
    // And into a pin: the same from below, (v − 0)/40 = (5 − 2 − v)/330 + (5 − 3 − v)/1000.
    let sunk = leds.replace("from = \"keeper.io5\"", "from = \"bench\"\ncable = \"0 m 12 AWG\"\nsink = \"keeper.io5\"");
    let review = plan(LIMITS, &sunk);
    let v = (3.0 / 330.0 + 2.0 / 1000.0) / (1.0 / 40.0 + 1.0 / 330.0 + 1.0 / 1000.0);
    let want = 1e3 * v / 40.0;
    assert!((out_ma(&review, "io5") - want).abs() < 1e-3 * want, "{} {want}", out_ma(&review, "io5"));
}

/// One resistor that is too small is one finding; its head is the worse of both, and what is proposed fixes both.
#[test]
fn one_cause_one_finding() {
    use Severity::{Caution, Danger};
    // LED's limits, resistor, which cables and how: 3 V/(R·0.95 + 40 Ω).
    let cases = [
        // 26.7 mA: more than the LED carries continuously and than is recommended of the pin.
        ("current = \"20 mA\"\nabsolute = \"30 mA\"", 76.0, Some(("led-overcurrent", Caution))),
        // 31.5 mA: more than the LED's absolute maximum, and the pin's recommended.
        ("current = \"20 mA\"\nabsolute = \"30 mA\"", 58.0, Some(("led-overcurrent", Danger))),
        // 42.9 mA: more than the pin's absolute maximum, where the LED carries 40 mA continuously and 50 mA at most.
        ("current = \"40 mA\"\nabsolute = \"50 mA\"", 31.0, Some(("pin-overloaded", Danger))),
        // 25 mA into an LED that carries it: the pin's matter alone.
        ("current = \"40 mA\"\nabsolute = \"50 mA\"", 84.0, None),
    ];
    for (limits, ohms, head) in cases {
        let keys = |ohms: &str| format!("from = \"keeper.io5\"\nresistor = \"{ohms}\"\n{limits}");
        let review = plan(LIMITS, &led("lamp", &keys(&format!("{ohms} Ω")))).with_fixes();
        let (on_led, on_pin) = (of(&review, "led-overcurrent"), of(&review, "pin-overloaded"));
        assert_eq!(on_led.len() + on_pin.len(), 1, "{ohms}: {:?}", review.findings());
        let found = on_led.into_iter().chain(on_pin).next().unwrap();
        match head {
            Some((code, severity)) => {
                assert_eq!((found.code, found.severity), (code, severity), "{ohms}: {found:?}");
                let other = if code == "led-overcurrent" {
                    ("pin-overloaded", "keeper.io5")
                } else {
                    ("led-overcurrent", "lamp")
                };
                assert!(found.also.iter().any(|c| (c.code, c.subject.as_str()) == other), "{found:?}");
            }
            None => assert_eq!((found.code, found.severity, found.also.len()), ("pin-overloaded", Caution, 0)),
        }
        // What is proposed, put in: 3 V/20 mA − 40 Ω = 110 Ω, 5 % more: 120 Ω of E24.
        assert_eq!(found.fixes[0].edits[0].value.as_deref(), Some("\"120 Ω\""), "{:?}", found.fixes);
        let cured = plan(LIMITS, &led("lamp", &keys("120 Ω")));
        assert!(of(&cured, "led-overcurrent").is_empty() && of(&cured, "pin-overloaded").is_empty());
        let step = plan(LIMITS, &led("lamp", &keys("110 Ω")));
        assert!(!of(&step, "pin-overloaded").is_empty() || !of(&step, "led-overcurrent").is_empty());
    }
    // On a pin with another job in addition to both stand for themselves.
    let both = led("lamp", "from = \"keeper.io5\"\nresistor = \"76 Ω\"\ncurrent = \"20 mA\"")
        + &led("twin", "from = \"keeper.io5\"\nresistor = \"10 kΩ\"\nmirror = true");
    let review = plan(LIMITS, &both);
    assert_eq!((of(&review, "led-overcurrent").len(), of(&review, "pin-overloaded").len()), (1, 1));
    // Several of a count share the pin: 3 V/(20 mA/4) − 4 · 40 Ω = 440 Ω, 5 % more: 470 Ω.
    let row =
        |ohms: &str| plan(LIMITS, &led("row", &format!("from = \"keeper.io5\"\ncount = 4\nresistor = \"{ohms}\"")));
    let found = row("220 Ω").with_fixes();
    assert_eq!(of(&found, "pin-overloaded")[0].fixes[0].edits[0].value.as_deref(), Some("\"470 Ω\""));
    assert!(of(&row("470 Ω"), "pin-overloaded").is_empty() && !of(&row("430 Ω"), "pin-overloaded").is_empty());
}

/// Ten volts at a converter's pin of 5 V are one mistake, and the divider that is proposed fixes it; what a wire cables
/// to that the plan does not show is not said to be off.
#[test]
fn one_input_one_finding() {
    let text = |more: &str| {
        format!(
            "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"10 A\"\n[board.keeper]\n\
             part = \"board-5v-8bit\"\nfrom = \"bench\"\ncable = \"0.2 m 20 AWG\"\n[input.wind]\npin = \"keeper.a2\"\nkind = \"voltage\"\n\
             high = \"0 V .. 10 V\"\nreads = \"analogue\"\n{more}"
        )
    };
    let review = |more: &str| Plan::from_toml(&text(more)).unwrap().review();
    let found = review("").with_fixes();
    let wind: Vec<&Finding> = found.findings().iter().filter(|f| f.subject == "wind").collect();
    assert_eq!(wind.len(), 1, "{wind:?}");
    assert_eq!(wind[0].code, "pin-overvoltage");
    assert!(wind[0].message.contains("nothing limits the current through its protection"), "{}", wind[0].message);
    assert!(wind[0].also.iter().any(|c| c.code == "divider-range"));
    let fixed = modest_ohm::edit::apply(&text(""), &wind[0].fixes[0].edits).unwrap();
    let after =
        Plan::from_toml(&format!("{fixed}\n[signal.horn]\npin = \"keeper.d4\"\nvih = \"2 V\"\nvil = \"0.8 V\"\n"))
            .unwrap()
            .review();
    assert!(after.findings().iter().all(|f| f.severity <= Severity::Advisory), "{:?}", after.findings());
    assert!(of(&after, "powered-through-signal").is_empty());
}

/// The other number of a pin stands beside it wherever its board has both.
#[test]
fn pins_by_both_numbers() {
    let text = |pin: &str| {
        format!(
            "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"10 A\"\n[board.keeper]\n\
             part = \"wifi-board-3v3\"\nfrom = \"bench\"\n{}",
            led("lamp", &format!("from = \"keeper.{pin}\"\nresistor = \"33 Ω\""))
        )
    };
    let found = |pin: &str| {
        let review = Plan::from_toml(&text(pin)).unwrap().review();
        review.findings().iter().find(|f| f.message.contains("keeper.")).cloned().unwrap_or_else(|| panic!("{pin}"))
    };
    // `io34` reads only.
    let by_chip = found("io34");
    assert_eq!(by_chip.code, "pin-cannot");
    let place = by_chip.message.split("`keeper.io34` (").nth(1).unwrap().split(')').next().unwrap().to_owned();
    assert!(place.starts_with('p'), "{}", by_chip.message);
    // By its position it is the same, word by word.
    assert_eq!(found(&place).message, by_chip.message);
    assert_eq!(by_chip.message, format!("`lamp` is fed by `keeper.io34` ({place}), which is an input only"));
}
