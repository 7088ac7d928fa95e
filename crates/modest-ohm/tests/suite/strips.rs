//! Strips of every make against a dense solver of the tests' own, and what a label says against hand calculation.

use modest_ohm::{Corner, Plan, Review, Select};
use modest_ohm_dense::strip::{Dense, Draws};
use proptest::prelude::*;

fn review(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}\n{text}")).review()
}

fn near(got: f64, want: f64, what: &str) {
    assert!((got - want).abs() <= 1e-6 * (1.0 + want.abs()), "{what}: {got} against {want}");
}

const WALL: &str = "format = 1\n[supply.wall]\nkind = \"bench\"\nresistance = \"0 Ω\"\n";

/// A plain RGB strip with one feed and three returns, every conductor of every group a node of its own.
#[test]
#[expect(clippy::too_many_lines, reason = "a circuit built by hand, then compared part by part")]
fn a_plain_rgb_strip_agrees_with_four_conductors_solved_densely() {
    // 12.3 V; lead 50 mΩ out, 60 mΩ in each return; copper 0.09 Ω/m out, 0.13 Ω/m in each return; 24 groups at 20 /m;
    // at 12 V red 50 mA and 6 V, which conduct from 6 − 3 · 0.17 V on, green and blue 40 mA and 9.3 V, from 9.3 − 3 ·
    // 0.35 V on; green switched through 0.2 Ω.
    let text = format!(
        "{WALL}voltage = \"12.3 V ± 0 %\"\n[strip.cove]\nprotocol = \"none\"\nvoltage = \"12 V\"\ngroup = 3\n\
         leds = \"60 /m\"\nlength = \"1.2 m\"\ncopper = {{ feed = \"0.09 Ω/m\", return = \"0.13 Ω/m\" }}\n\
         from = \"wall\"\ncable = {{ feed = \"50 mΩ\", return = \"60 mΩ\" }}\n\
         switched = {{ green = {{ by = \"stage-green\", resistance = \"0.2 Ω\" }} }}\n\
         [strip.cove.colours]\nred = {{ current = \"50 mA\", vf = \"6 V\" }}\n\
         green = {{ current = \"40 mA\", vf = \"9.3 V\" }}\nblue = {{ current = \"40 mA\", vf = \"9.3 V\" }}\n\
         [scenario.dusk]\nset = {{ cove = {{ red = \"100 %\", blue = \"20 %\" }} }}\n"
    );
    let review = review(&text);
    for (scenario, on) in [("worst", [true, true, true]), ("dusk", [true, false, true])] {
        let colours = [(5.49, 6.51 / 0.050, 0.0), (8.25, 3.75 / 0.040, 0.2), (8.25, 3.75 / 0.040, 0.0)];
        let mut dense = Dense::new(12.3);
        let head = dense.node();
        dense.wire(1, head, 0.050);
        let returns: Vec<usize> = colours
            .iter()
            .map(|(.., switch)| {
                let end = dense.node();
                dense.wire(0, end, 0.060 + switch);
                end
            })
            .collect();
        let (mut plus, mut minus) = (head, returns);
        let mut strings = Vec::new();
        for k in 0..24 {
            // Half a pitch to the first group, a pitch of 50 mm from each to the next.
            let gap = if k == 0 { 0.025 } else { 0.050 };
            let next = dense.node();
            dense.wire(plus, next, 0.09 * gap);
            plus = next;
            for (c, m) in minus.iter_mut().enumerate() {
                let next = dense.node();
                dense.wire(*m, next, 0.13 * gap);
                *m = next;
                if on[c] {
                    let (start, ohms, _) = colours[c];
                    dense.loads.push((plus, next, Draws::Resistor { start, ohms }));
                }
                strings.push((k, plus, next, on[c]));
            }
        }
        let v = dense.solve();
        let across = |k: usize| {
            let of_k = strings.iter().filter(|(g, ..)| *g == k);
            of_k.map(|(_, p, m, _)| v[*p] - v[*m]).fold(f64::INFINITY, f64::min)
        };
        let profile = review.solve_profile("cove", scenario, Corner::Typical).unwrap();
        assert_eq!(profile.len(), 24);
        for (k, point) in profile.iter().enumerate() {
            near(point.voltage.get(), across(k), &format!("group {k} in {scenario}"));
        }
        let total: f64 = dense.loads.iter().map(|(a, b, d)| d.at(v[*a] - v[*b]).0).sum();
        let select = Select { scenario: Some(scenario.into()), corner: Some(Corner::Typical), ..Select::default() };
        let row = &review.strips(&select)[0].row;
        near(row.current.get(), total, "its current");
        let power: f64 = dense.loads.iter().map(|(a, b, d)| d.at(v[*a] - v[*b]).0 * (v[*a] - v[*b])).sum();
        near(row.pixel_power.get(), power, "its power");
        near(row.feeds[0].feed.get(), total, "into its feed");
        near(row.feeds[0].back.get(), -total, "out of its returns");
        near(row.feeds[0].voltage.get(), v[head], "voltage at its head");
        // All losses: what the source gives less what the LEDs take.
        let totals = &review.totals(&select)[0].row;
        near(totals.conductor.get(), 12.3 * total - power, "drop in copper and switches");
        // Each return carries its own colour.
        for (c, name) in ["cove.inject[0]", "cove.inject[0].green", "cove.inject[0].blue"].iter().enumerate() {
            let amps: f64 = strings
                .iter()
                .enumerate()
                .filter(|(n, s)| n % 3 == c && s.3)
                .map(|(_, (_, p, m, _))| (v[*p] - v[*m] - colours[c].0) / colours[c].1)
                .sum();
            let rows = review.conductors(&select);
            near(rows.iter().find(|r| r.row.name == *name).unwrap().row.back.get(), -amps, name);
        }
    }
}

/// Pixels of one clamp each, with cuts in the + and rows joined by leads, against the dense solver.
#[derive(Clone, Debug)]
struct Laid {
    rows: usize,
    per_row: usize,
    /// In pixels from the start, between two pixels.
    cuts: Vec<usize>,
    /// Pixel before which it is fed; feed and return resistance of the cable.
    feeds: Vec<(usize, f64, f64)>,
    join: (f64, f64),
    copper: (f64, f64),
}

fn laid() -> impl Strategy<Value = Laid> {
    (1usize..4, 2usize..7).prop_flat_map(|(rows, per_row)| {
        let n = rows * per_row;
        let feed = (0..n, 0.001f64..0.2, 0.001f64..0.2);
        (
            proptest::collection::btree_set(1..n, 0..3),
            proptest::collection::vec(feed, 1..4),
            (0.001f64..0.3, 0.001f64..0.3),
            (0.02f64..3.0, 0.02f64..3.0),
        )
            .prop_map(move |(cuts, mut feeds, join, copper)| {
                feeds.sort_by_key(|f| f.0);
                feeds.dedup_by_key(|f| f.0);
                Laid { rows, per_row, cuts: cuts.into_iter().collect(), feeds, join, copper }
            })
    })
}

impl Laid {
    fn text(&self) -> String {
        let n = self.rows * self.per_row;
        // A feed stands a quarter of a pitch before its pixel, a cut half a pitch: no two fall together.
        let feeds: Vec<String> = self
            .feeds
            .iter()
            .map(|(k, out, back)| {
                let at = (*k as f64 + 0.25) / 20.0;
                format!("{{ at = \"{at} m\", cable = {{ feed = \"{out} Ω\", return = \"{back} Ω\" }} }}")
            })
            .collect();
        let cuts: Vec<String> = self.cuts.iter().map(|k| format!("\"{} m\"", *k as f64 / 20.0)).collect();
        let rows = if self.rows > 1 {
            let (out, back) = self.join;
            format!("rows = {}\njoin = {{ feed = \"{out} Ω\", return = \"{back} Ω\" }}\n", self.rows)
        } else {
            String::new()
        };
        format!(
            "{WALL}voltage = \"5 V ± 0 %\"\n[strip.it]\nfrom = \"wall\"\npixels = \"20 /m\"\nlength = \"{} m\"\n\
             copper = {{ feed = \"{} Ω/m\", return = \"{} Ω/m\" }}\nquiescent = \"1 mA\"\nminimum = \"1 V\"\n\
             colours.red = {{ current = \"80 mA\", vf = \"2 V\", vreg = \"4 V\" }}\ninject = [{}]\ncut = [{}]\n{rows}",
            n as f64 / 20.0,
            self.copper.0,
            self.copper.1,
            feeds.join(", "),
            cuts.join(", "),
        )
    }

    /// Pixel voltage and the currents of the feeds.
    fn dense(&self) -> (Vec<f64>, Vec<f64>) {
        let mut dense = Dense::new(5.0);
        let mut at: Option<(f64, usize, usize)> = None;
        let (mut pixels, mut feeds) = (Vec::new(), Vec::new());
        let mut tied = std::collections::BTreeSet::new();
        let n = self.rows * self.per_row;
        let mut places: Vec<(f64, usize)> = (0..n).map(|k| (k as f64 + 0.5, k)).collect();
        places.extend(self.feeds.iter().enumerate().map(|(q, f)| (f.0 as f64 + 0.25, n + q)));
        places.sort_by(|a, b| a.0.total_cmp(&b.0));
        for (x, what) in places {
            let (plus, minus) = (dense.node(), dense.node());
            if let Some((from, p, m)) = at {
                let gap = (x - from) / 20.0;
                // A cable between two rows stands where the row ends, in line with the copper on both sides.
                let joins = (1..self.rows).filter(|r| {
                    let end = (r * self.per_row) as f64;
                    end > from && end <= x
                });
                let joins = joins.count() as f64;
                let cut = self.cuts.iter().any(|c| *c as f64 > from && *c as f64 <= x);
                if !cut {
                    dense.wire(p, plus, gap * self.copper.0 + joins * self.join.0);
                }
                dense.wire(m, minus, gap * self.copper.1 + joins * self.join.1);
            }
            if what >= n {
                let (_, out, back) = self.feeds[what - n];
                dense.wire(1, plus, out);
                dense.wire(0, minus, back);
                feeds.push((plus, out));
            } else {
                dense.loads.push((plus, minus, Draws::Clamped { amps: 0.001, start: 0.0, full: 1.5 }));
                dense.loads.push((plus, minus, Draws::Clamped { amps: 0.08, start: 2.0, full: 4.0 }));
                // A piece without feed has a + that floats; tied to its − it draws nothing either.
                let piece = |y: f64| self.cuts.iter().filter(|c| **c as f64 <= y).count();
                let is_fed = self.feeds.iter().any(|f| piece(f.0 as f64 + 0.25) == piece(x));
                if !is_fed && tied.insert(piece(x)) {
                    dense.wire(plus, minus, 1.0);
                }
                pixels.push((plus, minus));
            }
            at = Some((x, plus, minus));
        }
        let v = dense.solve();
        (
            pixels.iter().map(|(p, m)| v[*p] - v[*m]).collect(),
            feeds.iter().map(|(plus, ohms)| (5.0 - v[*plus]) / ohms).collect(),
        )
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(120), rng_seed: proptest::test_runner::RngSeed::Fixed(5), ..ProptestConfig::default() })]

    #[test]
    fn cuts_and_rows_agree_with_the_dense_solver(laid in laid()) {
        let (pixels, feeds) = laid.dense();
        let review = review(&laid.text());
        let profile = review.solve_profile("it", "worst", Corner::Typical).unwrap();
        prop_assert_eq!(profile.len(), pixels.len());
        let whole = (0..=laid.cuts.len()).all(|piece| {
            laid.feeds.iter().any(|f| laid.cuts.iter().filter(|c| **c as f64 <= f.0 as f64 + 0.25).count() == piece)
        });
        let tolerance = if whole { 1e-6 } else { 1e-4 };
        for (k, (point, want)) in profile.iter().zip(&pixels).enumerate() {
            let got = point.voltage.get();
            let piece = |y: f64| laid.cuts.iter().filter(|c| **c as f64 <= y).count();
            let is_fed = laid.feeds.iter().any(|f| piece(f.0 as f64 + 0.25) == piece(k as f64 + 0.5));
            // What nothing feeds has no voltage, wherever its − stands; in truth its + floats, and where its − carries
            // its neighbours' current the millivolts along it let a trace of quiescent current flow.
            let want = if is_fed { *want } else { 0.0 };
            prop_assert!((got - want).abs() < tolerance, "pixel {}: {} against {}\n{}", k, got, want, laid.text());
        }
        let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), ..Select::default() };
        let row = &review.strips(&select)[0].row;
        for (f, want) in row.feeds.iter().zip(&feeds) {
            prop_assert!((f.feed.get() - want).abs() < 10.0 * tolerance, "a feed: {} against {}\n{}", f.feed, want, laid.text());
        }
        let lowest = profile.iter().map(|p| p.voltage.get()).fold(f64::INFINITY, f64::min);
        prop_assert!((row.lowest.get() - lowest).abs() < 1e-12);
        prop_assert!((profile[row.lowest_index].voltage.get() - lowest).abs() < 1e-12);
        let totals = &review.totals(&select)[0].row;
        let spent = totals.source_internal + totals.load + totals.conductor;
        prop_assert!((spent.get() - totals.source.get()).abs() <= 1e-9 * totals.source.get().max(1e-3));
    }
}

fn typical(review: &Review, name: &str, scenario: &str) -> f64 {
    let select = Select { scenario: Some(scenario.into()), corner: Some(Corner::Typical), ..Select::default() };
    review.strips(&select).iter().find(|r| r.row.name == name).unwrap().row.current.get()
}

/// What a label says, at the rated voltage on a stiff source over copper of next to nothing, by hand.
#[test]
fn labels_make_the_amps_that_they_say() {
    // class, label, scenario colours, current of 2 m in worst, current in *shown*
    let rows = [
        // 14 W/m at 24 V: 0.5833 A/m; red alone is the dark current and a third of the rest: 24 pixels/m.
        ("pixel-24v-rgb-sixes", "leds = \"144 /m\"\npower = \"14 W/m\"", 24.0, 2.0 * 14.0 / 24.0, {
            let dark = 48.0 * 0.001;
            dark + (2.0 * 14.0 / 24.0 - dark) / 3.0
        }),
        // 60 LEDs in threes are 20 pixels: 40 of 1 mA and 3 × 18 mA.
        ("pixel-12v-rgb-threes", "leds = \"60 /m\"", 12.0, 40.0 * 0.055, 40.0 * 0.019),
        // A label in amps wins over the class: 1 A/m.
        ("pixel-12v-rgb-threes", "pixels = \"20 /m\"\ncurrent = \"1 A/m\"", 12.0, 2.0, 0.04 + (2.0 - 0.04) / 3.0),
        // In series: one colour draws as much as white, 13.5 mA and 2 mA.
        ("pixel-12v-rgb-single", "pixels = \"60 /m\"", 12.0, 120.0 * 0.0155, 120.0 * 0.0155),
        ("pixel-5v-rgb-clocked", "pixels = \"30 /m\"", 5.0, 60.0 * 0.061, 60.0 * 0.021),
        // Plain: 14.4 W/m at 12 V is 1.2 A/m, a third of it red.
        ("plain-12v-rgb", "leds = \"60 /m\"\npower = \"14.4 W/m\"", 12.0, 2.4, 0.8),
        ("plain-24v-rgb", "leds = \"120 /m\"\ncurrent = \"0.6 A/m\"", 24.0, 1.2, 0.4),
        ("plain-12v-red", "leds = \"60 /m\"\npower = \"4.8 W/m\"", 12.0, 0.8, 0.8),
    ];
    for (class, label, volts, worst, red) in rows {
        let text = format!(
            "{WALL}voltage = \"{volts} V ± 0 %\"\n[strip.it]\npart = \"{class}\"\nfrom = \"wall\"\ncable = {{ feed = \"0 Ω\", return = \"0 Ω\" }}\n\
             length = \"2 m\"\n{label}\ncopper = \"0.001 mΩ/m\"\n[scenario.shown]\nset = {{ it = {{ red = \"100 %\" }} }}\n"
        );
        let review = review(&text);
        for (scenario, want) in [("worst", worst), ("shown", red)] {
            let got = typical(&review, "it", scenario);
            assert!((got - want).abs() < 1e-4 * want, "{class} {label} in {scenario}: {got} against {want}");
        }
    }
}

/// While it is on a plain strip draws its full current; the battery gives the mean. Half the time, twice as long.
#[test]
fn pwm_halves_what_a_battery_gives_and_not_what_a_wire_carries() {
    let text = "format = 1\n[supply.pack]\nkind = \"battery\"\ncell = \"li-ion-18650\"\nseries = 3\nparallel = 2\ncut-off = \"9.5 V\"\n\
                [strip.cornice]\npart = \"plain-12v-white\"\nfrom = \"pack\"\ncable = \"1 m 18 AWG\"\nlength = \"1 m\"\nleds = \"60 /m\"\n\
                power = \"9.6 W/m\"\nminimum = \"9 V\"\n[scenario.half]\nset = { cornice = \"50 %\" }\n[scenario.whole]\nset = { cornice = \"100 %\" }\n";
    let review = review(text);
    let lasts = |scenario: &str| {
        let rows = review.runtimes();
        rows.iter().find(|r| r.scenario.name() == scenario).unwrap_or_else(|| panic!("{scenario}")).lasts.get()
    };
    assert!((lasts("half") / lasts("whole") - 2.0).abs() < 1e-6, "{} {}", lasts("half"), lasts("whole"));
    let (half, whole) = (typical(&review, "cornice", "half"), typical(&review, "cornice", "whole"));
    assert!((half - whole).abs() < 1e-12, "{half} against {whole}");
}

#[test]
fn a_cap_is_shared_by_one_factor_or_as_it_is_split() {
    let strips = |cap: &str| {
        review(&format!(
            "{WALL}voltage = \"12 V ± 0 %\"\n\
             [strip.quay]\npart = \"pixel-12v-rgb-threes\"\nfrom = \"wall\"\ncable = {{ feed = \"0 Ω\", return = \"0 Ω\" }}\nlength = \"1 m\"\npixels = \"20 /m\"\ncopper = \"0.001 mΩ/m\"\n\
             [strip.pier]\npart = \"pixel-12v-rgb-threes\"\nfrom = \"wall\"\ncable = {{ feed = \"0 Ω\", return = \"0 Ω\" }}\nlength = \"2 m\"\npixels = \"20 /m\"\ncopper = \"0.001 mΩ/m\"\n\
             [firmware-limit.both]\nstrips = [\"quay\", \"pier\"]\n{cap}\n\
             [scenario.one]\nset = {{ pier = \"0 %\" }}\n"
        ))
    };
    // 20 and 40 pixels of 1 mA and 54 mA: 1.1 A and 2.2 A at full white, 0.06 A dark together.
    let shared = strips("current = \"1.14 A\"");
    let factor = (1.14 - 0.06) / (60.0 * 0.054);
    for (name, pixels) in [("quay", 20.0), ("pier", 40.0)] {
        near(typical(&shared, name, "worst"), pixels * (0.001 + factor * 0.054), name);
        assert_eq!(shared.strip(name).unwrap().shared_limit.as_deref(), Some("both"));
    }
    // With the other one dark all of it is the first one's, and more than it can use.
    near(typical(&shared, "quay", "one"), 20.0 * 0.055, "quay alone");
    let split = strips("current = \"1 A\"\nsplit = { quay = \"50 %\", pier = \"50 %\" }");
    near(typical(&split, "quay", "worst"), 0.5, "half for the short one");
    near(typical(&split, "pier", "worst"), 0.5, "half for the long one");
    near(typical(&split, "quay", "one"), 0.5, "its half stays its half");
}

/// Every mistake of a strip at once, each with what to write.
#[test]
fn mistakes_in_strips_are_told_together() {
    let text = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"6 A\"\n\
                [strip.a]\npart = \"plain-12v-rgb\"\nfrom = \"wall\"\nlength = \"5 m\"\nleds = \"60 /m\"\npixels = \"60 /m\"\npower = \"14.4 W/m\"\ncurrent = \"1 A/m\"\nfirmware-limit = \"1 A\"\nswitched = { purple = \"q\", green = 3, blue = { resistance = \"30 mΩ\" } }\n\
                [strip.b]\npart = \"pixel-12v-rgb-threes\"\nfrom = \"wall\"\nlength = \"2 m\"\nleds = \"60 /m\"\npixels = \"60 /m\"\ncut = [\"1 m\", \"1 m\", \"0 m\", \"3 m\"]\nrows = 7\nswitched = { red = \"q\" }\n\
                [strip.c]\npart = \"pixel-24v-rgb-sixes\"\nfrom = \"wall\"\nlength = \"2 m\"\nleds = \"144 /m\"\n\
                [strip.d]\npart = \"pixel-5v-rgb\"\nfrom = \"a.end\"\nlength = \"2 m\"\nleds = \"60 /m\"\npower = \"0.1 W/m\"\njoin = \"1 m 20 AWG\"\n\
                [strip.e]\npart = \"pixel-5v-rgb\"\nlength = \"2 m\"\npixels = \"60 /m\"\nfrom = \"wall\"\ncut = \"1 m\"\ninject = [ { at = \"1 m\" } ]\n\
                [strip.f]\nprotocol = \"none\"\nfrom = \"wall\"\nlength = \"1 m\"\nleds = \"60 /m\"\ncolours.white = { vf = \"9 V\" }\n\
                [strip.g]\nprotocol = \"none\"\nvoltage = \"12 V\"\nfrom = \"wall\"\nlength = \"1 m\"\nleds = \"60 /m\"\ncolours.white = { vf = \"13 V\", current = \"1 A/m\" }\n\
                [firmware-limit.x]\nstrips = [\"a\", \"b\", \"zz\", \"b\"]\ncurrent = \"0.01 A\"\nsplit = { a = \"60 %\", b = \"60 %\", q = \"1 %\" }\n\
                [firmware-limit.y]\nstrips = []\ncurrent = \"1\"\n[firmware-limit.z]\ncurrent = \"50 mA\"\nstrips = [\"e\"]\n\
                [firmware-limit.w]\ncurrent = \"9 A\"\nstrips = [\"e\"]\nsplit = { e = \"80 %\" }\n\
                [scenario.s]\nset = { b = { purple = \"10 %\" }, e = { red = \"120 %\" }, d = { red = \"x\" }, a = \"on\" }\n[policy]\nframe-rate = 0\n";
    let errors = Plan::from_toml(text).map(|_| ()).unwrap_err();
    let told: Vec<String> = errors.problems.iter().map(|p| p.message.clone()).collect();
    for words in [
        "`pixels` of strip `a`: a plain strip has none",
        "strip `a` has both `power` and `current`",
        "`firmware-limit` of strip `a`",
        "`switched` in strip `a` has no colour `purple`",
        "`switched.green` of strip `a` is",
        "`switched.blue` of strip `a`: `by` is missing",
        "strip `b` has `leds` 60 /m and `pixels` 60 /m; its pixels have 3 LEDs each",
        "strip `b` is cut twice at 1 m",
        "strip `b` is cut at 0 m, where it ends",
        "strip `b` is cut at 3 m, beyond the strip's 2 m",
        "which do not make 7 equal rows",
        "`switched` of strip `b`: pixels switch their own colours",
        "`power` is missing",
        "`a.end` is an end of a strip with one return per colour",
        "strip `d` draws 20 mA/m per metre in all",
        "`join` of strip `d` without `rows`",
        "strip `e` is cut at 1 m, where it is fed",
        "`power` is missing",
        "`voltage` is missing",
        "`colours.white` of strip `g`: the rated voltage 12 V is not above vf 13 V",
        "`a` has two firmware limits: `x` and its own `firmware-limit`",
        "there is no strip `zz`",
        "firmware-limit `x` lists `b` twice",
        "leaves out zz",
        "names `q`, which is not one of its strips",
        "firmware-limit `y` applies to no strip",
        "`current` of firmware-limit `y`",
        "firmware limit `z` is 50 mA; the dark current of its strips is 120 mA",
        "`e` has two firmware limits: `w` and `z`",
        "the shares of `split` in firmware-limit `w` add up to 80 %",
        "`b` cannot be set like this",
        "`red` is set to 120 %",
        "`red` of `set.d`",
        "`a` cannot be set like this",
        "`frame-rate` of",
    ] {
        assert!(told.iter().any(|t| t.contains(words)), "not told: {words}\n{}", told.join("\n"));
    }
    assert!(errors.problems.iter().all(|p| p.span.is_some() && !p.help.is_empty()), "{errors}");
}
