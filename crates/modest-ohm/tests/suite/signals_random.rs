//! Buses, grounds, optocouplers, shifters and boards that are off on random plans, each verdict computed anew by the
//! plain formula of its case, or by dense nodal equations.

use std::fmt::Write as _;

use crate::common::{Dice, evidence, found, near, review, verdict};
use modest_ohm::{Corner, Select};
use modest_ohm_dense::resistors::node_volts;

const BENCH: &str =
    "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"20 A\"\n";

/// Every member whose address another has before it is a finding of its own.
fn same_addresses(review: &modest_ohm::Review, addresses: &[i32], text: &str) {
    let same =
        review.findings().iter().filter(|f| f.code == "bus-pull-ups" && f.message.contains("same address")).count();
    let mut distinct = addresses.to_vec();
    distinct.sort_unstable();
    distinct.dedup();
    assert_eq!(same, addresses.len() - distinct.len(), "{text}");
}

/// The verdict that both limits want, which is the one that is given, with the numbers compared.
fn pulls_are_judged(
    line: Option<&modest_ohm::Finding>,
    (strongest, least): (f64, f64),
    (weakest, most): (f64, f64),
) -> &'static str {
    let want = match () {
        () if strongest < least => "fault",
        () if weakest > 2.0 * most => "fault",
        () if weakest > most => "caution",
        () => "pass",
    };
    assert_eq!(verdict(line), want, "{strongest} {least} {weakest} {most}");
    if let Some(f) = line {
        let (parallel, limit) = if strongest < least { (strongest, "minimum") } else { (weakest, "maximum") };
        assert!(near(evidence(f, "parallel"), parallel), "{f:?} {parallel}");
        assert!(near(evidence(f, limit), if limit == "minimum" { least } else { most }), "{f:?}");
    }
    want
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
            "{BENCH}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\n\
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
        same_addresses(&review, &addresses, &text);
        let line = review.findings().iter().find(|f| f.code == "bus-pull-ups" && f.subject == "mast");
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
        let want = pulls_are_judged(line, (strongest, least), (weakest, most));
        *seen.entry((want, strongest < least)).or_insert(0) += 1;
    }
    assert!(seen.len() == 4 && seen.values().all(|n| *n >= 5), "{seen:?}");
}

/// Two boards on cables of their own: ΔG = I₂·R₂ − I₁·R₁, and four margins from it; a wire between them in either
/// direction.
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
                "[board.{name}]\npart = \"arm-board-3v3-small\"\nfrom = \"bench\"\ncable = {{ feed = \"10 mΩ\", return = \"{} Ω\" }}\n\
                 regulator = {{ voltage = \"3.3 V ± 0 %\" }}\nmean = \"{:.4} A\"\npeak = \"{:.4} A\"\n",
                ohms[i], amps[i], amps[i]
            )
        };
        let text = format!(
            "{BENCH}{}{}[signal.beat]\npin = \"house.io2\"\nto = \"gate.io2\"\n",
            board("house", 0),
            board("gate", 1)
        );
        let text = text.replace("5 V ± 0 %", "5.5 V ± 0 %");
        let review = review(&text);
        let amps = amps.map(|a| format!("{a:.4}").parse::<f64>().unwrap());
        let shift = amps[1] * ohms[1] - amps[0] * ohms[0];
        let rows = review.signals(&Select { corner: Some(Corner::Typical), ..Select::default() });
        let row = &rows.iter().find(|r| r.scenario.name() == "worst").unwrap().row;
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
            // Without the shift 0.7 V are left: the ground alone is why.
            assert_eq!(verdict(found(&review, "ground-shift", "beat")), want, "{round} {low}\n{text}");
            assert!(found(&review, "level-low", "beat").is_none());
            *(if want == "pass" { &mut seen.0 } else { &mut seen.1 }) += 1;
        }
    }
    assert!(seen.0 > 20 && seen.1 >= 3, "{seen:?}");
}

/// The current into the pin of a dead board, A, from a swing through `top`, a divider's `bottom` and a `pull` to 5 V,
/// where they are fitted.
fn into_pin(high: f64, inside: bool, top: f64, bottom: Option<f64>, pull: Option<f64>) -> f64 {
    // Nodes: 1 the pin, 2 the swing, 4 a diode above the dead rail, 5 the other rail.
    let mut resistors = vec![(2, 1, top), (1, 4, if inside { 470.0 } else { 1e-6 }), (3, 0, 1.0)];
    let mut held = vec![(2, high), (4, 0.6), (3, 0.0)];
    resistors.extend(bottom.map(|r| (1, 0, r)));
    if let Some(r) = pull {
        resistors.push((5, 1, r));
        held.push((5, 5.0));
    }
    let pin = node_volts(&resistors, &held, &[]);
    // By Kirchhoff's first law; through a microohm the pin's voltage alone would not tell.
    (high - pin) / top + pull.map_or(0.0, |r| (5.0 - pin) / r) - bottom.map_or(0.0, |r| pin / r)
}

/// A board that is off by day and what goes on feeding its pin: dense nodal equations, the protection 0.6 V above a
/// dead rail behind what the board has inside, every tolerance thrown; the check's current lies at the end of all
/// throws.
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
             [board.keeper]\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nmean = \"20 mA\"\npin-voltage = \"50 V\"\n\
             pins = {{ s1 = {{ functions = []{own} }} }}\n\
             [load.float-board]\nkind = \"electronics\"\nfrom = \"weir\"\ncable = \"0 m 12 AWG\"\ncurrent = \"20 mA\"\nvoltage = \"5 V\"\n\
             [input.float]\npin = \"keeper.s1\"\nkind = \"voltage\"\nhigh = \"{high:.3} V\"\nground = \"weir\"\nleakage = \"0 A\"\n{line}{up}\
             [scenario.day]\noff = [\"bench\"]\n"
        );
        let high: f64 = format!("{high:.3}").parse().unwrap();
        let part = |r: f64, fitted: bool| fitted.then_some(r);
        let through =
            |a: f64, b: f64, c: f64| into_pin(high, inside, top * a, part(bottom * b, divided), part(pull * c, pulled));
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
            assert!(f.message.contains("in scenario `day`"), "{}", f.message);
        }
        *seen.entry((want, inside)).or_insert(0) += 1;
    }
    assert!(seen.len() == 6 && seen.values().all(|n| *n >= 2), "{seen:?}");
}

/// Optocouplers behind pins: out of the pin (VOH − Vf)/(R + R_out), or from a rail into it; 1.5 mA pull it in, 0.2 mA
/// turned off.
#[test]
fn optocouplers() {
    let mut dice = Dice(79);
    let mut seen = std::collections::BTreeMap::new();
    for round in 0..120 {
        let (ohms, t) = (dice.log(300.0, 6e3), dice.pick(&[0.0, 0.05]));
        let indicator = dice.pick(&["series", "parallel", "none"]);
        let from_rail = dice.chance(0.5);
        let text = format!(
            "{BENCH}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\nregulator = {{ voltage = \"3.3 V ± 0 %\" }}\n\
             pin-resistance = \"33 Ω ± 0 %\"\n\
             [signal.horn]\npin = \"keeper.io16\"\nopto = {{ resistor = \"{ohms} Ω ± {} %\", indicator = \"{indicator}\"{} }}\n",
            t * 100.0,
            if from_rail { ", from = \"bench\"" } else { "" }
        );
        // 1.15 V of the optocoupler, 1.9 V more of an indicator in series with it.
        let drop = 1.15 + if indicator == "series" { 1.9 } else { 0.0 };
        let amps = |volts: f64, ohms: f64| (volts - drop).max(0.0) / (ohms + 33.0);
        let (least, most) = (ohms * (1.0 + t), ohms * (1.0 - t));
        // Pulled in: 3.3 V out of the pin, or 5 V into it while it is low. Let go: 0.1 V left, or the rail less the
        // pin's 3.3 V.
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
            "{BENCH}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\n\
             [board.gate]\npart = \"board-5v-8bit\"\nfrom = \"bench\"\ncable = \"0 m 12 AWG\"\n\
             [shifter.step]\npart = \"fet-two-way\"\nfrom = {{ low = \"keeper.3v3\", high = \"bench\" }}\npull = \"{ohms} Ω ± 0 %\"\n\
             [signal.beat]\npin = \"keeper.io16\"\nto = \"gate.d7\"\nthrough = \"step\"\nrate = \"{rate} Hz\"\ncable = \"{length} m\"\n"
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
                assert!(near(evidence(f, "switching_time"), edge) && near(evidence(f, "allowed"), half), "{f:?}");
                seen.0 += 1;
            }
            None => seen.1 += 1,
        }
    }
    assert!(seen.0 >= 10 && seen.1 >= 10, "{seen:?}");
}
