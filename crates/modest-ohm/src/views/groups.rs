//! Findings as a reader works through them: what is alike is one, and the order is that in which to fix.

use crate::findings::evidence::EvidenceRole;
use crate::findings::finding::Finding;
use crate::review::Review;
use crate::verdict::severity::Severity;

/// Findings of one check that differ only in the part and in the number: the same limit, the same fix.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct FindingGroup<'r> {
    /// The one that is furthest beyond the limit.
    pub worst: &'r Finding,
    /// All of them, in the order of the plan.
    pub findings: Vec<&'r Finding>,
}

impl FindingGroup<'_> {
    /// How many findings have these as their cause.
    #[must_use]
    pub fn consequences(&self) -> usize {
        self.findings.iter().map(|f| f.consequences()).sum()
    }

    /// The worst severity of them and of their consequences.
    #[must_use]
    pub fn severity(&self) -> Severity {
        self.findings.iter().map(|f| f.worst()).fold(self.worst.severity, Severity::max)
    }
}

impl Review {
    /// The findings in the order in which to fix them: the worst severity first, that of consequences
    /// included, then those that cause most others;
    /// what the plan accepts comes last. Findings that differ only in the part and in the number are one group.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// let strip = |name: &str| format!(
    ///     "[strip.{name}]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\ncable = \"0.2 m 18 AWG\"\nlength = \"3 m\"\npixels = \"60 /m\"\n"
    /// );
    /// let text = format!(
    ///     "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"5 V\"\ncurrent = \"40 A\"\n{}{}",
    ///     strip("left"), strip("right"),
    /// );
    /// let review = Plan::from_toml(&text).unwrap().review();
    /// let group = &review.finding_groups()[0];
    /// assert_eq!((group.findings.len(), group.findings[1].subject.as_str()), (2, "right"));
    /// ```
    #[must_use]
    pub fn finding_groups(&self) -> Vec<FindingGroup<'_>> {
        let mut groups: Vec<(Likeness, Vec<&Finding>)> = Vec::new();
        for finding in self.findings() {
            let likeness = Likeness::of(finding);
            match groups.iter_mut().find(|(known, _)| *known == likeness) {
                Some((_, group)) => group.push(finding),
                None => groups.push((likeness, vec![finding])),
            }
        }
        let mut groups: Vec<FindingGroup<'_>> = groups
            .into_iter()
            .filter_map(|(_, findings)| worst(&findings).map(|worst| FindingGroup { worst, findings }))
            .collect();
        groups.sort_by_key(|g| {
            (g.worst.accepted.is_some(), std::cmp::Reverse(g.severity()), std::cmp::Reverse(g.consequences()))
        });
        groups
    }
}

impl Review {
    /// A text about the plan in which a strip with one feed point is named alone: who wrote no `inject` knows no
    /// `shelf.inject[0]`.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// let text = "format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"1 A\"\n\
    ///     [strip.shelf]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"0.1 m\"\npixels = \"60 /m\"\n";
    /// let review = Plan::from_toml(text).unwrap().review();
    /// assert_eq!(review.in_short("the cable to `shelf.inject[0]`"), "the cable to `shelf`");
    /// ```
    #[must_use]
    pub fn in_short(&self, text: &str) -> String {
        let single = self.plan.strips.iter().filter(|s| s.injections.len() == 1);
        single.fold(text.to_owned(), |text, s| text.replace(&format!("{}.inject[0]", s.name.text), &s.name.text))
    }
}

/// What findings that are alike have in common.
#[derive(PartialEq)]
struct Likeness {
    code: &'static str,
    severity: Severity,
    accepted: Option<String>,
    limit: Option<u64>,
    words: Vec<String>,
}

impl Likeness {
    fn of(finding: &Finding) -> Self {
        let item = finding.subject.split(['.', '[']).next().unwrap_or(&finding.subject);
        let limited = finding.comparison().is_some();
        let plain = |text: &String| {
            let text = text.replace(&finding.subject, "…").replace(item, "…");
            without_numbers(&if limited { without_names(&text) } else { text })
        };
        // Rounded as it is printed: two limits that read alike are one.
        let limit = finding.comparison().map(|(_, limit)| (limit.value * 1e6).round().to_bits());
        Self {
            code: finding.code,
            severity: finding.severity,
            accepted: finding.accepted.clone(),
            limit,
            words: std::iter::once(&finding.message).chain(&finding.tasks).map(plain).collect(),
        }
    }
}

/// A text without the names in it; what is quoted of a plan, such as a key and its value, stays. Two findings that
/// compare numbers with one limit are alike whatever else they name.
fn without_names(text: &str) -> String {
    let parts = text.split('`').enumerate();
    parts.map(|(i, part)| if i % 2 == 1 && !part.contains('=') { "…" } else { part }).collect()
}

/// A text without its numbers: what remains of two findings that differ in a number is the same.
fn without_numbers(text: &str) -> String {
    text.chars().filter(|c| !c.is_ascii_digit() && *c != '.').collect()
}

/// The finding that is furthest beyond its limit; the first where none has a limit.
fn worst<'r>(findings: &[&'r Finding]) -> Option<&'r Finding> {
    let beyond = |f: &Finding| {
        let Some((judged, limit)) = f.comparison() else { return 0.0 };
        if limit.role == EvidenceRole::AtLeast { limit.value - judged.value } else { judged.value - limit.value }
    };
    findings.iter().copied().reduce(|a, b| if beyond(b) > beyond(a) { b } else { a })
}
