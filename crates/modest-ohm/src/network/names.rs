//! What a cable is called in findings and tables.

use super::layout::ConductorInfo;
use crate::plan::model::Plan;
use crate::topology::run::Run;

/// The name of a cable: what it feeds. The members of a count are one.
pub(crate) fn lead_name<'a>(plan: &'a Plan, info: &'a ConductorInfo) -> &'a str {
    match info.run {
        Run::Load(i) => &plan.loads[i].name.text,
        _ => &info.name,
    }
}
