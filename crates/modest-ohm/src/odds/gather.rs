//! From builds to what they say.

use std::collections::BTreeMap;

use super::asked::{Asked, is_asked};
use super::builds::{Builds, Built};
use super::judged::{Beyond, LeftOut, Likely, Odds, Part, Share, VerdictOdds, Worth};
use super::sequence::positions;
use super::states::States;
use super::statistics::{explained, quantile};
use crate::findings::evidence::EvidenceRole;
use crate::findings::finding::Finding;
use crate::plan::model::movable::Movable;
use crate::plan::model::scatter::Scatter;
use crate::review::Review;
use crate::review::depends::Entry;
use crate::review::measurement::measurement;
use crate::verdict::severity::Severity;

/// Builds that are tried, with the solves that one review of the plan has to afford for them; at 95 % the share of 512 is
/// known to two points, of 128 to four. A plan that is larger still is not sampled (our own figures).
const BUILDS: [(usize, usize); 2] = [(400, 512), (100, 128)];
/// A figure that explains less decides nothing: the noise of so many builds is 1.1 %, as a standard deviation.
const LEAST_PART: f64 = 0.04;
/// Builds are no worse than the worst possible, but for what the search for that gives up (`LEAST_GAIN`).
const NO_WORSE: f64 = 0.006;
/// Shares are given where they add up to this.
const ADDS_UP: f64 = 0.9;
/// Figures that are named, at most.
const MOST_PARTS: usize = 3;
/// A measurement that moves the share by less than this is worth nothing.
const LEAST_WORTH: f64 = 0.05;

impl Review {
    /// Draws many builds of the plan, each figure once somewhere in its spread, and solves and checks each.
    ///
    /// How values lie in their spreads is an assumption: tolerances of the plan are taken as normal with their ends at
    /// two standard deviations, ranges and what is assumed of generic parts as even on each side of the typical value.
    /// The same plan gives the same builds. A share of builds never changes a severity, which goes by the worst
    /// possible.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// let plan = Plan::from_toml(r#"
    ///     format = 1
    ///     [supply.wall]
    ///     kind = "adapter"
    ///     voltage = "12 V ± 2 %"
    ///     current = "2 A"
    ///     [load.lamp]
    ///     from = "wall"
    ///     cable = "1 m 20 AWG"
    ///     voltage = "12 V"
    ///     minimum = "11.8 V"
    ///     current = "1 A"
    /// "#).unwrap();
    /// let odds = plan.review().odds();
    /// let lamp = odds.verdicts.iter().find(|v| v.subject == "lamp").unwrap();
    /// assert!(lamp.works.value() > 0.9, "{}", lamp.works.words());
    /// assert_eq!(lamp.parts[0].item, "wall");
    /// ```
    #[must_use]
    pub fn odds(&self) -> Odds {
        self.odds_of(|_| true)
    }

    /// As [`odds`](Self::odds), of some findings.
    #[must_use]
    pub fn odds_of(&self, wanted: impl Fn(&Finding) -> bool) -> Odds {
        let movables = self.plan.movables();
        let scatter = Scatter::of(&self.plan, &movables, |m| !m.is_state);
        let open: Vec<&Finding> = self.findings.iter().filter(|f| f.accepted.is_none() && wanted(f)).collect();
        let asked: Vec<Asked<'_>> = open.iter().filter(|f| is_asked(f)).map(|f| Asked::of(self, f)).collect();
        let context = self.context();
        let builds = BUILDS.iter().find(|(solves, _)| context.affords(*solves)).map_or(0, |(_, builds)| *builds);
        let asked = if builds == 0 { Vec::new() } else { asked };
        let positions = positions(builds, movables.len());
        let built = self.built(&asked, &scatter, &positions);
        let gather = Gather { review: self, movables: &movables, scatter: &scatter, positions: &positions };
        let each = asked.iter().enumerate().map(|(n, a)| gather.verdict(a.finding, n, &built));
        let mut verdicts = alike_together(each);
        verdicts.sort_by_key(|v| (std::cmp::Reverse(v.severity), v.works.count, v.clear.count));
        let dangers = open.iter().filter(|f| f.severity == Severity::Danger).count();
        let left_out: Vec<LeftOut> = open.iter().filter_map(|f| left_out(f, builds)).collect();
        let varied = || movables.iter().filter(|m| !m.is_state);
        // A fault that is the same in every build, or that is not sought in each, leaves nothing to count.
        let counts = dangers == 0 && left_out.iter().all(|l| l.severity < Severity::Fault);
        let works = |b: &Built| b.stands.iter().all(|found| *found < Some(Severity::Fault));
        Odds {
            builds: built.len(),
            figures: varied().count(),
            assumed: varied().filter(|m| m.origin.is_assumed()).count(),
            works: (counts && !built.is_empty()).then(|| count(built.iter().map(works))),
            verdicts,
            dangers,
            left_out,
            beyond: if dangers == 0 { beyond(&built) } else { Vec::new() },
        }
    }

    /// What becomes of builds; of none where nothing is asked.
    fn built(&self, asked: &[Asked<'_>], scatter: &Scatter, positions: &[Vec<f64>]) -> Vec<Built> {
        let Some(first) = positions.first().filter(|_| !asked.is_empty()) else { return Vec::new() };
        let entries: Vec<Entry> =
            asked.iter().map(|a| (a.finding.code, a.finding.subject.clone(), a.finding.severity)).collect();
        let states = States::of(self, &scatter.build(&self.plan, &vec![0.5; first.len()]), &entries);
        Builds { review: self, asked, scatter, states: &states }.all(positions)
    }
}

/// Equal verdicts on equal parts as one, with the first of them.
fn alike_together(each: impl Iterator<Item = VerdictOdds>) -> Vec<VerdictOdds> {
    let mut all: Vec<VerdictOdds> = Vec::new();
    for one in each {
        let same = |known: &&mut VerdictOdds| {
            let (subject, alike) = (known.subject.clone(), known.alike.clone());
            VerdictOdds { subject, alike, ..one.clone() } == **known
        };
        match all.iter_mut().find(same) {
            Some(known) => known.alike.push(one.subject),
            None => all.push(one),
        }
    }
    all
}

fn count(builds: impl Iterator<Item = bool>) -> Share {
    let all: Vec<bool> = builds.collect();
    Share { count: all.iter().filter(|w| **w).count(), builds: all.len() }
}

/// Why a finding's share is not given; `None` where it is, or where nobody would ask.
fn left_out(f: &Finding, builds: usize) -> Option<LeftOut> {
    if (is_asked(f) && builds > 0) || !matches!(f.severity, Severity::Fault | Severity::Caution) {
        return None;
    }
    let why = if f.corner.is_none() { "The same in every build" } else { "Too long to solve for every build" };
    Some(LeftOut { code: f.code, subject: f.subject.clone(), severity: f.severity, why })
}

/// What only builds show.
fn beyond(built: &[Built]) -> Vec<Beyond> {
    let mut seen: BTreeMap<(&'static str, &str, Severity), (usize, usize)> = BTreeMap::new();
    for (n, (code, subject, severity)) in
        built.iter().enumerate().flat_map(|(n, b)| b.beyond.iter().map(move |x| (n, x)))
    {
        seen.entry((code, subject, *severity)).or_insert((0, n)).0 += 1;
    }
    let one = |((code, subject, severity), (builds, first)): ((&'static str, &str, Severity), (usize, usize))| Beyond {
        code,
        subject: subject.to_owned(),
        severity,
        builds,
        first,
    };
    let mut all: Vec<Beyond> = seen.into_iter().map(one).collect();
    all.sort_by_key(|b| std::cmp::Reverse(b.severity));
    all
}

/// What the verdicts have in common.
struct Gather<'a> {
    review: &'a Review,
    movables: &'a [Movable],
    scatter: &'a Scatter,
    /// Per build, per figure: where in its spread it is.
    positions: &'a [Vec<f64>],
}

impl Gather<'_> {
    fn verdict(&self, f: &Finding, n: usize, built: &[Built]) -> VerdictOdds {
        let all_work: Vec<bool> = built.iter().map(|b| b.stands[n] < Some(Severity::Fault)).collect();
        let all_clear: Vec<bool> = built.iter().map(|b| b.stands[n] < Some(Severity::Caution)).collect();
        // What differs is whether it works, else whether it has its margin.
        let (of_margin, works) = if all_work.contains(&false) { (false, &all_work) } else { (true, &all_clear) };
        let badness: Option<Vec<f64>> = built.iter().map(|b| b.badness[n]).collect();
        // Where the quantity is not one of a solved state, its verdict is what differs.
        let scatters = badness.clone().unwrap_or_else(|| works.iter().map(|w| f64::from(u8::from(!*w))).collect());
        let mut parts: Vec<(usize, f64)> = (0..self.movables.len())
            .filter(|m| !self.movables[*m].is_state)
            .map(|m| (m, explained(&scatters, |i| self.positions[i][m])))
            .filter(|(_, share)| *share >= LEAST_PART)
            .collect();
        parts.sort_by(|a, b| b.1.total_cmp(&a.1));
        let all: f64 = parts.iter().map(|(_, share)| share).sum();
        let is_assumed = |m: usize| self.movables[m].origin.is_assumed();
        let assumed: Vec<usize> = parts.iter().filter(|(m, _)| is_assumed(*m)).map(|(m, _)| *m).collect();
        let by_assumed: f64 = parts.iter().filter(|(m, _)| is_assumed(*m)).map(|(_, share)| share).sum();
        let part = |(m, share): &(usize, f64)| Part {
            item: self.movables[*m].item.clone(),
            key: self.movables[*m].key.clone(),
            share: *share,
            assumed: is_assumed(*m),
        };
        VerdictOdds {
            code: f.code,
            subject: f.subject.clone(),
            alike: Vec::new(),
            severity: f.severity,
            endangers: built.iter().any(|b| b.stands[n] >= Some(Severity::Danger)),
            works: count(all_work.iter().copied()),
            clear: count(all_clear.iter().copied()),
            of_margin,
            value: badness.as_deref().and_then(|b| likely(f, b)),
            adds_up: all >= ADDS_UP,
            assumed: by_assumed > all / 2.0,
            range: self.range(&assumed, works),
            worth: parts.first().and_then(|(m, _)| self.worth(*m, works)),
            parts: parts.iter().take(MOST_PARTS).map(part).collect(),
        }
    }

    /// The builds in which a figure is in its lowest and in its highest tenth.
    fn tenths(&self, figure: usize, works: &[bool]) -> [Share; 2] {
        let within = |inside: &dyn Fn(f64) -> bool| {
            let own = works.iter().zip(self.positions).filter(|(_, p)| inside(p[figure]));
            count(own.map(|(works, _)| *works))
        };
        [within(&|share| share < 0.1), within(&|share| share >= 0.9)]
    }

    /// The smallest and the largest share of builds with any of some figures in a tenth at the end of its spread.
    fn range(&self, figures: &[usize], works: &[bool]) -> Option<(Share, Share)> {
        let mut all: Vec<Share> = figures.iter().flat_map(|m| self.tenths(*m, works)).collect();
        all.sort_by(|a, b| a.value().total_cmp(&b.value()));
        Some((*all.first()?, *all.last()?))
    }

    fn worth(&self, figure: usize, works: &[bool]) -> Option<Worth> {
        let movable = &self.movables[figure];
        let [low, high] = self.tenths(figure, works);
        if (low.value() - high.value()).abs() < LEAST_WORTH {
            return None;
        }
        let value = |share| self.scatter.value(&self.review.plan, figure, share);
        let low = (value(0.05)?, low);
        let high = (value(0.95)?, high);
        let (worst, best) = if low.1.value() < high.1.value() { (low, high) } else { (high, low) };
        Some(Worth {
            item: movable.item.clone(),
            key: movable.key.clone(),
            how: measurement(movable),
            unit: movable.ends.2,
            best,
            worst,
        })
    }
}

/// The judged value in the builds.
fn likely(f: &Finding, badness: &[f64]) -> Option<Likely> {
    let (judged, limit) = f.comparison()?;
    let at_most = limit.role == EvidenceRole::AtMost;
    // Voltages that are bad by being small count as negative.
    let value = |share| Some(quantile(badness, share)? * if at_most { 1.0 } else { -1.0 });
    let worst_likely = value(0.99)?;
    // Where what is judged is not the worst of the quantity, as on a rail of another voltage, nothing is likely of it.
    let beyond = if at_most { worst_likely - judged.value } else { judged.value - worst_likely };
    if beyond > NO_WORSE * judged.value.abs() {
        return None;
    }
    Some(Likely {
        worst_possible: judged.value,
        worst_likely,
        middle: value(0.5)?,
        limit: limit.value,
        limit_name: limit.name,
        at_most,
        unit: judged.unit,
    })
}
