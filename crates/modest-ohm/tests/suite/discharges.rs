//! Discharges by a second method: steps of time instead of steps of charge, with the figures of the electrical
//! reference typed in here; and every way in which a discharge ends.

use modest_ohm::review::{DischargeEnd, RuntimeRow};
use modest_ohm::units::{Range, Seconds, Volts, Watts};
use modest_ohm::{Plan, Review, Severity, size};

/// A class of cell: EMF at 100, 75, 50, 25, 10, 0 % of charge, Ω full, half full and empty, Ah at a current.
struct Class {
    name: &'static str,
    emf: [f64; 6],
    ohms: [f64; 3],
    /// Springs of a holder or welded links, Ω a cell.
    links: f64,
    charge: &'static [(f64, f64)],
    /// Between the points the charge, or its logarithm, is linear in the logarithm of the current.
    power_law: bool,
    rating: f64,
}

const CLASSES: [Class; 4] = [
    Class {
        name: "alkaline-aa",
        emf: [1.55, 1.35, 1.25, 1.15, 1.05, 0.9],
        ohms: [0.15, 0.425, 0.7],
        links: 0.065,
        charge: &[(0.025, 2.5), (0.5, 1.2), (1.0, 0.7)],
        power_law: true,
        rating: 1.0,
    },
    Class {
        name: "alkaline-9v",
        emf: [9.3, 8.1, 7.5, 6.9, 6.3, 5.4],
        ohms: [2.0, 4.0, 6.0],
        links: 0.065,
        charge: &[(0.025, 0.5), (0.2, 0.3)],
        power_law: true,
        rating: 0.2,
    },
    Class {
        name: "nimh-aa",
        emf: [1.4, 1.28, 1.25, 1.22, 1.15, 1.0],
        // 0.06 Ω·Ah/2 Ah half full.
        ohms: [0.027, 0.03, 0.06],
        links: 0.065,
        charge: &[(0.4, 2.0), (2.0, 1.86), (4.0, 1.76)],
        power_law: false,
        rating: 4.0,
    },
    Class {
        name: "li-ion-18650",
        emf: [4.2, 3.95, 3.75, 3.6, 3.45, 3.0],
        // 0.13 Ω·Ah/2.5 Ah half full; three cells are welded.
        ohms: [0.0468, 0.052, 0.104],
        links: 0.001,
        charge: &[(0.5, 2.5), (2.5, 2.425), (5.0, 2.325)],
        power_law: false,
        rating: 5.0,
    },
];

impl Class {
    fn emf(&self, left: f64) -> f64 {
        let at = [1.0, 0.75, 0.5, 0.25, 0.1, 0.0];
        let k = (1..6).find(|k| left >= at[*k]).unwrap_or(5);
        self.emf[k] + (left - at[k]) * (self.emf[k - 1] - self.emf[k]) / (at[k - 1] - at[k])
    }

    fn ah(&self, amps: f64) -> f64 {
        let list = self.charge;
        let (first, last) = (list[0], list[list.len() - 1]);
        if amps <= first.0 || list.len() == 1 {
            return first.1;
        }
        let Some(k) = (1..list.len()).find(|k| amps <= list[*k].0) else { return last.1 };
        let ((a, p), (b, q)) = (list[k - 1], list[k]);
        if self.power_law {
            p * (amps / a).powf((q / p).ln() / (b / a).ln())
        } else {
            p + (q - p) * (amps / a).ln() / (b / a).ln()
        }
    }

    /// Of a cell of the class's own size, without its links.
    fn cell_ohms(&self, left: f64) -> f64 {
        let [full, half, empty] = self.ohms;
        if left >= 0.5 { half + (full - half) * (left - 0.5) / 0.5 } else { empty + (half - empty) * left / 0.5 }
    }

    /// Runs a pack down at constant power in steps of time; hours to where its voltage falls below `least` or it is
    /// empty, what is left, and its largest current.
    fn run(&self, (s, p): (usize, usize), watts: f64, least: f64) -> (f64, f64, f64) {
        let (s, p) = (s as f64, p as f64);
        let mut capacity = self.ah(0.0) * p;
        let mut result = (0.0, 1.0, 0.0);
        // The charge goes by the mean current, which is known at the end.
        for _ in 0..40 {
            let (mut hours, mut left, mut amp_hours, mut largest) = (0.0, 1.0, 0.0, 0.0f64);
            let dt = capacity / (watts / (s * self.emf[5])) / 20_000.0;
            while left > 0.0 {
                let emf = s * self.emf(left);
                let ohms = (self.cell_ohms(left) + self.links) * s / p;
                let inside = emf * emf - 4.0 * ohms * watts;
                let volts = if inside < 0.0 { 0.0 } else { (emf + inside.sqrt()) / 2.0 };
                if volts < least {
                    break;
                }
                let amps = watts / volts;
                largest = largest.max(amps);
                left -= amps * dt / capacity;
                amp_hours += amps * dt;
                hours += dt;
            }
            result = (hours, left.max(0.0), largest);
            if hours == 0.0 {
                break;
            }
            let next = self.ah(amp_hours / hours / p) * p;
            if (next / capacity - 1.0).abs() < 1e-6 {
                break;
            }
            capacity = next;
        }
        result
    }
}

#[test]
fn sized_batteries_keep_what_they_promise() {
    let questions = [
        (6.0, 4.5, 6.5, 3.0),
        (5.0, 9.0, 13.0, 4.0),
        (0.4, 4.0, 9.5, 2.0),
        (20.0, 10.0, 17.0, 2.0),
        (1.0, 3.0, 4.3, 12.0),
        (60.0, 18.0, 30.0, 1.5),
    ];
    let mut packs = 0;
    for (watts, least, most, hours) in questions {
        for class in &CLASSES {
            let need = size::BatteryNeed {
                power: Watts::new(watts),
                volts: Range::new(Volts::new(least), Volts::new(most)),
                time: Seconds::new(hours * 3600.0),
                cell_ah: None,
            };
            let does = |s: usize, p: usize| {
                let (lasts, _, largest) = class.run((s, p), watts, least);
                lasts >= hours * 1.005 && largest <= class.rating * p as f64 * 0.995
            };
            let most_series = (most / class.emf[0] + 1e-9) as usize;
            let what = format!("{watts} W within {least} .. {most} V for {hours} h from {}", class.name);
            let Ok(pack) = size::battery(class.name, &need) else {
                assert!((1..=most_series).all(|s| !does(s, 60)), "{what}: one does it");
                continue;
            };
            packs += 1;
            let (lasts, _, largest) = class.run((pack.series, pack.parallel), watts, least);
            let near = |got: f64, want: f64| (got / want - 1.0).abs() < 0.005;
            assert!(near(pack.lasts.get(), lasts * 3600.0), "{what}: {pack:?}, second method {lasts} h");
            assert!(near(pack.current.get(), largest), "{what}: {pack:?}, second method {largest} A");
            assert!(pack.series <= most_series && pack.lasts >= need.time && pack.current <= pack.rating, "{what}");
            // None with fewer cells does it.
            for s in 1..=most_series {
                for p in 1..(pack.series * pack.parallel).div_ceil(s) {
                    assert!(s * p >= pack.series * pack.parallel || !does(s, p), "{what}: {s} × {p} against {pack:?}");
                }
            }
        }
    }
    assert!(packs >= 12, "only {packs} packs were compared");
}

#[test]
fn why_no_battery_does_it() {
    let need = |watts: f64, least: f64, most: f64| size::BatteryNeed {
        power: Watts::new(watts),
        volts: Range::new(Volts::new(least), Volts::new(most)),
        time: Seconds::new(3600.0),
        cell_ah: None,
    };
    assert_eq!(size::battery("lemon", &need(1.0, 3.0, 5.0)), Err(size::NoBattery::UnknownCell));
    assert_eq!(size::battery("lead-acid-12v", &need(1.0, 9.0, 15.0)), Err(size::NoBattery::ChargeUnknown));
    let known = size::BatteryNeed { cell_ah: Some(7.0), ..need(1.0, 3.0, 5.0) };
    assert_eq!(size::battery("lead-acid-12v", &known), Err(size::NoBattery::TooHigh { full: Volts::new(12.8) }));
    // Three NiMH cells of 1.4 V are 4.2 V, below 5 V; four are 5.6 V, above 5.5 V.
    let low = size::battery("nimh-aa", &need(1.0, 5.0, 5.5)).unwrap_err();
    assert!(matches!(low, size::NoBattery::TooLow { full } if (full.get() - 4.2).abs() < 1e-9), "{low:?}");
    // Sixty strings of three hold 60 · 2.5 Ah · 11.1 V, 1.7 kWh: not 2 kW for an hour.
    let much = size::battery("li-ion-18650", &need(2000.0, 9.0, 13.0)).unwrap_err();
    assert_eq!(much, size::NoBattery::TooMany { most: 60 });
}

fn review(body: &str) -> Review {
    let text = format!("format = 1\n{body}");
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn worst(review: &Review, battery: &str) -> RuntimeRow {
    review.runtimes().into_iter().find(|r| r.battery == battery && r.scenario.name() == "worst").unwrap()
}

fn pack(more: &str) -> String {
    format!("[supply.pack]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nseries = 3\nkeyed = true\n{more}\n")
}

/// A load straight at the pack; a converter takes its power from it in `watts`.
fn lamp(watts: f64, minimum: f64) -> String {
    format!(
        "[load.lamp]\nfrom = \"pack\"\ncable = \"0 m 12 AWG\"\npower = \"{watts} W\"\nvoltage = \"11 V\"\n\
         minimum = \"{minimum} V\"\nrecommended = \"{minimum} V .. 13 V\"\n"
    )
}

/// The plan's discharge against the second method: 3 cells, 6 W, down to what the lamp needs.
#[test]
fn a_discharge_in_steps_of_time() {
    let class = &CLASSES[3];
    for (watts, minimum) in [(6.0, 9.5), (6.0, 10.4), (15.0, 9.3), (2.0, 9.0)] {
        let r = review(&format!("{}{}", pack(""), lamp(watts, minimum)));
        let row = worst(&r, "pack");
        let (hours, left, _) = class.run((3, 1), watts, minimum);
        assert!(
            (row.lasts.get() / 3600.0 / hours - 1.0).abs() < 0.01,
            "{watts} W: {} h, {hours} h",
            row.lasts.get() / 3600.0
        );
        assert!((row.left.get() - left).abs() < 0.005, "{watts} W: {} left, {left}", row.left);
        assert_eq!(row.end, DischargeEnd::Stops("lamp".into()));
        assert_eq!((row.end.word(), row.end.consumer()), ("consumer", Some("lamp")));
    }
}

/// 10.5 V of three cells lie between 75 % and 0 %: the cut-off acts before the lamp stops at 9.3 V.
#[test]
fn the_cut_off_acts_first() {
    let r = review(&format!("{}{}", pack("cut-off = \"10.5 V\""), lamp(6.0, 9.3)));
    let row = worst(&r, "pack");
    assert_eq!(row.end, DischargeEnd::CutOff("pack".into()));
    assert_eq!((row.end.word(), row.end.consumer()), ("cut-off", None));
    assert_eq!(row.end.to_string(), "cut-off of pack");
    let (hours, left, _) = CLASSES[3].run((3, 1), 6.0, 10.5);
    assert!((row.lasts.get() / 3600.0 / hours - 1.0).abs() < 0.01);
    // Of three cells at 3.5 V and more a good part of the charge is left: that is more than a quarter or it is not.
    let sag = r.findings().iter().find(|f| f.code == "battery-stops-early");
    assert_eq!(sag.is_some(), left > 0.25, "{left} left");
    // One that lasts to the end of the charge has none left to speak of.
    let r = review(&format!("{}{}", pack("cut-off = \"11 V\""), lamp(6.0, 9.3)));
    let sag = r.findings().iter().find(|f| f.code == "battery-stops-early").unwrap();
    assert!(sag.message.starts_with("the cut-off of `pack` acts at"), "{}", sag.message);
    assert_eq!(sag.severity, Severity::Fault);
}

/// A resistance draws on whatever is there: nothing stops, and the battery is empty at the end.
#[test]
fn an_empty_battery() {
    let r = review(&format!(
        "{}[load.heater]\nfrom = \"pack\"\ncable = \"0 m 12 AWG\"\nresistance = \"24 Ω\"\n",
        pack("capacity = \"2 Ah\"")
    ));
    let row = worst(&r, "pack");
    assert_eq!(row.end, DischargeEnd::Empty);
    assert_eq!(row.end.to_string(), "nothing; it is empty");
    assert!(row.left.get() < 1e-6, "{}", row.left);
    // By hand, stiff: dt = Q·(24 Ω + R)/EMF ds with R about 0.4 Ω of 24, cells of 2 Ah.
    let pieces = 10_000;
    let inverse: f64 = (0..pieces)
        .map(|k| {
            let left = (f64::from(k) + 0.5) / f64::from(pieces);
            let ohms = 24.0 + 3.0 * (2.5 / 2.0 * CLASSES[3].cell_ohms(left) + 0.001);
            ohms / (3.0 * CLASSES[3].emf(left)) / f64::from(pieces)
        })
        .sum();
    // The mean current is 0.23 C, at which a little less than 2 Ah come out.
    let charge = CLASSES[3].ah(1.0 / inverse * 2.5 / 2.0) * 2.0 / 2.5;
    assert!((row.lasts.get() / (charge * 3600.0 * inverse) - 1.0).abs() < 1e-3, "{} s", row.lasts.get());
}

/// More power than the full pack can give through its resistance: no moment at which it works.
#[test]
fn a_feed_that_collapses_on_the_way_down() {
    // P = V0²/(4·R) with R of 3 cells of 20 Ah, 6.5 mΩ half full and 1 mΩ of link each, and 2 × 1 Ω of cables: 19.6 W
    // full.
    let lead = "cable = { feed = \"1 Ω\", return = \"1 Ω\", ampacity = \"10 A\" }";
    let body = |watts: f64| {
        format!(
            "{}[load.pump]\nfrom = \"pack\"\n{lead}\npower = \"{watts} W\"\nvoltage = \"12 V\"\nminimum = \"1 V\"\n\
             recommended = \"2 V .. 13 V\"\n",
            pack("capacity = \"20 Ah\"")
        )
    };
    let row = worst(&review(&body(16.0)), "pack");
    assert_eq!(row.end, DischargeEnd::Collapse);
    assert_eq!(row.end.word(), "collapse");
    // (3·E)² = 4·16·(2 + 3·(R(s) + 1 mΩ)): the charge at which the pump can no longer be fed.
    let lasts_to = |s: f64| {
        let (emf, ohms) = (3.0 * CLASSES[3].emf(s), 2.0 + 3.0 * (CLASSES[3].cell_ohms(s) * 2.5 / 20.0 + 0.001));
        emf * emf - 4.0 * 16.0 * ohms
    };
    let (mut low, mut high) = (0.0, 1.0);
    while high - low > 1e-9 {
        let middle = 0.5 * (low + high);
        if lasts_to(middle) > 0.0 { high = middle } else { low = middle }
    }
    assert!((row.left.get() - high).abs() < 2e-3, "{} left, by hand {high}", row.left);
    // 20 W never works: it lasts no time at all.
    let never = review(&body(20.0));
    let row = worst(&never, "pack");
    assert_eq!((row.lasts.get(), row.end.word()), (0.0, "collapse"));
    assert!(never.findings().iter().any(|f| f.code == "feed-collapses"));
}

/// Two packs over diodes: the higher one is drawn on first; both rows tell the same end.
#[test]
fn two_batteries_run_down_together() {
    let two = "[supply.a]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nseries = 3\nkeyed = true\n\
         [supply.b]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nseries = 3\nkeyed = true\ncapacity = \"5 Ah\"\n\
         [diode.from-a]\nfrom = \"a\"\ncable = \"0 m 12 AWG\"\ncurrent = \"5 A\"\nvf = \"0.3 V\"\nresistance = \"50 mΩ\"\n\
         [diode.from-b]\nfrom = \"b\"\ncable = \"0 m 12 AWG\"\ncurrent = \"5 A\"\nvf = \"0.3 V\"\nresistance = \"50 mΩ\"\n\
         [link.or]\nbetween = [\"from-a\", \"from-b\"]\nresistance = \"1 mΩ\"\n\
         [ground.tie]\nbetween = [\"a\", \"b\"]\nresistance = \"1 mΩ\"\n\
         [load.lamp]\nfrom = \"from-a\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nvoltage = \"11 V\"\nminimum = \"9 V\"\n\
         recommended = \"9 V .. 13 V\"\n";
    let r = review(two);
    let (a, b) = (worst(&r, "a"), worst(&r, "b"));
    assert_eq!(a.lasts, b.lasts);
    assert_eq!(a.end, b.end);
    // b has twice the charge; they keep to equal voltage, so that both stand at about the same charge in the end.
    assert!((a.left.get() - b.left.get()).abs() < 0.05, "{} and {}", a.left, b.left);
    // 7.5 Ah together at 1 A, less what is left.
    let hours = 2.5 * (1.0 - a.left.get()) + 5.0 * (1.0 - b.left.get());
    assert!((a.lasts.get() / 3600.0 / hours - 1.0).abs() < 2e-3, "{} h, by hand {hours}", a.lasts.get() / 3600.0);
}

/// `until` is what a sag is measured against: the same pack, the same lamp.
#[test]
fn a_sag_is_measured_against_the_wish() {
    let row = worst(&review(&format!("{}{}", pack(""), lamp(6.0, 10.8))), "pack");
    let left = row.left.get();
    for (until, sags) in [(left - 0.02, true), (left + 0.02, false)] {
        let r = review(&format!("{}{}", pack(&format!("reserve = \"{:.2} %\"", until * 100.0)), lamp(6.0, 10.8)));
        assert_eq!(r.findings().iter().any(|f| f.code == "battery-stops-early"), sags, "until {until}, {left} left");
    }
}
