//! The drop: voltage along strips, at loads and boards, and what is left for signals.

use modest_ohm::units::{Fraction, Metres, Quantity, Volts};
use modest_ohm::views::{LoadRow, ProfilePoint, Row, StripProfile, StripRow};
use modest_ohm::{Review, Scenario, Select};

use crate::budget::{beyond_corners, limit_words};
use crate::document::{Bar, Block, Document, Table, list, named, values, words};
use crate::json::{
    self, At, ColourShape, ConductorShape, DropShape, LoadShape, PointShape, ProfileShape, SignalShape, StripShape,
    SwitchedShape, maybe, number,
};
use crate::table::{or_dash, state};
use crate::{Input, Layout};

/// Tables of strips, loads and signals, and a picture of the worst strip state.
#[must_use]
pub fn drop_text(review: &Review, select: &Select, layout: Layout) -> String {
    drop(review, select).text(layout.width)
}

/// The drop, before anybody decides how wide.
pub(crate) fn drop(review: &Review, select: &Select) -> Document {
    let mut page = Document::default();
    let strips = review.strips(select);
    if !strips.is_empty() {
        page.heading("Strips: at the corner with the lowest pixel");
        page.table(strip_table(&strips));
        page.gap();
        pictures(&mut page, review, &strips);
    }
    let loads = review.loads(select);
    if !loads.is_empty() {
        page.heading("Loads and boards: at the corner with the lowest voltage");
        load_grid(&mut page, review, select, &loads);
    }
    beyond_corners(&mut page, review, &review.selected(select), |unit| unit == Volts::SYMBOL);
    lead_table(&mut page, review, select);
    let links = review.signals(select);
    if !links.is_empty() {
        page.caption("Signals: margins, ground shift signed, smallest of the scenarios shown");
        page.table(link_table(&links));
    }
    page
}

fn strip_table(strips: &[Row<StripRow>]) -> Table {
    let rows = strips.iter().map(|r| {
        let s = &r.row;
        let mut row = vec![s.name.clone()];
        row.extend(state(r));
        let feeds: Vec<String> = s.feeds.iter().map(|f| f.feed.to_string()).collect();
        row.extend([
            s.current.to_string(),
            or_dash(s.firmware_limit),
            s.lowest.to_string(),
            s.lowest_at.to_string(),
            s.highest.to_string(),
            s.copper_loss.to_string(),
            feeds.join(" + "),
        ]);
        row
    });
    let heading = [
        named("strip"),
        words("scenario"),
        words("corner"),
        values("current"),
        values("firmware limit"),
        values("lowest"),
        values("at"),
        values("highest"),
        values("copper loss"),
        list("feed currents"),
    ];
    Table::new(heading, rows)
}

/// What each cable loses, in *worst* or the selected scenario.
fn lead_table(page: &mut Document, review: &Review, select: &Select) {
    let worst = Select { scenario: select.scenario.clone().or(Some(Scenario::Worst)), ..select.clone() };
    let mut rows = review.conductors(&worst);
    let lost = |r: &Row<modest_ohm::views::ConductorRow>| (r.row.feed_drop + r.row.return_drop).get();
    rows.retain(|r| lost(r) > 1e-4);
    rows.sort_by(|a, b| lost(b).total_cmp(&lost(a)));
    if rows.is_empty() {
        return;
    }
    let table = rows.iter().take(12).map(|r| {
        let c = &r.row;
        let mut row = vec![c.name.clone()];
        row.extend(state(r));
        row.extend([
            c.feed.unwrap_or(c.back).to_string(),
            c.feed_drop.to_string(),
            c.return_drop.to_string(),
            or_dash(c.temperature),
            limit_words(c),
        ]);
        row
    });
    let heading = [
        named("cable to"),
        words("scenario"),
        words("corner"),
        values("current"),
        values("feed drop"),
        values("return drop"),
        values("wire at"),
        values("limit"),
    ];
    page.caption("Cables: voltage drop of feed and return, at the corner with the largest loss");
    page.table(Table::new(heading, table));
}

/// For each strip, its lowest state drawn along its length.
fn pictures(page: &mut Document, review: &Review, strips: &[Row<StripRow>]) {
    let mut drawn: Vec<&str> = Vec::new();
    for r in strips {
        if drawn.contains(&r.row.name.as_str()) || drawn.len() >= 6 {
            continue;
        }
        drawn.push(&r.row.name);
        // The lowest one; of equals (but for rounding) *worst*, the plainest to speak of.
        let rank = |x: &Row<StripRow>| x.row.lowest.get() - if x.scenario == Scenario::Worst { 1e-6 } else { 0.0 };
        let of_strip = strips.iter().filter(|x| x.row.name == r.row.name);
        let Some(lowest) = of_strip.min_by(|a, b| rank(a).total_cmp(&rank(b))) else { continue };
        let Some(profile) = review.solve_profiles(std::slice::from_ref(lowest)).pop().flatten() else { continue };
        page.heading(format!(
            "Voltage along {} ({}, corner {})",
            lowest.row.name,
            state(lowest)[0],
            lowest.corner.name()
        ));
        let (low, high) = (lowest.row.lowest.get(), lowest.row.highest.get());
        let scale_low = (low - 0.25 * (high - low).max(0.02)).max(0.0);
        let steps = profile.len().min(13);
        let mut shown: Vec<usize> = (0..steps).map(|i| i * (profile.len() - 1) / (steps - 1).max(1)).collect();
        shown.push(lowest.row.lowest_index);
        shown.sort_unstable();
        shown.dedup();
        let bar = |k: usize| Bar {
            place: Metres::new(profile[k].position.get()).to_string(),
            value: Volts::new(profile[k].voltage.get()).to_string(),
            more: light(&profile, k),
            share: (profile[k].voltage.get() - scale_low) / (high - scale_low).max(1e-9),
            mark: if k == lowest.row.lowest_index { " lowest" } else { "" },
        };
        page.push(Block::Bars(shown.into_iter().map(bar).collect()));
        let names: Vec<&str> = profile.colours().iter().map(|c| c.name.as_str()).collect();
        page.note(format!("per cent: brightness of {}; bars start at {}", names.join(", "), Volts::new(scale_low)));
        page.gap();
    }
}

/// What of each colour's light is left at a pixel, as the check of sagging judges it.
fn light(profile: &StripProfile, pixel: usize) -> String {
    let shares: Vec<String> = (0..profile.colours().len())
        .filter_map(|c| profile.light(pixel, c))
        .map(|share| format!("{:>3.0}", 100.0 * share.get()))
        .collect();
    if shares.is_empty() { String::new() } else { format!("{} %  ", shares.join(" ")) }
}

fn load_grid(page: &mut Document, review: &Review, select: &Select, loads: &[Row<LoadRow>]) {
    if select.all_corners {
        let rows = loads.iter().map(|r| {
            let mut row = vec![r.row.name.clone()];
            row.extend(state(r));
            row.extend([r.row.voltage.to_string(), r.row.current.to_string(), r.row.ground_shift.to_string()]);
            row
        });
        return page.table(Table::new(
            [
                named("load"),
                words("scenario"),
                words("corner"),
                values("voltage"),
                values("current"),
                values("ground shift"),
            ],
            rows,
        ));
    }
    let scenarios: Vec<&Scenario> =
        review.scenarios().into_iter().filter(|s| loads.iter().any(|r| r.scenario == **s)).collect();
    let mut names: Vec<&str> = Vec::new();
    for r in loads {
        if !names.contains(&r.row.name.as_str()) {
            names.push(&r.row.name);
        }
    }
    let mut heading = vec![named("load")];
    heading.extend(scenarios.iter().map(|s| values(s.name())));
    heading.extend([values("largest current"), values("ground shift")]);
    let rows = names.iter().map(|name| {
        let own: Vec<_> = loads.iter().filter(|r| r.row.name == *name).collect();
        let mut row = vec![(*name).to_owned()];
        for s in &scenarios {
            row.push(own.iter().find(|r| r.scenario == **s).map_or_else(|| "–".into(), |r| r.row.voltage.to_string()));
        }
        let most = own.iter().map(|r| r.row.current).reduce(|a, b| if b > a { b } else { a });
        let shift =
            own.iter().map(|r| r.row.ground_shift).reduce(|a, b| if b.get().abs() > a.get().abs() { b } else { a });
        row.extend([or_dash(most), or_dash(shift)]);
        row
    });
    page.table(Table::new(heading, rows));
    page.note("ground shift: the load's ground relative to that of the first supply of its group.");
}

fn link_table(links: &[Row<modest_ohm::views::SignalRow>]) -> Table {
    let mut ends: Vec<(&str, &str)> = Vec::new();
    for r in links {
        if !ends.contains(&(r.row.from.as_str(), r.row.to.as_str())) {
            ends.push((&r.row.from, &r.row.to));
        }
    }
    let rows = ends.iter().map(|(from, to)| {
        let own: Vec<_> = links.iter().filter(|r| r.row.from == *from && r.row.to == *to).collect();
        let least = |f: fn(&modest_ohm::views::SignalRow) -> Option<Volts>| {
            or_dash(own.iter().filter_map(|r| f(&r.row)).reduce(|a, b| if b < a { b } else { a }))
        };
        let shift = own.iter().map(|r| r.row.shift).reduce(|a, b| if b.get().abs() > a.get().abs() { b } else { a });
        vec![
            format!("{from} → {to}"),
            or_dash(shift),
            least(|l| l.high_margin),
            least(|l| l.low_margin),
            least(|l| Some(l.over_margin)),
            least(|l| Some(l.below_margin)),
        ]
    });
    Table::new(
        [
            named("line"),
            values("ground shift"),
            values("high"),
            values("low"),
            values("below maximum"),
            values("above minimum"),
        ],
        rows,
    )
}

/// The drop as JSON, with every pixel of every strip in the states shown.
#[must_use]
pub fn drop_json(input: &Input<'_>, review: &Review, select: &Select) -> String {
    let (strips, loads, links) = (review.strips(select), review.loads(select), review.signals(select));
    let conductors = review.conductors(select);
    json::pretty(&DropShape {
        format: json::FORMAT,
        plan: input.path,
        strips: strips.iter().zip(review.solve_profiles(&strips)).map(|(r, profile)| strip_shape(r, profile)).collect(),
        conductors: conductors.iter().map(ConductorShape::of).collect(),
        loads: loads
            .iter()
            .map(|r| LoadShape {
                name: &r.row.name,
                at: At::of(r),
                voltage_v: number(r.row.voltage),
                current_a: number(r.row.current),
                ground_shift_v: number(r.row.ground_shift),
            })
            .collect(),
        signals: links
            .iter()
            .map(|r| SignalShape {
                from: &r.row.from,
                to: &r.row.to,
                at: At::of(r),
                shift_v: number(r.row.shift),
                vdd_v: number(r.row.vdd),
                vih_v: maybe(r.row.vih),
                high_margin_v: maybe(r.row.high_margin),
                low_margin_v: maybe(r.row.low_margin),
                over_margin_v: number(r.row.over_margin),
                below_margin_v: number(r.row.below_margin),
            })
            .collect(),
    })
}

fn strip_shape(r: &Row<StripRow>, profile: Option<StripProfile>) -> StripShape<'_> {
    let s = &r.row;
    StripShape {
        name: &s.name,
        at: At::of(r),
        pixels: s.pixels,
        current_a: number(s.current),
        pixel_power_w: number(s.pixel_power),
        lowest_v: number(s.lowest),
        lowest_at_m: number(s.lowest_at),
        lowest_index: s.lowest_index,
        highest_v: number(s.highest),
        first_v: number(s.first),
        last_v: number(s.last),
        first_minus_v: number(s.first_minus),
        pixels_below_full_current: s.below_full,
        copper_loss_w: number(s.copper_loss),
        copper_max_feed_a: number(s.copper_max_feed),
        copper_max_return_a: number(s.copper_max_return),
        firmware_limit_a: maybe(s.firmware_limit),
        shared_limit: s.shared_limit.clone(),
        leds: s.leds,
        switched: s
            .switched
            .iter()
            .map(|(colour, by)| SwitchedShape { colour: colour.clone(), by: by.clone() })
            .collect(),
        feeds: s
            .feeds
            .iter()
            .map(|f| PointShape {
                at_m: number(f.at),
                feed_a: number(f.feed),
                return_a: number(f.back),
                voltage_v: number(f.voltage),
            })
            .collect(),
        minimum_v: maybe(s.minimum),
        recommended_low_v: maybe(s.recommended.map(|s| s.low)),
        recommended_high_v: maybe(s.recommended.map(|s| s.high)),
        colours: profile.iter().flat_map(|p| p.colours()).map(ColourShape::of).collect(),
        profile: profile
            .iter()
            .flat_map(|p| p.iter().enumerate().map(|(k, point)| profile_shape(p, k, point)))
            .collect(),
    }
}

fn profile_shape(profile: &StripProfile, pixel: usize, point: &ProfilePoint) -> ProfileShape {
    let light = (0..profile.colours().len()).filter_map(|c| profile.light(pixel, c).map(Fraction::get));
    ProfileShape {
        position_m: number(point.position),
        voltage_v: number(point.voltage),
        current_a: number(point.current),
        light: light.collect(),
    }
}
