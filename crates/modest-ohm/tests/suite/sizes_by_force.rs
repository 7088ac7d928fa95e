//! What the size functions choose, against every value there is: by the voltage and currents of the branch at all its
//! corners, not by the formulas that choose.

use modest_ohm::size::{self, LedNeed, LevelNeed, LevelThreshold, PullNeed, Series, Values};
use modest_ohm::units::{Amps, Fraction, Hertz, Metres, Nominal, Ohms, Range, Volts, Watts};
use proptest::prelude::*;

/// All corners of n figures, each at its low (0) or its high end (1).
fn corners(n: u32) -> impl Iterator<Item = Vec<usize>> {
    (0..1usize << n).map(move |bits| (0..n).map(|k| (bits >> k) & 1).collect())
}

/// The current of a branch by bisection: the voltage over the resistor and the pin grow with it until nothing is left.
fn branch_amps(supply: f64, drops: f64, ohms: f64) -> f64 {
    let (mut low, mut high) = (0.0, 1e3);
    for _ in 0..200 {
        let middle = 0.5 * (low + high);
        if drops + middle * ohms < supply { low = middle } else { high = middle }
    }
    low
}

fn any_series() -> impl Strategy<Value = Series> {
    prop::sample::select(Series::ALL.to_vec())
}

prop_compose! {
    fn any_led()(
        supply in 2.5..24.0f64, up in 0.0..0.1f64, vf in 1.6..3.4f64, vf_down in 0.0..0.15f64, diode in prop_oneof![Just(0.0), 0.2..0.9f64],
        pin in prop_oneof![Just(0.0), 20.0..100.0f64], current in 0.5e-3..0.03f64, most in prop::option::of(1.0..1.6f64), tolerance in 0.0..0.2f64,
    ) -> LedNeed {
        LedNeed {
            supply: Nominal::new(Volts::new(supply), Volts::new(supply * (1.0 + up))),
            vf: Nominal::new(Volts::new(vf), Volts::new(vf * (1.0 - vf_down))),
            diode: Nominal::new(Volts::new(diode), Volts::new(diode * 0.8)),
            pin: Nominal::new(Ohms::new(pin), Ohms::new(pin * 0.7)),
            current: Amps::new(current),
            most: most.map(|m| Amps::new(current * m)),
            tolerance: Fraction::new(tolerance),
            rated: Watts::new(0.25),
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// An LED's resistor is the smallest of all values that keeps the wanted current nominally and what it withstands
    /// at every corner, and there is none only where none does.
    #[test]
    fn the_resistor_of_an_led(need in any_led(), series in any_series(), few in any::<bool>()) {
        let all: Vec<f64> = if few { series.values(47.0, 2200.0) } else { series.values(1.0, 1e7) };
        let values = if few { Values::of_list(all.iter().map(|o| Ohms::new(*o))) } else { Values::of_series(series) };
        let fits = |ohms: f64, slack: f64| {
            let nominal = branch_amps(need.supply.nominal.get(), need.diode.nominal.get() + need.vf.nominal.get(), ohms + need.pin.nominal.get());
            let pair = |p: (f64, f64), at: usize| if at == 0 { p.0 } else { p.1 };
            let worst = corners(4).map(|c| {
                let drops = pair((need.diode.nominal.get(), need.diode.worst.get()), c[1]) + pair((need.vf.nominal.get(), need.vf.worst.get()), c[2]);
                let t = need.tolerance.get();
                let resistor = ohms * pair((1.0 - t, 1.0 + t), c[3]);
                branch_amps(pair((need.supply.nominal.get(), need.supply.worst.get()), c[0]), drops, resistor + need.pin.worst.get())
            }).fold(0.0, f64::max);
            nominal <= need.current.get() * (1.0 + slack) && need.most.is_none_or(|m| worst <= m.get() * (1.0 + slack))
        };
        let found = size::led(&need, &values);
        // A branch that cannot carry the wanted current has no answer, though any resistor is small enough.
        let lit = branch_amps(need.supply.nominal.get(), need.diode.nominal.get() + need.vf.nominal.get(), need.pin.nominal.get().max(1e-9));
        if lit <= need.current.get() {
            prop_assert!(found.chosen.is_none() || lit > need.current.get() * (1.0 - 1e-9));
        } else if let Some(chosen) = found.chosen {
            let place = all.iter().position(|v| *v == chosen.ohms.get()).unwrap();
            prop_assert!(fits(chosen.ohms.get(), 1e-7), "{chosen:?} does not");
            prop_assert!(place == 0 || !fits(all[place - 1], -1e-7), "{} would do", all[place - 1]);
            // What is passed over would have done but for its worst.
            if let Some(next) = found.passed_over {
                prop_assert!(next.ohms < chosen.ohms && next.nominal <= need.current * (1.0 + 1e-9));
                prop_assert!(next.worst > need.most.unwrap());
                prop_assert!(found.others.iter().any(|o| o.ohms == next.ohms));
            }
            prop_assert!(found.others.windows(2).all(|w| w[0].ohms < w[1].ohms));
        } else {
            prop_assert!(!fits(*all.last().unwrap(), -1e-7));
        }
    }
}

prop_compose! {
    fn any_pull()(
        rail in 1.8..12.0f64, spread in 0.0..0.1f64, vil in 0.15..0.4f64, vih in 0.5..0.85f64, contact in 1.0..2000.0f64,
        closed in prop_oneof![Just(0.0), 0.1..0.5f64], leak in 1e-8..50e-6f64, wetting in prop_oneof![Just(0.0), 0.1e-3..2e-3f64],
        most in 1e-3..20e-3f64, tolerance in 0.0..0.1f64,
    ) -> PullNeed {
        PullNeed {
            rail: Range::new(Volts::new(rail * (1.0 - spread)), Volts::new(rail * (1.0 + spread))),
            thresholds: Range::new(Volts::new(rail * vil), Volts::new(rail * vih)),
            contact: Ohms::new(contact),
            closed: Volts::new(closed),
            leak: Amps::new(leak),
            wetting: Amps::new(wetting),
            most: Amps::new(most),
            tolerance: Fraction::new(tolerance),
        }
    }
}

/// What a line does with a pull, by its currents: the voltage at the line are found from what flows into it and out of
/// it.
fn pull_does(need: &PullNeed, nominal: f64, slack: f64) -> bool {
    corners(2).all(|c| {
        let rail = if c[0] == 0 { need.rail.low.get() } else { need.rail.high.get() };
        let ohms = nominal * if c[1] == 0 { 1.0 - need.tolerance.get() } else { 1.0 + need.tolerance.get() };
        // Closed: the same current through both, from the rail to what is left at the contact.
        let (mut low, mut high) = (need.closed.get(), rail.max(need.closed.get()));
        for _ in 0..200 {
            let v = 0.5 * (low + high);
            if (rail - v) / ohms > (v - need.closed.get()) / need.contact.get() { low = v } else { high = v }
        }
        let amps = (rail - low) / ohms;
        let open = rail - need.leak.get() * ohms;
        low <= need.thresholds.low.get() + slack
            && open >= need.thresholds.high.get() - slack
            && amps <= need.most.get() * (1.0 + slack)
            && amps >= need.wetting.get() * (1.0 - slack)
    })
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]

    /// A pull that is chosen does it at every corner of rail and tolerance; where none is chosen, none of the series
    /// does.
    #[test]
    fn pulls(need in any_pull(), series in any_series()) {
        let found = size::pull(&need, &Values::of_series(series));
        match found.chosen {
            Some(ohms) => {
                prop_assert!(pull_does(&need, ohms.get(), 1e-7), "{ohms}: {found:?}");
                let amps = (need.rail.high - need.closed).get() / (ohms + need.contact).get();
                prop_assert!((found.current.get() - amps).abs() < 1e-12);
            }
            None => {
                // The rail of the closed contact is the highest for every limit but the wetting, so that a value could
                // only do better than the range by a hair.
                for ohms in series.values(1.0, 1e6) {
                    prop_assert!(!pull_does(&need, ohms, -1e-6), "{ohms} would do: {found:?}");
                }
            }
        }
    }
}

prop_compose! {
    fn any_level()(
        from in prop::sample::select(vec![1.8, 2.5, 3.3, 5.0]), to in prop::sample::select(vec![1.8, 2.5, 3.3, 5.0, 12.0]),
        spread in 0.0..0.08f64, vih in 0.5..0.8f64, vil in 0.15..0.4f64, shift in prop_oneof![Just(0.0), 0.0..0.4f64],
        rate in 1e2..2e6f64, length in 0.0..3.0f64, bidirectional in any::<bool>(), tolerance in 0.0..0.1f64,
    ) -> LevelNeed {
        LevelNeed {
            sender: Range::new(Volts::new(from * (1.0 - spread)), Volts::new(from * (1.0 + spread))),
            sender_ohms: Ohms::new(33.0),
            receiver: Range::new(Volts::new(to * (1.0 - spread)), Volts::new(to * (1.0 + spread))),
            vih: LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(vih) },
            vil: LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(vil) },
            most: None,
            shift: Volts::new(shift),
            rate: Hertz::new(rate),
            length: Metres::new(length),
            bidirectional,
            tolerance: Fraction::new(tolerance),
        }
    }
}

/// `1.50 kΩ in series` and `1.50 kΩ in series, 3.00 kΩ to ground`: the resistors of a way's words.
fn resistors(what: &str) -> Vec<f64> {
    let ohms = |piece: &str| {
        let text = piece.split(" in series").next().unwrap().split(" to ground").next().unwrap();
        modest_ohm::units::parse_quantity::<Ohms>(text.trim()).unwrap().get()
    };
    what.split(", ").map(ohms).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]

    /// A way that is said to work does so when a sender, the ground between and a receiver are thrown within their
    /// ranges: high is high, low is low, nothing is forced into the receiver's protection, and edges fit into half a
    /// period.
    #[test]
    fn ways_that_work_do(need in any_level()) {
        let series = Series::E24;
        for way in size::level(&need, &Values::of_series(series)).into_iter().filter(size::LevelOption::works) {
            let farads = 10e-12 + 75e-12 * need.length.get();
            let half = 0.5 / need.rate.get();
            for c in corners(5) {
                let pick = |p: Range<Volts>, at: usize| if at == 0 { p.low.get() } else { p.high.get() };
                let (from, to) = (pick(need.sender, c[0]), pick(need.receiver, c[1]));
                let shift = if c[2] == 0 { -need.shift.get() } else { need.shift.get() };
                let t = need.tolerance.get();
                let (up, down) = (1.0 + if c[3] == 0 { -t } else { t }, 1.0 + if c[4] == 0 { -t } else { t });
                let (vih, vil) = (need.vih.share.get() * to, need.vil.share.get() * to);
                // Seen from the receiver's ground.
                let (high, low) = (from - 0.1 + shift, 0.1 + shift);
                match way.option {
                    "straight" => {
                        prop_assert!(high >= vih && low <= vil, "{way:?}");
                        prop_assert!((from + shift - to - 0.6) / 33.0 <= 1e-3);
                        prop_assert!(!need.bidirectional || (to - 0.1 - shift >= need.vih.share.get() * from && (to - shift - from - 0.6) / 33.0 <= 1e-3));
                    }
                    "resistor" => {
                        let r = resistors(&way.what)[0] * up;
                        prop_assert!((from + shift - to - 0.6) / (33.0 + r) <= 1e-3 * (1.0 + 1e-9), "{way:?}");
                        prop_assert!(high.min(to + 0.6) >= vih && low <= vil && 2.2 * r * farads <= half && !need.bidirectional);
                    }
                    "divider" => {
                        let pair = resistors(&way.what);
                        let (a, b) = (pair[0] * up, pair[1] * down);
                        prop_assert!(high * b / (a + b) >= vih && low * b / (a + b) <= vil, "{way:?}");
                        prop_assert!((from + shift) * b / (a + b) <= to.max(need.receiver.low.get()) + 0.3 + 1e-9, "{way:?}");
                        prop_assert!(2.2 * pair[0] * pair[1] / (pair[0] + pair[1]) * farads <= half * (1.0 + 1e-9));
                    }
                    "hct-buffer" => {
                        prop_assert!(high >= 2.0 && low <= 0.8 && (4.5..=5.5).contains(&to) && !need.bidirectional);
                        prop_assert!(from + shift <= to + 0.6 && to - 0.1 >= vih && 0.1 <= vil, "{way:?}");
                    }
                    "tolerant-buffer" => {
                        let wants = if to >= 2.7 { (2.0, 0.8) } else if to >= 2.3 { (1.7, 0.7) } else { (0.65 * to, 0.35 * to) };
                        prop_assert!(high >= wants.0 && low <= wants.1 && (1.65..=3.6).contains(&to), "{way:?}");
                        prop_assert!(from + shift <= 5.5 && to - 0.1 >= vih && 0.1 <= vil && !need.bidirectional, "{way:?}");
                    }
                    "fet-two-way" => {
                        prop_assert!(to >= vih && 0.2 + shift <= vil && 2.2 * 10e3 * farads <= half, "{way:?}");
                        prop_assert!(need.sender.high != need.receiver.high);
                    }
                    other => panic!("{other}"),
                }
            }
        }
    }
}

/// A signal that either end sends, by hand.
#[test]
fn levels_in_both_directions() {
    let need = LevelNeed {
        sender: Range::new(Volts::new(3.2), Volts::new(3.4)),
        sender_ohms: Ohms::new(33.0),
        receiver: Range::new(Volts::new(4.75), Volts::new(5.25)),
        // TTL: 2.0 and 0.8 V at any supply.
        vih: LevelThreshold { volts: Volts::new(2.0), share: Fraction::new(0.0) },
        vil: LevelThreshold { volts: Volts::new(0.8), share: Fraction::new(0.0) },
        most: None,
        shift: Volts::new(0.0),
        rate: Hertz::new(10e3),
        length: Metres::new(0.3),
        bidirectional: true,
        tolerance: Fraction::new(0.05),
    };
    let ways = |need: &LevelNeed| size::level(need, &Values::of_series(Series::E12));
    // There it arrives by 3.1 − 2.0 V; back come 5.25 V into an input on 3.2 V: 1.45 V / 33 Ω = 43.9 mA.
    let straight = &ways(&need)[0];
    assert_eq!(straight.why_not.len(), 1);
    assert!(straight.why_not[0].starts_with("in the other direction: 43.9 mA flows through"), "{straight:?}");
    assert!((straight.high_margin.get() - 1.1).abs() < 1e-12);
    let working = |need: &LevelNeed| {
        ways(need).into_iter().filter(size::LevelOption::works).map(|w| w.option).collect::<Vec<_>>()
    };
    assert_eq!(working(&need), ["fet-two-way"]);
    // The FET rises to its rail: 3.2 − 2.0 V at the lower side is the smaller margin; down to 0.8 − 0.2 V.
    let fet = ways(&need).pop().unwrap();
    assert!((fet.high_margin.get() - 1.2).abs() < 1e-12 && (fet.low_margin.get() - 0.6).abs() < 1e-12, "{fet:?}");
    // Of one supply in both directions go straight.
    assert_eq!(working(&LevelNeed { receiver: need.sender, ..need }), ["straight"]);
    // 800 kHz is too fast for 10 kΩ: 2.2 · 10 kΩ · 32.5 pF = 715 ns of 625 ns.
    let fast = ways(&LevelNeed { rate: Hertz::new(800e3), ..need }).pop().unwrap();
    assert!(fast.why_not[0].contains("715 ns") && fast.why_not[0].contains("625 ns"), "{fast:?}");
    // A drawer without a resistor that is large enough: (5.25 − 3.2 − 0.6) V/0.2 mA − 33 Ω, 5 % more: 7.60 kΩ.
    let down = LevelNeed { sender: need.receiver, receiver: need.sender, bidirectional: false, ..need };
    let few = size::level(&down, &Values::of_list([Ohms::new(470.0), Ohms::new(820.0)]));
    assert!(few[1].why_not[0].starts_with("7.60 kΩ or more needed"), "{few:?}");
    assert_eq!(few[2].what, "470 Ω in series, 820 Ω to ground");
}
