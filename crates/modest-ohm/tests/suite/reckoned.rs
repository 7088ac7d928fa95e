//! What the words mean, in numbers computed by hand: corners, scenarios, firmware limits, counts, returns, one finding
//! a cause.

use modest_ohm::units::{Amps, Celsius, Fraction, Metres, Ohms, OhmsPerMetre, PerMetre, Volts, Watts, parse_quantity};
use modest_ohm::{Corner, Plan, Review, Select, Severity};

fn review(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn near(got: f64, want: f64, what: &str) {
    assert!((got - want).abs() <= 1e-9 * (1.0 + want.abs()), "{what}: {got} against {want}");
}

fn at(scenario: &str, corner: Corner) -> Select {
    Select { scenario: Some(scenario.into()), corner: Some(corner), ..Select::default() }
}

fn node_a(review: &Review, name: &str, scenario: &str, corner: Corner) -> f64 {
    let rows = review.nodes(&at(scenario, corner));
    rows.iter().find(|r| r.row.name == name).unwrap().row.demand.unwrap().get()
}

fn load_v(review: &Review, name: &str, scenario: &str, corner: Corner) -> f64 {
    let rows = review.loads(&at(scenario, corner));
    rows.iter().find(|r| r.row.name == name).unwrap().row.voltage.get()
}

/// Sources min, max, max; loads max, min, max; resistance max, min, min (low, high, hot); typical in the middle.
#[test]
fn corners_move_every_figure_the_right_way() {
    let r = review(
        "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"10 V .. 14 V\"\nresistance = \"0.1 Ω .. 0.3 Ω\"\ncurrent = \"50 A\"\n\
         [load.lamp]\nfrom = \"wall\"\ncable = { feed = \"1 Ω .. 3 Ω\", return = \"0 Ω\" }\ncurrent = \"1 A .. 2 A, typical 1.2 A\"\nknee = \"0.1 V\"\n\
         [load.coil]\nfrom = \"wall\"\ncable = { feed = \"0 Ω\", return = \"0 Ω\" }\nresistance = \"20 Ω .. 40 Ω\"\n",
    );
    for (corner, emf, rs, wire, amps, coil) in [
        (Corner::Typical, 12.0, 0.2, 2.0, 1.2, 30.0),
        (Corner::Low, 10.0, 0.3, 3.0, 2.0, 20.0),
        (Corner::High, 14.0, 0.1, 1.0, 1.0, 40.0),
        (Corner::Hot, 14.0, 0.1, 1.0, 2.0, 20.0),
    ] {
        // V + rs·(current + V/coil) = emf at the supply's terminals.
        let v = (emf - rs * amps) / (1.0 + rs / coil);
        near(node_a(&r, "wall", "worst", corner), amps + v / coil, corner.name());
        near(load_v(&r, "lamp", "worst", corner), v - wire * amps, corner.name());
        near(load_v(&r, "coil", "worst", corner), v, corner.name());
    }
}

/// A converter's set voltage goes with the sources, its efficiency is least where demand is largest.
#[test]
fn converters_in_the_corners() {
    let r = review(
        "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\nresistance = \"0 Ω\"\ncurrent = \"9 A\"\n\
         [converter.five]\nkind = \"buck\"\nfrom = \"wall\"\ncable = { feed = \"0 Ω\", return = \"0 Ω\" }\noutput = \"5 V\"\ncurrent = \"9 A\"\n\
         efficiency = \"80 % .. 90 %\"\nquiescent = \"0.1 W\"\n\
         [load.lamp]\nfrom = \"five\"\ncable = { feed = \"0 Ω\", return = \"0 Ω\" }\ncurrent = \"1 A .. 2 A\"\nknee = \"0.1 V\"\n",
    );
    for (corner, set, efficiency, amps) in [
        (Corner::Typical, 5.0, 0.85, 1.5),
        (Corner::Low, 4.9, 0.8, 2.0),
        (Corner::High, 5.1, 0.9, 1.0),
        (Corner::Hot, 5.1, 0.8, 2.0),
    ] {
        near(node_a(&r, "wall", "worst", corner), (set * amps / efficiency + 0.1) / 12.0, corner.name());
    }
}

/// Copper at the ambient of its corner; in *low* it warms with the square of its load.
#[test]
fn copper_has_the_temperature_of_its_corner() {
    let r = review(
        "format = 1\nambient = \"10 °C .. 40 °C\"\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\nresistance = \"0 Ω\"\ncurrent = \"9 A\"\n\
         [load.lamp]\nfrom = \"wall\"\ncable = { length = \"10 m\", size = \"1 mm²\" }\ncurrent = \"3 A\"\nknee = \"0.1 V\"\n",
    );
    // 19.5 Ω/km (IEC 60228 class 5), in both directions; 14.6 A at 30 °C, √((70 − 40)/(70 − 30)) of it at 40 °C.
    let ohms = |celsius: f64| 20.0 * 0.0195 * (1.0 + 0.003_93 * (celsius - 20.0));
    let ampacity = 14.6 * (30.0f64 / 40.0).sqrt();
    for (corner, celsius) in [
        (Corner::Typical, 25.0),
        (Corner::High, 10.0),
        (Corner::Hot, 10.0),
        (Corner::Low, 40.0 + (70.0 - 40.0) * (3.0 / ampacity).powi(2)),
    ] {
        near(load_v(&r, "lamp", "worst", corner), 12.0 - 3.0 * ohms(celsius), corner.name());
    }
    let rows = r.conductors(&at("worst", Corner::Low));
    near(rows[0].row.ampacity.unwrap().get(), ampacity, "ampacity at the warm end");
}

const SCENES: &str = "format = 1
[supply.wall]
kind = \"bench\"
voltage = \"5 V\"
resistance = \"0 Ω\"
current = \"50 A\"
[board.keeper]
from = \"wall\"
cable = { feed = \"0 Ω\", return = \"0 Ω\" }
mean = \"100 mA\"
peak = \"400 mA\"
[load.fan]
from = \"wall\"
cable = { feed = \"0 Ω\", return = \"0 Ω\" }
current = \"1 A\"
typical = \"0.6 A\"
idle = \"0.1 A\"
[load.pump]
from = \"wall\"
cable = { feed = \"0 Ω\", return = \"0 Ω\" }
current = \"2 A\"
surge = \"5 A\"
voltage = \"5 V\"
at-power-on = \"off\"
[load.flap]
from = \"wall\"
cable = { feed = \"0 Ω\", return = \"0 Ω\" }
count = 2
current = \"0.5 A\"
surge = \"1.5 A\"
voltage = \"5 V\"
[strip.arch]
from = \"wall\"
cable = { feed = \"0 Ω\", return = \"0 Ω\" }
length = \"1 m\"
pixels = \"10 /m\"
copper = \"1 µΩ/m\"
quiescent = \"1 mA\"
minimum = \"3 V\"
recommended = \"3 V .. 6 V\"
firmware-limit = \"2 A\"
[strip.arch.colours]
white = { current = \"299 mA\", vf = \"1 V\", vreg = \"2 V\" }
[scenario.dusk]
set = { arch = \"40 %\", fan = \"idle\", pump = \"0.7 A\" }
off = [\"flap.2\"]
[scenario.noon]
based-on = \"typical\"
off = [\"arch\", \"keeper\", \"pump\", \"flap\"]
";

/// Strip full 3 A, dark 10 mA, firmware limit 2 A. Surges are resistance: rated voltage over surge current, and 5 V are
/// there.
#[test]
fn scenarios_mean_what_they_say() {
    let r = review(SCENES);
    let arch = |light: f64| 0.01 + 2.99 * light;
    for (scenario, want) in [
        // Boards at mean, strips dark, loads idle (none given: nothing).
        ("idle", 0.1 + 0.1 + arch(0.0)),
        ("typical", 0.1 + 0.6 + 2.0 + 2.0 * 0.5 + arch(0.3)),
        ("worst", 0.4 + 1.0 + 2.0 + 2.0 * 0.5 + 2.0),
        // The pump rests off, both flaps jump, the fan has no surge, the strip is at its firmware limit.
        ("start", 0.4 + 1.0 + 2.0 * 1.5 + 2.0),
        ("dusk", 0.4 + 0.1 + 0.7 + 0.5 + arch(0.4)),
        ("noon", 0.6 + arch(0.0)),
    ] {
        near(node_a(&r, "wall", scenario, Corner::Typical), want, scenario);
    }
    // Each group in turn: the pump adds 3 A to *worst*, both flaps 2 A; the row shows the worse.
    let rows = r.nodes(&at("surge", Corner::Typical));
    let wall = rows.iter().find(|r| r.row.name == "wall").unwrap();
    assert_eq!(wall.surging.as_deref(), Some("pump"));
    near(wall.row.demand.unwrap().get(), 0.4 + 1.0 + 5.0 + 2.0 * 0.5 + 2.0, "surge of pump");
    let flaps = review(&SCENES.replace("surge = \"5 A\"\n", ""));
    let wall = flaps.nodes(&at("surge", Corner::Typical)).into_iter().find(|r| r.row.name == "wall").unwrap();
    assert_eq!(wall.surging.as_deref(), Some("flap"));
    near(wall.row.demand.unwrap().get(), 0.4 + 1.0 + 2.0 + 2.0 * 1.5 + 2.0, "both flaps at once");
    let names: Vec<&str> = r.scenarios().iter().map(|s| s.name()).collect();
    assert_eq!(names, ["idle", "typical", "worst", "start", "surge", "dusk", "noon", "all-at-once"]);
}

/// A fraction is of full light, then the firmware limit: 80 % would be 2.402 A, and 2 A is what there is.
#[test]
fn the_cap_comes_after_the_share() {
    let text = SCENES.replace("arch = \"40 %\"", "arch = \"80 %\"");
    near(node_a(&review(&text), "wall", "dusk", Corner::Typical), 0.4 + 0.1 + 0.7 + 0.5 + 2.0, "dusk at 80 %");
}

/// Boards count with their mean for ratings, with their bursts for voltage and in `wanted`.
#[test]
fn a_burst_is_no_overload() {
    let board = |supply: &str, mean: &str| {
        review(&format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\ncurrent = \"{supply}\"\n\
             [board.keeper]\nfrom = \"wall\"\ncable = {{ feed = \"1 Ω\", return = \"0 Ω\", ampacity = \"5 A\" }}\nmean = \"{mean}\"\npeak = \"400 mA\"\n\
             recommended = \"4.5 V .. 5.5 V\"\nbrown-out = \"4.2 V\"\n"
        ))
    };
    let calm = board("300 mA", "100 mA");
    assert_eq!(calm.count(Severity::Danger), 0, "{:?}", calm.findings());
    // The burst meets a supply that limits at 300 mA, and finds its voltage: at 1.2 V of knee it would still draw.
    let sustained = board("300 mA", "350 mA");
    assert_eq!(sustained.findings()[0].code, "supply-overloaded");
    near(load_v(&board("1 A", "100 mA"), "keeper", "worst", Corner::Typical), 4.6, "volts in the burst");
}

/// A return that goes another way carries its current there, and lifts what it passes.
#[test]
fn a_return_may_go_elsewhere() {
    let r = review(
        "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\nresistance = \"0 Ω\"\ncurrent = \"9 A\"\n\
         [branch.deck]\nfrom = \"wall\"\ncable = { feed = \"0.1 Ω\", return = \"0.2 Ω\" }\n\
         [load.bell]\nfrom = \"deck\"\ncable = { feed = \"0 Ω\", return = \"0 Ω\" }\ncurrent = \"1 A\"\nknee = \"0.1 V\"\n\
         [load.winch]\nfrom = \"wall\"\ncable = { feed = \"0.5 Ω\", return = \"0 Ω\" }\ncurrent = \"2 A\"\nknee = \"0.1 V\"\n\
         return = { to = \"deck\", cable = { feed = \"0 Ω\", return = \"0.3 Ω\" } }\n",
    );
    // deck's − lies 0.2 Ω · 3 A above the supply's, its + 0.1 Ω · 1 A below.
    near(load_v(&r, "bell", "worst", Corner::Typical), 12.0 - 0.1 - 0.6, "the bell");
    near(load_v(&r, "winch", "worst", Corner::Typical), 12.0 - 1.0 - 0.6 - 0.6, "the winch");
    let rows = r.loads(&at("worst", Corner::Typical));
    near(rows.iter().find(|r| r.row.name == "winch").unwrap().row.ground_shift.get(), 1.2, "the winch's −");
    let deck = r.conductors(&at("worst", Corner::Typical)).into_iter().find(|c| c.row.name == "deck").unwrap().row;
    near(deck.feed.unwrap().get(), 1.0, "deck's feed");
    near(deck.back.get(), -3.0, "deck's return");
}

/// The on-board regulator holds 3.3 V, or follows its input less the dropout; its current is drawn at the feed
/// terminal.
#[test]
fn a_boards_regulator() {
    let board = |volts: &str| {
        review(&format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"{volts}\"\nresistance = \"0 Ω\"\ncurrent = \"9 A\"\n\
             [board.keeper]\nfrom = \"wall\"\ncable = {{ feed = \"1 Ω\", return = \"0 Ω\", ampacity = \"1 A\" }}\nmean = \"100 mA\"\nknee = \"1 V\"\n\
             regulator = {{ output = \"3v3\", voltage = \"3.3 V ± 0 %\", dropout = \"1 V\", limit = \"0.5 A\" }}\n\
             [load.lamp]\nfrom = \"keeper.3v3\"\ncable = {{ feed = \"0 Ω\", return = \"0 Ω\" }}\ncurrent = \"0.2 A\"\nknee = \"0.1 V\"\n"
        ))
    };
    near(load_v(&board("5 V"), "lamp", "worst", Corner::Typical), 3.3, "regulated");
    near(load_v(&board("4 V"), "lamp", "worst", Corner::Typical), 4.0 - 0.3 - 1.0, "in dropout");
    near(node_a(&board("5 V"), "wall", "worst", Corner::Typical), 0.3, "one to one");
}

#[test]
fn one_cause_is_one_finding() {
    // A strip without a firmware limit: 3 A on a 2 A supply over 26 AWG (2.4 A). The firmware limit fixes all of it; a
    // larger supply makes the wire no thicker, which is reported by itself.
    let text = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"2 A\"\n\
         [strip.arch]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\ncable = \"0.2 m 26 AWG\"\nlength = \"1 m\"\npixels = \"60 /m\"\n";
    let r = review(text);
    let heads: Vec<(&str, &str)> = r.findings().iter().map(|f| (f.code, f.subject.as_str())).collect();
    assert_eq!(heads[0], ("supply-overloaded", "wall"));
    let head = &r.findings()[0];
    let also: Vec<&str> = head.also.iter().map(|c| c.code).collect();
    assert_eq!(also, ["firmware-limit-missing"]);
    assert!(heads.contains(&("wire-overloaded", "arch.inject[0]")), "{heads:?}");
    assert_eq!(heads.iter().filter(|(code, _)| *code == "supply-overloaded").count(), 1, "{heads:?}");
    // The fix it names does fix: 20 % of headroom on 2 A leaves 1.6 A.
    let fixed = review(text).with_fixes();
    let edit = &fixed.findings()[0].fixes[0].edits[0];
    assert_eq!((edit.path.as_str(), edit.value.as_deref()), ("strip.arch.firmware-limit", Some("\"1.6 A\"")));
    let cured = review(&format!("{text}firmware-limit = \"1.6 A\"\n"));
    // That its cable has no fuse is another cause.
    let left = cured.findings().iter().filter(|f| f.code != "fuse-missing").all(|f| f.severity < Severity::Caution);
    assert!(left, "{:?}", cured.findings());
}

/// The further feeds that a finding proposes lift the strip as it says, by an independent reading of the result.
#[test]
fn a_proposed_feed_lifts_the_strip_as_it_says() {
    let text = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"15 A\"\n\
         [strip.arch]\npart = \"pixel-5v-rgb-12ma\"\nfrom = \"wall\"\nlength = \"2 m\"\npixels = \"60 /m\"\n\
         inject = [ { at = \"start\", cable = \"0.3 m 14 AWG\" } ]\n";
    let before = review(text).with_fixes();
    let sags = before.findings().iter().find(|f| f.code == "strip-voltage-low").unwrap();
    let fix = sags.fixes.iter().find(|fix| fix.ends() && fix.edits.iter().any(|e| e.path.contains("inject"))).unwrap();
    let after = review(&modest_ohm::edit::apply(text, &fix.edits).unwrap());
    assert!(after.findings().iter().all(|f| f.code != "strip-voltage-low"));
    let lowest = |scenario: &str, corner| after.strips(&at(scenario, corner))[0].row.lowest;
    let all = ["typical", "worst"].into_iter().flat_map(|s| Corner::ALL.map(|corner| lowest(s, corner)));
    let least = all.reduce(|a, b| if b < a { b } else { a }).unwrap();
    assert!(fix.text().contains(&format!("lowest pixel {least}")), "{} {least}", fix.text());
}

/// 4 A over 0.2 Ω each way lose 1.6 V before the strip; along its last half metre 0.4 V more.
#[test]
fn the_way_to_a_strip_is_named_where_it_loses_most() {
    let r = review(
        "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\ncurrent = \"9 A\"\n\
         [branch.run]\nfrom = \"wall\"\ncable = { feed = \"0.2 Ω\", return = \"0.2 Ω\", ampacity = \"9 A\" }\n\
         [strip.arch]\nfrom = \"run\"\ncable = \"0 m 12 AWG\"\nlength = \"1 m\"\npixels = \"1 /m\"\ncopper = \"0.1 Ω/m\"\nquiescent = \"0 A\"\n\
         minimum = \"3.5 V\"\nrecommended = \"3 V .. 6 V\"\n[strip.arch.colours]\nwhite = { current = \"4 A\", vf = \"0.1 V\", vreg = \"0.2 V\" }\n",
    );
    let sags = r.findings().iter().find(|f| f.code == "strip-voltage-low").unwrap();
    assert!(sags.message.contains("is at 3.00 V"), "{}", sags.message);
}

#[test]
fn acceptances_keep_findings_listed_and_uncounted() {
    let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V\"\nresistance = \"0 Ω\"\ncurrent = \"1 A\"\n\
         [load.lamp]\nfrom = \"wall\"\ncable = \"0 m 16 AWG\"\ncurrent = \"2 A\"\nvoltage = \"12 V\"\n\
         [[accept]]\ncode = \"supply-overloaded\"\non = \"wall\"\nbecause = \"two seconds a day\"\n";
    let r = review(text);
    assert_eq!((r.count(Severity::Danger), r.accepted()), (0, 1));
    assert_eq!(r.findings().last().unwrap().accepted.as_deref(), Some("two seconds a day"));
}

/// Spellings of makers, each with its number.
#[test]
fn usual_spellings() {
    fn is<Q: modest_ohm::units::Quantity>(spellings: &[&str], want: f64) {
        for s in spellings {
            let got = parse_quantity::<Q>(s).unwrap_or_else(|e| panic!("{s}: {}", e.message)).si();
            assert_eq!(got.to_bits(), want.to_bits(), "{s}: {got} against {want}");
        }
    }
    is::<Amps>(&["350mA", "350 mA", "0.35 A", "0.35A", "+350 mA", "3.5e-1 A", " 350  mA "], 0.35);
    is::<Ohms>(&["4k7", "4.7k", "4.7 kΩ", "4.7 k\u{2126}", "4700", "4.7 kohm", "4700R"][..4], 4700.0);
    is::<Ohms>(&["4700R", "4.7 kohm", "4K7", "4700 ohms"], 4700.0);
    is::<Ohms>(&["2R2", "2.2 Ω", "2.2R"], 2.2);
    is::<Ohms>(&["0"], 0.0);
    is::<Metres>(&["1.2 m", "120 cm", "1200 mm", "1.2m"], 1.2);
    is::<Metres>(&["10 ft"], 3.048);
    is::<PerMetre>(&["60 /m", "60/m", "60 per m"], 60.0);
    is::<Fraction>(&["90 %", "90%"], 0.9);
    is::<Celsius>(&["28 °C", "28 C", "28 degC"], 28.0);
    is::<OhmsPerMetre>(&["0.1 Ω/m", "100 mΩ/m", "100 Ω/km"], 0.1);
    is::<Watts>(&["50 µW", "50 uW", "50 \u{3bc}W"], 5e-5);
    for wrong in ["350 mV", "4k7", "A", "", "1,5 A", "1.2.3 A", "0x10 A", "--1 A", "1 a"] {
        assert!(parse_quantity::<Amps>(wrong).is_err(), "{wrong}");
    }
}

/// Three significant digits, rounded before the prefix is chosen.
#[test]
fn printing() {
    for (amps, want) in [
        (0.999_96, "1.00 A"),
        (0.999_4, "999 mA"),
        (1234.5, "1.23 kA"),
        (0.0, "0 A"),
        (-2.5, "−2.5 A"),
        (1e-9, "1 nA"),
        (9.996, "10.0 A"),
        (99.96, "100 A"),
        (999.6, "1.00 kA"),
        (1e-20, "0 A"),
    ] {
        assert_eq!(Amps::new(amps).to_string(), want);
    }
    assert_eq!(Fraction::new(-0.57).to_string(), "−57 %");
    assert_eq!(Celsius::new(45.0).to_string(), "45 °C");
    assert_eq!(PerMetre::new(60.0).to_string(), "60 /m");
    assert_eq!((Volts::new(5.0) * Amps::new(0.5)).to_string(), "2.5 W");
    assert_eq!((Watts::new(10.0) / Volts::new(4.0)).get(), 2.5);
}
