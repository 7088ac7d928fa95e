//! What lies in a feed or before a load, by hand: limiters, rails of breadboards, drivers of LEDs, stages that limit,
//! cells in the cold, valves on a transformer.

use crate::common::{evidence, found, review, verdict};
use modest_ohm::{Corner, Review, Select};

const WALL: &str =
    "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"12 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"10 A\"\n";

fn near(got: f64, want: f64, what: &str) {
    assert!((got - want).abs() <= 1e-6 * want.abs().max(1e-3), "{what}: {got} against {want}");
}

fn select(scenario: &str, corner: Corner) -> Select {
    Select { scenario: Some(scenario.into()), corner: Some(corner), ..Select::default() }
}

fn load_v(r: &Review, name: &str, at: &Select) -> f64 {
    let rows = r.loads(at);
    rows.iter().find(|row| row.row.name == name).unwrap_or_else(|| panic!("no {name}")).row.voltage.get()
}

fn node_a(r: &Review, name: &str, at: &Select) -> f64 {
    let rows = r.nodes(at);
    let row = rows.iter().find(|row| row.row.name == name).unwrap_or_else(|| panic!("no {name}"));
    row.row.demand.unwrap_or_else(|| panic!("{name} is not solved")).get()
}

fn lamp(from: &str, amps: &str, more: &str) -> String {
    format!("[load.lamp]\nfrom = \"{from}\"\ncable = \"0 m 12 AWG\"\ncurrent = \"{amps}\"\nvoltage = \"12 V\"\n{more}")
}

/// 2 A through 0.25 Ω warm: 0.5 V; each corner takes its end of 0.2 Ω .. 0.4 Ω.
#[test]
fn a_limiter_is_its_warm_resistance() {
    let limiter = |warm: &str| {
        let text =
            format!("{WALL}[limiter.soft]\nfrom = \"wall\"\ncold = \"5 Ω\"\nwarm = \"{warm}\"\ncurrent = \"4 A\"\n");
        review(&format!("{text}{}", lamp("soft", "2 A", "")))
    };
    near(load_v(&limiter("0.25 Ω"), "lamp", &select("worst", Corner::Typical)), 11.5, "0.25 Ω");
    let spread = limiter("0.2 Ω .. 0.4 Ω, typical 0.3 Ω");
    for (corner, volts) in [(Corner::Low, 11.2), (Corner::Typical, 11.4), (Corner::High, 11.6)] {
        near(load_v(&spread, "lamp", &select("worst", corner)), volts, "a corner");
    }
    // Without `warm` it is a twentieth of 5 Ω ± 20 %.
    let text = format!("{WALL}[limiter.soft]\nfrom = \"wall\"\ncold = \"5 Ω\"\n{}", lamp("soft", "2 A", ""));
    near(load_v(&review(&text), "lamp", &select("worst", Corner::Typical)), 11.5, "5 % of 5 Ω");
    near(load_v(&review(&text), "lamp", &select("worst", Corner::Low)), 11.4, "5 % of 6 Ω");
}

/// 1 A through 36 mΩ in each conductor of a half: 72 mV; through both halves, joined without resistance, twice that.
#[test]
fn the_rails_of_a_breadboard_have_resistance() {
    let bar = |half: &str, more: &str| {
        let text = format!("{WALL}[busbar.deck]\nfrom = \"wall\"\nbridged = \"both\"\n{more}");
        review(&format!("{text}{}", lamp(half, "1 A", "")))
    };
    let typical = select("worst", Corner::Typical);
    near(load_v(&bar("deck.left", ""), "lamp", &typical), 12.0 - 2.0 * 0.036, "left");
    near(load_v(&bar("deck.right", ""), "lamp", &typical), 12.0 - 4.0 * 0.036, "right");
    near(load_v(&bar("deck.left", "kind = \"bar\"\n"), "lamp", &typical), 12.0, "a bar of copper");
    let stated = "kind = \"perfboard\"\nresistance = \"0.1 Ω\"\ncurrent = \"3 A\"\n";
    near(load_v(&bar("deck.left", stated), "lamp", &typical), 11.8, "a track");
}

/// Two LEDs of 3 V at 350 mA behind 90 %: 2.3333 W, at 12 V 194.4 mA. Of ranges the largest LED goes with the least
/// efficiency.
#[test]
fn the_driver_of_leds_draws_what_they_take() {
    let led = |vf: &str, source: &str, series: usize| {
        review(&format!(
            "{WALL}[led.spot]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\nvf = \"{vf}\"\nin-series = {series}\ncurrent = \"350 mA\"\n\
             absolute = \"700 mA\"\nheatsink = \"5 K/W\"\nconstant-current = {source}\n"
        ))
    };
    let exact = "{ current = \"350 mA ± 0 %\", headroom = \"2 V\", input = \"6 V .. 35 V\", efficiency = \"90 %\" }";
    let r = led("3 V ± 0 %", exact, 2);
    near(node_a(&r, "wall", &select("worst", Corner::Typical)), 2.0 * 3.0 * 0.35 / 0.9 / 12.0, "at 12 V");
    assert_eq!(r.findings().len(), 0, "{:?}", r.findings());
    let wide = "{ current = \"350 mA ± 10 %\", headroom = \"2 V\", efficiency = \"80 % .. 95 %, typical 90 %\" }";
    let r = led("2.8 V .. 3.4 V, typical 3 V", wide, 2);
    near(node_a(&r, "wall", &select("worst", Corner::Low)), 2.0 * 3.4 * 0.385 / 0.8 / 12.0, "the most");
    near(node_a(&r, "wall", &select("worst", Corner::High)), 2.0 * 2.8 * 0.315 / 0.95 / 12.0, "the least");
    // Four of them want 14 V.
    assert_eq!(verdict(found(&led("3 V ± 0 %", exact, 4), "supply-voltage", "spot")), "fault");
}

/// A motor of 12 V/9 A on 16 V would take 12 A; a stage that limits at 5 A .. 6.5 A lets that through, and what it
/// takes less is its own matter.
#[test]
fn a_stage_that_limits_bounds_the_start() {
    let motor = |stall: &str, limits: &str| {
        review(&format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"16 V ± 0 %\"\nresistance = \"0 Ω\"\ncurrent = \"40 A\"\n\
             [supply.logic]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\ncurrent = \"2 A\"\n\
             [ground.tie]\nbetween = [\"wall\", \"logic\"]\n\
             [board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"logic\"\ncable = \"0 m 12 AWG\"\n\
             [driver.sw]\npart = \"mosfet-module-logic\"\npin = \"keeper.io32\"\nresistance = \"0 Ω\"\n{limits}\
             [motor.drum]\nfrom = \"wall\"\ndriver = \"sw\"\ncable = \"0 m 12 AWG\"\nvoltage = \"12 V\"\n\
             recommended = \"6 V .. 18 V\"\ncurrent = \"1 A\"\nstall = \"{stall}\"\nflyback = \"schottky-10a-45v\"\n"
        ))
    };
    let start = |r: &Review, corner| node_a(r, "wall", &select("surge", corner));
    near(start(&motor("9 A", ""), Corner::Low), 12.0, "its winding");
    let limited = motor("9 A", "limits = \"5 A .. 6.5 A\"\n");
    near(start(&limited, Corner::Low), 6.5, "the largest its stage lets through");
    near(start(&limited, Corner::High), 5.0, "the least");
    near(start(&motor("3 A", "limits = \"5 A .. 6.5 A\"\n"), Corner::Low), 4.0, "less than the limit");
    // `true` says that it comes to no harm, not at what current.
    near(start(&motor("9 A", "limits = true\n"), Corner::Low), 12.0, "no current known");
}

/// Three cells of 2.6 Ah, 50 mΩ each and 1 mΩ of links: 153 mΩ at 25 °C, 303 mΩ at 0 °C, and 153 mΩ again where that is
/// stated.
#[test]
fn cells_sag_more_in_the_cold() {
    let pack = |air: &str, more: &str| {
        let text = format!(
            "format = 1\nambient = \"{air}\"\n[supply.pack]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nseries = 3\n\
             mounted = \"welded\"\ncapacity = \"2.6 Ah\"\nkeyed = true\ncut-off = \"9 V\"\n{more}"
        );
        review(&format!("{text}{}", lamp("pack", "1 A", "recommended = \"8 V .. 13 V\"\n")))
    };
    let typical = select("worst", Corner::Typical);
    for (air, more, ohms) in
        [("25 °C", "", 0.153), ("40 °C", "", 0.153), ("0 °C", "", 0.303), ("0 °C", "resistance = \"0.153 Ω\"\n", 0.153)]
    {
        near(load_v(&pack(air, more), "lamp", &typical), 11.25 - ohms, air);
    }
    // Of a range the coldest end goes with the corner in which all is least: a quarter of the charge, 1.5 times the
    // resistance.
    let range = load_v(&pack("0 °C .. 25 °C", ""), "lamp", &select("worst", Corner::Low));
    near(range, 3.0 * 3.6 - 3.0 * (2.0 * 1.5 * 0.18 / 2.6 + 0.002), "the coldest");
}

/// 40 mA of 100 mA: it goes off, and 60 mA more keep it on.
#[test]
fn a_power_bank_says_what_keeps_it_on() {
    let bank = |idle: &str| {
        let lamp = format!(
            "[load.lamp]\nfrom = \"bank\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1 A\"\nidle = \"{idle}\"\nvoltage = \"5 V\"\n"
        );
        review(&format!("format = 1\n[supply.bank]\npart = \"power-bank-5v\"\n{lamp}"))
    };
    let r = bank("40 mA").with_fixes();
    let sleeps = found(&r, "source-sleeps", "bank").expect("it sleeps");
    near(evidence(sleeps, "drawn"), 0.040, "drawn");
    assert!(sleeps.message.contains("switches off"), "{sleeps:?}");
    // 4.75 V/60 mA = 79.2 Ω at most: 68 Ω of E12, less 5 %.
    let words = sleeps.fixes[0].instruction();
    assert!(sleeps.fixes[0].ends() && words.contains("resistance = \"68 Ω\""), "{words}");
    let may = bank("70 mA");
    assert!(found(&may, "source-sleeps", "bank").is_some_and(|f| f.message.contains("may switch off")));
    assert_eq!(verdict(found(&bank("120 mA"), "source-sleeps", "bank")), "pass");
}

/// A transformer's 24 V want no earth and no distances; the mains do.
#[test]
fn a_valve_on_a_transformer_is_no_mains() {
    let valve = |volts: &str| {
        review(&format!(
            "format = 1\n[policy]\nregion = \"iec\"\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"2 A\"\n\
             [board.keeper]\npart = \"board-5v-8bit\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n\
             [driver.bed]\npart = \"relay-module-5v\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\npin = \"keeper.d4\"\n\
             [mains.valve]\nvoltage = \"{volts}\"\ncurrent = \"0.3 A\"\nkind = \"coil\"\nthrough = \"bed\"\n"
        ))
    };
    assert_eq!(valve("24 V").findings().len(), 0, "{:?}", valve("24 V").findings());
    let mains = valve("230 V");
    for code in ["mains-separation", "mains-fuse", "mains-earth"] {
        assert_eq!(verdict(found(&mains, code, "valve")), "unknown", "{code}");
    }
}
