//! What protects each lead, as rows.

use super::shapes::LeadRow;
use crate::derived::context::Context;
use crate::derived::protection::judge::{Guard, Protection, Reason};
use crate::network::names::lead_name;
use crate::quantity::units::Amps;
use crate::review::Review;
use crate::tables::wire::WireSize;

impl Review {
    /// What protects each lead of which size and length are known, in the order of the plan.
    #[must_use]
    pub fn leads(&self) -> Vec<LeadRow> {
        let context = Context::new(&self.plan, &self.layout, &self.outcomes);
        context.protections().iter().map(|p| self.lead_row(p)).collect()
    }

    fn lead_row(&self, p: &Protection) -> LeadRow {
        let plan = &self.plan;
        let named = |run| {
            let info = self.layout.conductors.iter().find(|c| c.run == run);
            info.map_or(String::new(), |i| lead_name(plan, i).to_owned())
        };
        let many = p.cable.parallel;
        let size = p.cable.size.map(WireSize::name);
        let fuse = p.fuse.as_ref();
        let guard = match (&p.guard, fuse) {
            (Guard::Fuse(run), Some(fuse)) if *run == p.run => fuse.name(),
            (Guard::Fuse(run), Some(fuse)) => format!("{} of {}", fuse.name(), named(*run)),
            (Guard::Source(id), _) => format!("the limit of {}", plan.nodes[id.0].name),
            (Guard::Fuse(_), None) => String::new(),
        };
        let known = p.reason != Reason::Unknown;
        // One verdict: what the checks found, acceptances included.
        let name = named(p.run);
        let verdict = p.reason.code().and_then(|code| Some((code, self.verdict(code, &name)?)));
        LeadRow {
            name,
            size: size.map(|s| if many > 1 { format!("{many} × {s}") } else { s }),
            ampacity: Amps::new(p.wire.ampacity_a),
            guard,
            fuse: fuse.map(|f| f.rating.high),
            long: known.then(|| Amps::new(p.long_a)),
            short: known.then(|| Amps::new(p.least_a)),
            code: verdict.map(|(code, _)| code),
            severity: verdict.map(|(_, v)| v.severity),
            accepted: verdict.is_some_and(|(_, v)| v.accepted),
        }
    }
}
