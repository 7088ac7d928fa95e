//! Checks of pins, levels, inputs and LEDs on random plans, each verdict reckoned anew by the plain formula of its case: what
//! lies beyond the limit is found with its number, what lies inside is not.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use std::fmt::Write as _;

use modest_ohm::{Corner, Finding, Plan, Review, Select};
use nalgebra::{DMatrix, DVector};

/// A multiplicative generator, as good as the tests need.
struct Dice(u64);

impl Dice {
    fn roll(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(0xda94_2042_e4dd_58b5);
        (self.0 >> 40) as f64 / (1u64 << 24) as f64
    }

    fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.roll()
    }

    /// Evenly on a logarithmic scale, of three digits.
    fn log(&mut self, low: f64, high: f64) -> f64 {
        format!("{:.2e}", self.between(low.ln(), high.ln()).exp()).parse().unwrap()
    }

    fn chance(&mut self, share: f64) -> bool {
        self.roll() < share
    }

    fn pick<T: Copy>(&mut self, of: &[T]) -> T {
        of[((self.roll() * of.len() as f64) as usize).min(of.len() - 1)]
    }
}

const BENCH: &str =
    "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"20 A\"\n";

fn review(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn found<'r>(review: &'r Review, code: &str, subject: &str) -> Option<&'r Finding> {
    review.findings().iter().find(|f| f.code == code && f.subject == subject)
}

fn evidence(f: &Finding, name: &str) -> f64 {
    f.evidence.iter().find(|e| e.name == name).unwrap_or_else(|| panic!("{name} in {f:?}")).value
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() <= 1e-6 * a.abs().max(b.abs()).max(1e-9)
}

/// The verdict of a finding, or `pass`; `unknown` where it could not be told.
fn verdict(f: Option<&Finding>) -> &'static str {
    f.map_or("pass", |f| f.severity.word())
}

/// LEDs at a rail: I = (V − Vdiode − n·Vf)/R at its worst and its nominal, against what they stand; P = I²·R.
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
        if [worst / current, worst / absolute, heat / rated, heat / (0.6 * rated), left / 0.2]
            .iter()
            .any(|x| (x - 1.0).abs() < 1e-4)
        {
            continue;
        }
        let review = review(&text);
        let over = if worst > absolute {
            "danger"
        } else if worst > current {
            "caution"
        } else {
            "pass"
        };
        let hot = if heat > rated {
            "danger"
        } else if heat > 0.6 * rated {
            "caution"
        } else {
            "pass"
        };
        let unsure = if left < 0.2 { "caution" } else { "pass" };
        for (code, want) in [("led-overcurrent", over), ("resistor-heat", hot), ("led-spread", unsure)] {
            let f = found(&review, code, "mark");
            assert_eq!(verdict(f), want, "{round} {code}: {worst} {heat} {left}\n{text}");
            *seen.entry((code, want)).or_insert(0) += 1;
        }
        if let Some(f) = found(&review, "led-overcurrent", "mark") {
            assert!(near(evidence(f, "current"), worst), "{f:?} {worst}");
        }
        if let Some(f) = found(&review, "resistor-heat", "mark") {
            assert!(near(evidence(f, "heat"), heat), "{f:?} {heat}");
        }
        if let Some(f) = found(&review, "led-spread", "mark") {
            assert!(near(evidence(f, "left"), left), "{f:?} {left}");
        }
    }
    assert!(seen.len() == 8 && seen.values().all(|n| *n >= 3), "{seen:?}");
}

/// Two-line buses: all pull-ups in parallel against (V − 0.4 V)/3 mA and t_r/(0.8473·C); addresses that are the same.
#[test]
fn buses() {
    let mut dice = Dice(23);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..150 {
        let members = dice.pick(&[1usize, 2, 3, 4]);
        let speed: f64 = dice.pick(&[100e3, 400e3]);
        let length = dice.log(0.1, 6.0);
        let mut text = format!(
            "{BENCH}[controller.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\n\
             regulator = {{ voltage = \"3.3 V ± 0 %\" }}\n\
             [bus.mast]\ndata = \"keeper.io21\"\nclock = \"keeper.io22\"\nspeed = \"{speed} Hz\"\nlength = \"{length} m\"\n"
        );
        let t = 0.05;
        let mut siemens = (0.0, 0.0);
        let mut add = |ohms: f64| {
            siemens.0 += 1.0 / (ohms * (1.0 + t));
            siemens.1 += 1.0 / (ohms * (1.0 - t));
        };
        if dice.chance(0.5) {
            let own = dice.log(1e3, 4.7e4);
            let _ = writeln!(text, "pull = \"{own} Ω ± 5 %\"");
            add(own);
        }
        let mut addresses = Vec::new();
        for m in 0..members {
            let address = dice.pick(&[0x20, 0x3c, 0x48, 0x57, 0x68, 0x76]);
            let _ = write!(
                text,
                "[sensor.s{m}]\nbus = \"mast\"\nfrom = \"keeper.3v3\"\ncurrent = \"2 mA\"\naddress = \"{address:#04x}\"\nrecommended = \"3 V .. 3.6 V\"\n"
            );
            if dice.chance(0.6) {
                let own = dice.log(1.5e3, 2.2e4);
                let _ = writeln!(text, "pull = \"{own} Ω ± 5 %\"");
                add(own);
            }
            addresses.push(address);
        }
        let review = review(&text);
        let twice = (1..members).find(|m| addresses[..*m].contains(&addresses[*m]));
        let same =
            review.findings().iter().filter(|f| f.code == "bus-pulls" && f.message.contains("same address")).count();
        let mut distinct = addresses.clone();
        distinct.sort_unstable();
        distinct.dedup();
        assert_eq!(same, members - distinct.len(), "{round}\n{text}");
        assert_eq!(same > 0, twice.is_some());
        let line = review.findings().iter().find(|f| f.code == "bus-pulls" && f.subject == "mast");
        if siemens.0 == 0.0 {
            assert_eq!(verdict(line), "fault", "{round}: nothing pulls it up\n{text}");
            continue;
        }
        let (strongest, weakest) = (1.0 / siemens.1, 1.0 / siemens.0);
        let farads = 10e-12 * (members + 1) as f64 + 75e-12 * length;
        let least = (3.3 - 0.4) / 3e-3;
        let most = if speed > 100e3 { 300e-9 } else { 1000e-9 } / (0.8473 * farads);
        if [strongest / least, weakest / most, weakest / (2.0 * most)].iter().any(|x| (x - 1.0).abs() < 1e-4) {
            continue;
        }
        let want = match () {
            () if strongest < least => "fault",
            () if weakest > 2.0 * most => "fault",
            () if weakest > most => "caution",
            () => "pass",
        };
        assert_eq!(verdict(line), want, "{round}: {strongest} {least} {weakest} {most}\n{text}");
        if let Some(f) = line {
            let (parallel, limit) = if strongest < least { (strongest, "least") } else { (weakest, "most") };
            assert!(near(evidence(f, "parallel"), parallel), "{f:?} {parallel}");
            assert!(near(evidence(f, limit), if limit == "least" { least } else { most }), "{f:?}");
        }
        *seen.entry((want, strongest < least)).or_insert(0) += 1;
    }
    assert!(seen.len() == 4 && seen.values().all(|n| *n >= 5), "{seen:?}");
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
            "{BENCH}[controller.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nregulator = {{ voltage = \"3.3 V ± 0 %\" }}\n\
             [input.gate]\npin = \"keeper.io16\"\nkind = \"contact\"\nresistance = \"{contact} Ω ± 0 %\"\npull = \"{ohms} Ω ± {} %\"\nleak = \"{leak} A\"\n{}{}",
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
            "{BENCH}[controller.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\n[input.flow]\npin = \"keeper.io16\"\nkind = \"contact\"\n\
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

/// Two boards on leads of their own: ΔG = I₂·R₂ − I₁·R₁, and four margins from it; a wire between them in either direction.
#[test]
fn grounds_between_two_boards() {
    let mut dice = Dice(53);
    let mut seen = (0, 0);
    for round in 0..200 {
        let (amps, ohms) =
            ([dice.between(0.02, 2.0), dice.between(0.02, 2.0)], [dice.log(0.01, 0.6), dice.log(0.01, 0.6)]);
        // Its regulator keeps 3.3 V while no more than this is lost of 5.5 V.
        if (0..2).any(|i| amps[i] * (ohms[i] + 0.01) > 0.85) {
            continue;
        }
        let board = |name: &str, i: usize| {
            format!(
                "[controller.{name}]\npart = \"arm-board-3v3-small\"\nfrom = \"bench\"\ncable = {{ feed = \"10 mΩ\", return = \"{} Ω\" }}\n\
                 regulator = {{ voltage = \"3.3 V ± 0 %\" }}\nmean = \"{:.4} A\"\npeak = \"{:.4} A\"\n",
                ohms[i], amps[i], amps[i]
            )
        };
        let text = format!(
            "{BENCH}{}{}[wire.beat]\npin = \"house.io2\"\nto = \"gate.io2\"\n",
            board("house", 0),
            board("gate", 1)
        );
        let text = text.replace("5 V ± 0 %", "5.5 V ± 0 %");
        let review = review(&text);
        let amps = amps.map(|a| format!("{a:.4}").parse::<f64>().unwrap());
        let shift = amps[1] * ohms[1] - amps[0] * ohms[0];
        let rows = review.links(&Select { corner: Some(Corner::Typical), ..Select::default() });
        let row = &rows.iter().find(|r| r.scenario == "worst").unwrap().row;
        // VOH 3.2 V, VOL 0.1 V; VIH 2.0 V, VIL 0.8 V; 0.3 V below ground.
        assert!((row.shift.get() - shift).abs() < 1e-7, "{round}: {} {shift}\n{text}", row.shift);
        assert!((row.high_margin.unwrap().get() - (3.2 - 2.0 - shift)).abs() < 1e-7);
        assert!((row.low_margin.unwrap().get() - (0.8 - 0.1 + shift)).abs() < 1e-7);
        assert!((row.below_margin.get() - (0.3 - shift)).abs() < 1e-7);
        // Either board may idle while the other works: idle they draw their mean, which is as much here.
        let low = 0.7 + shift;
        if (low - 0.3).abs() > 1e-4 && low.abs() > 1e-4 {
            let want = if low < 0.0 {
                "fault"
            } else if low < 0.3 {
                "caution"
            } else {
                "pass"
            };
            assert_eq!(verdict(found(&review, "level-low", "beat")), want, "{round} {low}\n{text}");
            *(if want == "pass" { &mut seen.0 } else { &mut seen.1 }) += 1;
        }
    }
    assert!(seen.0 > 20 && seen.1 >= 3, "{seen:?}");
}

/// Volts at node 1 of a network of resistors: node 0 is ground, sources hang on nodes of their own. Dense, by Kirchhoff.
fn node_volts(resistors: &[(usize, usize, f64)], held: &[(usize, f64)]) -> f64 {
    let nodes = resistors.iter().map(|r| r.0.max(r.1)).max().unwrap() + 1;
    let mut g = DMatrix::<f64>::zeros(nodes, nodes);
    let mut i = DVector::<f64>::zeros(nodes);
    for (a, b, ohms) in resistors {
        g[(*a, *a)] += 1.0 / ohms;
        g[(*b, *b)] += 1.0 / ohms;
        g[(*a, *b)] -= 1.0 / ohms;
        g[(*b, *a)] -= 1.0 / ohms;
    }
    for (at, volts) in held.iter().chain([&(0, 0.0)]) {
        g.row_mut(*at).fill(0.0);
        g[(*at, *at)] = 1.0;
        i[*at] = *volts;
    }
    g.lu().solve(&i).unwrap()[1]
}

/// A board that is off by day and what goes on feeding its pin: dense nodal equations, the protection 0.6 V above a dead rail
/// behind what the board has inside, every tolerance thrown; the check's current lies at the end of all throws.
#[test]
fn boards_that_are_off() {
    let mut dice = Dice(67);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..90 {
        let high = dice.between(3.0, 14.0);
        let (top, bottom, pull) = (dice.log(500.0, 3e4), dice.log(1e3, 1e5), dice.log(1e3, 4e4));
        let (divided, pulled, inside) = (dice.chance(0.5), dice.chance(0.5), dice.chance(0.4));
        let t = dice.pick(&[0.0, 0.05]);
        let percent = t * 100.0;
        let line = if divided {
            format!("divider = {{ top = \"{top} Ω ± {percent} %\", bottom = \"{bottom} Ω ± {percent} %\" }}\n")
        } else {
            format!("series = \"{top} Ω ± {percent} %\"\n")
        };
        let up =
            if pulled { format!("pull = \"{pull} Ω ± {percent} %\"\npull-to = \"weir\"\n") } else { String::new() };
        let own = if inside { ", series = \"470 Ω\"" } else { "" };
        let text = format!(
            "{BENCH}[supply.weir]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"5 A\"\n\
             [ground.tie]\nbetween = [\"bench\", \"weir\"]\nresistance = \"0 Ω\"\n\
             [controller.keeper]\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nmean = \"20 mA\"\npin-volts = \"50 V\"\n\
             pins = {{ s1 = {{ can = []{own} }} }}\n\
             [load.float-board]\nis = \"electronics\"\nfrom = \"weir\"\ncable = \"0 m 12 AWG\"\ncurrent = \"20 mA\"\nvoltage = \"5 V\"\n\
             [input.float]\npin = \"keeper.s1\"\nkind = \"swing\"\nhigh = \"{high:.3} V\"\nground = \"weir\"\nleak = \"0 A\"\n{line}{up}\
             [scenario.day]\noff = [\"bench\"]\n"
        );
        let high: f64 = format!("{high:.3}").parse().unwrap();
        let through = |a: f64, b: f64, c: f64| {
            // Nodes: 1 the pin, 2 the swing, 3 the other rail, 4 a diode above the dead rail.
            let within = if inside { 470.0 } else { 1e-6 };
            let mut resistors = vec![(2, 1, top * a), (1, 4, within)];
            let mut held = vec![(2, high), (4, 0.6)];
            if divided {
                resistors.push((1, 0, bottom * b));
            }
            if pulled {
                resistors.push((5, 1, pull * c));
                held.push((5, 5.0));
                resistors.push((3, 0, 1.0));
                held.push((3, 0.0));
            } else {
                resistors.push((3, 0, 1.0));
                held.push((3, 0.0));
            }
            let pin = node_volts(&resistors, &held);
            // What goes into the pin by Kirchhoff's first law; through a microohm its volts alone would not tell.
            let from_source = (high - pin) / (top * a);
            let from_pull = if pulled { (5.0 - pin) / (pull * c) } else { 0.0 };
            let to_ground = if divided { pin / (bottom * b) } else { 0.0 };
            from_source + from_pull - to_ground
        };
        let mut most: f64 = 0.0;
        for throw in 0..200 {
            let mut off = || {
                1.0 + t * if throw < 150 { if dice.chance(0.5) { 1.0 } else { -1.0 } } else { dice.between(-1.0, 1.0) }
            };
            most = most.max(through(off(), off(), off()));
        }
        if [most / 1e-3, most / 5e-3].iter().any(|x| (x - 1.0).abs() < 1e-3) {
            continue;
        }
        let review = review(&text);
        let want = if most > 5e-3 {
            "fault"
        } else if most > 1e-3 {
            "caution"
        } else {
            "pass"
        };
        let f = found(&review, "powered-through-signal", "float");
        assert_eq!(verdict(f), want, "{round}: {most}\n{text}");
        if let Some(f) = f {
            assert!((evidence(f, "through") - most).abs() < 1e-4 * most, "{round}: {f:?} {most}\n{text}");
            assert!(f.message.contains("in the scenario *day*"), "{}", f.message);
        }
        *seen.entry((want, inside)).or_insert(0) += 1;
    }
    assert!(seen.len() == 6 && seen.values().all(|n| *n >= 2), "{seen:?}");
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
                "{BENCH}[controller.keeper]\npart = \"{board}\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nmean = \"0 A\"\npeak = \"0 A\"\n{}\
                 [input.level]\npin = \"keeper.{pin}\"\nkind = \"swing\"\nlow = \"{low} V\"\nhigh = \"{high} V\"\nreads = \"analogue\"\nleak = \"0 A\"\nresistance = \"100 Ω\"\n",
                if board == "board-5v-8bit" { "" } else { "regulator = { voltage = \"3.3 V ± 0 %\" }\n" }
            );
            let review = review(&text);
            let told = review.passed().iter().find(|p| p.code == "divider-range").unwrap_or_else(|| panic!("{text}"));
            let count = |v: f64| (((v - zero) / (full - zero)).clamp(0.0, 1.0) * (steps - 1.0)).round();
            let middle = (low + high) / 2.0;
            let words = format!("it reads {} .. {} of {steps}", count(high), count(high));
            assert!(told.margin.contains(&words), "{board}: {} {words}", told.margin);
            assert!(
                told.margin.contains(&format!("midway to its low is {}", count(middle))),
                "{board}: {}",
                told.margin
            );
        }
    }
}

/// Optocouplers behind pins: out of the pin (VOH − Vf)/(R + R_out), or from a rail into it; 1.5 mA pull it in, 0.2 mA let go.
#[test]
fn optocouplers() {
    let mut dice = Dice(79);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..120 {
        let (ohms, t) = (dice.log(300.0, 6e3), dice.pick(&[0.0, 0.05]));
        let indicator = dice.pick(&["series", "parallel", "none"]);
        let from_rail = dice.chance(0.5);
        let text = format!(
            "{BENCH}[controller.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nregulator = {{ voltage = \"3.3 V ± 0 %\" }}\n\
             pin-ohms = \"33 Ω ± 0 %\"\n\
             [wire.horn]\npin = \"keeper.io16\"\nopto = {{ resistor = \"{ohms} Ω ± {} %\", indicator = \"{indicator}\"{} }}\n",
            t * 100.0,
            if from_rail { ", from = \"bench\"" } else { "" }
        );
        // 1.15 V of the optocoupler, 1.9 V more of an indicator in series with it.
        let drop = 1.15 + if indicator == "series" { 1.9 } else { 0.0 };
        let amps = |volts: f64, ohms: f64| (volts - drop).max(0.0) / (ohms + 33.0);
        let (least, most) = (ohms * (1.0 + t), ohms * (1.0 - t));
        // Pulled in: 3.3 V out of the pin, or 5 V into it while it is low. Let go: 0.1 V left, or the rail less the pin's 3.3 V.
        let (on, off) =
            if from_rail { (amps(5.0, least), amps(5.0 - 3.3, most)) } else { (amps(3.3, least), amps(0.1, most)) };
        if (on / 1.5e-3 - 1.0).abs() < 1e-4 || (off / 0.2e-3 - 1.0).abs() < 1e-4 {
            continue;
        }
        let review = review(&text);
        let (code_on, code_off) = if from_rail { ("level-low", "level-high") } else { ("level-high", "level-low") };
        for (what, code, bad, value) in [("on", code_on, on < 1.5e-3, on), ("off", code_off, off > 0.2e-3, off)] {
            let f = found(&review, code, "horn");
            assert_eq!(verdict(f), if bad { "fault" } else { "pass" }, "{round} {what} {value}\n{text}");
            if let Some(f) = f {
                assert!(near(evidence(f, "through"), value), "{f:?} {value}");
            }
            *seen.entry((what, bad)).or_insert(0) += 1;
        }
    }
    assert!(seen.len() == 4 && seen.values().all(|n| *n >= 5), "{seen:?}");
}

/// A FET shifter's edges: 2.2 · R · (10 pF + 75 pF/m · l) against half a period, and the fastest that would do.
#[test]
fn edges_of_a_shifter() {
    let mut dice = Dice(101);
    let mut seen = (0, 0);
    for round in 0..60 {
        let (rate, length, ohms) = (dice.log(1e3, 3e6), dice.log(0.05, 4.0), dice.log(1e3, 2.2e4));
        let text = format!(
            "{BENCH}[controller.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\n\
             [controller.gate]\npart = \"board-5v-8bit\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\n\
             [shifter.step]\npart = \"fet-two-way\"\nfrom = {{ low = \"keeper.3v3\", high = \"bench\" }}\npull = \"{ohms} Ω ± 0 %\"\n\
             [wire.beat]\npin = \"keeper.io16\"\nto = \"gate.d7\"\nthrough = \"step\"\nrate = \"{rate} Hz\"\nlead = \"{length} m\"\n"
        );
        let edge = 2.2 * ohms * (10e-12 + 75e-12 * length);
        let half = 0.5 / rate;
        if (edge / half - 1.0).abs() < 1e-4 {
            continue;
        }
        let review = review(&text);
        let f = found(&review, "shifter-direction", "step");
        assert_eq!(verdict(f), if edge > half { "fault" } else { "pass" }, "{round}: {edge} {half}\n{text}");
        match f {
            Some(f) => {
                assert!(near(evidence(f, "edge"), edge) && near(evidence(f, "allowed"), half), "{f:?}");
                seen.0 += 1;
            }
            None => seen.1 += 1,
        }
    }
    assert!(seen.0 >= 10 && seen.1 >= 10, "{seen:?}");
}

/// A vehicle's pulses through a divider: 101 V against the pin's supply and a diode, −150 V against ground, less what the
/// bottom resistor takes.
#[test]
fn transients_through_a_divider() {
    let mut dice = Dice(113);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..80 {
        let top = dice.log(1e4, 6e5);
        let bottom: f64 = format!("{:.2e}", top * dice.between(0.2, 0.28)).parse().unwrap();
        let text = format!(
            "{BENCH}[controller.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nregulator = {{ voltage = \"3.3 V ± 0 %\" }}\n\
             [input.key]\npin = \"keeper.io16\"\nkind = \"swing\"\nhigh = \"14 V\"\nvehicle = true\nleak = \"0 A\"\n\
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
