//! Charts of the drop, panels and test patterns as drawn: read back out of the SVG and held against the numbers.

use modest_ohm::{Plan, Review, Select};
use modest_ohm_report::{drop_svg, panel_svg, pattern_svg, png};

const WALL: &str =
    "format = 1\ntitle = \"Clock <tower>\"\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\n";

fn strip(name: &str, more: &str) -> String {
    format!(
        "[strip.{name}]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"1 m\"\npixels = \"60 /m\"\n{more}\n[scenario.half-{name}]\nset = {{ {name} = \"50 %\" }}\n"
    )
}

fn attribute<'l>(line: &'l str, key: &str) -> Option<&'l str> {
    line.split(&format!(" {key}=\"")).nth(1)?.split('"').next()
}

fn points(line: &str) -> Vec<(f64, f64)> {
    let point = |p: &str| p.split_once(',').map(|(x, y)| (x.parse().unwrap(), y.parse().unwrap()));
    attribute(line, "points").into_iter().flat_map(|p| p.split(' ')).filter_map(point).collect()
}

/// Lines of an SVG that begin with a tag.
fn tags<'s>(svg: &'s str, tag: &str) -> Vec<&'s str> {
    svg.lines().filter(|l| l.starts_with(&format!("<{tag} "))).collect()
}

fn text_of(line: &str) -> &str {
    line.split_once('>').and_then(|(_, rest)| rest.split("</").next()).unwrap_or("")
}

/// Nothing is drawn beyond the page, texts included.
fn stays_on_the_page(svg: &str) {
    let head = svg.lines().next().unwrap();
    let (width, height): (f64, f64) =
        (attribute(head, "width").unwrap().parse().unwrap(), attribute(head, "height").unwrap().parse().unwrap());
    for tag in ["polyline", "polygon"] {
        for line in tags(svg, tag) {
            for (x, y) in points(line) {
                assert!((0.0..=width).contains(&x) && (0.0..=height).contains(&y), "{line}");
            }
        }
    }
    for line in tags(svg, "text") {
        let number = |key| attribute(line, key).unwrap().parse::<f64>().unwrap();
        let wide = text_of(line).chars().count() as f64 * number("font-size") * 0.66;
        let (x, y) = (number("x"), number("y"));
        let from = match attribute(line, "text-anchor").unwrap() {
            "end" => x - wide,
            "middle" => x - wide / 2.0,
            _ => x,
        };
        assert!(from >= -8.0 && from + wide <= width + 12.0 && y > 0.0 && y <= height, "{line}");
    }
}

fn review(text: &str) -> Review {
    Plan::from_toml(text).unwrap_or_else(|e| panic!("{e}")).review()
}

/// The line of a scenario falls as its voltage does: the places of two gridlines say what a volt is.
#[test]
fn lines_of_the_chart_are_the_solved_volts() {
    let review = review(&format!("{WALL}{}", strip("quay", "cable = \"0.5 m 18 AWG\"\nfirmware-limit = \"1 A\"")));
    let svg = drop_svg(&review, &[], &["worst".into()]).unwrap();
    stays_on_the_page(&svg);
    let marks: Vec<(f64, f64)> = tags(&svg, "text")
        .into_iter()
        .filter(|l| attribute(l, "text-anchor") == Some("end"))
        .filter_map(|l| {
            let size: f64 = attribute(l, "font-size")?.parse().ok()?;
            let y: f64 = attribute(l, "y")?.parse().ok()?;
            Some((text_of(l).trim_end_matches(" V").parse().ok()?, y - size * 0.35))
        })
        .collect();
    let ((v0, y0), (v1, y1)) = (marks[0], *marks.last().unwrap());
    let volts = |y: f64| v0 + (y - y0) * (v1 - v0) / (y1 - y0);
    let longest = tags(&svg, "polyline").into_iter().max_by_key(|l| points(l).len()).unwrap();
    let drawn = points(longest);
    let select = Select { scenario: Some("worst".into()), ..Select::default() };
    let rows = review.strips(&select);
    let profile = review.solve_profiles(&rows)[0].clone().unwrap();
    assert_eq!(drawn.len(), profile.len());
    for ((_, y), p) in drawn.iter().zip(profile.iter()) {
        assert!((volts(*y) - p.voltage.get()).abs() < 0.004, "{} and {}", volts(*y), p.voltage);
    }
    // Its feed, its limits, its firmware limit.
    let all: Vec<&str> = tags(&svg, "text").into_iter().map(text_of).collect();
    assert!(all.iter().any(|t| *t == rows[0].row.feeds[0].feed.to_string()), "{all:?}");
    for words in ["recommended from 4.5 V", "↓ minimum 3.5 V", "Clock &lt;tower&gt;"] {
        assert!(all.contains(&words), "{words}: {all:?}");
    }
    assert!(svg.contains("<title>") && svg.contains("<desc>"));
}

#[test]
fn charts_of_many_strips_and_scenarios() {
    for count in [1usize, 2, 3, 6, 7, 12, 15] {
        let strips: String = (0..count).map(|n| strip(&format!("lane-{n}"), "firmware-limit = \"0.8 A\"")).collect();
        let review = review(&format!("{WALL}{strips}"));
        let svg = drop_svg(&review, &[], &[]).unwrap();
        stays_on_the_page(&svg);
        let named = tags(&svg, "text").into_iter().filter(|l| text_of(l).starts_with("lane-")).count();
        assert!(named >= count.min(12), "{count}: {named}");
        assert_eq!(svg.contains("more strips: name them"), count > 12);
    }
    // Only what is named, in what is named.
    let review = review(&format!("{WALL}{}{}", strip("quay", ""), strip("pier", "")));
    let svg = drop_svg(&review, &["pier".into()], &["half-pier".into(), "idle".into()]).unwrap();
    let all: Vec<&str> = tags(&svg, "text").into_iter().map(text_of).collect();
    assert!(
        all.contains(&"pier") && !all.contains(&"quay") && all.contains(&"idle") && !all.contains(&"worst"),
        "{all:?}"
    );
}

#[test]
fn what_cannot_be_drawn_is_said() {
    let of = review(&format!("{WALL}{}", strip("quay", "")));
    let says = |strips: &[&str], scenarios: &[&str]| {
        let owned = |names: &[&str]| names.iter().map(|n| (*n).to_owned()).collect::<Vec<_>>();
        drop_svg(&of, &owned(strips), &owned(scenarios)).unwrap_err().to_string()
    };
    assert!(says(&["quai"], &[]).contains("did you mean `quay`"));
    assert!(says(&["zzz"], &[]).contains("this plan has: quay"));
    assert!(says(&[], &["nigth"]).contains("no scenario `nigth`"));
    // Seven scenarios are more than a chart has looks for: asked for they are refused, else counted.
    let many: String = (0..7).map(|n| format!("[scenario.hour-{n}]\nset = {{ quay = \"{}0 %\" }}\n", n + 1)).collect();
    let seven = review(&format!("{WALL}{}{many}", strip("quay", "")));
    let hours: Vec<String> = (0..7).map(|n| format!("hour-{n}")).collect();
    assert!(drop_svg(&seven, &[], &hours).unwrap_err().to_string().contains("too many"));
    assert!(drop_svg(&seven, &[], &hours[..6]).is_ok());
    assert!(drop_svg(&seven, &[], &[]).unwrap().contains("5 more scenarios: name them"));
    let bare = review(WALL);
    assert!(drop_svg(&bare, &[], &[]).unwrap_err().to_string().contains("no strips"));
}

fn panel(more: &str) -> Plan {
    Plan::from_toml(&format!(
        "{WALL}[panel.dial]\npart = \"panel-5v-rgb-8x8\"\nfrom = \"wall\"\nentry = \"top-left\"\nalong = \"rows\"\nturns = \"same-way\"\n{more}"
    ))
    .unwrap_or_else(|e| panic!("{e}"))
}

/// Every pixel has its number at its place, on either side; cables that bring the data back are dashed.
#[test]
fn a_panel_from_both_sides() {
    let plan = panel("");
    let map = plan.panel_map("dial").unwrap();
    let svg = panel_svg(&plan, &map);
    stays_on_the_page(&svg);
    let place = |number: usize| -> Vec<(f64, f64)> {
        let is_it = |l: &&&str| text_of(l) == number.to_string() && attribute(l, "fill") == Some("#ffffff");
        let at = |l: &&str| (attribute(l, "x").unwrap().parse().unwrap(), attribute(l, "y").unwrap().parse().unwrap());
        tags(&svg, "text").iter().filter(is_it).map(at).collect()
    };
    let (zero, seven, eight) = (place(0), place(7), place(8));
    // Pixel 0 is drawn on its coloured disc as well.
    let (front, back) = (zero[0], *zero.last().unwrap());
    assert!(front.0 < back.0);
    assert!(seven[0].0 > front.0 + 50.0 && (seven[0].1 - front.1).abs() < 1.0, "to the right at the front");
    assert!(seven[1].0 < back.0 - 50.0, "to the left from behind");
    assert!((eight[0].0 - front.0).abs() < 1.0 && eight[0].1 > front.1, "the next row begins at the left again");
    let dashed = tags(&svg, "polyline").into_iter().filter(|l| attribute(l, "stroke-dasharray") == Some("4 3")).count();
    // Seven leads back, on two sides, and the sample of the legend.
    assert_eq!(dashed, 15);
}

#[test]
fn panels_of_all_shapes_fit() {
    for (columns, rows) in [(1, 1), (1, 40), (40, 1), (200, 3), (3, 200), (64, 64), (120, 100)] {
        let plan = panel(&format!("columns = {columns}\nrows = {rows}\n"));
        let map = plan.panel_map("dial").unwrap();
        let svg = panel_svg(&plan, &map);
        stays_on_the_page(&svg);
        assert!(svg.len() < 3_000_000, "{columns} × {rows}: {} bytes", svg.len());
        let pattern = pattern_svg(&plan, &map).unwrap();
        stays_on_the_page(&pattern);
        assert!(pattern.len() < 6_000_000, "{columns} × {rows}: {} bytes", pattern.len());
    }
}

/// The right picture comes first and has a frame of its own; each cause of each mistake is reported once.
#[test]
fn a_pattern_and_its_mistakes() {
    let plan = panel("");
    let map = plan.panel_map("dial").unwrap();
    let svg = pattern_svg(&plan, &map).unwrap();
    let framed = tags(&svg, "rect").into_iter().filter(|l| attribute(l, "stroke") == Some("#2f9e6e")).count();
    assert_eq!(framed, 1);
    // Cells have sharp corners.
    let ground = |l: &&str| attribute(l, "fill") == Some("#121212") && attribute(l, "rx") == Some("2.0");
    let pictures = tags(&svg, "rect").iter().filter(|l| ground(l)).count();
    assert_eq!(pictures, map.layout.mistakes().unwrap().len() + 1);
    let words: String = tags(&svg, "text").into_iter().map(|l| format!("{} ", text_of(l))).collect();
    for cause in
        ["as it should look", "rows set instead of alternating", "entry set to top-right", "red and green swapped"]
    {
        assert!(words.contains(cause), "{cause}: {words}");
    }
    let bytes = png(&svg).unwrap();
    assert!(bytes.starts_with(b"\x89PNG"));
}
