//! Base resistors, gates, coils that are turned off, relays, bridges: the case file, hand reckonings, and second
//! methods.

use crate::common::{Dice, near};
use modest_ohm::size::{
    self, BaseNeed, BridgeLack, BridgeNeed, CoilNeed, ContactLoad, GateNeed, GateVerdict, ReleaseNeed, Saturates,
    Series, SwitchingNeed, TransistorNeed, Values,
};
use modest_ohm::units::{
    Amps, Celsius, Coulombs, Fraction, Henries, Hertz, KelvinsPerWatt, Ohms, Range, Seconds, Volts,
};
use serde_json::Value;

fn num(v: &Value, key: &str) -> f64 {
    v[key].as_f64().unwrap_or_else(|| panic!("{key} in {v}"))
}

fn base_of_case(a: &Value, what: &str) -> Value {
    let vbe = Volts::new(num(a, "vbe"));
    let need = BaseNeed {
        vdd: Volts::new(num(a, "vdd")),
        pin: Ohms::new(num(a, "r_out")),
        vbe: Range::exactly(vbe),
        current: Amps::new(num(a, "ic")),
        ratio: num(a, "ratio"),
        pin_recommended: Amps::new(num(a, "pin_recommended_a")),
    };
    let series = Series::ALL.into_iter().find(|s| s.count() as u64 == a["series"].as_u64().unwrap());
    let size = size::base(&need, &Values::Series(series.unwrap()));
    match what {
        "exact_ohm" => size.exact.get().into(),
        "chosen_ohm" => size.chosen.unwrap().get().into(),
        "base_a" => size.base.unwrap().get().into(),
        "ok" => size.chosen.is_some().into(),
        other => panic!("{other}"),
    }
}

fn transistor_of_case(a: &Value, what: &str) -> Value {
    let state = size::transistor(&TransistorNeed {
        vdd: Volts::new(num(a, "vdd")),
        pin: Ohms::new(num(a, "r_out")),
        vbe: Volts::new(num(a, "vbe")),
        base: Ohms::new(num(a, "rb")),
        current: Amps::new(num(a, "ic_wanted")),
        hfe: num(a, "hfe_min"),
        saturation: Volts::new(num(a, "vce_sat")),
        supply: Volts::new(num(a, "vsupply")),
        load: Ohms::new(num(a, "load_ohm")),
    });
    match what {
        "base_a" => state.base.get().into(),
        "overdrive" => state.overdrive.into(),
        "verdict" => state.verdict.word().into(),
        "collector_a" => state.collector.get().into(),
        "vce_v" => state.vce.get().into(),
        "power_w" => state.heat.get().into(),
        "worst_partial_w" => state.worst_partial.get().into(),
        other => panic!("{other}"),
    }
}

#[test]
fn p07_base_resistor() {
    let file = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cases/p07-base-resistor.json");
    let case: Value = serde_json::from_str(&std::fs::read_to_string(file).unwrap()).unwrap();
    let asked = case["given"]["questions"].as_array().unwrap();
    let mut seen = 0;
    for e in case["expect"].as_array().unwrap() {
        let (name, what) = e["quantity"].as_str().unwrap().split_once('.').unwrap();
        let question = asked.iter().find(|q| q["name"] == name).unwrap();
        let a = &question["arguments"];
        let got: Value = match question["function"].as_str().unwrap() {
            "npn_base" => base_of_case(a, what),
            "npn_state" => transistor_of_case(a, what),
            other => panic!("{other}"),
        };
        match &e["value"] {
            Value::Number(want) => {
                let (want, got) = (want.as_f64().unwrap(), got.as_f64().unwrap());
                let bound = e["abs_tol"].as_f64().unwrap_or(0.0) + e["rel_tol"].as_f64().unwrap_or(0.0) * want.abs();
                assert!((got - want).abs() <= bound, "{name}.{what}: {got} against {want}");
            }
            want => assert_eq!(got, *want, "{name}.{what}"),
        }
        seen += 1;
    }
    assert_eq!(seen, 20);
}

/// Against every value of the series: the largest that is not above the exact one, if the pin keeps its current with
/// it.
#[test]
fn base_resistors_by_trying_all() {
    let mut dice = Dice(7);
    let mut seen = (0, 0, 0);
    for _ in 0..2000 {
        let (vdd, pin) = (dice.pick(&[3.2, 3.3, 5.0]), dice.between(20.0, 100.0));
        let vbe = (dice.between(0.7, 0.9), dice.between(0.5, 0.7));
        let (amps, ratio) = (dice.log(0.005, 2.0), dice.pick(&[10.0, 20.0, 250.0]));
        let limit = dice.pick(&[0.004, 0.012, 0.020]);
        let need = BaseNeed {
            vdd: Volts::new(vdd),
            pin: Ohms::new(pin),
            vbe: Range::new(Volts::new(vbe.1), Volts::new(vbe.0)),
            current: Amps::new(amps),
            ratio,
            pin_recommended: Amps::new(limit),
        };
        let got = size::base(&need, &Values::Series(Series::E12));
        let exact = (vdd - vbe.0) / (amps / ratio) - pin;
        assert!(near(got.exact.get(), exact));
        let draws = |r: f64| (vdd - vbe.1) / (r + pin);
        let largest = |series: Series| {
            let all = Values::Series(series).between(Ohms::new(1.0), Ohms::new(1e7));
            all.into_iter().map(Ohms::get).filter(|r| *r <= exact * (1.0 + 1e-12)).fold(f64::NAN, f64::max)
        };
        let (coarse, fine) = (largest(Series::E12), largest(Series::E24));
        let keeps = |r: f64| r.is_finite() && draws(r) <= limit * (1.0 + 1e-9);
        let want = if keeps(coarse) {
            seen.0 += 1;
            Some(coarse)
        } else if keeps(fine) {
            seen.1 += 1;
            Some(fine)
        } else {
            seen.2 += 1;
            None
        };
        assert_eq!(got.chosen.map(Ohms::get), want, "{need:?}");
        if let (Some(r), Some(base)) = (got.chosen, got.base) {
            assert!(near(base.get(), draws(r.get())));
            // It gives at least what is sized for.
            assert!((vdd - vbe.0) / (r.get() + pin) >= amps / ratio * (1.0 - 1e-9));
        }
    }
    assert!(seen.0 > 300 && seen.1 >= 3 && seen.2 > 300, "{seen:?}");
}

/// The collector current by bisection on the load line: where the transistor gives what the load takes.
#[test]
fn transistors_on_their_load_line() {
    let mut dice = Dice(11);
    let mut seen = [0; 3];
    for _ in 0..500 {
        let (supply, load) = (dice.between(4.0, 24.0), dice.log(10.0, 500.0));
        let need = TransistorNeed {
            vdd: Volts::new(dice.pick(&[3.3, 5.0])),
            pin: Ohms::new(40.0),
            vbe: Volts::new(0.7),
            base: Ohms::new(dice.log(150.0, 50e3)),
            current: Amps::new((supply - 0.3) / load),
            hfe: dice.between(20.0, 200.0),
            saturation: Volts::new(0.3),
            supply: Volts::new(supply),
            load: Ohms::new(load),
        };
        let got = size::transistor(&need);
        let base = (need.vdd.get() - 0.7) / (need.base.get() + 40.0);
        // I_C(VCE) of an ideal transistor: nothing below saturation, hFE·I_B above; the load line falls.
        let (mut low, mut high) = (0.3, supply);
        for _ in 0..200 {
            let middle = (low + high) / 2.0;
            if (supply - middle) / load > need.hfe * base { low = middle } else { high = middle }
        }
        assert!((got.vce.get() - low).abs() < 1e-9, "{need:?} {} {low}", got.vce);
        assert!(near(got.collector.get(), (supply - low) / load));
        assert!(near(got.heat.get(), low * (supply - low) / load + 0.7 * base));
        // No point of the load line is hotter than V²/4R.
        let hottest =
            (0..1000).map(|k| f64::from(k) / 1000.0 * supply).map(|v| v * (supply - v) / load).fold(0.0, f64::max);
        assert!(hottest <= got.worst_partial.get() * (1.0 + 1e-9) && hottest > got.worst_partial.get() * 0.999);
        let gain = need.hfe * base / need.current.get();
        let want = if gain < 1.3 {
            0
        } else if gain < 2.0 {
            1
        } else {
            2
        };
        assert_eq!(got.verdict, [Saturates::Fault, Saturates::Caution, Saturates::Pass][want]);
        seen[want] += 1;
    }
    assert!(seen.iter().all(|n| *n > 15), "{seen:?}");
}

#[test]
fn gates_at_their_three_limits() {
    let need = |volts: f64, specified: f64, threshold: Option<f64>, amps: f64| GateNeed {
        volts: Volts::new(volts),
        specified: Volts::new(specified),
        threshold: threshold.map(Volts::new),
        current: Amps::new(amps),
        rating: Some(Amps::new(10.0)),
    };
    use GateVerdict::{Caution, Fault, Pass};
    for (asked, want) in [
        (need(3.3, 2.5, Some(1.2), 8.0), Pass),
        (need(4.5, 4.5, Some(2.5), 8.0), Pass),
        // 1.1 V above its threshold, a tenth of its rating.
        (need(3.3, 4.5, Some(2.2), 1.0), Caution),
        (need(3.3, 4.5, Some(2.2), 1.01), Fault),
        // 0.9 V above it.
        (need(3.3, 4.5, Some(2.4), 0.1), Fault),
        (need(3.3, 10.0, Some(4.0), 0.1), Fault),
        // Nothing known of its threshold.
        (need(3.3, 4.5, None, 0.1), Fault),
    ] {
        assert_eq!(size::gate(&asked), want, "{asked:?}");
    }
    assert_eq!(size::gate(&GateNeed { rating: None, ..need(3.3, 4.5, Some(2.0), 0.01) }), Fault);
}

/// The edges by moving the gate's charge in small steps.
#[test]
fn edges_by_steps() {
    let mut dice = Dice(13);
    for _ in 0..50 {
        let need = SwitchingNeed {
            gate_volts: Volts::new(dice.between(3.0, 12.0)),
            plateau: Volts::new(dice.between(1.5, 2.9)),
            gate_charge: Coulombs::new(dice.log(1e-9, 60e-9)),
            ohms: Ohms::new(dice.log(50.0, 2000.0)),
            supply: Volts::new(dice.between(5.0, 30.0)),
            current: Amps::new(dice.between(0.1, 10.0)),
            pwm: Hertz::new(dice.log(100.0, 50e3)),
        };
        let got = size::switching(&need).unwrap();
        // While the drain moves the gate stands at its plateau: the current into it is constant.
        let steps = 1000;
        let time = |volts: f64| -> f64 {
            let amps = volts / need.ohms.get();
            (0..steps).map(|_| need.gate_charge.get() / f64::from(steps) / amps).sum()
        };
        let (on, off) = (time(need.gate_volts.get() - need.plateau.get()), time(need.plateau.get()));
        assert!(near(got.on.get(), on) && near(got.off.get(), off));
        // Volts fall while current flow: a triangle of half of each.
        let energy = 0.5 * need.supply.get() * need.current.get() * (on + off);
        assert!(near(got.loss.get(), energy * need.pwm.get()));
    }
    let never = SwitchingNeed {
        gate_volts: Volts::new(3.0),
        plateau: Volts::new(5.0),
        gate_charge: Coulombs::new(1e-9),
        ohms: Ohms::new(100.0),
        supply: Volts::new(12.0),
        current: Amps::new(1.0),
        pwm: Hertz::new(1e3),
    };
    assert_eq!(size::switching(&never), None);
}

/// The current of a coil that is turned off by small steps of L·di/dt = −R·i − V.
#[test]
fn releases_by_steps() {
    let mut dice = Dice(17);
    for _ in 0..40 {
        let need = ReleaseNeed {
            supply: Volts::new(dice.between(5.0, 24.0)),
            current: Amps::new(dice.log(0.02, 3.0)),
            ohms: Ohms::new(dice.log(2.0, 500.0)),
            inductance: Henries::new(dice.log(1e-3, 1.0)),
            path: Volts::new(dice.between(0.3, 30.0)),
            partial_power_down: Fraction::new(dice.between(0.05, 0.4)),
        };
        let got = size::release(&need);
        let tau = need.inductance.get() / need.ohms.get();
        let (step, mut t, mut i) = (tau / 20_000.0, 0.0, need.current.get());
        let (mut partial_power_down, mut still, mut heat) = (None, None, 0.0);
        while i > 0.0 {
            // The middle of the step, so that errors are of second order.
            let slope = |i: f64| -(need.ohms.get() * i + need.path.get()) / need.inductance.get();
            let middle = i + slope(i) * step / 2.0;
            heat += (need.ohms.get() * middle * middle + need.path.get() * middle).max(0.0) * step;
            i += slope(middle) * step;
            t += step;
            if partial_power_down.is_none() && i <= need.partial_power_down.get() * need.current.get() {
                partial_power_down = Some(t);
            }
            if i <= 0.0 {
                still = Some(t);
            }
        }
        let close = |a: f64, b: f64| (a - b).abs() <= 2e-3 * b + 2.0 * step;
        assert!(close(got.time.get(), partial_power_down.unwrap()), "{need:?}");
        assert!(close(got.until_still.get(), still.unwrap()), "{need:?}");
        // All its energy goes into coil and path.
        assert!((got.energy.get() - heat).abs() < 1e-3 * heat, "{} {heat}", got.energy);
        assert!(near(got.peak.get(), need.supply.get() + need.path.get()));
        // The waveform passes through its marks.
        assert!(near(size::current_after(&need, got.time).get(), need.partial_power_down.get() * need.current.get()));
        assert!(size::current_after(&need, got.until_still).get() < 1e-9 * need.current.get());
        assert!(near(size::current_after(&need, Seconds::new(0.0)).get(), need.current.get()));
    }
}

#[test]
fn a_zener_diode_lets_go_sooner_and_costs_volts() {
    // 0.5 A in 24 Ω and 60 mH: τ = 2.5 ms. Through 0.7 V to a tenth: 2.5 ms · ln(0.52917/0.07917) = 4.749 ms.
    let need = ReleaseNeed {
        supply: Volts::new(12.0),
        current: Amps::new(0.5),
        ohms: Ohms::new(24.0),
        inductance: Henries::new(0.060),
        path: Volts::new(0.7),
        partial_power_down: Fraction::new(0.1),
    };
    let plain = size::release(&need);
    assert!((plain.time.get() - 4.749e-3).abs() < 2e-6, "{}", plain.time);
    // With 24 V more: 2.5 ms · ln(1.52917/1.07917) = 871 µs, and 36.7 V at the switch.
    let quick = size::release(&ReleaseNeed { path: Volts::new(24.7), ..need });
    assert!((quick.time.get() - 871.3e-6).abs() < 1e-6 && (quick.peak.get() - 36.7).abs() < 1e-12);
    assert_eq!(quick.energy, plain.energy);
    // ½ · 60 mH · 0.25 A² = 7.5 mJ; into a switch that breaks down at 40 V 40/28 of it.
    assert!((plain.energy.get() - 7.5e-3).abs() < 1e-12);
    let broken = size::avalanche(need.inductance, need.current, need.supply, Volts::new(40.0)).unwrap();
    assert!((broken.get() - 7.5e-3 * 40.0 / 28.0).abs() < 1e-12);
    assert_eq!(size::avalanche(need.inductance, need.current, need.supply, Volts::new(12.0)), None);
}

/// The smallest class, against all of them in their order.
#[test]
fn flyback_classes_by_their_limits() {
    let classes = size::flyback_classes();
    let mut dice = Dice(19);
    let mut seen = std::collections::BTreeSet::new();
    for _ in 0..1000 {
        let (amps, volts, pwm) = (dice.log(0.02, 20.0), dice.between(3.0, 60.0), dice.chance(0.5));
        let got = size::flyback_class(Amps::new(amps), Volts::new(volts), pwm).map(|c| c.name);
        let fits = classes.iter().filter(|c| {
            let once = c.current.get().max(c.surge.get() / 5.0);
            amps <= 0.8 * if pwm { c.current.get() } else { once } && c.reverse.get() >= 2.0 * volts && (c.fast || !pwm)
        });
        assert_eq!(got, fits.map(|c| c.name).next(), "{amps} {volts} {pwm}");
        seen.insert(got);
    }
    assert!(seen.len() >= 6, "{seen:?}");
}

#[test]
fn relays_warm_and_cold() {
    let need = |least: f64, most: f64, warm: f64| CoilNeed {
        rated: Volts::new(12.0),
        coil: Range::new(Volts::new(least), Volts::new(most)),
        pull_in: Fraction::new(0.75),
        most: Fraction::new(1.3),
        warm: Celsius::new(warm),
    };
    // Cold 9 V; at 73 °C 0.39 % a kelvin more: 9 V · 1.195 = 10.755 V.
    assert!((size::coil(&need(12.0, 12.0, 20.0)).pulls_in.get() - 9.0).abs() < 1e-12);
    assert!((size::coil(&need(12.0, 12.0, 73.0)).pulls_in.get() - 10.755).abs() < 1e-12);
    assert!(size::coil(&need(9.1, 12.0, 23.0)).enough && !size::coil(&need(8.9, 12.0, 23.0)).enough);
    assert!(size::coil(&need(12.0, 15.7, 23.0)).too_much && !size::coil(&need(12.0, 15.5, 23.0)).too_much);
    use ContactLoad::{Capacitive, Coil, Lamp, Motor, Resistive};
    let dc = |volts: f64, load| size::contact_dc(Amps::new(10.0), Volts::new(30.0), Volts::new(volts), load).get();
    // It closes on 30 A: a motor of 5 A takes six times as much as it starts, a lamp of 2.5 A twelve times. At 40 V it
    // breaks 10 A · 0.5 · (40/36)^(ln 0.5 / ln(42/36)) = 3.113 A.
    let plain = [Resistive, Coil, Capacitive].map(|load| (load, 10.0, 3.1132));
    for (load, at_24, at_40) in plain.into_iter().chain([(Motor, 5.0, 3.1132), (Lamp, 2.5, 2.5)]) {
        assert!(near(dc(24.0, load), at_24), "{load:?}");
        assert!((dc(40.0, load) - at_40).abs() < 1e-3, "{load:?} {}", dc(40.0, load));
        assert!((dc(60.0, load) - 0.8).abs() < 1e-9, "{load:?}");
    }
}

/// The bipolar 2 A class of the reference: 3.2 V at 1 A and 4.9 V at 2 A at most.
#[test]
fn bridges_by_hand() {
    let need = BridgeNeed {
        supply: Range::new(Volts::new(11.4), Volts::new(12.6)),
        drop: Volts::new(1.5),
        drop_ohms: Ohms::new(1.7),
        range: Range::new(Volts::new(5.0), Volts::new(46.0)),
        continuous: Amps::new(2.0),
        peak: Amps::new(3.0),
        running: Amps::new(1.0),
        stall: Amps::new(1.4),
        reverses: true,
        theta: Some(KelvinsPerWatt::new(15.0)),
        ambient: Celsius::new(30.0),
    };
    let state = size::bridge(&need);
    assert!((state.leaves.get() - 8.2).abs() < 1e-12 && (state.heat.get() - 3.2).abs() < 1e-12);
    assert!((state.junction.unwrap().get() - 78.0).abs() < 1e-12 && state.demand == Amps::new(2.8));
    assert_eq!(state.why_not, None);
    let at_2 = size::bridge(&BridgeNeed { running: Amps::new(2.0), ..need });
    assert!((11.4 - at_2.leaves.get() - 4.9).abs() < 1e-12);
    use BridgeLack::{Moment, Runs, Stall, TooLittleSupply, TooMuchSupply};
    for (changed, want) in [
        (BridgeNeed { supply: Range::new(need.supply.low, Volts::new(46.5)), ..need }, TooMuchSupply),
        (BridgeNeed { supply: Range::new(Volts::new(4.9), need.supply.high), ..need }, TooLittleSupply),
        (BridgeNeed { running: Amps::new(2.04), ..need }, Runs),
        (BridgeNeed { stall: Amps::new(1.53), ..need }, Moment),
        (BridgeNeed { stall: Amps::new(2.04), reverses: false, ..need }, Stall),
        (BridgeNeed { stall: Amps::new(3.06), reverses: false, ..need }, Moment),
    ] {
        assert_eq!(size::bridge(&changed).why_not, Some(want), "{changed:?}");
    }
}
