//! Numbers that are worse in a combination of tolerances than in every corner, beside tables that show corners.

use super::selected::Selected;
use crate::findings::mix::Mix;
use crate::plan::kinds::scenario::Scenario;
use crate::quantity::format::engineering_of;
use crate::review::Review;

/// A number that a finding judges in a combination of tolerances that is none of the four corners.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct BeyondCorners<'r> {
    /// The code of the finding.
    pub code: &'static str,
    /// The part that it is about.
    pub subject: &'r str,
    /// The scenario.
    pub scenario: Option<&'r Scenario>,
    /// What is judged: `demand`, `voltage` ….
    pub what: &'static str,
    /// Its value there, in the base unit.
    pub value: f64,
    /// The base unit.
    pub unit: &'static str,
    /// The values of the combination.
    pub mix: &'r Mix,
}

impl BeyondCorners<'_> {
    /// `` demand of `wall` 4.87 A in worst, with `five` at 5.20 V while `wall` is at 11.4 V ``.
    #[must_use]
    pub fn words(&self) -> String {
        let scenario = self.scenario.map_or_else(String::new, |s| format!(" in {s}"));
        let (what, value) = (self.what.replace('_', " "), engineering_of(self.value, self.unit));
        format!("{what} of `{}` {value}{scenario}, with {}", self.subject, self.mix.words())
    }
}

impl Review {
    /// What findings judge in a combination of tolerances that is none of the four corners, each number once; of the
    /// parts that a table shows.
    ///
    /// ```
    /// use modest_ohm::{Plan, Select};
    /// // Each adapter carries all of it where it is high and the other one low.
    /// let plan = Plan::from_toml("format = 1\n\
    ///     [supply.east]\nkind = \"adapter\"\nvoltage = \"5.5 V ± 5 %\"\ncurrent = \"3 A\"\n\
    ///     [supply.west]\nkind = \"adapter\"\nvoltage = \"5.5 V ± 5 %\"\ncurrent = \"3 A\"\n\
    ///     [diode.one]\nfrom = \"east\"\npart = \"schottky-3a-40v\"\n\
    ///     [diode.two]\nfrom = \"west\"\npart = \"schottky-3a-40v\"\n\
    ///     [strip.row]\npart = \"pixel-5v-rgb-12ma\"\nlength = \"1.5 m\"\npixels = \"90 /m\"\n\
    ///     inject = [{ from = \"one\", at = \"start\", cable = \"0.3 m 16 AWG\" }, \
    ///               { from = \"two\", at = \"end\", cable = \"0.3 m 16 AWG\" }]\n")?;
    /// let review = plan.review();
    /// let beyond = review.beyond_corners(&review.selected(&Select::default()));
    /// assert!(beyond.iter().any(|b| b.subject == "east" && b.value > 3.0));
    /// # Ok::<(), modest_ohm::PlanErrors>(())
    /// ```
    #[must_use]
    pub fn beyond_corners(&self, selected: &Selected) -> Vec<BeyondCorners<'_>> {
        let mut all: Vec<BeyondCorners<'_>> = Vec::new();
        for f in self.findings.iter().filter(|f| selected.shows_on_the_way(&f.subject)) {
            let (Some(mix), Some((judged, _))) = (&f.mix, f.comparison()) else { continue };
            let (subject, scenario) = (f.subject.as_str(), f.scenario.as_ref());
            let (what, value, unit) = (judged.name, judged.value, judged.unit);
            let known = |b: &BeyondCorners<'_>| (b.subject, b.what, b.value) == (subject, what, value);
            if !all.iter().any(known) {
                all.push(BeyondCorners { code: f.code, subject, scenario, what, value, unit, mix });
            }
        }
        all
    }

    /// The demand on a node in the combination that a finding judges, A.
    pub(super) fn demand_beyond(&self, node: &str, scenario: Option<&Scenario>) -> Option<f64> {
        let judged =
            self.findings.iter().filter(|f| f.mix.is_some() && f.subject == node && f.scenario.as_ref() == scenario);
        let judged = judged.filter_map(|f| Some(f.comparison()?.0)).filter(|e| e.name == "demand");
        judged.map(|e| e.value).reduce(f64::max)
    }
}
