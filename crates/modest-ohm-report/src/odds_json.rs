//! How likely it is that a build works, as JSON.

use modest_ohm::odds::{Beyond, LeftOut, Likely, Odds, Part, Share, VerdictOdds, Worth};
use serde::Serialize;

use crate::Input;
use crate::json::{FORMAT, pretty};

#[derive(Serialize)]
struct OddsShape<'a> {
    format: u32,
    plan: &'a str,
    builds: usize,
    figures: usize,
    assumed_figures: usize,
    dangers: usize,
    works: Option<ShareShape>,
    verdicts: Vec<VerdictShape<'a>>,
    left_out: Vec<LeftOutShape<'a>>,
    beyond: Vec<BeyondShape<'a>>,
}

#[derive(Serialize)]
struct ShareShape {
    builds: usize,
    of: usize,
    share: f64,
    low: f64,
    high: f64,
}

impl ShareShape {
    fn of(share: Share) -> Self {
        let (low, high) = share.interval();
        Self { builds: share.count, of: share.builds, share: share.value(), low, high }
    }
}

#[derive(Serialize)]
struct VerdictShape<'a> {
    code: &'a str,
    subject: &'a str,
    alike: &'a [String],
    severity: &'static str,
    works: Option<ShareShape>,
    clear: Option<ShareShape>,
    endangers: bool,
    of_margin: bool,
    value: Option<ValueShape>,
    decided_by: Vec<PartShape<'a>>,
    adds_up: bool,
    depends_on_assumed: bool,
    range: Option<[ShareShape; 2]>,
    measure: Option<WorthShape<'a>>,
}

#[derive(Serialize)]
struct ValueShape {
    worst_possible: f64,
    worst_likely: f64,
    usual: f64,
    limit: f64,
    limit_name: &'static str,
    role: &'static str,
    unit: &'static str,
}

#[derive(Serialize)]
struct PartShape<'a> {
    item: &'a str,
    key: &'a str,
    share: f64,
    assumed: bool,
}

#[derive(Serialize)]
struct WorthShape<'a> {
    item: &'a str,
    key: &'a str,
    how: &'a str,
    unit: &'static str,
    best: EndShape,
    worst: EndShape,
}

#[derive(Serialize)]
struct EndShape {
    value: f64,
    works: ShareShape,
}

#[derive(Serialize)]
struct LeftOutShape<'a> {
    code: &'a str,
    subject: &'a str,
    severity: &'static str,
    why: &'a str,
}

#[derive(Serialize)]
struct BeyondShape<'a> {
    code: &'a str,
    subject: &'a str,
    severity: &'static str,
    builds: usize,
    first: usize,
}

fn verdict(v: &VerdictOdds) -> VerdictShape<'_> {
    // No share is given of danger.
    let given = |share| (!v.endangers).then(|| ShareShape::of(share));
    VerdictShape {
        code: v.code,
        subject: &v.subject,
        alike: &v.alike,
        severity: v.severity.word(),
        works: given(v.works),
        clear: given(v.clear),
        endangers: v.endangers,
        of_margin: v.of_margin,
        value: v.value.as_ref().map(value),
        decided_by: v.parts.iter().map(part).collect(),
        adds_up: v.adds_up,
        depends_on_assumed: v.assumed,
        range: v.range.filter(|_| !v.endangers).map(|(worst, best)| [worst, best].map(ShareShape::of)),
        measure: v.worth.as_ref().filter(|_| !v.endangers).map(worth),
    }
}

fn value(v: &Likely) -> ValueShape {
    ValueShape {
        worst_possible: v.worst_possible,
        worst_likely: v.worst_likely,
        usual: v.middle,
        limit: v.limit,
        limit_name: v.limit_name,
        role: if v.at_most { "at-most" } else { "at-least" },
        unit: v.unit,
    }
}

fn part(p: &Part) -> PartShape<'_> {
    PartShape { item: &p.item, key: &p.key, share: p.share, assumed: p.assumed }
}

fn worth(w: &Worth) -> WorthShape<'_> {
    let end = |(value, share): (f64, Share)| EndShape { value, works: ShareShape::of(share) };
    WorthShape { item: &w.item, key: &w.key, how: &w.how, unit: w.unit, best: end(w.best), worst: end(w.worst) }
}

/// The shares of builds as JSON.
#[must_use]
pub fn odds_json(input: &Input<'_>, odds: &Odds) -> String {
    pretty(&OddsShape {
        format: FORMAT,
        plan: input.path,
        builds: odds.builds,
        figures: odds.figures,
        assumed_figures: odds.assumed,
        dangers: odds.dangers,
        works: odds.works.map(ShareShape::of),
        verdicts: odds.verdicts.iter().map(verdict).collect(),
        left_out: odds.left_out.iter().map(left_out).collect(),
        beyond: odds.beyond.iter().map(beyond).collect(),
    })
}

fn beyond(b: &Beyond) -> BeyondShape<'_> {
    BeyondShape { code: b.code, subject: &b.subject, severity: b.severity.word(), builds: b.builds, first: b.first }
}

fn left_out(l: &LeftOut) -> LeftOutShape<'_> {
    LeftOutShape { code: l.code, subject: &l.subject, severity: l.severity.word(), why: l.why }
}
