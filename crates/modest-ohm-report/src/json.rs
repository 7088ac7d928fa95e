//! The published JSON shapes: SI base units as numbers, the unit in the key, snake_case, a `format` number.

use modest_ohm::Corner;
use modest_ohm::units::Quantity;
use modest_ohm::views::{CableLimit, CableRow, ColourRange, ConductorRow, Row};
use serde::Serialize;

/// The number of the shapes in this file.
pub(crate) const FORMAT: u32 = 1;

/// Pretty JSON of a shape; shapes of this crate always serialise.
pub(crate) fn pretty<T: Serialize>(value: &T) -> String {
    let mut text = serde_json::to_string_pretty(value).unwrap_or_else(|e| format!("{{\"error\": \"{e}\"}}"));
    text.push('\n');
    text
}

/// A number that JSON can hold; what is not finite is null.
pub(crate) fn number<Q: Quantity>(q: Q) -> Option<f64> {
    q.si().is_finite().then(|| q.si())
}

pub(crate) fn maybe<Q: Quantity>(q: Option<Q>) -> Option<f64> {
    q.and_then(number)
}

/// The unit of a number in JSON: shares are plain ratios, as every number is in its base unit.
pub(crate) fn unit(symbol: &str) -> &str {
    if symbol == "%" { "1" } else { symbol }
}

/// Scenario and corner of a row.
#[derive(Serialize)]
pub(crate) struct At<'a> {
    scenario: &'a str,
    corner: &'static str,
    #[serde(skip_serializing_if = "Option::is_none")]
    surging: Option<&'a str>,
}

impl<'a> At<'a> {
    pub fn of<T>(row: &'a Row<T>) -> Self {
        Self { scenario: row.scenario.name(), corner: row.corner.name(), surging: row.surging.as_deref() }
    }
}

#[derive(Serialize)]
pub(crate) struct CheckShape<'a> {
    pub format: u32,
    pub plan: &'a str,
    pub title: &'a str,
    pub summary: SummaryShape,
    pub findings: Vec<FindingShape<'a>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub passed: Option<Vec<PassedShape<'a>>>,
}

#[derive(Serialize)]
pub(crate) struct SummaryShape {
    pub danger: usize,
    pub fault: usize,
    pub caution: usize,
    pub advisory: usize,
    pub unknown: usize,
    pub accepted: usize,
    pub passed: usize,
}

#[derive(Serialize)]
pub(crate) struct FindingShape<'a> {
    pub code: &'a str,
    pub severity: &'a str,
    pub subject: &'a str,
    pub scenario: Option<&'a str>,
    pub corner: Option<&'a str>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub mix: Option<Vec<MixedShape<'a>>>,
    pub message: &'a str,
    pub line: Option<usize>,
    pub column: Option<usize>,
    pub evidence: Vec<EvidenceShape<'a>>,
    /// Codes of what has the same cause.
    pub also: Vec<&'a str>,
    /// The same, with their subjects.
    pub also_on: Vec<AlsoShape<'a>>,
    /// The finding whose first fix ends this one too.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub goes_with: Option<HeadShape<'a>>,
    pub proposals: Vec<crate::proposals::ProposalShape<'a>>,
    /// Why no proposal ends it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub obstacle: Option<String>,
    pub accepted: bool,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub because: Option<&'a str>,
}

#[derive(Serialize)]
pub(crate) struct AlsoShape<'a> {
    pub code: &'a str,
    pub severity: &'a str,
    pub subject: &'a str,
    /// The number that was judged and its limit.
    pub evidence: Vec<EvidenceShape<'a>>,
}

/// A finding by its code and its part.
#[derive(Serialize)]
pub(crate) struct HeadShape<'a> {
    pub code: &'a str,
    pub subject: &'a str,
}

#[derive(Serialize)]
pub(crate) struct EvidenceShape<'a> {
    pub name: &'a str,
    /// `judged`, `at-most`, `at-least` or `context`.
    pub role: &'a str,
    pub value: Option<f64>,
    pub unit: &'a str,
    pub origin: &'a str,
    #[serde(skip_serializing_if = "Option::is_none")]
    pub source: Option<String>,
}

/// A figure that is elsewhere than in the corner, or on which the result hangs most.
#[derive(Serialize)]
pub(crate) struct MixedShape<'a> {
    pub item: &'a str,
    pub key: &'a str,
    pub value: f64,
    pub unit: &'a str,
    pub differs: bool,
    pub decides: bool,
}

#[derive(Serialize)]
pub(crate) struct PassedShape<'a> {
    pub code: &'a str,
    pub subject: &'a str,
    pub margin: &'a str,
}

#[derive(Serialize)]
pub(crate) struct ProblemsShape<'a> {
    pub format: u32,
    pub plan: &'a str,
    pub problems: Vec<ProblemShape<'a>>,
}

#[derive(Serialize)]
pub(crate) struct ProblemShape<'a> {
    pub message: &'a str,
    pub help: &'a str,
    pub line: Option<usize>,
    pub column: Option<usize>,
    pub end_line: Option<usize>,
    pub end_column: Option<usize>,
}

#[derive(Serialize)]
pub(crate) struct NodeShape<'a> {
    pub name: &'a str,
    pub kind: &'a str,
    #[serde(flatten)]
    pub at: At<'a>,
    pub voltage_v: Option<f64>,
    pub minus_v: Option<f64>,
    pub current_a: Option<f64>,
    pub demand_a: Option<f64>,
    pub limit_a: Option<f64>,
    pub headroom: Option<f64>,
    pub limiting: bool,
    pub parts: Vec<PartShape<'a>>,
}

#[derive(Serialize)]
pub(crate) struct PartShape<'a> {
    pub name: &'a str,
    pub current_a: Option<f64>,
}

#[derive(Serialize)]
pub(crate) struct BatteryShape {
    pub name: String,
    pub scenario: String,
    pub runtime_s: Option<f64>,
    pub ends_by: &'static str,
    pub first_to_stop: Option<String>,
    pub charge_left: Option<f64>,
}

#[derive(Serialize)]
pub(crate) struct ConductorShape<'a> {
    pub name: &'a str,
    #[serde(flatten)]
    pub at: At<'a>,
    pub feed_a: Option<f64>,
    pub return_a: Option<f64>,
    pub feed_loss_w: Option<f64>,
    pub return_loss_w: Option<f64>,
    pub feed_drop_v: Option<f64>,
    pub return_drop_v: Option<f64>,
    pub temperature_c: Option<f64>,
    pub ampacity_a: Option<f64>,
    pub limit_a: Option<f64>,
    pub limited_by: Option<&'static str>,
}

impl<'a> ConductorShape<'a> {
    pub fn of(r: &'a Row<ConductorRow>) -> Self {
        Self {
            name: &r.row.name,
            at: At::of(r),
            feed_a: maybe(r.row.feed),
            return_a: number(r.row.back),
            feed_loss_w: number(r.row.feed_loss),
            return_loss_w: number(r.row.return_loss),
            feed_drop_v: number(r.row.feed_drop),
            return_drop_v: number(r.row.return_drop),
            temperature_c: maybe(r.row.temperature),
            ampacity_a: maybe(r.row.ampacity),
            limit_a: maybe(r.row.limit),
            limited_by: r.row.limited_by.map(CableLimit::word),
        }
    }
}

#[derive(Serialize)]
pub(crate) struct CableShape {
    pub name: String,
    pub size: Option<String>,
    pub ampacity_a: Option<f64>,
    pub protected_by: String,
    pub fuse_a: Option<f64>,
    pub sustained_fault_a: Option<f64>,
    pub min_fault_a: Option<f64>,
    pub code: Option<&'static str>,
    pub severity: Option<&'static str>,
    pub accepted: bool,
}

impl CableShape {
    pub fn of(row: CableRow) -> Self {
        Self {
            ampacity_a: number(row.ampacity),
            fuse_a: maybe(row.fuse),
            sustained_fault_a: maybe(row.sustained_fault),
            min_fault_a: maybe(row.min_fault),
            code: row.code,
            severity: row.severity.map(modest_ohm::Severity::word),
            accepted: row.accepted,
            name: row.name,
            size: row.size,
            protected_by: row.protected_by,
        }
    }
}

#[derive(Serialize)]
pub(crate) struct ConverterShape<'a> {
    pub name: &'a str,
    #[serde(flatten)]
    pub at: At<'a>,
    pub input_v: Option<f64>,
    pub input_a: Option<f64>,
    pub input_w: Option<f64>,
    pub output_a: Option<f64>,
    pub loss_w: Option<f64>,
}

#[derive(Serialize)]
pub(crate) struct TotalShape<'a> {
    #[serde(flatten)]
    pub at: At<'a>,
    pub source_w: Option<f64>,
    pub source_internal_w: Option<f64>,
    pub load_w: Option<f64>,
    pub conductor_w: Option<f64>,
    pub converter_loss_w: Option<f64>,
    pub diode_w: Option<f64>,
}

#[derive(Serialize)]
pub(crate) struct FeedShape<'a> {
    #[serde(flatten)]
    pub at: At<'a>,
    pub has_solution: bool,
    pub largest_scale: Option<f64>,
    pub deliverable_w: Option<f64>,
    pub deliverable_in_range_w: Option<f64>,
    pub stays_in_range: Option<bool>,
}

#[derive(Serialize)]
pub(crate) struct DropShape<'a> {
    pub format: u32,
    pub plan: &'a str,
    pub strips: Vec<StripShape<'a>>,
    pub conductors: Vec<ConductorShape<'a>>,
    pub loads: Vec<LoadShape<'a>>,
    pub signals: Vec<SignalShape<'a>>,
}

#[derive(Serialize)]
pub(crate) struct StripShape<'a> {
    pub name: &'a str,
    #[serde(flatten)]
    pub at: At<'a>,
    pub pixels: usize,
    pub current_a: Option<f64>,
    pub pixel_power_w: Option<f64>,
    pub lowest_v: Option<f64>,
    pub lowest_at_m: Option<f64>,
    pub lowest_index: usize,
    pub highest_v: Option<f64>,
    pub first_v: Option<f64>,
    pub last_v: Option<f64>,
    pub first_minus_v: Option<f64>,
    pub pixels_below_full_current: usize,
    pub copper_loss_w: Option<f64>,
    pub copper_max_feed_a: Option<f64>,
    pub copper_max_return_a: Option<f64>,
    pub firmware_limit_a: Option<f64>,
    pub shared_limit: Option<String>,
    pub leds: usize,
    pub switched: Vec<SwitchedShape>,
    pub feeds: Vec<PointShape>,
    pub minimum_v: Option<f64>,
    pub recommended_low_v: Option<f64>,
    pub recommended_high_v: Option<f64>,
    pub colours: Vec<ColourShape>,
    pub profile: Vec<ProfileShape>,
}

#[derive(Serialize)]
pub(crate) struct ColourShape {
    pub colour: String,
    pub dark_to_v: Option<f64>,
    pub full_at_v: Option<f64>,
}

impl ColourShape {
    pub fn of(range: &ColourRange) -> Self {
        Self { colour: range.name.clone(), dark_to_v: number(range.dark_to), full_at_v: number(range.full_at) }
    }
}

#[derive(Serialize)]
pub(crate) struct SwitchedShape {
    pub colour: String,
    pub by: String,
}

#[derive(Serialize)]
pub(crate) struct PointShape {
    pub at_m: Option<f64>,
    pub feed_a: Option<f64>,
    pub return_a: Option<f64>,
    pub voltage_v: Option<f64>,
}

#[derive(Serialize)]
pub(crate) struct ProfileShape {
    pub position_m: Option<f64>,
    pub voltage_v: Option<f64>,
    pub current_a: Option<f64>,
    /// Per colour, 0 to 1.
    pub light: Vec<f64>,
}

#[derive(Serialize)]
pub(crate) struct LoadShape<'a> {
    pub name: &'a str,
    #[serde(flatten)]
    pub at: At<'a>,
    pub voltage_v: Option<f64>,
    pub current_a: Option<f64>,
    pub ground_shift_v: Option<f64>,
}

#[derive(Serialize)]
pub(crate) struct SignalShape<'a> {
    pub from: &'a str,
    pub to: &'a str,
    #[serde(flatten)]
    pub at: At<'a>,
    pub shift_v: Option<f64>,
    pub vdd_v: Option<f64>,
    pub vih_v: Option<f64>,
    pub high_margin_v: Option<f64>,
    pub low_margin_v: Option<f64>,
    pub over_margin_v: Option<f64>,
    pub below_margin_v: Option<f64>,
}

/// The corner's name, or null.
pub(crate) fn corner(corner: Option<Corner>) -> Option<&'static str> {
    corner.map(Corner::name)
}
