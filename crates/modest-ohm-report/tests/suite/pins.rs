//! Pins of boards as text, CSV, JSON and as a picture: all of them hold the same, whatever the board, and the answers
//! about LEDs, dividers, pulls and levels say the numbers that hand calculation gives.

use modest_ohm::catalogue::classes;
use modest_ohm::size::{
    self, DividerLimits, DividerNeed, LedNeed, LevelNeed, LevelThreshold, PullNeed, Series, Values,
};
use modest_ohm::units::{Amps, Fraction, Hertz, Metres, Nominal, Ohms, Range, Volts, Watts};
use modest_ohm::views::BoardPins;
use modest_ohm::{Plan, Review};
use modest_ohm_report::{
    Input, Layout, LedLimits, SizeAnswer, Wanted, assignment_json, assignment_text, free_pins_text, pins_csv,
    pins_json, pins_svg, pins_text, size_divider, size_led, size_level, size_pull,
};
use serde_json::Value;

const INPUT: Input<'static> = Input { path: "weir.toml" };

fn layout(width: usize) -> Layout {
    Layout { width, passed: false, rows: None }
}

/// The text without its styles.
fn plain(text: &str) -> String {
    let mut out = String::new();
    let mut rest = text;
    while let Some(at) = rest.find('\u{1b}') {
        out.push_str(&rest[..at]);
        rest = rest[at..].split_once('m').map_or("", |(_, rest)| rest);
    }
    out + rest
}

/// A plan of one board of a class that uses some of its pins: the first outputs for LEDs, the last input for a contact.
fn plan(class: &str) -> Plan {
    let head = format!(
        "format = 1\ntitle = \"Weir\"\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"10 A\"\n\
         [board.keeper]\npart = \"{class}\"\nfrom = \"wall\"\n"
    );
    let bare = Plan::from_toml(&head).unwrap().review().pins().remove(0);
    let free: Vec<&str> =
        bare.pins.iter().filter(|p| p.is_free() && p.role.word() == "io").map(|p| p.name.as_str()).collect();
    let mut text = head;
    for (i, pin) in free.iter().take(3).enumerate() {
        text += &format!("[led.mark{i}]\nvf = \"1.8 V\"\nfrom = \"keeper.{pin}\"\nresistor = \"{} kΩ\"\n", i + 1);
    }
    text +=
        &format!("[input.float]\npin = \"keeper.{}\"\nkind = \"contact\"\npull = \"10 kΩ\"\n", free.last().unwrap());
    Plan::from_toml(&text).unwrap_or_else(|e| panic!("{class}: {e}"))
}

fn boards() -> Vec<String> {
    classes().into_iter().filter(|c| c.kind == "board" && !c.name.starts_with("pixel-board")).map(|c| c.name).collect()
}

fn pins(review: &Review) -> BoardPins {
    review.pins().remove(0)
}

#[test]
fn text_csv_and_json_hold_the_same() {
    for class in boards() {
        let review = plan(&class).review();
        let all = review.pins();
        let board = &all[0];
        let json: Value = serde_json::from_str(&pins_json(&INPUT, &all, None)).unwrap();
        let csv = pins_csv(&all, None);
        let mut rows = csv.lines();
        let heading: Vec<&str> = rows.next().unwrap().split(',').collect();
        let text = plain(&pins_text(&all, layout(200)));
        assert_eq!(json["plan"], "weir.toml");
        let shapes = json["boards"][0]["pins"].as_array().unwrap();
        assert_eq!(shapes.len(), board.pins.len(), "{class}");
        assert_eq!(csv.lines().count(), board.pins.len() + 1);
        let mut used = 0;
        for ((pin, shape), row) in board.pins.iter().zip(shapes).zip(rows) {
            let place = pin.position.clone().unwrap_or_default();
            assert_eq!(
                (shape["name"].as_str(), shape["kind"].as_str()),
                (Some(pin.name.as_str()), Some(pin.role.word()))
            );
            assert_eq!(shape["free"].as_bool(), Some(pin.is_free()));
            assert!((shape["out_a"].as_f64().unwrap() - pin.out.get()).abs() < 1e-15);
            let cells: Vec<&str> = row.split(',').collect();
            assert_eq!(cells.len(), heading.len(), "{row}");
            assert_eq!(cells[..4], ["keeper", place.as_str(), pin.name.as_str(), pin.role.word()], "{row}");
            assert!((cells[5].parse::<f64>().unwrap() - pin.out.get()).abs() < 1e-15);
            // In the table a line of its place, its name, and its jobs.
            let is_line = |l: &&str| {
                let mut words = l.split_whitespace();
                words.next() == Some(place.as_str()) && (pin.name == place || words.next() == Some(pin.name.as_str()))
            };
            if !place.is_empty() {
                let line = text.lines().find(is_line).unwrap_or_else(|| panic!("{class} {place}\n{text}"));
                for job in &pin.jobs {
                    assert!(line.contains(&format!("{} ({})", job.subject, job.what)), "{line}");
                    assert_eq!(shape["jobs"][0]["subject"], job.subject.as_str());
                    assert!(cells[4].starts_with(&job.subject), "{row}");
                    used += 1;
                }
                if pin.out.get() > 0.0 {
                    assert!(line.contains(&format!("+{}", pin.out)), "{line}");
                }
            }
        }
        assert_eq!(used, 4, "{class}");
    }
}

#[test]
fn free_pins_are_those_that_could() {
    for class in boards() {
        let all = plan(&class).review().pins();
        for (words, as_input) in [(&[][..], false), (&["pwm"], false), (&["analogue"], true), (&["i2c-data"], false)] {
            let wanted = Wanted { abilities: words.iter().map(|w| (*w).to_owned()).collect(), as_input };
            // Reckoned from the table of abilities alone.
            let able = |p: &&modest_ohm::views::PinFigures| {
                let kind = p.role.word() == "io" || (p.role.word() == "input" && as_input);
                let can = p.functions.clone().unwrap_or_default();
                kind && p.jobs.is_empty()
                    && p.reserved.is_none()
                    && words.iter().all(|w| can.contains(w) && !p.lost.contains(w))
            };
            let mut want: Vec<&str> = all[0].pins.iter().filter(able).map(|p| p.name.as_str()).collect();
            let json: Value = serde_json::from_str(&pins_json(&INPUT, &all, Some(&wanted))).unwrap();
            let names: Vec<&str> =
                json["boards"][0]["pins"].as_array().unwrap().iter().map(|p| p["name"].as_str().unwrap()).collect();
            assert_eq!(names, want, "{class} {words:?}");
            assert_eq!(pins_csv(&all, Some(&wanted)).lines().count(), want.len() + 1);
            let text = plain(&free_pins_text(&all, &wanted, layout(100)));
            let mut listed: Vec<&str> = text.lines().skip(1).filter_map(|l| l.split_whitespace().next()).collect();
            listed.retain(|n| want.contains(n));
            listed.sort_unstable();
            want.sort_unstable();
            assert_eq!(listed, want, "{class} {words:?}\n{text}");
            assert_eq!(text.contains("\nnone\n"), want.is_empty(), "{text}");
        }
    }
}

#[test]
fn tables_keep_to_the_width() {
    for class in boards() {
        let all = plan(&class).review().pins();
        for width in [80, 100, 120, 160] {
            let table = plain(&pins_text(&all, layout(width)));
            let wide = table.lines().map(|l| l.chars().count()).max().unwrap();
            assert!(wide <= width, "{class} {width}: {wide}\n{table}");
        }
    }
}

#[test]
fn proposals_in_words_and_as_edits() {
    let open = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"10 A\"\n[board.keeper]\n\
                part = \"wifi-board-3v3\"\nfrom = \"wall\"\n[input.dusk]\npin = \"keeper.any\"\nkind = \"voltage\"\nhigh = \"2 V\"\n\
                reads = \"analogue\"\n[led.mark]\nvf = \"1.8 V\"\nfrom = \"keeper.any\"\nresistor = \"1 kΩ\"\n";
    let found = Plan::from_toml(open).unwrap().assign_pins(&[]);
    let text = plain(&assignment_text(&found, layout(100)));
    let json: Value = serde_json::from_str(&assignment_json(&INPUT, &found)).unwrap();
    assert_eq!(json["possible"], true);
    for pin in json["pins"].as_array().unwrap() {
        let line = format!("  {} = {}", pin["path"].as_str().unwrap(), pin["value"].as_str().unwrap());
        assert!(text.lines().any(|l| l == line), "{line}\n{text}");
    }
    assert!(text.contains("no new findings"), "{text}");
    // No pin of a board whose pins are not known can be proposed; why stands in both.
    let unknown =
        Plan::from_toml(&open.replace("part = \"wifi-board-3v3\"", "mean = \"20 mA\"")).unwrap().assign_pins(&[]);
    let text = plain(&assignment_text(&unknown, layout(100)));
    let json: Value = serde_json::from_str(&assignment_json(&INPUT, &unknown)).unwrap();
    assert_eq!(json["possible"], false);
    assert!(text.contains("No allocation") && text.contains("set `part`"), "{text}");
    assert!(json["reason"].as_str().unwrap().contains("set `part`"));
}

fn attribute(line: &str, key: &str) -> Option<f64> {
    line.split(&format!(" {key}=\"")).nth(1)?.split('"').next()?.parse().ok()
}

/// The bars of a header, read back out of the picture: as long as their pin's share of what it may carry.
#[test]
fn bars_are_as_long_as_their_share() {
    for class in boards() {
        let review = plan(&class).review();
        let svg = pins_svg(&review, "keeper").unwrap();
        let bars: Vec<f64> = svg
            .lines()
            .filter(|l| l.starts_with("<rect") && attribute(l, "height").is_some_and(|h| (h - 2.4).abs() < 1e-6))
            .map(|l| attribute(l, "width").unwrap())
            .collect();
        let board = pins(&review);
        let share = |p: &modest_ohm::views::PinFigures| {
            let most = p.recommended?.get();
            Some((p.out.get().max(p.into.get()) / most).min(1.0)).filter(|s| *s > 0.0 && !p.jobs.is_empty())
        };
        let shares: Vec<f64> = board.pins.iter().filter_map(share).collect();
        assert_eq!(bars.len(), shares.len(), "{class}");
        for (bar, share) in bars.iter().zip(&shares) {
            // A box of 330 with a rim of 2 on either side.
            assert!((bar - 326.0 * share).abs() < 0.06, "{class}: {bar} {share}");
        }
        assert_eq!(svg.matches("<text").count(), svg.matches("</text>").count());
    }
    assert!(pins_svg(&plan(&boards()[0]).review(), "helm").is_none());
}

fn text_of(answer: &SizeAnswer) -> String {
    plain(&answer.text(110))
}

fn figures_of(answer: &SizeAnswer) -> Value {
    serde_json::from_str(&answer.json()).unwrap()
}

fn close(value: &Value, want: f64) {
    let got = value.as_f64().unwrap_or_else(|| panic!("{value} for {want}"));
    assert!((got - want).abs() <= 1e-9 * want.abs(), "{got} {want}");
}

fn led_need() -> LedNeed {
    LedNeed {
        supply: Nominal::new(Volts::new(5.0), Volts::new(5.25)),
        vf: Nominal::new(Volts::new(2.0), Volts::new(1.8)),
        diode: Nominal::new(Volts::new(0.3), Volts::new(0.2)),
        pin: Nominal::new(Ohms::new(40.0), Ohms::new(30.0)),
        current: Amps::new(0.018),
        most: None,
        tolerance: Fraction::new(0.05),
        rated: Watts::new(0.25),
    }
}

#[test]
fn answers_about_leds() {
    let limits = LedLimits { wanted: None, recommended: Some(Amps::new(0.02)), absolute: None };
    let values = Values::of_series(Series::E24);
    let answer = |need: &LedNeed, limits: &LedLimits| size_led(need, &size::led(need, &values), limits);
    // 2.7 V/18 mA − 40 Ω = 110 Ω; worst (5.25 − 0.2 − 1.8) V/(104.5 + 30) Ω = 24.2 mA; 24.2² · 104.5 Ω = 61.0 mW.
    let plain = answer(&led_need(), &limits);
    let figures = figures_of(&plain);
    let worst = 3.25 / 134.5;
    close(&figures["chosen"]["ohm"], 110.0);
    close(&figures["chosen"]["nominal_a"], 0.018);
    close(&figures["chosen"]["worst_a"], worst);
    close(&figures["chosen"]["worst_w"], worst * worst * 104.5);
    close(&figures["exact_ohm"], 110.0);
    // Without the diode and the pin: 3 V/18 mA.
    close(&figures["simple_ohm"], 3.0 / 0.018);
    assert!(plain.found && figures["recommended_a"].as_f64().unwrap() < worst);
    // With an absolute maximum of 22 mA: (3.25 V/22 mA − 30 Ω)/0.95 = 123.9 Ω: 130 Ω, and 110 Ω is passed over.
    let most = Some(Amps::new(0.022));
    let held = answer(&LedNeed { most, ..led_need() }, &LedLimits { absolute: most, ..limits });
    let json = figures_of(&held);
    close(&json["chosen"]["ohm"], 130.0);
    close(&json["min_ohm"], (3.25 / 0.022 - 30.0) / 0.95);
    assert!(text_of(&held).contains("110 Ω"), "what is passed over is named: {}", text_of(&held));
    // Too low a supply, and a drawer without anything large enough.
    let low = answer(&LedNeed { supply: Nominal::new(Volts::new(2.2), Volts::new(2.3)), ..led_need() }, &limits);
    assert!(!low.found && figures_of(&low)["exact_ohm"].as_f64().unwrap() < 0.0);
    assert!(["2.3 V", "2.2 V"].iter().all(|volts| text_of(&low).contains(volts)), "{}", text_of(&low));
    let few = size_led(&led_need(), &size::led(&led_need(), &Values::of_list([Ohms::new(100.0)])), &limits);
    assert!(!few.found && figures_of(&few)["chosen"].is_null());
    close(&figures_of(&few)["min_ohm"], 110.0);
    // A wish that the next value misses: 17.5 mA of 120 Ω; 18.5 mA required.
    let dim = LedNeed { current: Amps::new(0.0175), ..led_need() };
    let dim = answer(&dim, &LedLimits { wanted: Some(Amps::new(0.0174)), recommended: None, absolute: None });
    assert!(figures_of(&dim)["chosen"]["nominal_a"].as_f64() < figures_of(&dim)["demand_a"].as_f64());
    assert!(text_of(&dim).contains("17.4 mA"), "{}", text_of(&dim));
}

#[test]
fn answers_about_dividers() {
    let need = DividerNeed {
        input: Range::new(Volts::new(9.0), Volts::new(14.8)),
        tolerance: Fraction::new(0.01),
        most: Volts::new(3.3),
        least: Volts::new(1.7),
    };
    let limits = DividerLimits { source: Ohms::new(10e3), current: Amps::new(5e-3), top: Ohms::new(0.0) };
    // 39 over 10 kΩ: 14.8 V gives 3.02 V; at 1 % 14.8 · 10.1/(38.61 + 10.1) = 3.07 V and 9 · 9.9/(39.39 + 9.9) = 1.81
    // V.
    let given =
        size_divider(&need, &limits, &[size::divider_with(&need, Ohms::new(39e3), Ohms::new(10e3))], None, true);
    let pair = &figures_of(&given)["pairs"][0];
    close(&pair["worst_high_v"], 14.8 * 10.1 / (38.61 + 10.1));
    close(&pair["worst_low_v"], 9.0 * 9.9 / (39.39 + 9.9));
    close(&pair["source_ohm"], 39e3 * 10e3 / 49e3);
    close(&pair["current_a"], 14.8 / 49e3);
    assert!(given.found && pair["over_max"] == false && pair["below_min"] == false);
    for (top, over) in [(30e3, true), (47e3, false)] {
        let pair = size::divider_with(&need, Ohms::new(top), Ohms::new(10e3));
        let answer = size_divider(&need, &limits, &[pair], None, true);
        let pair = &figures_of(&answer)["pairs"][0];
        assert!(!answer.found && pair["over_max"] == over && pair["below_min"] == !over, "{pair:#}");
    }
    // 1.7 V out of 9 V and 2.7 V out of 14.8 V: 14.8/9 = 1.64 is more than 2.7/1.7 = 1.59.
    let narrow = DividerNeed { most: Volts::new(2.7), ..need };
    let none = size_divider(
        &narrow,
        &limits,
        &size::divider(&narrow, &limits, &Values::of_series(Series::E24), 5),
        None,
        false,
    );
    assert!(!none.found && text_of(&none).contains("too narrow for any divider"), "{}", text_of(&none));
    let wide = DividerNeed { most: Volts::new(2.85), tolerance: Fraction::new(0.05), ..need };
    let none =
        size_divider(&wide, &limits, &size::divider(&wide, &limits, &Values::of_series(Series::E192), 5), None, false);
    assert!(!none.found && text_of(&none).contains("with 5 % tolerance"), "{}", text_of(&none));
    // 2.85/1.7 = 1.676 over 14.8/9 = 1.644 leaves 1.9 % for both: four fifths of one tolerance at this ratio, so 0.5 %.
    let values = Values::of_series(Series::E192);
    let finer = size::divider_finer(&wide, &limits, &values);
    let told = size_divider(&wide, &limits, &[], finer, false);
    close(&figures_of(&told)["finer"]["tolerance"], 0.005);
}

#[test]
fn answers_about_pulls_and_levels() {
    let need = PullNeed {
        rail: Range::new(Volts::new(3.2), Volts::new(3.4)),
        thresholds: Range::new(Volts::new(0.8), Volts::new(2.4)),
        contact: Ohms::new(100.0),
        closed: Volts::new(0.0),
        leak: Amps::new(1e-6),
        wetting: Amps::new(0.0),
        most: Amps::new(1e-3),
        tolerance: Fraction::new(0.05),
    };
    let values = Values::of_series(Series::E12);
    let answer = |need: &PullNeed| size_pull(need, &size::pull(need, &values));
    // 3.4 V/1 mA − 100 Ω = 3.3 kΩ; (3.2 − 2.4) V/1 µA = 800 kΩ; 56 kΩ takes 3.4 V/56.1 kΩ = 60.6 µA.
    let figures = figures_of(&answer(&need));
    close(&figures["min_ohm"], 3300.0);
    close(&figures["max_ohm"], 800e3);
    close(&figures["chosen_ohm"], 56e3);
    close(&figures["current_a"], 3.4 / 56.1e3);
    let endless = answer(&PullNeed { leak: Amps::new(0.0), ..need });
    assert!(endless.found && figures_of(&endless)["max_ohm"].is_null());
    // 1 mA of wetting and 1 mA at most do not go together with 5 % tolerance.
    let none = answer(&PullNeed { wetting: Amps::new(1e-3), ..need });
    assert!(!none.found && figures_of(&none)["chosen_ohm"].is_null());
    let weak = answer(&PullNeed { closed: Volts::new(0.8), ..need });
    assert!(!weak.found && text_of(&weak).contains("800 mV"), "{}", text_of(&weak));

    let need = LevelNeed {
        sender: Range::new(Volts::new(3.2), Volts::new(3.4)),
        sender_ohms: Ohms::new(33.0),
        receiver: Range::new(Volts::new(4.75), Volts::new(5.25)),
        vih: LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(0.7) },
        vil: LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(0.3) },
        most: None,
        shift: Volts::new(0.0),
        rate: Hertz::new(800e3),
        length: Metres::new(0.5),
        bidirectional: false,
        tolerance: Fraction::new(0.05),
    };
    let answer = |need: &LevelNeed| size_level(need, &size::level(need, &values));
    let up = answer(&need);
    let ways = figures_of(&up)["options"].as_array().unwrap().clone();
    // HCT takes 2.0 V: 3.1 − 2.0 V high, 0.8 − 0.1 V low. Straight 3.1 V against 0.7 · 5.25 V.
    let works: Vec<&Value> = ways.iter().filter(|w| w["works"] == true).collect();
    assert_eq!(works.len(), 1);
    close(&works[0]["high_margin_v"], 1.1);
    close(&works[0]["low_margin_v"], 0.7);
    close(&ways.iter().find(|w| w["option"] == "straight").unwrap()["high_margin_v"], 3.1 - 0.7 * 5.25);
    assert!(ways.iter().all(|w| w["works"] == w["reasons"].as_array().unwrap().is_empty()));
    let never = answer(&LevelNeed { receiver: Range::new(Volts::new(11.4), Volts::new(12.6)), ..need });
    assert!(!never.found && figures_of(&never)["options"].as_array().unwrap().iter().all(|w| w["works"] == false));
}
