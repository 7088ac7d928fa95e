//! Panels against a second method: a walker with a heading, turned as a picture is turned; and plans read by hand.

use std::collections::BTreeSet;

use modest_ohm::Plan;
use modest_ohm::panel::{
    Along, EntryCorner, LayoutProblem, Order, PanelLayout, Pattern, Rgb, Rotation, Side, Tiles, Turns,
};
use modest_ohm::views::NoPanel;
use proptest::prelude::*;

const CORNERS: [EntryCorner; 4] = EntryCorner::ALL;

fn orders() -> impl Strategy<Value = Order> {
    let turns = prop_oneof![Just(Turns::Alternating), Just(Turns::SameWay)];
    let along = prop_oneof![Just(Along::Rows), Just(Along::Columns)];
    (0..4usize, along, turns).prop_map(|(c, along, turns)| Order { entry: CORNERS[c], along, turns })
}

/// A walker that starts in a corner, goes as far as it can, takes one step aside, and reverses or goes back to where
/// the row began.
fn walked(order: Order, columns: i64, rows: i64) -> Vec<(i64, i64)> {
    let right = matches!(order.entry, EntryCorner::TopRight | EntryCorner::BottomRight);
    let bottom = matches!(order.entry, EntryCorner::BottomLeft | EntryCorner::BottomRight);
    let start = (if right { columns - 1 } else { 0 }, if bottom { rows - 1 } else { 0 });
    let (east, south) = ((if right { -1 } else { 1 }, 0), (0, if bottom { -1 } else { 1 }));
    let (mut ahead, aside) = if order.along == Along::Rows { (east, south) } else { (south, east) };
    let inside = |(x, y): (i64, i64)| (0..columns).contains(&x) && (0..rows).contains(&y);
    let mut all = vec![start];
    let (mut at, mut begin) = (start, start);
    loop {
        let next = (at.0 + ahead.0, at.1 + ahead.1);
        if inside(next) {
            at = next;
        } else {
            let from = if order.turns == Turns::SameWay { begin } else { at };
            let next = (from.0 + aside.0, from.1 + aside.1);
            if !inside(next) {
                return all;
            }
            if order.turns == Turns::Alternating {
                ahead = (-ahead.0, -ahead.1);
            }
            (at, begin) = (next, next);
        }
        all.push(at);
    }
}

/// A picture of numbers turned by a quarter, clockwise: its columns from the bottom up are the new rows.
fn quarter(picture: &[Vec<usize>]) -> Vec<Vec<usize>> {
    (0..picture[0].len()).map(|x| picture.iter().rev().map(|row| row[x]).collect()).collect()
}

/// The panel as a picture of pixel numbers, built from turned and mirrored pictures only.
fn picture(l: &PanelLayout) -> Vec<Vec<usize>> {
    let own = walked(l.order, l.columns as i64, l.rows as i64);
    let mut tile = vec![vec![0; l.columns]; l.rows];
    for (k, (x, y)) in own.iter().enumerate() {
        tile[*y as usize][*x as usize] = k;
    }
    let turned = |by: Rotation| (0..by.degrees() / 90).fold(tile.clone(), |t, _| quarter(&t));
    let single = Tiles { across: 1, down: 1, order: l.order, rotated: Vec::new() };
    let tiles = l.tiles.as_ref().unwrap_or(&single);
    let first = turned(l.rotated.and(tiles.rotated.first().copied().unwrap_or(Rotation::None)));
    let (wide, high) = (first[0].len(), first.len());
    let mut all = vec![vec![usize::MAX; wide * tiles.across]; high * tiles.down];
    for (n, (tx, ty)) in walked(tiles.order, tiles.across as i64, tiles.down as i64).iter().enumerate() {
        let placed = turned(l.rotated.and(tiles.rotated.get(n).copied().unwrap_or(Rotation::None)));
        for (y, row) in placed.iter().enumerate() {
            for (x, k) in row.iter().enumerate() {
                all[*ty as usize * high + y][*tx as usize * wide + x] = n * l.columns * l.rows + k;
            }
        }
    }
    if l.seen == Side::Back {
        all.iter_mut().for_each(|row| row.reverse());
    }
    all
}

fn layouts() -> impl Strategy<Value = PanelLayout> {
    let tiles = (1..4usize, 1..4usize, orders(), prop::collection::vec(any::<bool>(), 9));
    let side = prop_oneof![Just(Side::Front), Just(Side::Back)];
    (1..7usize, 1..7usize, orders(), 0..4usize, prop::option::of(tiles), side).prop_map(
        |(columns, rows, order, turn, tiles, seen)| {
            let tiles = tiles.map(|(across, down, order, halves)| {
                let half = |h: &bool| if *h { Rotation::Half } else { Rotation::None };
                Tiles { across, down, order, rotated: halves.iter().take(across * down).map(half).collect() }
            });
            PanelLayout { columns, rows, order, rotated: Rotation::ALL[turn], tiles, seen }
        },
    )
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 1500, failure_persistence: None, ..ProptestConfig::default() })]

    /// Every layout is where the walker and the turned pictures put it; behind is the mirror of the front.
    #[test]
    fn layouts_agree_with_a_walker(layout in layouts()) {
        let walk = layout.walk().unwrap();
        let picture = picture(&layout);
        prop_assert_eq!((walk.rows, walk.columns), (picture.len(), picture[0].len()));
        for (y, row) in picture.iter().enumerate() {
            for (x, k) in row.iter().enumerate() {
                prop_assert_eq!(walk.places[*k], (x, y));
            }
        }
        for side in [Side::Front, Side::Back] {
            prop_assert_eq!(layout.seen_from(side).walk(), Ok(walk.clone()));
        }
        let behind = walk.from_behind();
        prop_assert_eq!(behind.from_behind(), walk.clone());
        prop_assert!(walk.places.iter().zip(&behind.places).all(|(a, b)| a.0 + b.0 == walk.columns - 1 && a.1 == b.1));
    }

    /// No wrong picture is the right one, no two are alike, and each has as many pixels as the face.
    #[test]
    fn pictures_of_mistakes_differ(layout in layouts()) {
        let right = layout.pattern().unwrap();
        let mistakes = layout.mistakes().unwrap();
        let as_text = |p: &Vec<Vec<Rgb>>| format!("{p:?}");
        let mut seen = BTreeSet::from([as_text(&right)]);
        for m in &mistakes {
            prop_assert!(!m.causes.is_empty());
            prop_assert_eq!(m.shown.len(), right.len());
            prop_assert!(seen.insert(as_text(&m.shown)), "{:?}", m.causes);
        }
    }

    /// The pattern gives every exchange of two tiles or two rows away: no two pixels of a usual face are alike but in
    /// the slow rise of the background.
    #[test]
    fn the_pattern_has_no_twin_lines(columns in 2..40usize, rows in 2..40usize) {
        let pattern = Pattern::of(columns, rows);
        let row = |y: usize| (0..columns).map(|x| pattern.at(x, y)).collect::<Vec<_>>();
        let column = |x: usize| (0..rows).map(|y| pattern.at(x, y)).collect::<Vec<_>>();
        let whites = (0..rows).flat_map(row).filter(|c| c.red > 60 && c.green > 60 && c.blue > 60).count();
        prop_assert_eq!(whites, 1);
        prop_assert!(row(0) != row(rows - 1) && column(0) != column(columns - 1));
        if columns <= 28 {
            prop_assert_eq!((0..columns).map(|x| format!("{:?}", column(x))).collect::<BTreeSet<_>>().len(), columns);
        }
    }
}

fn layout(columns: usize, rows: usize) -> PanelLayout {
    let order = Order { entry: EntryCorner::TopLeft, along: Along::Rows, turns: Turns::Alternating };
    PanelLayout { columns, rows, order, rotated: Rotation::None, tiles: None, seen: Side::Front }
}

/// By hand, on a face of 3 by 2: what each wrong setting shows where.
#[test]
fn a_mistake_by_hand() {
    let mistakes = layout(3, 2).mistakes().unwrap();
    let of = |cause: &str| {
        let found = mistakes.iter().find(|m| m.causes.iter().any(|c| c.contains(cause)));
        &found.unwrap_or_else(|| panic!("no {cause} in {mistakes:#?}")).shown
    };
    let pattern = Pattern::of(3, 2);
    // The second row runs back: taken for same-way its ends change places.
    assert_eq!(of("same-way")[1], [pattern.at(2, 1), pattern.at(1, 1), pattern.at(0, 1)]);
    assert_eq!(of("same-way")[0], [pattern.at(0, 0), pattern.at(1, 0), pattern.at(2, 0)]);
    // Pixel 1 is at (1, 0) and taken for the one below pixel 0.
    assert_eq!(of("direction set to columns")[0][1], pattern.at(0, 1));
    // Mirrored; the same picture as from the entry on the other side.
    assert_eq!(of("from the back")[0], [pattern.at(2, 0), pattern.at(1, 0), pattern.at(0, 0)]);
    let both = mistakes.iter().find(|m| m.causes.len() > 1 && m.causes.iter().any(|c| c.contains("the back"))).unwrap();
    assert!(both.causes.iter().any(|c| c.contains("top-right")), "{both:?}");
    // What is sent to pixel 0 is seen on pixel 1 and the first stays dark, or the other way round.
    assert_eq!(of("one pixel too many")[0][..2], [Rgb::default(), pattern.at(0, 0)]);
    assert_eq!(of("one pixel too few")[0][0], pattern.at(1, 0));
    let red_green = of("red and green");
    assert_eq!((red_green[0][1].red, red_green[0][1].green), (0, pattern.at(1, 0).red));
}

#[test]
fn what_makes_no_face() {
    let tiles = |rotated| Tiles { across: 2, down: 1, order: layout(1, 1).order, rotated };
    let upright = PanelLayout { tiles: Some(tiles(vec![Rotation::None, Rotation::Quarter])), ..layout(4, 2) };
    assert_eq!(upright.walk(), Err(LayoutProblem::DoesNotFit(1)));
    let square = PanelLayout { columns: 4, rows: 4, ..upright.clone() };
    assert!(square.walk().is_ok(), "a square fits every way");
    assert_eq!(layout(0, 3).walk(), Err(LayoutProblem::Size));
    assert_eq!(layout(usize::MAX, 3).mistakes(), Err(LayoutProblem::Size));
    // A single white pixel is white in every order; all that can be wrong is that it is dark.
    let single = layout(1, 1).mistakes().unwrap();
    assert_eq!((single.len(), single[0].causes.len()), (1, 2));
}

const WALL: &str = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\nresistance = \"0 Ω\"\n";

fn panel(more: &str) -> String {
    format!(
        "{WALL}[panel.face]\npart = \"panel-5v-rgb-8x8\"\nfrom = \"wall\"\nentry = \"top-left\"\nalong = \"rows\"\nturns = \
         \"alternating\"\n{more}"
    )
}

const TWO: &str = "tiles = { across = 2, down = 1, entry = \"top-left\", along = \"rows\", turns = \"same-way\" }\n";

#[test]
fn tiles_that_pass_data_alone_have_a_feed_each() {
    let review = |more: &str| Plan::from_toml(&panel(more)).unwrap().review();
    let one = review(&format!("{TWO}cable = \"0.5 m 18 AWG\"\njoin = \"0.2 m 20 AWG\"\n"));
    let both = review(&format!("{TWO}passes = \"data\"\ncable = \"0.5 m 18 AWG\"\njoin = \"0.2 m 20 AWG\"\n"));
    let (one, both) = (one.strip("face").unwrap(), both.strip("face").unwrap());
    assert_eq!((one.pixels, one.feeds.len(), both.feeds.len()), (128, 1, 2));
    assert!((both.feeds[1].at.get() - 0.64).abs() < 1e-9, "the second tile begins after 64 pixels of 10 mm");
    assert!(both.lowest.get() > one.lowest.get() + 0.5, "{} and {}", both.lowest, one.lowest);
}

/// A panel of two tiles is the strip of as many pixels in two rows, fed and joined alike.
#[test]
fn a_panel_is_its_strip() {
    let inject =
        "inject = [ { tile = 1, cable = \"0.4 m 18 AWG\" }, { tile = 2, at = \"end\", cable = \"0.9 m 18 AWG\" } ]\n";
    let as_panel = Plan::from_toml(&panel(&format!("{TWO}{inject}join = \"0.2 m 20 AWG\"\n"))).unwrap().review();
    let as_strip = Plan::from_toml(&format!(
        "{WALL}[strip.face]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"1.28 m\"\npixels = \"100 /m\"\nrows = 2\njoin = \
         \"0.2 m 20 AWG\"\ninject = [ {{ at = \"start\", cable = \"0.4 m 18 AWG\" }}, {{ at = \"1.275 m\", cable = \"0.9 m 18 \
         AWG\" }} ]\n"
    ))
    .unwrap()
    .review();
    let (a, b) = (as_panel.strip("face").unwrap(), as_strip.strip("face").unwrap());
    assert!((a.lowest.get() - b.lowest.get()).abs() < 1e-9, "{} and {}", a.lowest, b.lowest);
    assert!((a.current.get() - b.current.get()).abs() < 1e-9);
}

#[test]
fn coordinates_by_hand() {
    // Behind: the tile's own left is the front's right. A quarter turn makes 8 columns of 4 into 4 of 8.
    let text = panel("rows = 4\nrotated = 90\nseen = \"back\"\nline-pitch = \"15 mm\"\n");
    let plan = Plan::from_toml(&text).unwrap();
    let map = plan.panel_map("face").unwrap();
    assert_eq!((map.walk.columns, map.walk.rows), (4, 8));
    // Turned clockwise as seen from behind, top left comes to top right; from the front that is top left again.
    assert_eq!(map.walk.places[0], (0, 0));
    assert_eq!(map.walk.places[1], (0, 1));
    let (x, y) = map.position(1).unwrap();
    // Rows of the tile are 15 mm apart and lie side by side now.
    assert!((x.get() - 0.0075).abs() < 1e-12 && (y.get() - 0.015).abs() < 1e-12, "{x} {y}");
    assert_eq!(map.position(32), None);
    assert_eq!(map.on_strip(32), None);
    // 31 dim pixels and one white one, by the class's 20 mA a colour and 1 mA: at least that, and no full white.
    let amps = plan.pattern_current("face").unwrap().get();
    assert!((0.032..0.4).contains(&amps), "{amps}");
}

#[test]
fn a_panel_of_strips() {
    let strip = |name: &str, length: &str, data: &str| {
        format!(
            "[strip.{name}]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"{length}\"\npixels = \"10 /m\"\n{data}\n"
        )
    };
    let face = "[panel.face]\nstrips = [\"a\", \"b\"]\ncolumns = 4\nrows = 2\nentry = \"bottom-left\"\nalong = \"rows\"\nturns = \
                \"alternating\"\n";
    let text = format!("{WALL}{}{}{face}", strip("a", "0.5 m", ""), strip("b", "0.3 m", "data = { after = \"a\" }"));
    let plan = Plan::from_toml(&text).unwrap();
    let map = plan.panel_map("face").unwrap();
    assert_eq!(map.on_strip(4), Some(("a", 4)));
    assert_eq!(map.on_strip(5), Some(("b", 0)));
    assert_eq!(map.walk.places[5], (2, 0));
    let (x, _) = map.position(5).unwrap();
    assert!((x.get() - 0.25).abs() < 1e-12, "the strips' own 0.1 m from pixel to pixel");
    // Strips of different density lie in no grid of their own, unless the panel says its pitch.
    let mixed = text.replacen("\"10 /m\"", "\"20 /m\"", 1).replacen("0.5 m", "0.25 m", 1);
    assert_eq!(Plan::from_toml(&mixed).unwrap().panel_map("face").unwrap().position(0), None);
    let stated = format!("{mixed}pitch = \"80 mm\"\n");
    let (x, _) = Plan::from_toml(&stated).unwrap().panel_map("face").unwrap().position(0).unwrap();
    assert!((x.get() - 0.04).abs() < 1e-12);
    assert_eq!(plan.panel_map("fase"), Err(NoPanel::Unknown(Some("face".into()))));
    let broken = Plan::from_toml(&text.replace("0.3 m", "0.4 m")).unwrap();
    let Err(NoPanel::Broken(why)) = broken.panel_map("face") else { panic!("it has 9 pixels") };
    assert!(why.contains("9 pixels") && why.contains("need 8"), "{why}");
}

#[test]
fn mistakes_in_the_text() {
    let problems = |text: &str| {
        let errors = Plan::from_toml(text).map(|_| ()).unwrap_err();
        errors.problems.iter().map(|p| format!("{} ({})", p.message, p.help)).collect::<Vec<_>>()
    };
    for (more, says) in [
        ("rotated = 45\n", "degrees clockwise"),
        ("join = \"0.1 m 20 AWG\"\n", "a single tile"),
        (&TWO.replace("same-way\"", "same-way\", rotated = [0]"), "there are 2 tiles"),
        (&TWO.replace("same-way\"", "same-way\", rotated = [0, 30]"), "0, 90, 180 or 270"),
        (&TWO.replace("same-way\"", "same-way\", rotated = 180"), "not a list"),
        (&TWO.replace("across = 2, ", ""), "`across` is missing"),
        ("inject = [ { tile = 2 } ]\n", "not a whole number from 1 to 1"),
        ("protocol = \"none\"\n", "plain strip"),
        ("strips = []\n", "no strip"),
        ("length = \"1 m\"\n", "unknown key `length`"),
        ("columns = 10000\nrows = 10000\n", "more than the 2000000"),
        ("firmware = { turn = \"same-way\" }\n", "did you mean `turns`"),
        ("data = { pin = \"keeper.io27\", through = [\"a\", \"b\", \"a\"] }\n", "goes through `a` twice"),
        ("order = \"rgx\"\n", "each of its colours once"),
    ] {
        let found = problems(&panel(more));
        assert!(found.iter().any(|p| p.contains(says)), "{more}: {found:?}");
    }
    let missing = problems(&format!("{WALL}[panel.face]\nfrom = \"wall\"\npart = \"pixel-5v-rgb\"\n"));
    for key in ["columns", "rows", "entry", "along", "turns"] {
        assert!(missing.iter().any(|p| p.contains(&format!("`{key}` is missing"))), "{key}: {missing:?}");
    }
}

/// A label counts a tile: 19.2 W at 5 V are 3.84 A, 60 mA a pixel.
#[test]
fn watts_of_a_tile() {
    let full = |more: &str| Plan::from_toml(&panel(more)).unwrap().review().firmware().firmware_limits[0].full.get();
    assert!((full("power = \"19.2 W\"\n") - 3.84).abs() < 1e-9);
    assert!((full(&format!("power = \"19.2 W\"\n{TWO}join = \"0.2 m 20 AWG\"\n")) - 7.68).abs() < 1e-9);
    assert!((full("current = \"3.2 A\"\n") - 3.2).abs() < 1e-9);
    assert!((full("") - 64.0 * 0.061).abs() < 1e-9, "of the class");
}

/// A tile of 8 by 8, 10 mm apart: its end lies 70 mm below its beginning, and a lead to it is 70 mm longer, whatever
/// the 0.64 m of its data are.
#[test]
fn feed_points_of_a_panel_are_tile_ends() {
    let text = panel(&format!("{TWO}cable = \"0.3 m 18 AWG\"\njoin = \"0.2 m 20 AWG\"\nfirmware-limit = \"2.5 A\"\n"));
    let feeds = Plan::from_toml(&text).unwrap().feed_plan("face", &modest_ohm::advise::FeedRequest::default()).unwrap();
    assert_eq!(feeds.places, 4);
    let leads = &feeds.options.last().unwrap().cables;
    for lead in leads {
        let (words, length) = match lead.at.get() {
            x if x < 1e-9 => ("the start of tile 1", 0.3),
            x if (x - 0.635).abs() < 1e-9 => ("the end of tile 1", 0.37),
            x if (x - 0.64).abs() < 1e-9 => ("the start of tile 2", 0.38),
            x if (x - 1.275).abs() < 1e-9 => ("the end of tile 2", 0.3 + 0.08f64.hypot(0.07)),
            x => panic!("{x}"),
        };
        assert_eq!(lead.place, words);
        assert!((lead.length.get() - length).abs() < 1e-9, "{words}: {}", lead.length);
    }
}
