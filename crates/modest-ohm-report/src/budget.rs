//! The budget: what every rail carries in every scenario.

use modest_ohm::units::{Amps, Quantity};
use modest_ohm::views::{CableRow, ConverterRow, NodeRow, Row, Selected};
use modest_ohm::{Corner, Review, Scenario, Select};

use crate::Layout;
use crate::document::{Block, Document, Table, named, values, words};
use crate::table::{or_dash, state};

/// Tables of rails, converters, cables and power.
#[must_use]
pub fn budget_text(review: &Review, select: &Select, layout: Layout) -> String {
    budget(review, select).text(layout.width)
}

/// The budget, before anybody decides how wide.
pub(crate) fn budget(review: &Review, select: &Select) -> Document {
    let mut page = Document::default();
    let nodes = review.nodes(select);
    page.heading("Rails: demand by scenario, at the corner closest to its limit");
    page.table(if select.all_corners { node_list(&nodes) } else { node_grid(review, select, &nodes) });
    page.note(
        "demand: source limits ignored, boards at peak current. limit: rating; for a branch the smaller of \
        fuse × load factor and wire; for a board output its regulator less the board's mean. headroom: start and surge \
        are short and not counted.",
    );
    let selected = review.selected(select);
    beyond_corners(&mut page, review, &selected, |unit| unit == Amps::SYMBOL);
    page.gap();
    sums(&mut page, review, select);
    batteries(&mut page, review, &selected);
    let converters = review.converters(select);
    if !converters.is_empty() {
        page.heading("Converters");
        page.table(converter_table(&converters));
        page.gap();
    }
    if let Some(table) = leads(review, select) {
        page.heading("Cables with the largest loss");
        page.table(table);
    }
    let cables: Vec<CableRow> = review.cables().into_iter().filter(|l| selected.shows_on_the_way(&l.name)).collect();
    if !cables.is_empty() {
        page.caption("Cable protection");
        protections(&mut page, cables);
    }
    if !selected.is_all() {
        return page;
    }
    // Ohmic: leads, copper, contacts, MOSFETs that are on. Junctions: diodes, clamps, transistors.
    page.caption("Power balance");
    page.table(total_table(review, select));
    feed_lines(&mut page, review, select);
    page
}

/// The numbers beside a table of corners that a combination of tolerances makes worse.
pub(crate) fn beyond_corners(page: &mut Document, review: &Review, selected: &Selected, shown: fn(&str) -> bool) {
    let beyond = review.beyond_corners(selected).into_iter().filter(|b| shown(b.unit));
    let words: Vec<String> = beyond.map(|b| format!("{} ({})", b.words(), b.code)).collect();
    if !words.is_empty() {
        page.note(format!("worse in a combination of tolerances than in any corner: {}.", words.join("; ")));
    }
}

fn converter_table(converters: &[Row<ConverterRow>]) -> Table {
    let rows = converters.iter().map(|r| {
        let c = &r.row;
        let mut row = vec![c.name.clone()];
        row.extend(state(r));
        row.extend([
            c.input_v.to_string(),
            c.input_a.to_string(),
            c.input_w.to_string(),
            c.output_a.to_string(),
            c.loss.to_string(),
        ]);
        row
    });
    let heading = [
        named("converter"),
        words("scenario"),
        words("corner"),
        values("input"),
        values("input current"),
        values("input power"),
        values("output current"),
        values("loss"),
    ];
    Table::new(heading, rows)
}

fn total_table(review: &Review, select: &Select) -> Table {
    let rows: Vec<Vec<String>> = review
        .totals(select)
        .iter()
        .map(|r| {
            let t = &r.row;
            let mut row = vec![r.scenario.to_string(), r.corner.name().to_owned()];
            row.extend(
                [t.source, t.load, t.conductor, t.diode, t.converter_loss, t.source_internal].map(|w| w.to_string()),
            );
            row
        })
        .collect();
    Table::new(
        [
            named("scenario"),
            words("corner"),
            values("from sources"),
            values("loads"),
            values("ohmic losses"),
            values("junctions"),
            values("converters"),
            values("inside sources"),
        ],
        rows,
    )
}

/// One line a node, one column a scenario; voltage and headroom of the scenario with the least headroom.
fn node_grid(review: &Review, select: &Select, nodes: &[Row<NodeRow>]) -> Table {
    let scenarios: Vec<&Scenario> =
        review.scenarios().into_iter().filter(|s| nodes.iter().any(|r| r.scenario == **s)).collect();
    let tree = review.tree();
    let shown = tree.iter().filter(|(name, _)| nodes.iter().any(|r| r.row.name == *name));
    // The corner with the most current is not always the one with the lowest voltage.
    let every = review.nodes(&Select { all_corners: select.corner.is_none(), ..select.clone() });
    let mut heading = vec![named("rail"), values("lowest voltage")];
    heading.extend(scenarios.iter().map(|s| values(s.name())));
    heading.extend([values("limit"), values("least headroom")]);
    let rows = shown.map(|(name, depth)| {
        let own: Vec<&Row<NodeRow>> = nodes.iter().filter(|r| r.row.name == *name).collect();
        let mut row = vec![format!("{}{name}", "  ".repeat(*depth))];
        let volts = || every.iter().filter(|r| r.row.name == *name).map(|r| r.row.voltage);
        let lowest = volts().flatten().reduce(|a, b| if b < a { b } else { a });
        let lost = volts().any(|v| v.is_none());
        row.push(if lost { "collapses".into() } else { or_dash(lowest) });
        for s in &scenarios {
            let of = own.iter().find(|r| r.scenario == **s);
            row.push(
                of.map_or_else(|| "–".into(), |r| r.row.demand.map_or_else(|| "collapses".into(), |w| w.to_string())),
            );
        }
        // What a boost may give follows from its input, and is not known where it gives nothing.
        row.push(or_dash(own.iter().filter_map(|r| r.row.limit).reduce(|a, b| if b < a { b } else { a })));
        let lasting: Vec<_> = own
            .iter()
            .filter(|r| !matches!(r.scenario, Scenario::Start | Scenario::Surge | Scenario::AllAtOnce))
            .collect();
        // What the other scenarios leave is no headroom where one collapses.
        row.push(if lasting.iter().any(|r| r.row.demand.is_none()) {
            "collapses".into()
        } else {
            or_dash(lasting.iter().filter_map(|r| r.row.headroom).reduce(|a, b| if b < a { b } else { a }))
        });
        row
    });
    Table::new(heading, rows)
}

/// What each rail's current is made of, in *worst* or the selected scenario.
fn sums(page: &mut Document, review: &Review, select: &Select) {
    let worst = Select { scenario: select.scenario.clone().or(Some(Scenario::Worst)), ..select.clone() };
    let nodes = review.nodes(&Select { all_corners: false, ..worst });
    let selected = review.selected(select);
    let mut lines = Vec::new();
    for (name, depth) in review.tree().into_iter().filter(|(name, _)| selected.shows(name)) {
        let Some(r) = nodes.iter().find(|r| r.row.name == name) else { continue };
        let (Some(wanted), true) = (r.row.demand, r.row.parts.len() > 1) else { continue };
        let each: Vec<String> = r.row.parts.iter().map(|(part, amps)| format!("{part} {amps}")).collect();
        let line = format!("{name} {wanted} = {}", each.join(" + ").replace("+ -", "− "));
        lines.push(Block::Branch(depth, line));
    }
    if lines.is_empty() {
        return;
    }
    let scenario = nodes.first().map_or(&Scenario::Worst, |r| &r.scenario);
    page.heading(format!("Currents by load in {scenario}"));
    page.0.extend(lines);
    page.gap();
}

/// How long batteries last, scenario by scenario.
fn batteries(page: &mut Document, review: &Review, selected: &Selected) {
    let rows: Vec<Vec<String>> = review
        .runtimes()
        .iter()
        .filter(|r| selected.shows_on_the_way(&r.battery))
        .map(|r| {
            let end = r.end.to_string();
            vec![
                r.battery.clone(),
                r.scenario.to_string(),
                modest_ohm::units::duration(r.lasts),
                end,
                r.left.to_string(),
            ]
        })
        .collect();
    if rows.is_empty() {
        return;
    }
    let heading = [named("battery"), words("scenario"), values("runtime"), words("stops on"), values("charge left")];
    page.heading("Battery runtime from full charge");
    page.table(Table::new(heading, rows));
    page.gap();
}

fn node_list(nodes: &[Row<NodeRow>]) -> Table {
    let rows = nodes.iter().map(|r| {
        let n = &r.row;
        let mut row = vec![n.name.clone()];
        row.extend(state(r));
        row.extend([or_dash(n.voltage), or_dash(n.current), or_dash(n.demand), or_dash(n.limit), or_dash(n.headroom)]);
        row
    });
    Table::new(
        [
            named("rail"),
            words("scenario"),
            words("corner"),
            values("voltage"),
            values("current"),
            values("demand"),
            values("limit"),
            values("headroom"),
        ],
        rows,
    )
}

fn leads(review: &Review, select: &Select) -> Option<Table> {
    let worst = Select { scenario: select.scenario.clone().or(Some(Scenario::Worst)), ..select.clone() };
    let mut rows = review.conductors(&worst);
    if rows.is_empty() {
        return None;
    }
    let loss = |r: &Row<modest_ohm::views::ConductorRow>| (r.row.feed_loss + r.row.return_loss).get();
    // Equal losses but for rounding keep their order.
    let nanowatts = |row: &_| (1e9 * loss(row)).round();
    rows.sort_by(|a, b| nanowatts(b).total_cmp(&nanowatts(a)));
    // Leads that lose less than this are not worth a line.
    let shown = rows.iter().filter(|r| loss(r) > 1e-6).take(MOST_LEADS).map(|r| {
        let c = &r.row;
        let mut row = vec![c.name.clone()];
        row.extend(state(r));
        row.extend([
            or_dash(c.feed),
            c.back.to_string(),
            c.feed_loss.to_string(),
            c.return_loss.to_string(),
            or_dash(c.temperature),
            limit_words(c),
        ]);
        row
    });
    Some(Table::new(
        [
            named("cable to"),
            words("scenario"),
            words("corner"),
            values("feed"),
            values("return"),
            values("feed loss"),
            values("return loss"),
            values("wire at"),
            values("limit"),
        ],
        shown,
    ))
}

/// More leads than this are not listed.
const MOST_LEADS: usize = 12;

/// `3.75 A by its fuse`.
pub(crate) fn limit_words(c: &modest_ohm::views::ConductorRow) -> String {
    match (c.limit, c.limited_by) {
        (Some(limit), Some(by)) => format!("{limit} {}", by.word()),
        _ => "–".into(),
    }
}

/// What stands before each cable, those first of which there is something to say.
fn protections(page: &mut Document, mut leads: Vec<CableRow>) {
    let share = |l: &CableRow| l.sustained_fault.map_or(0.0, |a| a.get()) / l.ampacity.get().max(1e-9);
    let open = |l: &CableRow| l.severity.filter(|_| !l.accepted);
    leads.sort_by(|a, b| open(b).cmp(&open(a)).then(share(b).total_cmp(&share(a))));
    let left = leads.len().saturating_sub(MOST_LEADS);
    let rows = leads.into_iter().take(MOST_LEADS).map(|l| {
        let verdict = match (l.severity, l.code) {
            (Some(_), Some(code)) if l.accepted => format!("accepted: {code}"),
            (Some(severity), Some(code)) => format!("{} {code}", severity.word()),
            _ => "protected".into(),
        };
        let size = l.size.unwrap_or_else(|| "–".into());
        vec![
            l.name,
            size,
            l.ampacity.to_string(),
            l.protected_by,
            or_dash(l.min_fault),
            or_dash(l.sustained_fault),
            verdict,
        ]
    });
    let heading = [
        named("cable to"),
        words("size"),
        values("rated"),
        words("protected by"),
        values("short circuit"),
        values("continuous"),
        words("verdict"),
    ];
    page.table(Table::new(heading, rows));
    if left > 0 {
        page.paragraph(format!("and {left} more that are better protected"));
    }
    page.note(
        "short circuit: least current into a short circuit at its far end. continuous: what can flow without \
        blowing the fuse or tripping the source.",
    );
}

fn feed_lines(page: &mut Document, review: &Review, select: &Select) {
    let select = Select { corner: select.corner.or(Some(Corner::Low)), ..select.clone() };
    let least = review.solve_feeds(&select).into_iter().filter(|r| r.row.largest_scale.is_some()).min_by(|a, b| {
        a.row.largest_scale.unwrap_or(f64::INFINITY).total_cmp(&b.row.largest_scale.unwrap_or(f64::INFINITY))
    });
    if let Some(r) = least {
        let (scale, watts) = (r.row.largest_scale.unwrap_or(0.0), or_dash(r.row.deliverable_in_range));
        page.note(format!(
            "Regulated inputs could draw {scale:.2} times their power before the supply collapses ({} at corner {}); \
            {watts} of it within their input ranges.",
            state(&r)[0],
            r.corner.name(),
        ));
    }
}
