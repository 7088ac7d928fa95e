//! LEDs, dividers, pulls and levels: the case files, the standard's series, and every pair of resistors tried by hand.

use modest_ohm::size::{
    self, BusPull, DividerLimits, DividerNeed, LedNeed, LevelNeed, LevelThreshold, PullNeed, ResistorHeat, Series,
    Values,
};
use modest_ohm::units::{Amps, Fraction, Hertz, Metres, Nominal, Ohms, Range, Volts, Watts};
use serde_json::Value;

fn case(id: &str) -> Value {
    let file = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cases").join(format!("{id}.json"));
    serde_json::from_str(&std::fs::read_to_string(file).unwrap()).unwrap()
}

/// Every expectation of a case of questions against what `answer` gives for its question.
fn questions(id: &str, answer: impl Fn(&Value, &str) -> Value) {
    let case = case(id);
    let asked = case["given"]["questions"].as_array().unwrap();
    let expect = case["expect"].as_array().unwrap();
    assert!(!expect.is_empty());
    for e in expect {
        let quantity = e["quantity"].as_str().unwrap();
        let (name, what) = quantity.split_once('.').unwrap();
        let question = asked.iter().find(|q| q["name"] == name).unwrap();
        let got = answer(&question["arguments"], what);
        match &e["value"] {
            Value::Number(want) => {
                let (want, got) = (want.as_f64().unwrap(), got.as_f64().unwrap());
                let bound = e["abs_tol"].as_f64().unwrap_or(0.0) + e["rel_tol"].as_f64().unwrap_or(0.0) * want.abs();
                assert!((got - want).abs() <= bound, "{id} {quantity}: {got} against {want}");
            }
            want => assert_eq!(got, *want, "{id} {quantity}"),
        }
    }
}

fn num(v: &Value, key: &str) -> f64 {
    v[key].as_f64().unwrap_or_else(|| panic!("{key} in {v}"))
}

#[test]
fn p06_led_resistor() {
    questions("p06-led-resistor", |a, what| {
        let vf = num(a, "vf");
        let need = LedNeed {
            supply: Nominal::new(Volts::new(num(a, "vs")), Volts::new(num(a, "vs_max"))),
            vf: Nominal::new(Volts::new(vf), Volts::new(vf * num(a, "vf_factor"))),
            diode: Nominal::new(Volts::new(num(a, "vdiode")), Volts::new(num(a, "vdiode_min"))),
            pin: Nominal::new(Ohms::new(num(a, "r_out")), Ohms::new(num(a, "r_out_worst"))),
            current: Amps::new(num(a, "i")),
            most: None,
            tolerance: Fraction::new(num(a, "r_tol")),
            rated: Watts::new(num(a, "rated_w")),
        };
        let series = Series::ALL.into_iter().find(|s| s.count() as u64 == a["series"].as_u64().unwrap()).unwrap();
        let size = size::led(&need, &Values::of_series(series));
        let chosen = size.chosen.unwrap();
        match what {
            "exact_ohm" => size.exact.get().into(),
            "chosen_ohm" => chosen.ohms.get().into(),
            "nominal_a" => chosen.nominal.get().into(),
            "worst_a" => chosen.worst.get().into(),
            "nominal_w" => chosen.nominal_heat.get().into(),
            "worst_w" => chosen.worst_heat.get().into(),
            "heat" => chosen.heat.word().into(),
            "undefined_current" => size.undefined.into(),
            other => panic!("{other}"),
        }
    });
}

#[test]
fn p08_divider() {
    questions("p08-divider", |a, what| {
        let need = DividerNeed {
            input: Range::new(Volts::new(num(a, "vin_min")), Volts::new(num(a, "vin_max"))),
            tolerance: Fraction::new(num(a, "tol")),
            most: Volts::new(num(a, "pin_max")),
            least: Volts::new(num(a, "vih")),
        };
        let d = size::divider_with(&need, Ohms::new(num(a, "r1")), Ohms::new(num(a, "r2")));
        match what {
            "nominal_max_v" => d.nominal.get().into(),
            "worst_high_v" => d.worst_high.get().into(),
            "worst_low_v" => d.worst_low.get().into(),
            "source_ohm" => d.source.get().into(),
            "current_a" => d.current.get().into(),
            "over_max" => d.over.into(),
            "below_vih" => d.below.into(),
            other => panic!("{other}"),
        }
    });
}

/// IEC 60063, tables 1 and 2: E3 to E24 in full, of the finer series the places where a slip would show.
#[test]
fn series_are_those_of_the_standard() {
    assert_eq!(Series::E3.decade(), [100, 220, 470]);
    assert_eq!(Series::E6.decade(), [100, 150, 220, 330, 470, 680]);
    assert_eq!(Series::E12.decade(), [100, 120, 150, 180, 220, 270, 330, 390, 470, 560, 680, 820]);
    let e24 = [
        100, 110, 120, 130, 150, 160, 180, 200, 220, 240, 270, 300, 330, 360, 390, 430, 470, 510, 560, 620, 680, 750,
        820, 910,
    ];
    assert_eq!(Series::E24.decade(), e24);
    let e48 = [
        100, 105, 110, 115, 121, 127, 133, 140, 147, 154, 162, 169, 178, 187, 196, 205, 215, 226, 237, 249, 261, 274,
        287, 301, 316, 332, 348, 365, 383, 402, 422, 442, 464, 487, 511, 536, 562, 590, 619, 649, 681, 715, 750, 787,
        825, 866, 909, 953,
    ];
    assert_eq!(Series::E48.decade(), e48);
    let e96 = Series::E96.decade();
    // Every other of E96 is E48, and of E192 is E96.
    assert_eq!(e96.iter().step_by(2).copied().collect::<Vec<_>>(), e48);
    assert_eq!(&e96[..8], [100, 102, 105, 107, 110, 113, 115, 118]);
    assert_eq!(&e96[88..], [825, 845, 866, 887, 909, 931, 953, 976]);
    let e192 = Series::E192.decade();
    assert_eq!(e192.iter().step_by(2).copied().collect::<Vec<_>>(), e96);
    assert_eq!(&e192[182..], [887, 898, 909, 920, 931, 942, 953, 965, 976, 988]);
    for series in Series::ALL {
        let decade = series.decade();
        assert_eq!(decade.len(), series.count(), "{series:?}");
        assert!(decade.is_sorted_by(|a, b| a < b) && decade[0] == 100 && decade.last().unwrap() < &1000, "{series:?}");
    }
}

/// Values are as they would be written, to the last bit, and the next one is next.
#[test]
fn values_over_decades() {
    let all = Series::E24.values(1.0, 1e6);
    assert_eq!(all.len(), 6 * 24 + 1);
    assert!(all.contains(&0.0047e6) && all.contains(&1.1) && all.contains(&68e3) && all.contains(&9.1));
    for series in Series::ALL {
        let values = series.values(10.0, 1e5);
        for pair in values.windows(2) {
            // A hair above the one is the other, a hair below the other the one.
            let (one, other) = (Ohms::new(pair[0]), Ohms::new(pair[1]));
            assert_eq!(size::next_larger(one * 1.0001, series), Some(other));
            assert_eq!(size::next_smaller(other * 0.9999, series), Some(one));
            assert_eq!(size::next_larger(one, series), Some(one));
            assert_eq!(size::next_smaller(other, series), Some(other));
        }
    }
    assert!(Series::E24.values(0.0, 10.0).is_empty() && Series::E24.values(10.0, 1.0).is_empty());
    assert_eq!(size::next_larger(Ohms::new(f64::NAN), Series::E12), None);
    assert_eq!(Series::of_name("e96"), Some(Series::E96));
    assert_eq!(Series::of_name("E95"), None);
}

fn led_need(current: f64) -> LedNeed {
    LedNeed {
        supply: Nominal::new(Volts::new(5.0), Volts::new(5.25)),
        vf: Nominal::new(Volts::new(2.0), Volts::new(1.8)),
        diode: Nominal::new(Volts::new(0.3), Volts::new(0.2)),
        pin: Nominal::new(Ohms::new(40.0), Ohms::new(30.0)),
        current: Amps::new(current),
        most: None,
        tolerance: Fraction::new(0.05),
        rated: Watts::new(0.25),
    }
}

/// The chosen resistor is the smallest of all values whose nominal current is no more than wanted.
#[test]
fn the_resistor_of_an_led_against_every_value() {
    for series in Series::ALL {
        let values = Values::of_series(series);
        for tenths in 1..400 {
            let need = led_need(f64::from(tenths) * 1e-4);
            let size = size::led(&need, &values);
            // Reckoned anew: I = (5 − 0.3 − 2)/(R + 40).
            let all = series.values(1.0, 1e7);
            let fits = |r: &&f64| 2.7 / (**r + 40.0) <= need.current.get() * (1.0 + 1e-9);
            let best = all.iter().find(fits).copied();
            assert_eq!(size.chosen.map(|c| c.ohms.get()), best, "{series:?} {tenths}");
            let chosen = size.chosen.unwrap();
            let worst = (5.25 - 0.2 - 1.8) / (chosen.ohms.get() * 0.95 + 30.0);
            assert!((chosen.worst.get() - worst).abs() < 1e-12);
            assert!((chosen.worst_heat.get() - worst * worst * chosen.ohms.get() * 0.95).abs() < 1e-12);
            assert!(size.naive > size.exact);
        }
    }
}

#[test]
fn out_of_the_drawer() {
    let drawer = Values::of_list([470.0, 100.0, 220.0, 100.0, 0.0].map(Ohms::new));
    assert_eq!(drawer, Values::Stock([100.0, 220.0, 470.0].map(Ohms::new).to_vec()));
    let size = size::led(&led_need(0.01), &drawer);
    // 2.7 V / 10 mA − 40 Ω = 230 Ω: the next larger one there is.
    assert_eq!(size.chosen.unwrap().ohms, Ohms::new(470.0));
    assert_eq!(size.others.iter().map(|o| o.ohms.get()).collect::<Vec<_>>(), [220.0]);
    // And where there is none, none is taken.
    assert_eq!(size::led(&led_need(0.002), &drawer).chosen, None);
    assert_eq!(ResistorHeat::of(Watts::new(0.15), Watts::new(0.25)), ResistorHeat::Pass);
    assert_eq!(ResistorHeat::of(Watts::new(0.1501), Watts::new(0.25)), ResistorHeat::Caution);
    assert_eq!(ResistorHeat::of(Watts::new(0.2501), Watts::new(0.25)), ResistorHeat::Danger);
}

fn rows(text: &str) -> Vec<size::StockRow> {
    let row = |(i, l): (usize, &str)| size::StockRow { line: i + 1, cells: l.split(',').map(str::to_owned).collect() };
    text.lines().enumerate().map(row).collect()
}

#[test]
fn lists_of_a_drawer() {
    let ohms = |text: &str| match size::stock(&rows(text)) {
        Ok(Values::Stock(list)) => list.iter().map(|o| o.get()).collect::<Vec<_>>(),
        other => panic!("{text}: {other:?}"),
    };
    let lines = |text: &str| size::stock(&rows(text)).unwrap_err().iter().map(|p| p.line).collect::<Vec<_>>();
    assert_eq!(ohms("what,value,pieces\nmetal film,330 Ω,25\ncarbon,4k7,0\n,10k,3\n\n"), [330.0, 10e3]);
    // Under its heading a plain number is a resistance; under none, or under another, it counts.
    assert_eq!(ohms("Ohms,Qty\n330,10\n47,0\n1000,2"), [330.0, 1000.0]);
    assert_eq!(ohms("number,resistance\n5,220\n0,100\n3,4k7"), [220.0, 4700.0]);
    assert_eq!(ohms("drawer,pieces\n330R,10\n2R2,1"), [2.2, 330.0]);
    assert_eq!(ohms("330R,5\n1M,2"), [330.0, 1e6]);
    assert_eq!(lines("330R,5\n12,5\nblue,5\n"), [2, 3]);
    assert_eq!(lines("330,5\n470,2\n"), [1, 2]);
    assert_eq!(lines("ohms\n330\nred\n-5\n0\n1 V"), [3, 4, 5, 6]);
    // Headed, and nothing below; headed, and nothing left.
    assert_eq!(lines("value\n"), [1]);
    assert_eq!(lines("value,count\n330,0\n"), [1]);
    assert_eq!(lines(""), [1]);
}

/// Every pair of a drawer, its corners by the voltage of four dividers each.
#[test]
fn dividers_against_every_pair() {
    let drawer: Vec<f64> = Series::E6.values(100.0, 100e3);
    let values = Values::of_list(drawer.iter().map(|o| Ohms::new(*o)));
    let mut seen = (0, 0);
    for (n, (least, most)) in [(1.7, 3.3), (1.0, 3.6), (0.9, 1.0), (2.0, 2.1), (1.0, 5.0)].into_iter().enumerate() {
        for tolerance in [0.0, 0.01, 0.05] {
            let (low, high) = (9.0 + n as f64 * 0.3, 14.8);
            let need = DividerNeed {
                input: Range::new(Volts::new(low), Volts::new(high)),
                tolerance: Fraction::new(tolerance),
                most: Volts::new(most),
                least: Volts::new(least),
            };
            let limits = DividerLimits { source: Ohms::new(10e3), current: Amps::new(1e-3), top: Ohms::new(0.0) };
            let found = size::divider(&need, &limits, &values, usize::MAX);
            let mut fitting = Vec::new();
            for r1 in &drawer {
                for r2 in &drawer {
                    let corner = |v: f64, a: f64, b: f64| v * r2 * b / (r1 * a + r2 * b);
                    let (up, down) = (1.0 + tolerance, 1.0 - tolerance);
                    let all = [(up, up), (up, down), (down, up), (down, down)];
                    let top = all.iter().map(|(a, b)| corner(high, *a, *b)).fold(0.0, f64::max);
                    let bottom = all.iter().map(|(a, b)| corner(low, *a, *b)).fold(f64::MAX, f64::min);
                    let source = r1 * r2 / (r1 + r2);
                    if top <= most && bottom >= least && source <= 10e3 && high / (r1 + r2) <= 1e-3 {
                        fitting.push((*r1, *r2));
                    }
                }
            }
            let mut got: Vec<(f64, f64)> = found.iter().map(|d| (d.top.get(), d.bottom.get())).collect();
            let margin = |d: &size::DividerSize| {
                ((1.0 - d.worst_high.get() / most).min(d.worst_low.get() / least - 1.0) * 100.0 + 1e-9).floor()
            };
            assert!(found.windows(2).all(|w| margin(&w[0]) >= margin(&w[1])), "{least} {most} {tolerance}");
            let ties = |w: &[size::DividerSize]| margin(&w[0]) > margin(&w[1]) || w[0].current <= w[1].current;
            assert!(found.windows(2).all(ties));
            got.sort_by(|a, b| a.partial_cmp(b).unwrap());
            assert_eq!(got, fitting, "{least} {most} {tolerance}");
            if fitting.is_empty() { seen.1 += 1 } else { seen.0 += 1 }
        }
    }
    assert!(seen.0 >= 5 && seen.1 >= 5, "{seen:?}");
}

/// Both ends of the range of a pull resistor, put back into the formulas it is for.
#[test]
fn pulls_at_their_ends() {
    let need = PullNeed {
        rail: Range::new(Volts::new(3.2), Volts::new(3.4)),
        thresholds: Range::new(Volts::new(0.8), Volts::new(2.4)),
        contact: Ohms::new(500.0),
        closed: Volts::new(0.1),
        leak: Amps::new(10e-6),
        wetting: Amps::new(0.0),
        most: Amps::new(5e-3),
        tolerance: Fraction::new(0.05),
    };
    let pull = size::pull(&need, &Values::of_series(Series::E24));
    let closed = 0.1 + (3.4 - 0.1) * 500.0 / (pull.least.get() + 500.0);
    assert!((closed - 0.8).abs() < 1e-9, "{closed}");
    assert!((3.2 - 10e-6 * pull.most.get() - 2.4).abs() < 1e-9);
    let chosen = pull.chosen.unwrap();
    assert!(pull.least <= chosen && chosen <= pull.most);
    // A contact made for power: 1 mA at 3.2 V less its 0.1 V, through 2.6 kΩ and its own 500 Ω at most.
    let power = size::pull(&PullNeed { wetting: Amps::new(1e-3), ..need }, &Values::of_series(Series::E24));
    assert!((power.most.get() - 2600.0).abs() < 1e-9);
    // An open collector whose low is no low.
    let bad = size::pull(&PullNeed { closed: Volts::new(0.9), ..need }, &Values::of_series(Series::E24));
    assert_eq!(bad.chosen, None);
    // I²C-bus specification, section 7.1: at 3.3 V and 3 mA 966.7 Ω; 400 kHz and 200 pF 1.77 kΩ; 100 kHz and 400 pF
    // 2.95 kΩ.
    let bus = |speed: f64, pf: f64| {
        let capacitance = Some(modest_ohm::units::Farads::new(pf * 1e-12));
        let bus = BusPull {
            rail: Volts::new(3.3),
            speed: Hertz::new(speed),
            devices: 2,
            length: Metres::new(0.0),
            capacitance,
        };
        size::bus_pull(&bus)
    };
    assert!((bus(400e3, 200.0).least.get() - 966.667).abs() < 1e-2);
    assert!((bus(400e3, 200.0).most.get() - 1770.3).abs() < 0.1);
    assert!((bus(100e3, 400.0).most.get() - 2950.5).abs() < 0.1);
    assert_eq!(size::bus_speed(Ohms::new(1770.0), modest_ohm::units::Farads::new(200e-12)), Hertz::new(400e3));
    assert_eq!(size::bus_speed(Ohms::new(1775.0), modest_ohm::units::Farads::new(200e-12)), Hertz::new(100e3));
}

fn level(sender: (f64, f64), receiver: (f64, f64)) -> LevelNeed {
    LevelNeed {
        sender: Range::new(Volts::new(sender.0), Volts::new(sender.1)),
        sender_ohms: Ohms::new(33.0),
        receiver: Range::new(Volts::new(receiver.0), Volts::new(receiver.1)),
        vih: LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(0.7) },
        vil: LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(0.3) },
        most: None,
        shift: Volts::new(0.0),
        rate: Hertz::new(10e3),
        length: Metres::new(0.5),
        bidirectional: false,
        tolerance: Fraction::new(0.05),
    }
}

fn ways(need: &LevelNeed) -> Vec<size::LevelOption> {
    size::level(need, &Values::of_series(Series::E24))
}

fn works(need: &LevelNeed) -> Vec<&'static str> {
    ways(need).iter().filter(|w| w.works()).map(|w| w.option).collect()
}

#[test]
fn ways_between_levels() {
    // 3.3 V up to 5 V: VOH 3.1 V is short of 0.7 · 5.25 V = 3.675 V.
    let up = level((3.2, 3.4), (4.75, 5.25));
    assert_eq!(works(&up), ["hct-buffer", "fet-two-way"]);
    let straight = &ways(&up)[0];
    assert!((straight.high_margin.get() - (3.1 - 3.675)).abs() < 1e-12);
    // At 800 kHz 10 kΩ and 47.5 pF rise in 1.05 µs, half a period is 0.625 µs.
    assert_eq!(works(&LevelNeed { rate: Hertz::new(800e3), ..up }), ["hct-buffer"]);
    // Both ways only the FET does.
    assert_eq!(works(&LevelNeed { bidirectional: true, ..up }), ["fet-two-way"]);
    // 5 V down to 3.3 V: (5.25 − 3.2 − 0.6) V / 33 Ω = 44 mA straight; 0.2 mA want 1.45 V/0.2 mA/0.95 = 7.6 kΩ.
    let down = level((4.75, 5.25), (3.2, 3.4));
    assert_eq!(works(&down), ["resistor", "divider", "tolerant-buffer", "fet-two-way"]);
    assert!(ways(&down)[0].why_not[0].contains("43.9 mA"), "{:?}", ways(&down)[0]);
    assert!(ways(&down)[1].what.starts_with("8.2 kΩ"), "{:?}", ways(&down)[1]);
    // The same supply: straight, and a FET shifter has nothing to do.
    let same = level((3.2, 3.4), (3.2, 3.4));
    assert_eq!(works(&same)[0], "straight");
    assert!(!works(&same).contains(&"fet-two-way"));
    // A ground that lies 0.8 V off eats the low.
    assert!(!works(&LevelNeed { shift: Volts::new(0.95), ..same }).contains(&"straight"));
    // Straight into an input that stands 5.5 V whatever its supply.
    assert!(works(&LevelNeed { most: Some(Volts::new(5.5)), ..down }).contains(&"straight"));
}
