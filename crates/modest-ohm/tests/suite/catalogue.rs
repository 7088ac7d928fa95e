//! The catalogue is data that ships with the library: every class can be named in a plan, says where its figures come
//! from, and has the figures that the electrical reference gives for it.

use std::collections::BTreeSet;

use modest_ohm::Plan;
use modest_ohm::catalogue::{PartClass, classes};

/// The smallest plan that uses a class.
fn plan_with(class: &PartClass) -> String {
    let wall = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"9 A\"\n";
    let own = match class.kind.as_str() {
        // Where the class leaves the current to the label.
        "strip" if !class.figures.iter().any(|(k, v)| k == "colours" && v.contains("current")) => {
            "length = \"1 m\"\nleds = \"60 /m\"\npower = \"9.6 W/m\"\n"
        }
        "panel" => "entry = \"top-left\"\nalong = \"rows\"\nturns = \"alternating\"\n",
        "strip" => "length = \"1 m\"\nleds = \"60 /m\"\n",
        // What is set on the module.
        "converter" if !class.figures.iter().any(|(k, _)| k == "output") => "output = \"3.3 V\"\n",
        _ => "",
    };
    if class.kind == "differential-pair" {
        let ends = "near = { from = \"wall\" }\nfar = { from = \"wall\" }\n";
        return format!("{wall}[differential-pair.it]\npart = \"{}\"\n{ends}", class.name);
    }
    if class.kind == "sensor" {
        let board = "[board.keeper]\npart = \"wifi-board-3v3\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n";
        let bus =
            "[bus.mast]\ndata = \"keeper.io21\"\nclock = \"keeper.io22\"\npull = \"4.7 kΩ\"\nlength = \"0.2 m\"\n";
        return format!(
            "{wall}{board}{bus}[sensor.it]\npart = \"{}\"\nbus = \"mast\"\nfrom = \"keeper.3v3\"\n",
            class.name
        );
    }
    if class.kind == "mains" {
        return format!("{wall}[mains.it]\npart = \"{}\"\n", class.name);
    }
    if class.kind == "limiter" {
        let lamp = "[load.lamp]\nfrom = \"it\"\ncable = \"0 m 12 AWG\"\ncurrent = \"1.5 A\"\nvoltage = \"5 V\"\n";
        return format!(
            "{wall}[limiter.it]\npart = \"{}\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n{lamp}",
            class.name
        );
    }
    if class.kind == "led-driver" {
        let led = "[led.it]\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\nvf = \"2.1 V\"\ncurrent = \"1 A\"\n";
        return format!("{wall}{led}constant-current = \"{}\"\nheatsink = \"5 K/W\"\n", class.name);
    }
    if class.kind == "supply" {
        if class.figures.iter().any(|(k, v)| k == "kind" && v != "battery") {
            return format!("format = 1\n[supply.it]\npart = \"{}\"\n", class.name);
        }
        let capacity = if class.figures.iter().any(|(k, _)| k == "capacity") { "" } else { "capacity = \"20 Ah\"\n" };
        return format!(
            "format = 1\n[supply.it]\npart = \"{}\"\nkeyed = true\ncut-off = \"1 V\"\n{capacity}",
            class.name
        );
    }
    format!("{wall}[{}.it]\npart = \"{}\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\n{own}", class.kind, class.name)
}

#[test]
fn every_class_can_be_used() {
    for class in classes() {
        let text = plan_with(&class);
        let plan = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{}: {e}", class.name));
        // Its figures are complete: nothing of it is unknown but a data line that is not there.
        let review = plan.review();
        let unknown: Vec<_> = review.findings().iter().filter(|f| f.severity.word() == "unknown").collect();
        assert!(unknown.is_empty(), "{}: {unknown:?}", class.name);
    }
}

#[test]
fn every_class_says_what_it_is_and_where_it_is_from() {
    let classes = classes();
    let names: BTreeSet<&str> = classes.iter().map(|c| c.name.as_str()).collect();
    assert_eq!(names.len(), classes.len(), "names are unique");
    for c in &classes {
        assert!(!c.title.is_empty() && !c.source.is_empty() && !c.figures.is_empty(), "{}", c.name);
        assert!(c.name.bytes().all(|b| b.is_ascii_lowercase() || b.is_ascii_digit() || b == b'-'), "{}", c.name);
        assert!(["typical", "JEDEC", "USB", "Type-C"].iter().any(|s| c.source.contains(s)), "{}: {}", c.name, c.source);
    }
    let markings: Vec<&String> = classes.iter().flat_map(|c| &c.markings).collect();
    assert_eq!(markings.iter().collect::<BTreeSet<_>>().len(), markings.len(), "a marking names one class");
}

/// Typed off the reference, not off the catalogue.
#[test]
fn figures_are_those_of_the_reference() {
    let classes = classes();
    let figure = |class: &str, key: &str| {
        let class = classes.iter().find(|c| c.name == class).unwrap_or_else(|| panic!("no {class}"));
        class.figures.iter().find(|(k, _)| k == key).map_or_else(String::new, |(_, v)| v.clone())
    };
    for (class, key, want) in [
        ("pixel-5v-rgb", "minimum", "3.5 V"),
        ("pixel-5v-rgb", "recommended", "4.5 V .. 5.3 V"),
        ("pixel-5v-rgb", "absolute", "6 V"),
        ("pixel-5v-rgb", "quiescent", "1 mA"),
        ("pixel-5v-rgb", "quiescent-knee", "1.5 V"),
        ("pixel-5v-rgb", "group", "1"),
        ("pixel-5v-rgb-clocked", "protocol", "clocked"),
        ("pixel-5v-rgb-clocked", "recommended", "4.5 V .. 5.5 V"),
        ("pixel-12v-rgb-threes", "minimum", "9 V"),
        ("pixel-12v-rgb-threes", "recommended", "10.8 V .. 13.2 V"),
        ("pixel-12v-rgb-threes", "absolute", "15 V"),
        ("pixel-12v-rgb-threes", "quiescent", "1 mA"),
        ("pixel-12v-rgb-threes", "quiescent-knee", "4 V"),
        ("pixel-12v-rgb-threes", "group", "3"),
        ("pixel-12v-rgb-single", "recommended", "9 V .. 13.5 V"),
        ("pixel-12v-rgb-single", "quiescent", "2 mA"),
        ("pixel-24v-rgb-sixes", "minimum", "20 V"),
        ("pixel-24v-rgb-sixes", "recommended", "21.6 V .. 25.2 V"),
        ("pixel-24v-rgb-sixes", "absolute", "29 V"),
        ("pixel-24v-rgb-sixes", "quiescent-knee", "8 V"),
        ("pixel-24v-rgb-sixes", "group", "6"),
        ("plain-12v-rgb", "minimum", "8.5 V"),
        ("plain-12v-rgb", "recommended", "10.8 V .. 13.2 V"),
        ("plain-24v-white", "minimum", "17 V"),
        ("plain-24v-white", "recommended", "21.6 V .. 26.4 V"),
        ("plain-24v-white", "group", "6"),
        ("pixel-5v-rgb", "vih", "70 %"),
        ("pixel-5v-rgb-12ma", "vih", "2.7 V"),
        ("pixel-5v-rgbw", "recommended", "4.5 V .. 5.5 V"),
        ("wifi-board-3v3", "mean", "120 mA"),
        ("wifi-board-3v3", "peak", "500 mA"),
        ("wifi-board-3v3", "recommended", "4.3 V .. 5.5 V"),
        ("wifi-board-3v3", "absolute", "6 V"),
        ("hct-buffer", "recommended", "4.5 V .. 5.5 V"),
        ("hct-buffer", "absolute", "7 V"),
        ("hct-buffer", "vih", "2.0 V"),
        ("hct-buffer", "vil", "0.8 V"),
        ("servo-micro", "stall", "0.5 .. 0.8 A, typical 0.7 A"),
        ("servo-micro", "recommended", "4.8 V .. 6.0 V"),
        ("pump-12v-small", "current", "0.35 .. 0.8 A"),
        // Three times its running current, at most it runs on.
        ("pump-12v-small", "start", "2.4 A"),
    ] {
        assert_eq!(figure(class, key), want, "{class}.{key}");
    }
    // Currents, Vf and Vreg of the colours: R 1.8/2.4, G 2.6/3.6, B 2.7/3.7, each ± 0.2 V.
    for (class, amps) in [("pixel-5v-rgb", "20 mA"), ("pixel-5v-rgb-12ma", "12 mA"), ("pixel-5v-rgbw", "20 mA")] {
        let colours = figure(class, "colours");
        for (colour, vf, vreg) in [("red", "1.8", "2.4"), ("green", "2.6", "3.6"), ("blue", "2.7", "3.7")] {
            let want = format!("{colour} current {amps}; vf {vf} V ± 0.2 V; vreg {vreg} V ± 0.2 V");
            assert!(colours.contains(&want), "{class}: {colours}");
        }
        assert_eq!(colours.contains("white"), class == "pixel-5v-rgbw");
    }
}

/// A plan's own figure wins over the class's, key by key, down into nested tables.
#[test]
fn a_plan_overrides_a_class_key_by_key() {
    let base = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\ncurrent = \"9 A\"\n\
                [strip.arch]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\ncable = \"0 m 12 AWG\"\nlength = \"1 m\"\npixels = \"10 /m\"\ncopper = \"1 µΩ/m\"\n";
    let amps = |more: &str| {
        let review = Plan::from_toml(&format!("{base}{more}")).unwrap_or_else(|e| panic!("{e}")).review();
        review.strip("arch").unwrap().current.get()
    };
    let near = |got: f64, want: f64| assert!((got - want).abs() < 1e-9, "{got} against {want}");
    near(amps(""), 10.0 * 0.061);
    near(amps("quiescent = \"2 mA\"\n"), 10.0 * 0.062);
    // One figure of one colour: the others of it, and the other colours, stay the class's.
    near(amps("[strip.arch.colours.red]\ncurrent = \"30 mA\"\n"), 10.0 * 0.071);
    near(amps("[strip.arch.colours.white]\ncurrent = \"10 mA\"\nvf = \"2.7 V\"\nvreg = \"3.7 V\"\n"), 10.0 * 0.071);
    // A part of the plan's own that is like a class, between the two.
    let own = base.replace("part = \"pixel-5v-rgb\"", "part = \"reel\"")
        + "[part.reel]\nfor = \"strip\"\nlike = \"pixel-5v-rgb\"\nquiescent = \"3 mA\"\n";
    let review = Plan::from_toml(&own).unwrap_or_else(|e| panic!("{e}")).review();
    near(review.strip("arch").unwrap().current.get(), 10.0 * 0.063);
}

/// What a class says in one word an item may say in a table, and the other way round; a place in a class's own text is
/// never shown as one of the plan.
#[test]
fn a_table_over_a_word_of_the_class() {
    let strip = |copper: &str| {
        format!(
            "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\n[strip.quay]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\n\
             length = \"1 m\"\npixels = \"60 /m\"\ncopper = {copper}\n"
        )
    };
    assert!(Plan::from_toml(&strip("{ feed = \"0.1 Ω/m\", return = \"0.2 Ω/m\" }")).is_ok());
    let text = strip("{ after = \"ridge\" }");
    let errors = Plan::from_toml(&text).map(|_| ()).unwrap_err();
    assert_eq!(errors.problems.len(), 3, "{errors}");
    for p in &errors.problems {
        let span = p.span.unwrap();
        assert!(text.get(span.start..span.end).is_some_and(|words| words.contains("after")), "{}", p.message);
    }
    // The other way round: the class has tables, the plan a word.
    let text = strip("\"0.1 Ω/m\"").replace("copper", "colours");
    let errors = Plan::from_toml(&text).map(|_| ()).unwrap_err();
    assert!(errors.problems.iter().all(|p| p.span.is_some_and(|s| s.end <= text.len())), "{errors}");
    assert!(errors.problems.iter().any(|p| p.message.contains("not a table")), "{errors}");
}

/// The catalogue is read class by class; read whole, as any program reads TOML, its files hold the same classes and
/// keys.
#[test]
fn classes_are_those_of_the_files() {
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("src/catalogue/builtin");
    let classes = classes();
    let mut seen = 0;
    for file in std::fs::read_dir(folder).unwrap() {
        let text = std::fs::read_to_string(file.unwrap().path()).unwrap();
        let root: toml::Table = text.parse().unwrap();
        for (name, part) in root["part"].as_table().unwrap() {
            let class = classes.iter().find(|c| c.name == *name).unwrap_or_else(|| panic!("{name}"));
            let part = part.as_table().unwrap();
            assert_eq!(part["for"].as_str(), Some(class.kind.as_str()), "{name}");
            assert_eq!(part["title"].as_str(), Some(class.title.as_str()), "{name}");
            let notes = ["for", "like", "title", "markings", "source"];
            let mut keys: Vec<&str> = part.keys().map(String::as_str).filter(|k| !notes.contains(k)).collect();
            let mut own: Vec<&str> = class.figures.iter().map(|(k, _)| k.as_str()).collect();
            keys.sort_unstable();
            own.sort_unstable();
            assert_eq!(own, keys, "{name}");
            // A pin table is there to its last pin.
            if let Some(pins) = part.get("pins").and_then(|p| p.as_table()) {
                let (_, listed) = class.figures.iter().find(|(k, _)| k == "pins").unwrap();
                assert!(pins.keys().all(|pin| listed.contains(pin.as_str())), "{name}");
            }
            seen += 1;
        }
    }
    assert_eq!(seen, classes.len());
}
