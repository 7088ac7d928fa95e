//! Closed forms against what they withstand for: a fuse's body step by step, and LEDs by the exponential law of their
//! junctions.

use modest_ohm::size::{self, FuseStart};
use modest_ohm::tables::{FuseFamily, FuseSpeed};
use modest_ohm::units::{Amps, Seconds};
use modest_ohm::views::StripRow;
use modest_ohm::{Corner, Plan, Select};

/// The heat of a blade fuse's body, as a share of what melts it beyond that of the running current, step by step: it
/// takes in i²/(κ·In²) and loses θ/τ, with τ such that 1.35 times its rating melts it after all.
fn body(start: f64, runs: f64, time: f64, rating: f64) -> f64 {
    const KAPPA_S: f64 = 1.1;
    const STEP_S: f64 = 2e-5;
    let tau = KAPPA_S / 1.35f64.powi(2);
    let before = (runs / (1.35 * rating)).powi(2);
    let (mut heat, mut most, mut t) = (before, before, 0.0);
    while t < 3.0 * time {
        let amps = runs + (start - runs) * (-3.0 * t / time).exp();
        heat += STEP_S * (amps * amps / (KAPPA_S * rating * rating) - heat / tau);
        most = f64::max(most, heat);
        t += STEP_S;
    }
    (most - before) / (1.0 - before)
}

/// From a small pump to four gear motors, 0.1 s to 0.3 s: within a tenth of the body, and never milder than it.
#[test]
fn a_start_heats_a_fuse_as_its_body_does() {
    let mut compared = 0;
    for time in [0.1, 0.2, 0.3] {
        for (start, runs) in [(18.1, 1.6), (36.0, 6.0), (5.0, 0.5), (16.4, 1.6), (8.0, 2.0), (60.0, 10.0)] {
            for rating in [1.0, 2.0, 3.0, 5.0, 7.5, 10.0, 15.0, 20.0, 30.0].map(Amps::new) {
                let need = FuseStart {
                    start: Amps::new(start),
                    runs: Amps::new(runs),
                    filaments: Amps::new(0.0),
                    time: Seconds::new(time),
                    hot: Seconds::new(0.03),
                    rating,
                    family: FuseFamily::Blade,
                    speed: FuseSpeed::Fast,
                };
                // What its running current opens is another matter.
                if runs > rating.get() {
                    continue;
                }
                let (said, simulated) = (size::fuse_start(&need), body(start, runs, time, rating.get()));
                let ratio = said / simulated;
                assert!((0.99..=1.10).contains(&ratio), "{need:?}: {said} against {simulated}");
                compared += 1;
            }
        }
    }
    assert!(compared > 60, "{compared}");
}

/// The heat of a cold filament above that of its running current, in 1 Ω, step by step: tungsten whose resistance rises
/// with T^1.2, that takes in V²/R and sheds T⁴, `ratio` times its running current of 1 A at 300 K. Until it is within a
/// tenth of its running current: seconds and A²s.
fn filament(ratio: f64) -> (f64, f64) {
    const STEP: f64 = 1e-5;
    let hot: f64 = 300.0 * ratio.powf(1.0 / 1.2);
    let (mut kelvin, mut heat, mut t, mut time) = (300.0f64, 0.0, 0.0, 0.0);
    loop {
        let amps = (kelvin / hot).powf(-1.2);
        if amps > 1.1 {
            time = t;
        } else if amps < 1.001 {
            return (time, heat);
        }
        heat += STEP * (amps * amps - 1.0);
        let sheds = (kelvin.powi(4) - 300f64.powi(4)) / (hot.powi(4) - 300f64.powi(4));
        kelvin += STEP * hot * (amps - sheds);
        t += STEP;
    }
}

/// A quarter of the heat of a motor's law in the same time: by the step 0.12 .. 0.27 of it, for 15 .. 8 times as much
/// cold.
#[test]
fn a_filament_heats_a_fuse_for_a_shorter_time() {
    for ratio in [8.0, 12.0, 15.0] {
        let (time, heat) = filament(ratio);
        let said = size::fuse_start(&FuseStart {
            start: Amps::new(1.0),
            filaments: Amps::new(ratio - 1.0),
            runs: Amps::new(1.0),
            time: Seconds::new(0.0),
            hot: Seconds::new(time),
            rating: Amps::new(10.0),
            family: FuseFamily::Blade,
            speed: FuseSpeed::Fast,
        });
        // As a share of what melts a 10 A blade fuse that carries 1 A.
        let stepped = heat / (1.1 * 100.0 * (1.0 - (1.0f64 / 13.5).powi(2)) * (1.0 + time / 1.2));
        assert!((0.9..2.2).contains(&(said / stepped)), "{ratio}: {said} against {stepped}");
    }
}

/// The current of a group of three white LEDs with its resistor, by the law of their junctions: 50 mV · ln(I/Is + 1)
/// and 11.1 Ω a die, 3.1 V at 20 mA; three dies side by side carry 60 mA.
struct Group {
    resistor: f64,
}

impl Group {
    const THERMAL_V: f64 = 0.05;
    const DIE_OHMS: f64 = 11.1;
    const DIES: f64 = 3.0;

    fn saturation(&self) -> f64 {
        0.020 * (-(3.1 - 0.020 * Self::DIE_OHMS) / Self::THERMAL_V).exp()
    }

    fn volts(&self, amps: f64) -> f64 {
        let die = amps / Self::DIES;
        3.0 * (Self::THERMAL_V * (die / self.saturation()).ln_1p() + die * Self::DIE_OHMS) + amps * self.resistor
    }

    fn amps(&self, volts: f64) -> f64 {
        let (mut low, mut high) = (0.0, 1.0);
        for _ in 0..60 {
            let middle = (low + high) / 2.0;
            if self.volts(middle) < volts { low = middle } else { high = middle }
        }
        low
    }
}

/// Strip current, and the light of the last group as a share of the first one's, of groups fed at one end.
fn ladder(groups: usize, ohms_between: f64, source: f64, group: &Group) -> (f64, f64) {
    // From the last group's voltage back to the source: each step adds what all behind it draw.
    let walk = |last: f64| {
        let (mut volts, mut amps, mut first) = (last, 0.0, 0.0);
        for k in 0..groups {
            first = group.amps(volts);
            amps += first;
            let step = if k + 1 == groups { ohms_between / 2.0 } else { ohms_between };
            volts += amps * step;
        }
        (volts, amps, first)
    };
    let (mut low, mut high) = (0.0, source);
    for _ in 0..60 {
        let middle = (low + high) / 2.0;
        if walk(middle).0 < source { low = middle } else { high = middle }
    }
    let (_, amps, first) = walk(low);
    (amps, group.amps(low) / first)
}

fn strip(length: f64, power: f64) -> StripRow {
    let text = format!(
        "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"60 A\"\n\
         [strip.shelf]\npart = \"plain-12v-white\"\nfrom = \"wall\"\ncable = \"0 m 6 mm²\"\nlength = \"{length} m\"\n\
         leds = \"60 /m\"\npower = \"{power} W/m\"\ncopper = \"0.1 Ω/m ± 0 %\"\n"
    );
    let review = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}")).review();
    let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), ..Select::default() };
    review.strips(&select).remove(0).row
}

/// The straight line through 10 % and 100 % of the current (knee at 2.75 V a white LED) against the junctions
/// themselves: the strip's current within 2 %, the light at its end within a point and a half (1.3 where half of it is
/// missing).
#[test]
fn the_line_of_a_string_is_as_good_as_its_junctions() {
    // At 10.07 V the line says 9.7 of 20 mA, the junctions 9.3.
    let alone = Group { resistor: (12.0 - 9.3) / 0.060 };
    assert!((20.0 * alone.amps(10.07) / 0.060 - 9.3).abs() < 0.15, "{}", 20.0 * alone.amps(10.07) / 0.060);
    for (length, power) in [(2.0, 14.4), (5.0, 14.4), (5.0, 9.6), (5.0, 4.8), (10.0, 4.8)] {
        let solved = strip(length, power);
        let groups = (length * 20.0) as usize;
        let full = power / 12.0 / 20.0;
        // Dies of the size that carries this current at 3.1 V.
        let scale = full / 0.060;
        let group = Group { resistor: (12.0 - 9.3) / 0.060 };
        let (amps, light) = ladder(groups, 2.0 * 0.1 / 20.0 * scale, 12.0, &group);
        let amps = amps * scale;
        assert!(
            (solved.current.get() / amps - 1.0).abs() < 0.02,
            "{length} m {power} W/m: {} A, {amps} A",
            solved.current
        );
        let line = |v: f64| (v - 8.25) / (12.0 - 8.25);
        let falls = line(solved.lowest.get()) / line(solved.highest.get());
        assert!((falls - light).abs() < 0.015, "{length} m {power} W/m: {falls} against {light}");
    }
}

/// For how long three motors of 12 V/4.5 A that run with 0.4 A hold a supply of 12 V that limits at 5.5 A below 9.6 V,
/// step by step, s: back EMF, a load that grows from rest (0.4 A · tanh(e/0.24 V)), the supply's voltage or its limit,
/// whichever is less.
fn low_for(start_s: f64) -> f64 {
    const STEP: f64 = 1e-5;
    let ohms: f64 = 12.0 / 4.5;
    let (mut back_v, mut low) = (0.0f64, 0.0);
    for _ in 0..200_000 {
        let each = f64::min((12.0 - back_v) / ohms, 5.5 / 3.0);
        if back_v + each * ohms >= 9.6 {
            break;
        }
        let load = 0.4 * (back_v / 0.24).tanh();
        back_v += STEP * (each - load) * ohms / (start_s / 3.0);
        low += STEP;
    }
    low
}

#[test]
fn motors_at_a_limit_hold_it_low_as_long_as_by_the_step() {
    for start in ["100 ms", "240 ms", "400 ms"] {
        let motors: String = ["grey", "bay", "roan"]
            .map(|name| {
                format!(
                    "[motor.{name}]\nfrom = \"wall\"\ncable = \"0 m 14 AWG\"\ncurrent = \"0.4 A\"\nstall = \"4.5 A\"\n\
                     start-time = \"{start}\"\nvoltage = \"12 V\"\nat-power-on = \"off\"\n"
                )
            })
            .concat();
        let text = format!(
            "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V ± 0 %\"\ncurrent = \"5 A\"\n\
             limit = \"5.5 A, hiccup\"\nresistance = \"0 Ω\"\n{motors}"
        );
        let review = crate::common::review(&text);
        let surge =
            crate::common::found(&review, "supply-surge", "wall").unwrap_or_else(|| panic!("no surge: {start}"));
        let said = crate::common::evidence(surge, "low_for");
        let stepped = low_for(start.trim_end_matches(" ms").parse::<f64>().unwrap() / 1e3);
        assert!((said / stepped - 1.0).abs() < 0.03, "{start}: {said} against {stepped}");
    }
}
