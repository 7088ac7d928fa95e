//! A finding: what a check says of one thing, with the numbers it compared.

use super::evidence::{Evidence, EvidenceRole};
use super::fix::Fix;
use super::mix::Mix;
use super::obstacle::Obstacle;
use crate::plan::kinds::scenario::Scenario;
use crate::quantity::figure::Corner;
use crate::quantity::format::engineering_of;
use crate::source::Span;
use crate::verdict::severity::Severity;

/// What a check found.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Finding {
    /// The check's stable code.
    pub code: &'static str,
    /// How bad it is.
    pub severity: Severity,
    /// The part of the plan it is about.
    pub subject: String,
    /// The scenario in which it is worst; `None` for what does not depend on one.
    pub scenario: Option<Scenario>,
    /// The corner in which it is worst.
    pub corner: Option<Corner>,
    /// Where a combination of tolerances that is none of the corners is worse: what differs from the corner.
    pub mix: Option<Mix>,
    /// The part, the two numbers, what is wrong.
    pub message: String,
    /// What has to be done that is no edit of the plan: to measure, to look up, to rewire by hand; and where the result
    /// goes.
    pub tasks: Vec<String>,
    /// Changes that were tried and end it, best first, at most three; where none ends it, what makes it milder. Empty
    /// until [`Review::with_fixes`](crate::Review::with_fixes) has looked for them.
    pub fixes: Vec<Fix>,
    /// What stands in the way, where none of them ends it. `None` until then.
    pub obstacle: Option<Obstacle>,
    /// The place in the plan's text.
    pub span: Option<Span>,
    /// The numbers compared.
    pub evidence: Vec<Evidence>,
    /// Findings with the same cause, which are not listed by themselves.
    pub also: Vec<Consequence>,
    /// The finding whose first fix ends this one too: code and part. This one is listed by itself all the same where
    /// another fix of that finding leaves it. Empty until [`Review::with_fixes`](crate::Review::with_fixes).
    pub goes_with: Option<(&'static str, String)>,
    /// The reason, where the plan accepts it.
    pub accepted: Option<String>,
    /// What causes it: findings of one check with the same cause are listed together.
    pub(crate) listed_with: Option<String>,
}

impl Finding {
    /// How many other findings have it as their cause; the same on another part is none.
    #[must_use]
    pub fn consequences(&self) -> usize {
        self.also.iter().filter(|c| !c.is_alike(self)).count()
    }

    /// The worst severity of it and of its consequences.
    #[must_use]
    pub fn worst(&self) -> Severity {
        self.also.iter().map(|c| c.severity).fold(self.severity, Severity::max)
    }

    /// How far beyond its limit it is, as a share of the limit; 0 where that is no number.
    pub(crate) fn excess(&self) -> f64 {
        let beyond = |(judged, limit): (&Evidence, &Evidence)| {
            let share = (judged.value - limit.value) / limit.value.abs().max(f64::MIN_POSITIVE);
            if limit.role == EvidenceRole::AtLeast { -share } else { share }
        };
        self.comparison().map_or(0.0, beyond)
    }

    /// The number that was judged and the limit it was held to, where there are both in one unit.
    ///
    /// The first such limit: a finding that knows two names the one that decided first.
    #[must_use]
    pub fn comparison(&self) -> Option<(&Evidence, &Evidence)> {
        let judged = self.evidence.iter().find(|e| e.role == EvidenceRole::Judged)?;
        let is_limit = |e: &&Evidence| matches!(e.role, EvidenceRole::AtMost | EvidenceRole::AtLeast);
        let limit = self.evidence.iter().find(|e| is_limit(e) && e.unit == judged.unit)?;
        Some((judged, limit))
    }
}

/// A finding with the same cause as another, under which it stands.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Consequence {
    /// The code of its check.
    pub code: &'static str,
    /// The part of the plan it is about.
    pub subject: String,
    /// How bad it is by itself.
    pub severity: Severity,
    /// The number that was judged and the limit it was held to, where there are both in one unit.
    pub comparison: Option<(Evidence, Evidence)>,
}

impl Consequence {
    /// True where it is no consequence of a finding but the same on another part.
    #[must_use]
    pub fn is_alike(&self, finding: &Finding) -> bool {
        self.code == finding.code && self.severity == finding.severity
    }

    /// Its number and the limit, in words: `7.88 A, at most 5 A`.
    #[must_use]
    pub fn number(&self) -> Option<String> {
        let (judged, limit) = self.comparison.as_ref()?;
        let in_words = |e: &Evidence| engineering_of(e.value, e.unit);
        Some(format!("{}, {} {}", in_words(judged), limit.role.phrase(), in_words(limit)))
    }

    pub(crate) fn of(f: &Finding) -> Self {
        let comparison = f.comparison().map(|(judged, limit)| (judged.clone(), limit.clone()));
        Self { code: f.code, subject: f.subject.clone(), severity: f.severity, comparison }
    }

    /// A finding and all that stands under it.
    pub(crate) fn all_of(f: Finding) -> impl Iterator<Item = Self> {
        std::iter::once(Self::of(&f)).chain(f.also)
    }

    pub(crate) fn without_number(code: &'static str, subject: &str, severity: Severity) -> Self {
        Self { code, subject: subject.to_owned(), severity, comparison: None }
    }
}

/// A pair of check and subject that was decided without a finding.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Passed {
    /// The check's code.
    pub code: &'static str,
    /// The part of the plan.
    pub subject: String,
    /// How far from the limit, in words: `3.60 A of 5.00 A`.
    pub margin: String,
}
