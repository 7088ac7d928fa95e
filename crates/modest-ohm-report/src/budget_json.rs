//! Everything that `budget` prints, as JSON.

use modest_ohm::views::{BeyondCorners, ConverterRow, NodeRow, Row, TotalRow};
use modest_ohm::{Review, Scenario, Select};
use serde::Serialize;

use crate::Input;
use crate::json::{
    self, At, BatteryShape, CableShape, ConductorShape, ConverterShape, FeedShape, MixedShape, NodeShape, PartShape,
    TotalShape, maybe, number,
};

#[derive(Serialize)]
struct BudgetShape<'a> {
    format: u32,
    plan: &'a str,
    nodes: Vec<NodeShape<'a>>,
    conductors: Vec<ConductorShape<'a>>,
    cables: Vec<CableShape>,
    converters: Vec<ConverterShape<'a>>,
    totals: Vec<TotalShape<'a>>,
    batteries: Vec<BatteryShape>,
    feed: Vec<FeedShape<'a>>,
    beyond_corners: Vec<BeyondShape<'a>>,
}

/// A number that is worse in a combination of tolerances than in every corner.
#[derive(Serialize)]
struct BeyondShape<'a> {
    name: &'a str,
    scenario: Option<&'a str>,
    what: &'static str,
    value: Option<f64>,
    unit: &'static str,
    code: &'static str,
    mix: Vec<MixedShape<'a>>,
}

impl<'a> BeyondShape<'a> {
    fn of(b: &BeyondCorners<'a>) -> Self {
        Self {
            name: b.subject,
            scenario: b.scenario.map(Scenario::name),
            what: b.what,
            value: b.value.is_finite().then_some(b.value),
            unit: json::unit(b.unit),
            code: b.code,
            mix: b.mix.figures.iter().map(MixedShape::of).collect(),
        }
    }
}

impl<'a> NodeShape<'a> {
    fn of(r: &'a Row<NodeRow>) -> Self {
        Self {
            name: &r.row.name,
            kind: r.row.kind,
            at: At::of(r),
            voltage_v: maybe(r.row.voltage),
            minus_v: maybe(r.row.minus),
            current_a: maybe(r.row.current),
            demand_a: maybe(r.row.demand),
            limit_a: maybe(r.row.limit),
            headroom: maybe(r.row.headroom),
            limiting: r.row.limiting,
            parts: r.row.parts.iter().map(|(name, amps)| PartShape { name, current_a: number(*amps) }).collect(),
        }
    }
}

impl<'a> ConverterShape<'a> {
    fn of(r: &'a Row<ConverterRow>) -> Self {
        Self {
            name: &r.row.name,
            at: At::of(r),
            input_v: number(r.row.input_v),
            input_a: number(r.row.input_a),
            input_w: number(r.row.input_w),
            output_a: number(r.row.output_a),
            loss_w: number(r.row.loss),
        }
    }
}

impl<'a> TotalShape<'a> {
    fn of(r: &'a Row<TotalRow>) -> Self {
        Self {
            at: At::of(r),
            source_w: number(r.row.source),
            source_internal_w: number(r.row.source_internal),
            load_w: number(r.row.load),
            conductor_w: number(r.row.conductor),
            converter_loss_w: number(r.row.converter_loss),
            diode_w: number(r.row.diode),
        }
    }
}

/// The budget as JSON.
#[must_use]
pub fn budget_json(input: &Input<'_>, review: &Review, select: &Select) -> String {
    let (nodes, conductors) = (review.nodes(select), review.conductors(select));
    let (converters, selected) = (review.converters(select), review.selected(select));
    // Of single parts there is no balance of the whole plan.
    let (totals, feed) = match selected.is_all() {
        true => (review.totals(select), review.solve_feeds(select)),
        false => (Vec::new(), Vec::new()),
    };
    let shown = |name: &str| selected.shows_on_the_way(name);
    json::pretty(&BudgetShape {
        format: json::FORMAT,
        plan: input.path,
        nodes: nodes.iter().map(NodeShape::of).collect(),
        conductors: conductors.iter().map(ConductorShape::of).collect(),
        cables: review.cables().into_iter().filter(|c| shown(&c.name)).map(CableShape::of).collect(),
        converters: converters.iter().map(ConverterShape::of).collect(),
        totals: totals.iter().map(TotalShape::of).collect(),
        batteries: review
            .runtimes()
            .iter()
            .filter(|r| shown(&r.battery))
            .map(|r| BatteryShape {
                name: r.battery.clone(),
                scenario: r.scenario.to_string(),
                runtime_s: number(r.lasts),
                ends_by: r.end.word(),
                first_to_stop: r.end.consumer().map(str::to_owned),
                charge_left: number(r.left),
            })
            .collect(),
        feed: feed
            .iter()
            .map(|r| FeedShape {
                at: At::of(r),
                has_solution: r.row.has_solution,
                largest_scale: r.row.largest_scale,
                deliverable_w: maybe(r.row.deliverable),
                deliverable_in_range_w: maybe(r.row.deliverable_in_range),
                stays_in_range: r.row.stays_in_range,
            })
            .collect(),
        beyond_corners: review.beyond_corners(&selected).iter().map(BeyondShape::of).collect(),
    })
}
