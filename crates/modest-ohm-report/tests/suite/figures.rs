//! The supply tree as drawn: nothing outside the page, nothing on top of another, every thing once, whatever the plan's
//! shape; and the picture that becomes of it.

use std::fmt::Write as _;

use modest_ohm::Plan;
use modest_ohm_report::{png, power_svg};

/// A tag of an SVG with its attributes, and what stands inside.
#[derive(Debug)]
struct Tag<'s> {
    name: &'s str,
    attributes: &'s str,
    inside: &'s str,
}

impl Tag<'_> {
    fn get(&self, key: &str) -> Option<&str> {
        let from = self.attributes.find(&format!(" {key}=\""))? + key.len() + 3;
        self.attributes[from..].split('"').next()
    }

    fn number(&self, key: &str) -> f64 {
        self.get(key).and_then(|v| v.parse().ok()).unwrap_or_else(|| panic!("no number {key} in {self:?}"))
    }
}

fn tags(svg: &str) -> Vec<Tag<'_>> {
    svg.lines()
        .filter_map(|line| {
            let line = line.strip_prefix('<')?;
            let name = line.split([' ', '>']).next()?;
            let (attributes, inside) = line[name.len()..].split_once('>')?;
            Some(Tag { name, attributes, inside: inside.split("</").next().unwrap_or("") })
        })
        .collect()
}

/// Left, top, right, bottom.
type Edges = [f64; 4];

/// The boxes: rectangles that have an outline and are no sample of the legend.
fn boxes(svg: &str) -> Vec<Edges> {
    let outlined = tags(svg).into_iter().filter(|t| t.name == "rect" && t.get("stroke").is_some());
    let edges = outlined.map(|t| {
        let (x, y) = (t.number("x"), t.number("y"));
        [x, y, x + t.number("width"), y + t.number("height")]
    });
    edges.filter(|e| e[3] - e[1] > 13.0 || e[2] - e[0] > 21.0).collect()
}

fn overlap(a: &Edges, b: &Edges) -> bool {
    a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3]
}

fn page(svg: &str) -> (f64, f64) {
    let head = &tags(svg)[0];
    (head.number("width"), head.number("height"))
}

/// Wide and deep trees: `runs` runs in a chain, each with `loads` loads.
fn plan(runs: usize, loads: usize, name: &str) -> String {
    let mut text = String::from(
        "format = 1\ntitle = \"Carillon\"\n[supply.wall]\nkind = \"bench\"\nvoltage = \"24 V\"\ncurrent = \"40 A\"\n",
    );
    for r in 0..runs {
        let from = if r == 0 { "wall".to_owned() } else { format!("{name}{}", r - 1) };
        let _ = writeln!(text, "[branch.{name}{r}]\nfrom = \"{from}\"\ncable = \"0.1 m 6 AWG\"");
        for l in 0..loads {
            let _ = writeln!(
                text,
                "[load.bell{r}-{l}]\nfrom = \"{name}{r}\"\ncable = \"0.5 m 16 AWG\"\nfuse = \"5 A\"\ncurrent = \"0.2 A\"\nvoltage = \"24 V\""
            );
        }
    }
    text
}

fn drawn(text: &str) -> String {
    power_svg(&Plan::from_toml(text).unwrap().review(), &modest_ohm::Scenario::Worst).unwrap()
}

/// What is drawn stays on the page and apart; `count` boxes.
fn sound(svg: &str, count: usize) {
    let (width, height) = page(svg);
    let boxes = boxes(svg);
    assert_eq!(boxes.len(), count);
    for (i, a) in boxes.iter().enumerate() {
        assert!(a[0] >= 0.0 && a[1] >= 0.0 && a[2] <= width && a[3] <= height, "{a:?} on {width} × {height}");
        assert!(boxes[..i].iter().all(|b| !overlap(a, b)), "{a:?} over another");
    }
    let texts: Vec<Tag<'_>> = tags(svg).into_iter().filter(|t| t.name == "text").collect();
    for text in &texts {
        let (x, y, size) = (text.number("x"), text.number("y"), text.number("font-size"));
        assert!(x >= 0.0 && x <= width && y >= 0.0 && y <= height, "{text:?}");
        assert!(size >= 8.5, "{size} is too small to read: {text:?}");
        // A number without its end is another number.
        let cut = text.inside.contains('…') && (text.inside.contains(" V") || text.inside.ends_with(" A"));
        assert!(!cut, "{text:?}");
    }
    for b in &boxes {
        let mut lines: Vec<(f64, f64)> = Vec::new();
        for text in &texts {
            let (x, y) = (text.number("x"), text.number("y"));
            if b[0] <= x && x <= b[2] && b[1] <= y && y <= b[3] {
                // The face's letters are about 0.6 of its size wide, bold 0.69; figures and blanks less.
                let em = if text.get("font-weight").is_some() { 0.6 } else { 0.52 };
                let wide = text.inside.chars().count() as f64 * text.number("font-size") * em;
                match lines.iter_mut().find(|(own, _)| *own == y) {
                    Some((_, sum)) => *sum += wide,
                    None => lines.push((y, wide)),
                }
            }
        }
        assert!(lines.iter().all(|(_, wide)| *wide <= b[2] - b[0]), "{lines:?} in {b:?}");
    }
}

#[test]
fn trees_of_every_shape_stay_apart_and_on_the_page() {
    for (runs, loads) in [(1, 1), (1, 12), (6, 1), (3, 9), (2, 20), (9, 3), (4, 0)] {
        let svg = drawn(&plan(runs, loads, "run"));
        sound(&svg, 1 + runs + runs * loads);
        assert_eq!(page(&svg).0, 1280.0);
    }
    // Up to 40 things fit the page of 1280 × 800; what is more makes it longer.
    assert_eq!(page(&drawn(&plan(1, 38, "run"))).1, 800.0);
    assert!(page(&drawn(&plan(1, 120, "run"))).1 > 800.0);
}

/// Names are cut in their middle: those that begin alike are told apart by their ends.
#[test]
fn long_names_are_cut() {
    let svg = drawn(&plan(9, 1, "the-long-run-along-the-northern-wall-of-the-tower-"));
    sound(&svg, 19);
    let texts: Vec<String> = tags(&svg).iter().filter(|t| t.name == "text").map(|t| t.inside.to_owned()).collect();
    let mut cut: Vec<&String> = texts.iter().filter(|t| t.starts_with("the-") && t.contains('…')).collect();
    cut.dedup();
    assert_eq!(cut.len(), 9, "{texts:?}");
    assert_eq!(texts.iter().filter(|t| t.starts_with("bell")).count(), 9);
}

/// A name with letters that mean something in XML, and none that a browser would run.
#[test]
fn titles_are_text() {
    let svg = drawn(&plan(1, 1, "run").replace("Carillon", "<script>\\\"&\\\" bells</script>"));
    assert!(svg.contains("&lt;script&gt;&quot;&amp;&quot; bells"), "{svg}");
    assert!(!svg.contains("<script"));
}

/// Lines are as wide as what flows: 0.2 A of 2.4 A at the loads, all of it at the source's run.
#[test]
fn lines_are_as_wide_as_their_current() {
    let svg = drawn(&plan(1, 12, "run"));
    let lines: Vec<f64> = tags(&svg)
        .iter()
        .filter(|t| t.name == "path" && t.get("stroke-dasharray").is_none())
        .map(|t| t.number("stroke-width"))
        .collect();
    // One to the run, twelve to the loads, two samples of the legend: a tenth and all of the largest.
    assert_eq!(lines.len(), 15);
    assert!(lines[1..13].iter().all(|w| (w - lines[1]).abs() < 1e-9), "{lines:?}");
    let share = (lines[1] - 1.0) / (lines[0] - 1.0);
    assert!((share - 1.0 / 12.0).abs() < 0.02, "{share}");
    assert!((lines[14] - lines[0]).abs() < 1e-9);
}

/// What is in danger differs from what is sound by more than its colour, and the code of the finding stands in it.
#[test]
fn trouble_is_seen_without_colour() {
    let sound = plan(1, 2, "run");
    let short = sound.replace("current = \"40 A\"", "current = \"0.3 A\"\nlimit = \"1 A\"");
    let (sound, short) = (drawn(&sound), drawn(&short));
    let outlines = |svg: &str| {
        let mut widths: Vec<String> = tags(svg)
            .iter()
            .filter(|t| t.name == "rect" && t.width() > 30.0)
            .filter_map(|t| t.get("stroke-width").map(str::to_owned))
            .collect();
        widths.sort();
        widths.dedup();
        widths
    };
    assert_eq!(outlines(&sound).len(), 1);
    assert_eq!(outlines(&short).len(), 2);
    assert!(short.contains(">supply-overloaded<") && !sound.contains("supply-overloaded"));
    assert!(short.contains(">1 danger<"));
}

impl Tag<'_> {
    /// Its width, where that is a number.
    fn width(&self) -> f64 {
        self.get("width").and_then(|w| w.parse().ok()).unwrap_or(0.0)
    }
}

/// The PNG has the size of the page, is not blank, and is the same twice.
#[test]
fn the_picture_shows_what_the_drawing_says() {
    let svg = drawn(&plan(2, 3, "run"));
    let picture = png(&svg).unwrap();
    assert_eq!(&picture[1..4], b"PNG");
    let size = |at: usize| u32::from_be_bytes(picture[at..at + 4].try_into().unwrap());
    assert_eq!((size(16), size(20)), (1280, 800));
    assert_eq!(picture, png(&svg).unwrap());
    let blank = png("<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"1280\" height=\"800\"/>").unwrap();
    assert!(picture.len() > 4 * blank.len(), "{} against {} bytes", picture.len(), blank.len());
    assert!(png("no picture").is_err());
}

/// Two adapters on one strip: in the corners each carries half of 5 A, with one high and the other low one carries
/// nearly all.
#[test]
fn what_is_more_than_in_the_corners_is_named() {
    let mut text = String::from("format = 1\n");
    for name in ["east", "west"] {
        let _ = write!(
            text,
            "[supply.{name}]\nkind = \"adapter\"\nvoltage = \"5.5 V ± 5 %\"\ncurrent = \"3 A\"\n\
             [diode.from-{name}]\nfrom = \"{name}\"\npart = \"schottky-3a-40v\"\n"
        );
    }
    text += "[strip.row]\npart = \"pixel-5v-rgb-12ma\"\nlength = \"1.5 m\"\npixels = \"90 /m\"\n\
             inject = [ { from = \"from-east\", at = \"start\", cable = \"0.3 m 16 AWG\" }, \
             { from = \"from-west\", at = \"end\", cable = \"0.3 m 16 AWG\" } ]\n";
    let svg = power_svg(&Plan::from_toml(&text).unwrap().review(), &modest_ohm::Scenario::Worst).unwrap();
    let all = tags(&svg);
    let head = all.iter().find(|t| t.inside.contains("supply tree in scenario worst")).unwrap();
    assert!(head.inside.contains("beyond the corners: east 4."), "{}", head.inside);
    let idle = power_svg(&Plan::from_toml(&text).unwrap().review(), &modest_ohm::Scenario::Idle).unwrap();
    assert!(!idle.contains("beyond the corners"), "{idle}");
}
