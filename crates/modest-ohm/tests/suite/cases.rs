//! The case files: inputs with results from an independent solver, taken through the public interface.

use std::collections::BTreeMap;
use std::fmt::Write as _;

use modest_ohm::views::{SignalRow, StripRow};
use modest_ohm::{Corner, Plan, Review, Select};
use serde_json::Value;

/// `p09-fuse` and `p10-wire` are single questions: `leads.rs` asks them; `size.rs` and `injection.rs` ask p13 and p14,
/// `size_signals.rs` p06 and p08, `size_stages.rs` p07.
const PASSING: [&str; 14] = [
    "p06-led-resistor",
    "p07-base-resistor",
    "p08-divider",
    "p13-injection-small",
    "p14-cap-refresh-pd",
    "p01-single-end",
    "p02-both-ends",
    "p03-12v-grouped",
    "p04-converter-long-cable",
    "p05-collapse",
    "p09-fuse",
    "p10-wire",
    "p11-cascade",
    "p12-ground-shift",
];

fn folder() -> std::path::PathBuf {
    std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/cases")
}

fn load(id: &str) -> Value {
    serde_json::from_str(&std::fs::read_to_string(folder().join(format!("{id}.json"))).unwrap()).unwrap()
}

#[test]
fn every_case_passes() {
    let mut found: Vec<String> = std::fs::read_dir(folder())
        .unwrap()
        .map(|e| e.unwrap().path().file_stem().unwrap().to_string_lossy().into_owned())
        .collect();
    found.sort();
    let mut known: Vec<String> = PASSING.iter().map(|s| (*s).to_owned()).collect();
    known.sort();
    assert_eq!(found, known);
}

#[test]
fn p01_single_end() {
    run("p01-single-end");
}

#[test]
fn p02_both_ends() {
    run("p02-both-ends");
}

#[test]
fn p03_12v_grouped() {
    run("p03-12v-grouped");
}

#[test]
fn p04_converter_long_cable() {
    run("p04-converter-long-cable");
}

#[test]
fn p05_collapse() {
    run("p05-collapse");
}

#[test]
fn p11_cascade() {
    run("p11-cascade");
}

#[test]
fn p12_ground_shift() {
    run("p12-ground-shift");
}

fn run(id: &str) {
    let case = load(id);
    let given = case["given"].get("network").unwrap_or(&case["given"]);
    let (text, names) = as_plan(given, case["given"].get("link"));
    let plan = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{e}\n{text}"));
    let review = plan.review();
    let expect = case["expect"].as_array().unwrap();
    assert!(!expect.is_empty());
    for e in expect {
        let quantity = e["quantity"].as_str().unwrap();
        let got = quantity_of(&review, &names, quantity).unwrap_or_else(|| panic!("{id}: nothing gives {quantity}"));
        match &e["value"] {
            Value::Bool(want) => assert_eq!(got != 0.0, *want, "{id}: {quantity}"),
            want => {
                let want = want.as_f64().unwrap();
                let bound = e["abs_tol"].as_f64().unwrap_or(0.0) + e["rel_tol"].as_f64().unwrap_or(0.0) * want.abs();
                assert!((got - want).abs() <= bound, "{id}: {quantity}: {got} against {want}");
            }
        }
    }
}

fn items<'a>(given: &'a Value, key: &str) -> Vec<&'a Value> {
    given.get(key).and_then(Value::as_array).map(|a| a.iter().collect()).unwrap_or_default()
}

fn num(v: &Value, key: &str) -> f64 {
    v[key].as_f64().unwrap_or_else(|| panic!("{key} in {v}"))
}

fn word<'a>(v: &'a Value, key: &str) -> &'a str {
    v[key].as_str().unwrap_or_else(|| panic!("{key} in {v}"))
}

/// The plan's text, and the plan node that stands for each node of the case.
fn as_plan(given: &Value, link: Option<&Value>) -> (String, BTreeMap<String, String>) {
    let mut t = String::from("format = 1\n");
    let mut nodes = BTreeMap::new();
    for s in items(given, "sources") {
        let name = word(s, "name");
        nodes.insert(word(s, "node").to_owned(), name.to_owned());
        let (emf, rs) = (num(s, "emf_v"), num(s, "rs_ohm"));
        let _ = write!(
            t,
            "[supply.{name}]\nkind = \"bench\"\nvoltage = \"{emf} V\"\nresistance = \"{rs} Ω\"\nsinks = true\n"
        );
    }
    for c in items(given, "converters") {
        nodes.insert(word(c, "output").to_owned(), word(c, "name").to_owned());
    }
    for c in items(given, "cables") {
        nodes.insert(word(c, "to").to_owned(), format!("n-{}", word(c, "to")));
    }
    let node = |name: &str| nodes[name].clone();
    for c in items(given, "cables") {
        let (feed, back) = (num(c, "feed_ohm"), num(c, "return_ohm"));
        let _ = write!(
            t,
            "[branch.{}]\nfrom = \"{}\"\ncable = {{ feed = \"{feed} Ω\", return = \"{back} Ω\" }}\n",
            node(word(c, "to")),
            node(word(c, "from"))
        );
    }
    for c in items(given, "converters") {
        let _ = write!(
            t,
            "[converter.{}]\nkind = \"buck\"\nfrom = \"{}\"\noutput = \"{} V\"\nresistance = \"{} Ω\"\nefficiency = \"{} %\"\nquiescent = \"{} W\"\n",
            word(c, "name"),
            node(word(c, "input")),
            num(c, "output_v"),
            num(c, "output_ohm"),
            num(c, "efficiency") * 100.0,
            num(c, "quiescent_w")
        );
    }
    write_loads(&mut t, given, link, &node);
    let mut set = Vec::new();
    for s in items(given, "strips") {
        set.push(write_strip(&mut t, s, link, &node));
    }
    let _ = write!(t, "[scenario.case]\nset = {{ {} }}\n", set.join(", "));
    (t, nodes)
}

fn write_loads(t: &mut String, given: &Value, link: Option<&Value>, node: &dyn Fn(&str) -> String) {
    let sender = link.map(|l| word(l, "sender_ground").split('.').nth(1).unwrap());
    for l in items(given, "loads") {
        let (name, from) = (word(l, "name"), node(word(l, "node")));
        if sender == Some(name) {
            let _ = write!(
                t,
                "[board.sender]\nfrom = \"{from}\"\nmean = \"{} A\"\nknee = \"{} V\"\n",
                num(l, "i_a"),
                num(l, "knee_v")
            );
            continue;
        }
        let law = match word(l, "law") {
            "constant_current" => format!("current = \"{} A\"\nknee = \"{} V\"", num(l, "i_a"), num(l, "knee_v")),
            "resistive" => format!("resistance = \"{} Ω\"", num(l, "load_ohm")),
            "constant_power" => {
                format!("power = \"{} W\"\nminimum = \"{} V\"", num(l, "power_w"), num(l, "min_input_v"))
            }
            other => panic!("load law {other}"),
        };
        let _ = write!(t, "[load.load-{name}]\nfrom = \"{from}\"\n{law}\n");
    }
}

/// A strip; gives its setting in the scenario.
fn write_strip(t: &mut String, s: &Value, link: Option<&Value>, node: &dyn Fn(&str) -> String) -> String {
    let name = word(s, "name");
    let pixel = &s["pixel"];
    let _ = write!(
        t,
        "[strip.{name}]\nlength = \"{} m\"\npixels = \"{} /m\"\ncopper = {{ feed = \"{} Ω/m\", return = \"{} Ω/m\" }}\nquiescent = \"{} A\"\n",
        num(s, "length_m"),
        num(s, "density_per_m"),
        num(s, "r_feed_ohm_per_m"),
        num(s, "r_return_ohm_per_m"),
        num(pixel, "iq_a")
    );
    // The case's grouped strip has the same quiescent knee as the 5 V classes need: it is far below its voltage.
    let points: Vec<String> = items(s, "injections")
        .iter()
        .map(|i| {
            format!(
                "{{ at = \"{} m\", from = \"{}\", cable = {{ feed = \"{} Ω\", return = \"{} Ω\" }} }}",
                num(i, "position_m"),
                node(word(i, "from")),
                num(i, "feed_ohm"),
                num(i, "return_ohm")
            )
        })
        .collect();
    let _ = writeln!(t, "inject = [ {} ]", points.join(", "));
    if let Some(l) = link {
        let _ = writeln!(
            t,
            "vih = \"{} %\"\nvil = \"{} %\"\ndata = {{ pin = \"sender.io1\", voh = \"{} V .. {} V\", vol = \"{} V .. {} V\" }}",
            num(l, "vih_of_vdd") * 100.0,
            num(l, "vil_of_vdd") * 100.0,
            num(l, "voh_min_v"),
            num(l, "voh_max_v"),
            num(l, "vol_min_v"),
            num(l, "vol_max_v")
        );
    }
    let _ = writeln!(t, "[strip.{name}.colours]");
    let channels = pixel["channels"].as_array().unwrap();
    for c in channels {
        let _ = writeln!(
            t,
            "{} = {{ current = \"{} A\", vf = \"{} V\", vreg = \"{} V\" }}",
            word(c, "name"),
            num(c, "i_a"),
            num(c, "vf_v"),
            num(c, "vreg_v")
        );
    }
    format!("{name} = \"{} %\"", num(&channels[0], "level") * 100.0)
}

fn quantity_of(review: &Review, nodes: &BTreeMap<String, String>, quantity: &str) -> Option<f64> {
    let select = Select { scenario: Some("case".into()), corner: Some(Corner::Typical), ..Select::default() };
    let parts: Vec<&str> = quantity.split('.').collect();
    let truth = |b: bool| f64::from(u8::from(b));
    match parts.as_slice() {
        ["strip", name, rest @ ..] => {
            strip_quantity(&review.strips(&select).into_iter().find(|r| r.row.name == *name)?.row, rest)
        }
        ["node", name, what] => {
            let row = review.nodes(&select).into_iter().find(|r| Some(&r.row.name) == nodes.get(*name))?.row;
            Some(if *what == "v" { row.voltage?.get() } else { row.minus?.get() })
        }
        ["source", name, "current_a"] => {
            Some(review.nodes(&select).into_iter().find(|r| r.row.name == *name)?.row.current?.get())
        }
        ["cable", name, what] => {
            // A cable is named by the node it feeds.
            let to = match *name {
                "lead" => "n-head",
                "run" => "n-shed",
                other => panic!("cable {other}"),
            };
            let row = review.conductors(&select).into_iter().find(|r| r.row.name == to)?.row;
            Some(if *what == "feed_a" { row.feed?.get() } else { row.feed_loss.get() })
        }
        ["converter", name, what] => {
            let row = review.converters(&select).into_iter().find(|r| r.row.name == *name)?.row;
            Some(match *what {
                "input_v" => row.input_v.get(),
                "input_a" => row.input_a.get(),
                "input_w" => row.input_w.get(),
                "output_a" => row.output_a.get(),
                "loss_w" => row.loss.get(),
                _ => return None,
            })
        }
        ["total", what] => {
            let t = review.totals(&select).into_iter().next()?.row;
            Some(match *what {
                "source_w" => t.source.get(),
                "source_internal_w" => t.source_internal.get(),
                "load_w" => t.load.get(),
                "conductor_w" => t.conductor.get(),
                "converter_loss_w" => t.converter_loss.get(),
                _ => return None,
            })
        }
        ["link", what] => link_quantity(&review.signals(&select).into_iter().next()?.row, what),
        _ => {
            let f = review.solve_feeds(&select).into_iter().next()?.row;
            Some(match quantity {
                "has_solution" => truth(f.has_solution),
                "largest_scale" => f.largest_scale?,
                "load.p.deliverable_w" => f.deliverable?.get(),
                "load.p.deliverable_in_range_w" => f.deliverable_in_range?.get(),
                "largest_scale_in_range" => f.deliverable_in_range?.get() / 15.0,
                "stays_in_range" => truth(f.stays_in_range?),
                _ => return None,
            })
        }
    }
}

fn strip_quantity(s: &StripRow, rest: &[&str]) -> Option<f64> {
    Some(match rest {
        ["min_pixel_v"] => s.lowest.get(),
        ["min_pixel_index"] => s.lowest_index as f64,
        ["min_pixel_position_m"] => s.lowest_at.get(),
        ["max_pixel_v"] => s.highest.get(),
        ["current_a"] => s.current.get(),
        ["pixel_power_w"] => s.pixel_power.get(),
        ["copper_loss_w"] => s.copper_loss.get(),
        ["copper_max_feed_a"] => s.copper_max_feed.get(),
        ["copper_max_return_a"] => s.copper_max_return.get(),
        ["first_pixel_v"] => s.first.get(),
        ["last_pixel_v"] => s.last.get(),
        ["first_pixel_minus_v"] => s.first_minus.get(),
        ["pixels_below_full_current"] => s.below_full as f64,
        ["injection", q, "feed_a"] => s.feeds[q.parse::<usize>().ok()?].feed.get(),
        ["injection", q, "return_a"] => s.feeds[q.parse::<usize>().ok()?].back.get(),
        _ => return None,
    })
}

fn link_quantity(l: &SignalRow, what: &str) -> Option<f64> {
    Some(match what {
        "shift_v" => l.shift.get(),
        "vdd_v" => l.vdd.get(),
        "vih_v" => l.vih?.get(),
        "high_margin_v" => l.high_margin?.get(),
        "low_margin_v" => l.low_margin?.get(),
        "over_voltage_margin_v" => l.over_margin.get(),
        "below_ground_margin_v" => l.below_margin.get(),
        _ => return None,
    })
}
