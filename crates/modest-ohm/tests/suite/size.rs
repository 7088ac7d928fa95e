//! The `size` functions against the case files and by hand.

use modest_ohm::size::{self, PathLimit, PixelTiming, Profile};
use modest_ohm::units::{Amps, Farads, Fraction, Ohms, Seconds, Volts, Watts};
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

#[test]
fn firmware_cap_of_p14() {
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cases/p14-cap-refresh-pd.json");
    let case: Value = serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap();
    let expect = |quantity: &str| {
        let found = case["expect"].as_array().unwrap().iter().find(|e| e["quantity"] == quantity).unwrap();
        found["value"].clone()
    };
    let (a, _) = question("cap");
    let limits: Vec<PathLimit> = a["limits"]
        .as_array()
        .unwrap()
        .iter()
        .map(|l| PathLimit {
            name: l["name"].as_str().unwrap().to_owned(),
            limit: Amps::new(number(&l["limit_a"])),
            usable: Fraction::new(number(&l["usable"])),
            other: Amps::new(number(&l["other_a"])),
            share: number(&l["amps_per_strip_amp"]),
        })
        .collect();
    let pixels = a["pixels"].as_u64().unwrap() as usize;
    let (iq, full) = (Amps::new(number(&a["iq"])), Amps::new(number(&a["ifull"])));
    let cap = size::firmware_limit(&limits, pixels, iq, full).unwrap();
    let near = |got: f64, quantity: &str| {
        let want = number(&expect(quantity));
        assert!((got / want - 1.0).abs() < 1e-9, "{quantity}: {got} against {want}");
    };
    near(cap.limit.get(), "cap.cap_a");
    near(cap.brightness.get(), "cap.brightness");
    near(cap.per_pixel.get(), "cap.per_pixel_a");
    assert_eq!(cap.binding.as_deref(), expect("cap.binding").as_str());
    // Full white is the largest a firmware limit can be, and the dark strip the least.
    let wide = PathLimit { limit: Amps::new(50.0), ..limits[0].clone() };
    let whole = size::firmware_limit(&[wide], pixels, iq, full).unwrap();
    assert_eq!((whole.binding, whole.brightness.get()), (None, 1.0));
    let narrow = PathLimit { limit: Amps::new(0.5), ..limits[0].clone() };
    assert_eq!(size::firmware_limit(&[narrow], pixels, iq, full), None, "0.4 A less 0.35 A for 0.12 A of dark pixels");
    assert_eq!(size::firmware_limit(&limits, 0, iq, full), None);
}

#[test]
fn frames_of_p14() {
    let (a, _) = question("rgb");
    let of = |a: &Value, key: &str| number(&a[key]);
    let timing = |a: &Value| PixelTiming {
        bits: a["bits_per_pixel"].as_u64().unwrap() as usize,
        bit: Seconds::new(of(a, "bit_s")),
        reset: Seconds::new(of(a, "reset_s")),
        start_bits: 0,
        end_bits_per_pixel: 0.0,
    };
    let time = size::frame(timing(&a), a["pixels"].as_u64().unwrap() as usize).get();
    assert!((time / 0.0183 - 1.0).abs() < 1e-9 && (1.0 / time / 54.644_808_743_169_385 - 1.0).abs() < 1e-9);
    let (a, expect) = question("max30");
    let most = size::pixels_at(timing(&a), of(&a, "fps"));
    assert_eq!(most as u64, expect.as_u64().unwrap());
    // That many fit into a thirtieth of a second, and one more does not.
    assert!(size::frame(timing(&a), most).get() <= 1.0 / 30.0 && size::frame(timing(&a), most + 1).get() > 1.0 / 30.0);
    // 100 pixels, clock and data at 2 MHz: 3200 bits, 32 before them, 50 clocks after them: 3282 × 0.5 µs.
    let clocked = size::frame(PixelTiming::clocked(Seconds::new(0.5e-6)), 100).get();
    assert!((clocked - 1.641e-3).abs() < 1e-12);
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
