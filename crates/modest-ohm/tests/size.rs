//! The `size` functions against the case files and by hand.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use modest_ohm::size::{self, Profile};
use modest_ohm::{Amps, Farads, Fraction, Ohms, Seconds, Volts, Watts};
use serde_json::Value;

/// The arguments of a question of p14, and what is expected of it.
fn question(name: &str) -> (Value, Value) {
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cases/p14-cap-refresh-pd.json");
    let case: Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let questions = case["given"]["questions"].as_array().unwrap();
    let arguments = questions.iter().find(|q| q["name"] == name).unwrap()["arguments"].clone();
    let expect = case["expect"].as_array().unwrap();
    let expect = expect.iter().find(|e| e["quantity"].as_str().unwrap().starts_with(&format!("{name}."))).unwrap();
    (arguments, expect["value"].clone())
}

fn number(value: &Value) -> f64 {
    value.as_f64().unwrap()
}

fn candidates(name: &str) -> (Vec<f64>, Vec<f64>) {
    let (a, expect) = question(name);
    let list: Vec<Profile> = a["profiles"]
        .as_array()
        .unwrap()
        .iter()
        .map(|p| Profile { volts: Volts::new(number(&p[0])), current: Amps::new(number(&p[1])) })
        .collect();
    let power = Watts::new(a["p_needed"].as_f64().unwrap_or(0.0));
    let current = a["i_needed"].as_f64().map(Amps::new);
    let headroom = Fraction::new(a["headroom"].as_f64().unwrap_or(0.2));
    let range = (Volts::new(number(&a["v_min"])), Volts::new(number(&a["v_max"])));
    let found = size::profiles(&list, range, power, current, headroom, a["cable_5a"].as_bool().unwrap_or(false));
    let expect = expect.as_array().unwrap().iter().map(number).collect();
    (found.iter().map(|p| p.volts.get()).collect(), expect)
}

#[test]
fn negotiated_profiles_of_p14() {
    for name in ["pd", "pd12"] {
        let (found, expect) = candidates(name);
        assert_eq!(found, expect, "{name}");
    }
}

#[test]
fn bulk_capacitor_of_p14() {
    let (a, expect) = question("bulk");
    let of = |key: &str| number(&a[key]);
    let size =
        size::bulk_capacitor(Amps::new(of("di")), Seconds::new(of("dt")), Volts::new(of("dv")), Ohms::new(of("esr")));
    assert!((size.unwrap().least.get() / number(&expect) - 1.0).abs() < 1e-9);
}

/// The next value of E6 that has what is needed with a fifth less, over six decades.
#[test]
fn usual_capacitors_are_large_enough_and_the_next_smaller_is_not() {
    let e6 = [1.0, 1.5, 2.2, 3.3, 4.7, 6.8];
    for k in 0..240 {
        let need = 1e-6 * 10f64.powf(f64::from(k) / 40.0);
        // ΔI·Δt/ΔV with 1 A and 1 V: the time is the capacitance.
        let size = size::bulk_capacitor(Amps::new(1.0), Seconds::new(need), Volts::new(1.0), Ohms::new(0.0)).unwrap();
        let usual = size.usual.get();
        assert!(usual * 0.8 >= need * (1.0 - 1e-9), "{usual} for {need}");
        let decade = 10f64.powf((usual * (1.0 + 1e-9)).log10().floor());
        let at = e6
            .iter()
            .position(|m| (m * decade / usual - 1.0).abs() < 1e-9)
            .unwrap_or_else(|| panic!("{usual} is not of E6"));
        let smaller = if at == 0 { 6.8 * decade / 10.0 } else { e6[at - 1] * decade };
        assert!(smaller * 0.8 < need, "{smaller} would do for {need}");
    }
    assert_eq!(size::bulk_capacitor(Amps::new(2.0), Seconds::new(1e-4), Volts::new(0.1), Ohms::new(0.05)), None);
}

#[test]
fn charging_and_inrush_by_hand() {
    // 4.7 mF·24 V/(3.3 A − 1.3 A) = 56.4 ms; 24 V/0.08 Ω = 300 A.
    let time = size::charging_time(Farads::new(4.7e-3), Volts::new(24.0), Amps::new(3.3), Amps::new(1.3));
    assert!((time.unwrap().get() - 0.0564).abs() < 1e-12);
    assert_eq!(size::charging_time(Farads::new(1e-3), Volts::new(24.0), Amps::new(1.0), Amps::new(1.0)), None);
    assert!((size::inrush_peak(Volts::new(24.0), Ohms::new(0.08)).get() - 300.0).abs() < 1e-9);
}

#[test]
fn supplies_by_hand() {
    let s = size::supply(Volts::new(5.0), &[Amps::new(10.0), Amps::new(6.0)], Fraction::new(0.2));
    assert_eq!((s.least, s.usual, s.power), (Amps::new(20.0), Some(Amps::new(20.0)), Watts::new(100.0)));
    assert_eq!(size::supply(Volts::new(5.0), &[Amps::new(100.0)], Fraction::new(0.0)).usual, None);
}
