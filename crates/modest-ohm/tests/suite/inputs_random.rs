//! LEDs and inputs on random plans, each verdict computed anew by the plain formula of its case: what lies beyond the
//! limit is found with its number, what lies inside is not.

use crate::common::{Dice, evidence, found, near, review, verdict};

const BENCH: &str =
    "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"20 A\"\n";

/// LEDs at a rail: I = (V − Vdiode − n·Vf)/R at its worst and its nominal, against what they withstand; P = I²·R.
#[test]
fn leds_at_a_rail() {
    let mut dice = Dice(11);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..150 {
        let volts = dice.pick(&[5.0, 12.0, 24.0]);
        let spread = dice.pick(&[0.0, 0.02, 0.05]);
        let n = if volts > 6.0 { dice.pick(&[1, 2, 3]) } else { dice.pick(&[1, 2]) };
        let (vf, vf_spread) = (dice.between(1.7, 2.3), dice.pick(&[0.0, 0.05, 0.1]));
        let diode = if dice.chance(0.3) { 0.7 } else { 0.0 };
        let (ohms, t) = (dice.log(60.0, 3e3), dice.pick(&[0.0, 0.01, 0.05]));
        let (current, absolute) = (0.02, 0.03);
        let rated = dice.pick(&[0.125, 0.25, 0.5]);
        let text = format!(
            "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"{volts} V ± {} %\"\nresistance = \"0 Ω\"\ncurrent = \"20 A\"\n\
             [led.mark]\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nvf = \"{vf:.3} V ± {} %\"\nin-series = {n}\ndiode = \"{diode} V\"\n\
             resistor = \"{ohms} Ω ± {} %\"\nresistor-rating = \"{rated} W\"\ncurrent = \"{current} A\"\nabsolute = \"{absolute} A\"\n",
            spread * 100.0,
            vf_spread * 100.0,
            t * 100.0
        );
        let vf: f64 = format!("{vf:.3}").parse().unwrap();
        let drops = |factor: f64| f64::from(n) * vf * factor + diode;
        let worst = ((volts * (1.0 + spread) - drops(1.0 - vf_spread)) / (ohms * (1.0 - t))).max(0.0);
        let heat = worst * worst * ohms * (1.0 - t);
        let left = (volts - drops(1.0)) / volts;
        // Nominal beyond what is recommended, or a quarter beyond at worst; half a per cent is never an issue.
        let nominal = (volts - drops(1.0)) / ohms;
        let edges = [
            nominal / (1.005 * current),
            worst / (1.25 * current),
            worst / absolute,
            heat / rated,
            heat / (0.6 * rated),
            left / (0.2 * 0.995),
        ];
        if edges.iter().any(|x| (x - 1.0).abs() < 1e-4) {
            continue;
        }
        let review = review(&text);
        let word = |value: f64, danger: f64, caution: f64| match () {
            () if value > danger => "danger",
            () if value > caution => "caution",
            () => "pass",
        };
        let hot = word(heat, rated, 0.6 * rated);
        let beyond = nominal > 1.005 * current || worst > 1.25 * current;
        let over = if worst > absolute { "danger" } else { ["pass", "caution"][usize::from(beyond)] };
        let unsure = if left < 0.2 * 0.995 { "caution" } else { "pass" };
        for (code, want) in [("led-overcurrent", over), ("resistor-heat", hot), ("led-spread", unsure)] {
            let f = found(&review, code, "mark");
            assert_eq!(verdict(f), want, "{round} {code}: {worst} {heat} {left}\n{text}");
            *seen.entry((code, want)).or_insert(0) += 1;
        }
        for (code, name, want) in
            [("led-overcurrent", "current", worst), ("resistor-heat", "heat", heat), ("led-spread", "left", left)]
        {
            let f = found(&review, code, "mark");
            assert!(f.is_none_or(|f| near(evidence(f, name), want)), "{f:?} {want}");
        }
    }
    assert!(seen.len() == 8 && seen.values().all(|n| *n >= 3), "{seen:?}");
}

/// Contacts with a pull of their own or of the pin: V = V_rail·R_c/(R + R_c) closed, V_rail − I_leak·R open; wetting.
#[test]
fn contacts() {
    let mut dice = Dice(37);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..250 {
        let to_plus = dice.chance(0.4);
        let (ohms, t) = (dice.log(300.0, 1e6), dice.pick(&[0.0, 0.05]));
        let contact = if dice.chance(0.5) {
            dice.log(1.0, 5e3)
        } else {
            format!("{:.2e}", ohms * dice.between(0.2, 0.4)).parse().unwrap()
        };
        let leak = dice.pick(&[0.0, 1e-6, 1e-5]);
        let power = dice.chance(0.5);
        let text = format!(
            "{BENCH}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nregulator = {{ voltage = \"3.3 V ± 0 %\" }}\n\
             [input.gate]\npin = \"keeper.io16\"\nkind = \"contact\"\nresistance = \"{contact} Ω ± 0 %\"\npull = \"{ohms} Ω ± {} %\"\nleakage = \"{leak} A\"\n{}{}",
            t * 100.0,
            if to_plus { "closes-to = \"keeper.3v3\"\n" } else { "" },
            if power { "contact = \"power\"\n" } else { "" }
        );
        let review = review(&text);
        // The contact against the pull, from the rail that it closes to; VIL and VIH are 0.25 and 0.75 of 3.3 V.
        let (vil, vih) = (0.25 * 3.3, 0.75 * 3.3);
        // A leak of the pin flows while the contact is closed as well, through both in parallel.
        let parallel = |r: f64| 1.0 / (1.0 / r + 1.0 / contact);
        let dropped = |r: f64| 3.3 * contact / (r + contact) + leak * parallel(r);
        let closed = dropped(ohms * (1.0 - t)).max(dropped(ohms * (1.0 + t)));
        let open = leak * ohms * (1.0 + t);
        let (high, low) = if to_plus { (3.3 - closed - vih, vil - open) } else { (3.3 - open - vih, vil - closed) };
        // On one rail 0.1 V is enough.
        let word = |margin: f64| {
            if margin < 0.0 {
                "fault"
            } else if margin < 0.1 {
                "caution"
            } else {
                "pass"
            }
        };
        for (code, margin) in [("level-high", high), ("level-low", low)] {
            if margin.abs() < 1e-6 || (margin - 0.1).abs() < 1e-6 {
                continue;
            }
            let f = found(&review, code, "gate");
            assert_eq!(verdict(f), word(margin), "{round} {code} {margin}\n{text}");
            if let Some(f) = f {
                assert!(near(evidence(f, "margin"), margin), "{f:?} {margin}");
            }
            *seen.entry((code, word(margin))).or_insert(0) += 1;
        }
        let wets = 3.3 / (ohms * (1.0 + t));
        let want = if power && wets < 1e-3 { "caution" } else { "pass" };
        if (wets - 1e-3).abs() > 1e-8 {
            assert_eq!(verdict(found(&review, "contact-wetting", "gate")), want, "{round} {wets}\n{text}");
        }
    }
    assert!(seen.len() == 6 && seen.values().all(|n| *n >= 2), "{seen:?}");
}

/// Pulses against looks: half a period has to be seen twice.
#[test]
fn pulses() {
    let mut dice = Dice(41);
    let mut seen = std::collections::BTreeMap::new();
    for _ in 0..80 {
        let rate = dice.log(1.0, 1e3);
        let every = dice.log(0.05, 5.0) * 0.25 / rate;
        let every: f64 = format!("{every:.4e}").parse().unwrap();
        let text = format!(
            "{BENCH}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\n[input.flow]\npin = \"keeper.io16\"\nkind = \"contact\"\n\
             pull = \"10 kΩ\"\nrate = \"{rate} Hz\"\nsampled = \"{every} s\"\n"
        );
        let lasts = 0.5 / rate;
        if [every / lasts, every / (lasts / 2.0)].iter().any(|x| (x - 1.0).abs() < 1e-6) {
            continue;
        }
        let want = if every > lasts {
            "fault"
        } else if every > lasts / 2.0 {
            "caution"
        } else {
            "pass"
        };
        assert_eq!(verdict(found(&review(&text), "sampled-too-slowly", "flow")), want, "{text}");
        *seen.entry(want).or_insert(0) += 1;
    }
    assert!(seen.len() == 3 && seen.values().all(|n| *n >= 8), "{seen:?}");
}

/// What the converter reads, counted: n = (V − zero)/(full − zero)·(steps − 1), rounded.
#[test]
fn counts_of_a_converter() {
    for (board, pin, zero, full, steps) in [
        ("wifi-board-3v3", "io34", 0.15, 2.45, 4096.0),
        ("board-5v-8bit", "a0", 0.0, 5.0, 1024.0),
        ("arm-board-3v3-small", "io26", 0.0, 3.3, 4096.0),
    ] {
        for (low, high) in [(0.2, 2.2), (0.5, 1.0), (0.0, 2.4)] {
            let text = format!(
                "{BENCH}[board.keeper]\npart = \"{board}\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nmean = \"0 A\"\npeak = \"0 A\"\n{}\
                 [input.level]\npin = \"keeper.{pin}\"\nkind = \"voltage\"\nlow = \"{low} V\"\nhigh = \"{high} V\"\nreads = \"analogue\"\nleakage = \"0 A\"\nresistance = \"100 Ω\"\n",
                if board == "board-5v-8bit" { "" } else { "regulator = { voltage = \"3.3 V ± 0 %\" }\n" }
            );
            let review = review(&text);
            let told = review.passed().iter().find(|p| p.code == "divider-range").unwrap_or_else(|| panic!("{text}"));
            let count = |v: f64| (((v - zero) / (full - zero)).clamp(0.0, 1.0) * (steps - 1.0)).round();
            let middle = (low + high) / 2.0;
            let words = format!("it reads {} .. {} of {steps}", count(high), count(high));
            assert!(told.margin.contains(&words), "{board}: {} {words}", told.margin);
            assert!(
                told.margin.contains(&format!("midway to its low level {}", count(middle))),
                "{board}: {}",
                told.margin
            );
        }
    }
}

/// A vehicle's pulses through a divider: 101 V against the pin's supply and a diode, −150 V against ground, less what
/// the bottom resistor takes.
#[test]
fn transients_through_a_divider() {
    let mut dice = Dice(113);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..80 {
        let top = dice.log(1e4, 6e5);
        let bottom: f64 = format!("{:.2e}", top * dice.between(0.2, 0.28)).parse().unwrap();
        let text = format!(
            "{BENCH}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nregulator = {{ voltage = \"3.3 V ± 0 %\" }}\n\
             [input.key]\npin = \"keeper.io16\"\nkind = \"voltage\"\nhigh = \"14 V\"\nvehicle = true\nleakage = \"0 A\"\n\
             divider = {{ top = \"{top} Ω ± 0 %\", bottom = \"{bottom} Ω ± 0 %\" }}\n"
        );
        let above = (101.0 - 3.9) / top - 3.9 / bottom;
        let below = (150.0 - 0.6) / top - 0.6 / bottom;
        let most = above.max(below);
        if [most / 1e-3, most / 5e-3].iter().any(|x| (x - 1.0).abs() < 1e-4) {
            continue;
        }
        let review = review(&text);
        let f = review
            .findings()
            .iter()
            .find(|f| f.code == "divider-range" && f.evidence.iter().any(|e| e.name == "transient"));
        let want = if most >= 5e-3 {
            "danger"
        } else if most >= 1e-3 {
            "caution"
        } else {
            "pass"
        };
        assert_eq!(verdict(f), want, "{round}: {most}\n{text}");
        if let Some(f) = f {
            assert!(near(evidence(f, "through"), most), "{f:?} {most}");
        }
        *seen.entry(want).or_insert(0) += 1;
    }
    assert!(seen.len() == 3 && seen.values().all(|n| *n >= 5), "{seen:?}");
}
