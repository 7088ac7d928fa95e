//! Strips of every make against a dense solver of the tests' own, and what a label says against hand reckoning.

#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

#[path = "strips/dense.rs"]
mod dense;

use dense::{Dense, Draws};
use modest_ohm::{Corner, Plan, Review, Select};
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
fn a_plain_rgb_strip_agrees_with_four_conductors_solved_densely() {
    // 12.3 V; lead 50 mΩ out, 60 mΩ in each return; copper 0.09 Ω/m out, 0.13 Ω/m in each return; 24 groups at 20 /m;
    // red 50 mA behind 6 V, green and blue 40 mA behind 9.3 V at 12 V; green switched through 0.2 Ω.
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
        let colours = [(6.0, 6.0 / 0.050, 0.0), (9.3, 2.7 / 0.040, 0.2), (9.3, 2.7 / 0.040, 0.0)];
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
        let profile = review.profile("cove", scenario, Corner::Typical).unwrap();
        assert_eq!(profile.len(), 24);
        for (k, point) in profile.iter().enumerate() {
            near(point.voltage.get(), across(k), &format!("group {k} in {scenario}"));
        }
        let total: f64 = dense.loads.iter().map(|(a, b, d)| d.at(v[*a] - v[*b]).0).sum();
        let select = Select { scenario: Some(scenario.into()), corner: Some(Corner::Typical), all_corners: false };
        let row = &review.strips(&select)[0].row;
        near(row.current.get(), total, "its current");
        let power: f64 = dense.loads.iter().map(|(a, b, d)| d.at(v[*a] - v[*b]).0 * (v[*a] - v[*b])).sum();
        near(row.pixel_power.get(), power, "its power");
        near(row.feeds[0].feed.get(), total, "into its feed");
        near(row.feeds[0].back.get(), -total, "out of its returns");
        near(row.feeds[0].voltage.get(), v[head], "volts at its head");
        // All losses: what the source gives less what the LEDs take.
        let totals = &review.totals(&select)[0].row;
        near(totals.conductor.get(), 12.3 * total - power, "lost in copper and switches");
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
    /// Pixel before which it is fed; feed and return ohms of the lead.
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
             copper = {{ feed = \"{} Ω/m\", return = \"{} Ω/m\" }}\nquiescent = \"1 mA\"\nworks = \"1 V\"\n\
             colours.red = {{ current = \"80 mA\", vf = \"2 V\", vreg = \"4 V\" }}\ninject = [{}]\ncut = [{}]\n{rows}",
            n as f64 / 20.0,
            self.copper.0,
            self.copper.1,
            feeds.join(", "),
            cuts.join(", "),
        )
    }

    /// Pixel volts and the currents of the feeds.
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
                // A lead between two rows stands where the row ends, in line with the copper on both sides.
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
        let profile = review.profile("it", "worst", Corner::Typical).unwrap();
        prop_assert_eq!(profile.len(), pixels.len());
        let whole = (0..=laid.cuts.len()).all(|piece| {
            laid.feeds.iter().any(|f| laid.cuts.iter().filter(|c| **c as f64 <= f.0 as f64 + 0.25).count() == piece)
        });
        let tolerance = if whole { 1e-6 } else { 1e-4 };
        for (k, (point, want)) in profile.iter().zip(&pixels).enumerate() {
            let got = point.voltage.get();
            let piece = |y: f64| laid.cuts.iter().filter(|c| **c as f64 <= y).count();
            let is_fed = laid.feeds.iter().any(|f| piece(f.0 as f64 + 0.25) == piece(k as f64 + 0.5));
            // What nothing feeds has no volts, wherever its − stands; in truth its + floats, and where its − carries its
            // neighbours' current the millivolts along it let a trace of quiescent current flow.
            let want = if is_fed { *want } else { 0.0 };
            prop_assert!((got - want).abs() < tolerance, "pixel {}: {} against {}\n{}", k, got, want, laid.text());
        }
        let select = Select { scenario: Some("worst".into()), corner: Some(Corner::Typical), all_corners: false };
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
