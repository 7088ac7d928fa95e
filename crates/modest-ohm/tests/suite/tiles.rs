//! Panels as electricity: tiles against the strips that they are, feed points against every set of tile ends, data
//! cables against a list walked by hand, firmware limits against the plan with that firmware limit set.

use std::fmt::Write as _;

use modest_ohm::advise::FeedRequest;
use modest_ohm::units::{Amps, Volts};
use modest_ohm::{Corner, Plan, Review, Select, Severity};
use proptest::prelude::*;

const WALL: &str = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V ± 0 %\"\nresistance = \"0 Ω\"\n";

fn review(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

/// A panel of tiles in a row.
#[derive(Clone, Debug)]
struct Tiled {
    tiles: usize,
    columns: usize,
    rows: usize,
    pitch_mm: usize,
    data_only: bool,
    lead_m: f64,
    join_m: f64,
    cap: f64,
}

fn tiled() -> impl Strategy<Value = Tiled> {
    let size = (1..5usize, 2..9usize, 1..7usize, prop::sample::select(vec![5usize, 8, 10, 16]));
    (size, any::<bool>(), 0.1..2.0f64, 0.05..0.5f64, 0.1..1.0f64).prop_map(
        |((tiles, columns, rows, pitch_mm), data_only, lead_m, join_m, cap)| Tiled {
            tiles,
            columns,
            rows,
            pitch_mm,
            data_only,
            lead_m,
            join_m,
            cap,
        },
    )
}

impl Tiled {
    fn pixels(&self) -> usize {
        self.tiles * self.columns * self.rows
    }

    fn cap_a(&self) -> f64 {
        self.pixels() as f64 * (0.001 + 0.060 * self.cap)
    }

    fn panel(&self) -> String {
        let tiles = format!(
            "tiles = {{ across = {}, down = 1, entry = \"top-left\", along = \"rows\", turns = \"same-way\" }}\njoin = \"{} m 22 AWG\"\n",
            self.tiles, self.join_m
        );
        format!(
            "{WALL}[panel.it]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\ncable = \"{} m 18 AWG\"\ncolumns = {}\nrows = {}\npitch = \"{} mm\"\n\
             entry = \"top-left\"\nalong = \"rows\"\nturns = \"same-way\"\npasses = \"{}\"\nfirmware-limit = \"{} A\"\n{}",
            self.lead_m,
            self.columns,
            self.rows,
            self.pitch_mm,
            if self.data_only { "data" } else { "power-and-data" },
            self.cap_a(),
            if self.tiles > 1 { tiles } else { String::new() }
        )
    }

    /// The same as a strip on its own: in rows, its + cut where only data goes on and fed behind each cut.
    fn strip(&self) -> String {
        let per_m = 1000.0 / self.pitch_mm as f64;
        let tile_m = (self.columns * self.rows) as f64 / per_m;
        let mut text = format!(
            "{WALL}[strip.it]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"{} m\"\npixels = \"{per_m} /m\"\nfirmware-limit = \"{} A\"\n",
            tile_m * self.tiles as f64,
            self.cap_a()
        );
        if self.tiles > 1 {
            let _ = writeln!(text, "rows = {}\njoin = \"{} m 22 AWG\"", self.tiles, self.join_m);
        }
        let feeds = if self.data_only { self.tiles } else { 1 };
        if feeds > 1 {
            let cuts: Vec<String> = (1..feeds).map(|k| format!("\"{} m\"", k as f64 * tile_m)).collect();
            let _ = writeln!(text, "cut = [{}]", cuts.join(", "));
        }
        // A feed at a cut is refused; a millionth of a metre behind it is the same.
        let at = |k: usize| if k == 0 { 0.0 } else { k as f64 * tile_m + 1e-6 };
        let feeds: Vec<String> =
            (0..feeds).map(|k| format!("{{ at = \"{} m\", cable = \"{} m 18 AWG\" }}", at(k), self.lead_m)).collect();
        let _ = writeln!(text, "inject = [{}]", feeds.join(", "));
        text
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 120, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn tiles_are_rows_of_a_strip(tiled in tiled()) {
        let (panel, strip) = (review(&tiled.panel()), review(&tiled.strip()));
        for corner in [Corner::Typical, Corner::Low] {
            let (a, b) = (panel.solve_profile("it", "worst", corner).unwrap(), strip.solve_profile("it", "worst", corner).unwrap());
            prop_assert_eq!(a.len(), b.len());
            for (k, (x, y)) in a.iter().zip(b.iter()).enumerate() {
                let apart = (x.voltage - y.voltage).get().abs();
                prop_assert!(apart < 1e-4, "pixel {}: {} and {}", k, x.voltage, y.voltage);
            }
        }
        let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), ..Select::default() };
        let feeds = |r: &Review| r.strips(&select)[0].row.feeds.iter().map(|f| f.feed.get()).collect::<Vec<_>>();
        let (a, b) = (feeds(&panel), feeds(&strip));
        prop_assert_eq!(a.len(), b.len());
        prop_assert!(a.iter().zip(&b).all(|(x, y)| (x - y).abs() < 1e-3), "{:?} and {:?}", a, b);
    }

}

proptest! {
    #![proptest_config(ProptestConfig { cases: 20, failure_persistence: None, ..ProptestConfig::default() })]

    /// The planner's set of one or two tile ends is no worse than any other set of as many, written into the plan.
    #[test]
    fn feed_points_beat_every_set_of_tile_ends(tiled in tiled()) {
        let tiled = Tiled { data_only: false, tiles: tiled.tiles.min(3), ..tiled };
        let plan = Plan::from_toml(&tiled.panel()).unwrap();
        // Beyond what can be reached: all numbers up to the most are tried.
        let wish = FeedRequest { limit: Some(Volts::new(4.999)), most: Some(2), ..FeedRequest::default() };
        let Ok(found) = plan.feed_plan("it", &wish) else { return Ok(()) };
        let places: Vec<(usize, &str)> = (1..=tiled.tiles).flat_map(|t| [(t, "start"), (t, "end")]).collect();
        prop_assert_eq!(found.places, places.len());
        for option in &found.options {
            let count = option.cables.len();
            let first = option.cables.iter().map(|l| l.place.clone()).collect::<Vec<_>>();
            prop_assert!(first.iter().all(|p| p.starts_with("the start of") || p.starts_with("the end of")), "{:?}", first);
            let best = lowest_of(&tiled, &plan, &places_of(option, &places));
            for a in 0..places.len() {
                for b in if count == 1 { a..a + 1 } else { a..places.len() } {
                    let set: Vec<usize> = if count == 1 { vec![a] } else { vec![a, b] };
                    if count == 2 && a == b {
                        continue;
                    }
                    let lowest = lowest_of(&tiled, &plan, &set.iter().map(|i| places[*i]).collect::<Vec<_>>());
                    // Fuses and thicker leads come afterwards: sets are compared as they are searched, without.
                    prop_assert!(best >= lowest - 0.02, "{:?} gives {}, {:?} gives {}", first, best, set, lowest);
                }
            }
        }
    }
}

fn places_of<'p>(option: &modest_ohm::advise::FeedOption, places: &[(usize, &'p str)]) -> Vec<(usize, &'p str)> {
    let named = |(tile, at): &(usize, &str), lead: &modest_ohm::advise::FeedCable| {
        lead.place == format!("the {at} of tile {tile}") || lead.place == format!("the {at} of it")
    };
    option.cables.iter().map(|l| *places.iter().find(|p| named(p, l)).unwrap()).collect()
}

/// The lowest pixel in lasting scenarios with feed points at some tile ends, leads as long as the planner takes them.
fn lowest_of(tiled: &Tiled, plan: &Plan, set: &[(usize, &str)]) -> f64 {
    let map = plan.panel_map("it").unwrap();
    let each = tiled.columns * tiled.rows;
    let pixel = |(tile, at): (usize, &str)| (tile - 1) * each + if at == "end" { each - 1 } else { 0 };
    let middle = |k: usize| map.position(k).unwrap();
    let length = |place: (usize, &str)| {
        let (a, b) = (middle(pixel(place)), middle(0));
        tiled.lead_m + (a.0 - b.0).get().hypot((a.1 - b.1).get())
    };
    let feeds: Vec<String> = set
        .iter()
        .map(|p| format!("{{ tile = {}, at = \"{}\", cable = \"{} m 18 AWG\" }}", p.0, p.1, length(*p)))
        .collect();
    let text = tiled
        .panel()
        .replace(&format!("cable = \"{} m 18 AWG\"\n", tiled.lead_m), &format!("inject = [{}]\n", feeds.join(", ")));
    let select = Select::default();
    let rows = review(&text).strips(&select);
    rows.iter()
        .filter(|r| ["worst", "typical", "idle"].contains(&r.scenario.name()))
        .map(|r| r.row.lowest.get())
        .fold(f64::INFINITY, f64::min)
}

/// One part of a data line: its kind, the lead to it in centimetres, whether a resistor stands before it.
type Part = (u8, usize, bool);

proptest! {
    #![proptest_config(ProptestConfig { cases: 250, failure_persistence: None, ..ProptestConfig::default() })]

    /// Each cable is judged by what drives it: 3 m behind a pin, 15 m behind a buffer, 0.3 m without a resistor; a pair
    /// by its own length. Which cables are at fault is walked here by hand.
    #[test]
    fn data_leads_are_judged_one_by_one(parts in prop::collection::vec((0..2u8, 0..1800usize, any::<bool>()), 0..4),
                                        last in (0..1800usize, any::<bool>()), pair_m in 1..200usize) {
        let mut text = format!("{WALL}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\n");
        let mut wanted = 0;
        let mut buffered = false;
        let mut judge = |(_, cm, series): Part, buffered: bool| {
            let limit = if buffered { 1500 } else { 300 };
            wanted += usize::from(cm > limit || (!series && cm > 30));
        };
        let resistor = |on: bool| if on { "series = \"330 Ω\"\n" } else { "" };
        for (n, part) in parts.iter().enumerate() {
            judge(*part, buffered);
            buffered = true;
            let lead = format!("data-cable = \"{} cm\"\n{}", part.1, resistor(part.2)).replace(" cm", "e-2 m");
            let _ = match part.0 {
                0 => writeln!(text, "[shifter.p{n}]\npart = \"hct-buffer\"\nfrom = \"wall\"\n{lead}"),
                _ => writeln!(
                    text,
                    "[differential-pair.p{n}]\npart = \"differential-pair-5v\"\nnear = {{ from = \"wall\" }}\nfar = {{ from = \"wall\" }}\nlength = \"{pair_m} m\"\n{lead}"
                ),
            };
        }
        judge((0, last.0, last.1), buffered);
        let pairs = parts.iter().filter(|p| p.0 == 1).count();
        wanted += if pair_m > 100 { pairs } else { 0 };
        let names: Vec<String> = (0..parts.len()).map(|n| format!("\"p{n}\"")).collect();
        let series = if last.1 { ", series = \"330 Ω\"" } else { "" };
        let _ = writeln!(
            text,
            "[strip.it]\npart = \"pixel-5v-rgb-12ma\"\nfrom = \"wall\"\nlength = \"0.5 m\"\npixels = \"30 /m\"\ndata = {{ pin = \"keeper.io27\", \
             through = [{}], cable = \"{}e-2 m\"{series} }}",
            names.join(", "),
            last.0
        );
        let found = review(&text);
        let told: Vec<&str> =
            found.findings().iter().filter(|f| f.code == "data-cable").map(|f| f.message.as_str()).collect();
        prop_assert_eq!(told.len(), wanted, "{:#?}\n{}", told, text);
        prop_assert!(found.findings().iter().filter(|f| f.code == "data-cable").all(|f| f.severity == Severity::Caution));
        // What stands in a line is used, and every hop of it has its margins.
        prop_assert!(!found.findings().iter().any(|f| f.code == "unused" && f.subject.starts_with('p')));
        prop_assert_eq!(found.signals(&Select { scenario: Some("worst".into()), ..Select::default() }).len(), parts.len() + 1);
    }

}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, failure_persistence: None, ..ProptestConfig::default() })]

    /// Outputs list every pixel of every driven strip once, one after the other.
    #[test]
    fn outputs_cover_their_lines(lengths in prop::collection::vec(1..60usize, 1..7), breaks in prop::collection::vec(any::<bool>(), 7)) {
        let mut text = format!("{WALL}[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\n");
        let pins = ["io27", "io26", "io25", "io33", "io32", "io21", "io22"];
        let mut lines: Vec<Vec<usize>> = Vec::new();
        for (n, pixels) in lengths.iter().enumerate() {
            let data = if n == 0 || breaks[n] {
                lines.push(vec![*pixels]);
                format!("pin = \"keeper.{}\"", pins[lines.len() - 1])
            } else {
                lines.last_mut().unwrap().push(*pixels);
                format!("after = \"s{}\"", n - 1)
            };
            let _ = writeln!(
                text,
                "[strip.s{n}]\npart = \"pixel-5v-rgbw\"\nfrom = \"wall\"\nlength = \"{pixels} m\"\npixels = \"1 /m\"\ndata = {{ {data} }}"
            );
        }
        let figures = review(&text).firmware();
        prop_assert_eq!(figures.outputs.len(), lines.len());
        for (output, line) in figures.outputs.iter().zip(&lines) {
            prop_assert_eq!(output.pixels, line.iter().sum::<usize>());
            prop_assert_eq!(output.parts.iter().map(|p| p.pixels).collect::<Vec<_>>(), line.clone());
            let firsts: Vec<usize> = line.iter().scan(0, |sum, n| { let at = *sum; *sum += n; Some(at) }).collect();
            prop_assert_eq!(output.parts.iter().map(|p| p.first).collect::<Vec<_>>(), firsts);
            // Four colours are 32 bits of 1.25 µs, and 300 µs of pause once.
            let time = output.pixels as f64 * 40e-6 + 300e-6;
            prop_assert!((output.frame.unwrap().get() - time).abs() < 1e-9);
        }
        prop_assert!(figures.undriven.is_empty());
    }
}

/// The largest firmware limit of two strips behind one converter: set so, nothing is said; 2 % more, and it is too
/// high. The converter binds, at its rating less its headroom.
#[test]
fn the_room_of_a_shared_cap() {
    let text = |cap: &str| {
        format!(
            "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"5 A\"\n[converter.five]\nkind = \"buck\"\nfrom = \
             \"wall\"\ncable = \"0.2 m 18 AWG\"\noutput = \"5 V\"\ncurrent = \"4 A\"\n\
             [strip.a]\npart = \"pixel-5v-rgb\"\nfrom = \"five\"\ncable = \"0.2 m 16 AWG\"\nlength = \"1 m\"\npixels = \"60 /m\"\n\
             [strip.b]\npart = \"pixel-5v-rgb\"\nfrom = \"five\"\ncable = \"0.2 m 16 AWG\"\nlength = \"1 m\"\npixels = \"60 /m\"\n{cap}"
        )
    };
    let shared =
        |amps: f64| text(&format!("[firmware-limit.both]\nstrips = [\"a\", \"b\"]\ncurrent = \"{amps:.3} A\"\n"));
    let figures = review(&shared(2.0)).firmware();
    let cap = &figures.firmware_limits[0];
    assert_eq!((cap.name.as_str(), cap.strips.len(), cap.pixels), ("both", 2, 120));
    let (name, usable) = cap.binding.clone().unwrap();
    assert_eq!(name, "`five`");
    assert!((usable.get() - 3.2).abs() < 1e-9, "4 A less a fifth");
    // At the corners a pixel draws its nominal current: 3.2 A, in steps of 50 mA.
    let carries = cap.available.unwrap();
    assert!((carries.get() - 3.2).abs() < 1e-9, "{carries}");
    let told = |amps: f64| {
        let found = review(&shared(amps));
        found
            .findings()
            .iter()
            .any(|f| f.code == "firmware-limit-too-high" || f.also.iter().any(|c| c.code == "firmware-limit-too-high"))
    };
    assert!(!told(carries.get()) && told(1.02 * carries.get()));
    // Without any firmware limit the two are one cause, and are reported together.
    let free = review(&text("")).firmware();
    assert_eq!(free.firmware_limits.iter().map(|c| (c.set, c.strips.len())).collect::<Vec<_>>(), [(None, 2)]);
    assert_eq!(free.firmware_limits[0].available, Some(Amps::new(3.2)));
    assert!((free.firmware_limits[0].full.get() - 7.32).abs() < 1e-9);
}
