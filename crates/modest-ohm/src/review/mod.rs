//! The review: every scenario solved in every corner, every check run, one finding per cause.

mod cap;
mod discharge;
mod feed;
mod firmware;
mod hangs;
mod heads;
mod leads;
mod on_pins;
mod outcome;
mod parts;
mod path;
mod pins;
mod profile;
mod release;
mod rows;
mod select;
mod shapes;
mod supply_tree;
mod why;
mod why_leads;

pub(crate) use cap::{Cause, cap_causes, room_of, share_of, spare_caps};
pub use discharge::{DischargeEnd, RuntimeRow};
pub(crate) use discharge::{lasting, runtimes};
pub(crate) use feed::feed_row;
pub use firmware::{CapFigures, FirmwareFigures, LayoutFigures, OutputFigures, OutputPart};
pub(crate) use outcome::{Lift, Outcome, Snapshot, solve_all};
pub(crate) use path::copper_w_per_m;
pub use pins::{BoardPins, PinFigures, PinJob, pin_abilities};
pub use profile::{ColourRange, StripProfile};
pub use release::ReleaseRow;
pub use select::{Row, Select};
pub use shapes::{
    ConductorRow, ConverterRow, FeedRow, InjectionFlow, LeadRow, LinkRow, LoadRow, NodeRow, ProfilePoint, StripRow,
    TotalRow,
};
pub use supply_tree::{SupplyTree, TreeItem, TreeLink};
pub use why::Trace;

use crate::checks::{self, Context};
use crate::finding::{Finding, Passed, Severity};
use crate::network::Layout;
use crate::plan::Plan;

/// Everything that can be said of a plan: solved scenarios, findings, and what passed.
///
/// ```
/// use modest_ohm::{Plan, Severity};
/// let plan = Plan::from_toml(r#"
///     format = 1
///     [supply.wall]
///     kind = "adapter"
///     voltage = "12 V"
///     current = "1 A"
///     [load.lamp]
///     from = "wall"
///     cable = "1 m 20 AWG"
///     current = "1.5 A"
///     voltage = "12 V"
/// "#).unwrap();
/// let review = plan.review();
/// assert_eq!(review.findings()[0].code, "supply-overloaded");
/// assert_eq!(review.count(Severity::Danger), 1);
/// ```
#[derive(Clone, Debug)]
pub struct Review {
    pub(crate) plan: Plan,
    pub(crate) layout: Layout,
    pub(crate) outcomes: Vec<Outcome>,
    findings: Vec<Finding>,
    passed: Vec<Passed>,
}

impl Plan {
    /// Solves and checks the plan.
    #[must_use]
    pub fn review(&self) -> Review {
        let (layout, outcomes) = solve_all(self, Lift::None);
        let context = Context::new(self, &layout, &outcomes);
        let (mut findings, mut passed) = checks::run(&context);
        on_pins::gather(self, &mut findings);
        heads::gather(&context, &mut findings);
        match hangs::verdicts_that_hang(&context, &findings) {
            Some(finding) => findings.push(finding),
            None => passed.extend(hangs::nothing_hangs(self)),
        }
        let all_solved = outcomes.iter().all(|o| o.wanted.is_ok() && o.actual.is_ok());
        checks::accept(self, all_solved, &mut findings);
        checks::sort(self, &mut findings);
        Review { plan: self.clone(), layout, outcomes, findings, passed }
    }
}

impl Review {
    /// The plan.
    #[must_use]
    pub fn plan(&self) -> &Plan {
        &self.plan
    }

    /// What the checks found, worst first; accepted ones last.
    #[must_use]
    pub fn findings(&self) -> &[Finding] {
        &self.findings
    }

    /// What was decided without a finding.
    #[must_use]
    pub fn passed(&self) -> &[Passed] {
        &self.passed
    }

    /// How many findings of a severity there are, accepted ones not counted.
    #[must_use]
    pub fn count(&self, severity: Severity) -> usize {
        self.findings.iter().filter(|f| f.accepted.is_none() && f.severity == severity).count()
    }

    /// How many findings the plan accepts.
    #[must_use]
    pub fn accepted(&self) -> usize {
        self.findings.iter().filter(|f| f.accepted.is_some()).count()
    }

    /// How long batteries last, per scenario that lasts.
    #[must_use]
    pub fn runtimes(&self) -> Vec<RuntimeRow> {
        lasting(&self.outcomes).flat_map(|case| runtimes(&self.plan, case)).collect()
    }

    /// Names of the solved scenarios, built-in ones first.
    #[must_use]
    pub fn scenarios(&self) -> Vec<&str> {
        let mut names: Vec<&str> = Vec::new();
        for outcome in &self.outcomes {
            if !names.contains(&outcome.case.name.as_str()) {
                names.push(&outcome.case.name);
            }
        }
        names
    }
}
