//! What is found of a name: the numbers that are judged, the combination of tolerances, the share of builds.

use super::why::Trace;
use crate::findings::finding::Finding;
use crate::odds::judged::VerdictOdds;
use crate::quantity::format::{duration, engineering_of};
use crate::quantity::units::Seconds;
use crate::review::Review;

/// In how many builds a finding stands, and what decides it.
fn builds_trace(v: &VerdictOdds) -> Trace {
    let about: Vec<String> = v.value.map(|value| value.words()).into_iter().chain(v.decided_words()).collect();
    let from = v.worth_words().map(|worth| Trace::computed("worth knowing", "", worth, Vec::new()));
    Trace::computed("builds", v.words(), about.join("; "), from.into_iter().collect())
}

impl Review {
    /// The findings of a name, and those that it is a consequence of.
    pub(super) fn finding_traces(&self, name: &str, item: &str) -> Vec<Trace> {
        let mut traces = Vec::new();
        let own = |f: &Finding| f.subject == name || f.subject == item;
        let odds = self.odds_of(own);
        for f in self.findings.iter().filter(|f| own(f)) {
            let from = f.evidence.iter().map(|e| {
                let (because, line) = self.origin_words(&e.origin);
                let value =
                    if e.unit == "s" { duration(Seconds::new(e.value)) } else { engineering_of(e.value, e.unit) };
                Trace { what: e.name.replace('_', " "), value, because, line, from: Vec::new() }
            });
            let at = f.scenario.as_ref().map_or_else(String::new, |s| format!(" in {s}"));
            let mixed = f.mix.as_ref().map(|mix| {
                let because = "a combination of tolerances that is worse than any corner";
                Trace::computed("worst case", mix.words(), because, Vec::new())
            });
            let what = format!("{} ({}{at})", f.code, f.severity.word());
            let builds = odds.verdicts.iter().find(|v| v.code == f.code && v.names(&f.subject)).map(builds_trace);
            traces.push(Trace::computed(what, "", f.message.clone(), from.chain(mixed).chain(builds).collect()));
        }
        for f in &self.findings {
            for c in f.also.iter().filter(|c| c.subject == name || c.subject == item) {
                let because = format!("a consequence of {} on `{}`: {}", f.code, f.subject, f.message);
                traces.push(Trace::computed(c.code, "", because, Vec::new()));
            }
        }
        traces
    }
}
