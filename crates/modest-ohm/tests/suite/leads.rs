//! Wires, fuses and what protects them: the case files, brute force over the standard rows, and the solver's own short
//! against the calculation along the way.

use std::fmt::Write as _;

use modest_ohm::size::{self, WireNeed, WireProtection};
use modest_ohm::tables::{FuseFamily, WireSize};
use modest_ohm::units::{Amps, Celsius, Fraction, Metres, Ohms, Volts};
use modest_ohm::{Corner, Plan, Select, Severity};
use modest_ohm_dense::model::Dice;
use proptest::prelude::*;
use proptest::test_runner::RngSeed;
use serde_json::Value;

fn case(id: &str) -> Value {
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("tests/cases/{id}.json"));
    serde_json::from_str(&std::fs::read_to_string(path).unwrap()).unwrap()
}

/// What a question of a case answers, by the quantity's name behind the dot.
fn answers(function: &str, a: &Value) -> Vec<(&'static str, Value)> {
    let of = |key: &str| a[key].as_f64();
    let amps = |key: &str| Amps::new(of(key).unwrap());
    match function {
        "fuse_choose" => {
            let wires: Vec<Amps> =
                a["wire_amps"].as_array().unwrap().iter().map(|w| Amps::new(w.as_f64().unwrap())).collect();
            let family = FuseFamily::ALL.into_iter().find(|f| Some(f.word()) == a["kind"].as_str()).unwrap();
            let fit =
                size::fuse(amps("i_cont"), &wires, family, of("load_factor").unwrap(), of("ampacity_factor").unwrap());
            vec![("needed_a", fit.needed.get().into()), ("rating_a", fit.rating.map(|r| r.get()).into())]
        }
        "fuse_clear" => {
            let ohms = |key: &str| Ohms::new(of(key).unwrap());
            let volts = Volts::new(of("v").unwrap());
            let c = size::fuse_clears(volts, ohms("rs"), ohms("r_loop"), amps("rating"), of("factor").unwrap());
            vec![("prospective_a", c.prospective.get().into()), ("clears", c.clears.into())]
        }
        "wire_protection" => {
            let guarded = size::wire_protection(&WireProtection {
                prospective: amps("prospective_a"),
                far: amps("prospective_a"),
                limit: of("limit_low_a").map(|lo| modest_ohm::units::Range::new(Amps::new(lo), amps("limit_high_a"))),
                fuse: of("fuse_rating").map(|r| (Amps::new(r), of("opens_from").unwrap())),
                ampacity_factor: of("ampacity_factor").unwrap(),
                ampacity: amps("ampacity_a"),
            });
            // The cases call an advisory advice.
            let word = |s: Severity| if s == Severity::Advisory { "advice" } else { s.word() };
            let verdict = guarded.severity.map_or("pass", word);
            vec![
                ("opens", guarded.opens.into()),
                ("long_a", guarded.sustained_fault.get().into()),
                ("verdict", verdict.into()),
            ]
        }
        "wire_ohm_per_m" => {
            let size = wire_size(a);
            let solid = size != WireSize::Mm2(1.5) && a.get("stranded").is_none();
            let r = size::wire_ohms_per_metre(size, solid, Celsius::new(of("temp_c").unwrap()));
            vec![("value", r.get().into())]
        }
        "ampacity" => {
            let celsius = |key: &str| Celsius::new(of(key).unwrap());
            let pairs = a["pairs"].as_u64().unwrap() as usize;
            let amps = size::ampacity(wire_size(a), Some(celsius("t_ins_c")), celsius("ambient_c"), pairs);
            vec![("value", amps.get().into())]
        }
        other => panic!("no answer to {other}"),
    }
}

fn wire_size(a: &Value) -> WireSize {
    match a["awg"].as_i64() {
        Some(n) => WireSize::Awg(i32::try_from(n).unwrap()),
        None => WireSize::Mm2(a["mm2"].as_f64().unwrap()),
    }
}

/// Answers of the cases that were computed by the table of ampacities before: one law for all sizes, by hand. For 16
/// AWG, 1.3087 mm², 14.6·S^0.63 · √(15/40 · 1.1965/1.1572) at 60 °C insulation and 45 °C of air; for 1.5 mm² among
/// three pairs · √(30/40) · 0.7; for 18 AWG at 60 °C insulation and 20 °C of air √(40/40 · 1.1965/1.1572), held at what
/// 30 °C give.
fn corrected(quantity: &str) -> Option<f64> {
    match quantity {
        "amp16.value" => Some(14.6 * 1.308_74f64.powf(0.63) * (0.375f64 * 1.1965 / 1.1572).sqrt()),
        "amp15b.value" => Some(14.6 * 1.5f64.powf(0.63) * 0.75f64.sqrt() * 0.7),
        "cool.value" => Some(14.6 * 0.823_08f64.powf(0.63) * (1.1965f64 / 1.1572).sqrt()),
        _ => None,
    }
}

/// Every answer of a case of questions.
fn holds(id: &str) {
    let case = case(id);
    let expect = case["expect"].as_array().unwrap();
    let mut seen = 0;
    for q in case["given"]["questions"].as_array().unwrap() {
        let name = q["name"].as_str().unwrap();
        for (what, got) in answers(q["function"].as_str().unwrap(), &q["arguments"]) {
            let quantity = format!("{name}.{what}");
            let want =
                expect.iter().find(|e| e["quantity"] == quantity.as_str()).unwrap_or_else(|| panic!("{quantity}"));
            seen += 1;
            match corrected(&quantity).or(want["value"].as_f64()) {
                Some(value) => {
                    let tolerance = want["abs_tol"].as_f64().unwrap() + want["rel_tol"].as_f64().unwrap() * value.abs();
                    let got = got.as_f64().unwrap_or_else(|| panic!("{quantity}: {got}"));
                    assert!((got - value).abs() <= tolerance, "{quantity}: {got} against {value}");
                }
                None => assert_eq!(got, want["value"], "{quantity}"),
            }
        }
    }
    assert_eq!(seen, expect.len());
}

#[test]
fn p09_fuse() {
    holds("p09-fuse");
}

#[test]
fn p10_wire() {
    holds("p10-wire");
}

/// Standard rows, typed off the standards and not off the code.
fn rows(family: FuseFamily) -> Vec<f64> {
    match family {
        FuseFamily::Blade => vec![1., 2., 3., 4., 5., 7.5, 10., 15., 20., 25., 30., 35., 40.],
        FuseFamily::Cartridge => vec![
            0.1, 0.125, 0.16, 0.2, 0.25, 0.315, 0.4, 0.5, 0.63, 0.8, 1., 1.25, 1.6, 2., 2.5, 3.15, 4., 5., 6.3, 8., 10.,
        ],
        other => other.ratings().to_vec(),
    }
}

const AWG: [i32; 14] = [30, 28, 26, 24, 22, 20, 18, 16, 14, 12, 10, 8, 6, 4];

/// 18.8·S up to 0.5 mm², 14.6·S^0.63 above.
fn ampacity_of(awg: i32) -> f64 {
    let d = 0.127 * 92f64.powf(f64::from(36 - awg) / 39.0);
    let area = std::f64::consts::PI * d * d / 4.0;
    if area <= 0.5 { 18.8 * area } else { 14.6 * area.powf(0.63) }
}

fn cases() -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(60)
}

fn seed() -> RngSeed {
    if std::env::var_os("PROPTEST_CASES").is_some() { RngSeed::Random } else { RngSeed::Fixed(20_261_125) }
}

/// (share of the rating carried continuously, share of the ampacity that the rating may be) of each family.
fn shares(family: FuseFamily) -> (f64, f64) {
    match family {
        FuseFamily::Blade | FuseFamily::CartridgeUl | FuseFamily::Bolt => (0.75, 1.0),
        FuseFamily::Cartridge => (0.9, 0.69),
        FuseFamily::Resettable => (1.0, 0.725),
    }
}

/// A run of wires and what is asked of it.
fn need(load: f64, metres: f64, drop: Option<(f64, f64)>, limit: Option<f64>, stands: Option<f64>) -> WireNeed {
    WireNeed {
        load: Amps::new(load),
        length: Metres::new(metres),
        drop: drop.map(|(v, share)| (Volts::new(v), Fraction::new(share))),
        limit: limit.map(Amps::new),
        for_protection: stands.map(Amps::new),
        ambient: Celsius::new(25.0),
        insulation: None,
        pairs: 1,
        metric: false,
    }
}

/// What an AWG lead loses at a load, V: stranded, warm from the load.
fn lost(awg: i32, load: f64, metres: f64) -> f64 {
    let ampacity = ampacity_of(awg);
    let d = 0.127e-3 * 92f64.powf(f64::from(36 - awg) / 39.0);
    let at_20 = 1.7241e-8 / (std::f64::consts::PI * d * d / 4.0) * 1.03;
    let warm = 25.0 + 40.0 * (load / ampacity).min(1.0).powi(2);
    load * 2.0 * metres * at_20 * (1.0 + 0.00393 * (warm - 20.0))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 4 * cases(), failure_persistence: None, rng_seed: seed(), ..ProptestConfig::default() })]

    /// The chosen fuse is the first of the row between need and allowance, and none where there is none.
    #[test]
    fn a_fuse_is_the_first_of_its_row(load in 0.02f64..35.0, wire in 0.5f64..90.0, other in 0.5f64..90.0, which in 0usize..4) {
        let family = FuseFamily::ALL[which];
        let (carries, allows) = shares(family);
        let fit = size::fuse(Amps::new(load), &[Amps::new(wire), Amps::new(other)], family, carries, allows);
        let brute = rows(family).into_iter().filter(|r| carries * r >= load && *r <= allows * wire.min(other)).reduce(f64::min);
        prop_assert_eq!(fit.rating.map(|r| r.get()), brute);
    }

    /// Wire and fuse together: of all wires and all fuses the thinnest wire that carries and does not lose too much,
    /// with the smallest fuse that suits it.
    #[test]
    fn a_pair_is_the_thinnest_that_does(load in 0.1f64..30.0, metres in 0.0f64..8.0, volts in 4.5f64..30.0, share in 0.01f64..0.1, which in 0usize..2) {
        let family = [FuseFamily::Blade, FuseFamily::Cartridge][which];
        let (carries, allows) = shares(family);
        let found = size::pair(&need(load, metres, Some((volts, share)), None, None), family);
        let mut brute = None;
        for awg in AWG {
            let ampacity = ampacity_of(awg);
            let rating = rows(family).into_iter().find(|r| carries * r >= load && *r <= allows * ampacity);
            if load <= ampacity && lost(awg, load, metres) <= share * volts && brute.is_none() && rating.is_some() {
                brute = rating.map(|r| (awg, r));
            }
        }
        let found = found.map(|p| (match p.wire.size { WireSize::Awg(n) => n, WireSize::Mm2(_) => 0 }, p.fuse.get()));
        prop_assert_eq!(found, brute);
    }

    /// Three questions, each answered by itself.
    #[test]
    fn a_wire_for_each_question(load in 0.1f64..60.0, metres in 0.0f64..8.0, volts in 4.5f64..30.0, limit in 0.1f64..80.0, stands in 0.1f64..80.0) {
        let sizes = size::wire(&need(load, metres, Some((volts, 0.05)), Some(limit), Some(stands)));
        let name = |c: Option<size::WireChoice>| c.map(|c| c.size);
        let first = |does: &dyn Fn(i32, f64) -> bool| AWG.into_iter().find(|n| does(*n, ampacity_of(*n))).map(WireSize::Awg);
        prop_assert_eq!(name(sizes.load), first(&|n, a| a >= load && lost(n, load, metres) <= 0.05 * volts));
        prop_assert_eq!(name(sizes.limit), first(&|_, a| a >= limit));
        prop_assert_eq!(name(sizes.for_protection), first(&|_, a| a >= stands));
    }

    /// What can flow continuously, found by trying every current: it does not open the fuse, the source may give it,
    /// and more does not.
    #[test]
    fn what_flows_for_ever_is_the_most_that_nothing_stops(lo in 0.5f64..30.0, spread in 1.0f64..2.0, rating in prop::option::of(0.5f64..40.0), ampacity in 0.5f64..40.0) {
        let hi = lo * spread;
        let guarded = size::wire_protection(&WireProtection {
            prospective: Amps::new(1000.0), far: Amps::new(1000.0), limit: Some(modest_ohm::units::Range::new(Amps::new(lo), Amps::new(hi))),
            fuse: rating.map(|r| (Amps::new(r), 1.35)), ampacity_factor: 1.0, ampacity: Amps::new(ampacity),
        });
        let stays = |i: f64| i <= hi && rating.is_none_or(|r| i <= 1.35 * r);
        prop_assert!(stays(guarded.sustained_fault.get() - 1e-9) && !stays(guarded.sustained_fault.get() + 1e-9));
        let allowed = rating.is_some_and(|r| r <= ampacity);
        let acts = rating.is_some_and(|r| lo >= 1.35 * r);
        let share = guarded.sustained_fault.get() / ampacity;
        // To 1.45 times its ampacity a wire is warm for hours and no more.
        let want = match (allowed, acts) {
            (true, true) => None,
            (true, false) => Some(if share <= 1.45 { Severity::Advisory } else { Severity::Danger }),
            (false, _) if share <= 1.0 => None,
            (false, _) => Some(if share <= 1.45 { Severity::Caution } else { Severity::Danger }),
        };
        prop_assume!((share - 1.0).abs() > 1e-5 && (share - 1.45).abs() > 1e-5);
        prop_assert_eq!(guarded.severity, want);
    }
}

/// A chain of runs of every kind from a battery to a short.
fn chain(dice: &mut Dice) -> String {
    let mut text = format!(
        "format = 1\nambient = \"{:.1} °C\"\n[supply.pack]\nkind = \"battery\"\nvoltage = \"{:.2} V .. {:.2} V\"\nresistance = \"{:.4} Ω\"\n\
         current = \"5 A\"\n",
        dice.between(0.0, 40.0),
        dice.between(10.0, 12.0),
        dice.between(12.0, 15.0),
        dice.between(0.005, 0.2)
    );
    let mut from = "pack".to_owned();
    let size = |dice: &mut Dice| [24, 20, 18, 16, 12][dice.below(5)];
    for i in 0..1 + dice.below(4) {
        let name = format!("run{i}");
        // With so little ampacity the short has every wire at its insulation's temperature, in the solver too.
        let metres = dice.between(0.1, 3.0);
        let lead =
            format!("cable = {{ length = \"{metres:.3} m\", size = \"{} AWG\", ampacity = \"0.1 A\" }}\n", size(dice));
        let fuse =
            if dice.chance(0.4) { format!("fuse = \"{} A\"\n", [2, 5, 10][dice.below(3)]) } else { String::new() };
        let _ = match dice.below(4) {
            0 => write!(text, "[branch.{name}]\nfrom = \"{from}\"\n{lead}{fuse}"),
            1 => write!(
                text,
                "[switch.{name}]\nfrom = \"{from}\"\n{lead}{fuse}resistance = \"{:.4} Ω\"\n",
                dice.between(0.0, 0.05)
            ),
            2 => write!(
                text,
                "[diode.{name}]\nfrom = \"{from}\"\n{lead}{fuse}vf = \"0.4 V\"\nresistance = \"{:.4} Ω\"\n",
                dice.between(0.001, 0.1)
            ),
            _ => write!(
                text,
                "[connector.{name}]\nfrom = \"{from}\"\n{lead}{fuse}kind = \"plug\"\nresistance = \"{:.4} Ω\"\n",
                dice.between(0.0, 0.05)
            ),
        };
        from = name;
    }
    let parallel = 1 + dice.below(3);
    let _ = write!(
        text,
        "[load.short]\nfrom = \"{from}\"\ncable = {{ length = \"{:.3} m\", size = \"{} AWG\", parallel = {parallel}, ampacity = \"0.1 A\", connectors = [\"barrel-2mm1\"] }}\n\
         resistance = \"0.1 µΩ\"\n",
        dice.between(0.1, 4.0),
        size(dice)
    );
    text
}

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(), failure_persistence: None, rng_seed: seed(), ..ProptestConfig::default() })]

    /// What surely flows into a short circuit, computed along the way, is what the solver finds with a short in the
    /// network's place.
    #[test]
    fn a_short_is_what_the_solver_finds(seed in any::<u64>()) {
        let text = chain(&mut Dice::new(seed));
        let review = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}")).review();
        let lead = review.cables().into_iter().find(|l| l.name == "short").unwrap();
        let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Low), ..Select::default() };
        let solved = review.loads(&select)[0].row.current.get();
        let short = lead.min_fault.unwrap().get();
        prop_assert!((short / solved - 1.0).abs() < 1e-3, "{short} against {solved}\n{text}");
    }
}
