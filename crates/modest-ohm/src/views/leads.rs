//! What protects each cable, as rows.

use super::shapes::CableRow;
use crate::derived::protection::judge::{Guard, Protection, Reason};
use crate::network::names::lead_name;
use crate::quantity::units::Amps;
use crate::review::{Review, Verdict};
use crate::tables::wire::WireSize;
use crate::topology::run::Run;

impl Review {
    /// What protects each cable of which size and length are known, in the order of the plan.
    #[must_use]
    pub fn cables(&self) -> Vec<CableRow> {
        let context = self.context();
        let all = context.protections();
        all.iter().map(|p| self.lead_row(p, all)).collect()
    }

    fn lead_named(&self, run: Run) -> String {
        let info = self.layout.conductors.iter().find(|c| c.run == run);
        info.map_or(String::new(), |i| lead_name(&self.plan, i).to_owned())
    }

    /// What the checks found on a cable, acceptances included. Of cables that stand what a fuse lets through, the
    /// finding names one for all behind that fuse.
    fn lead_verdict(&self, p: &Protection, all: &[Protection]) -> Option<(&'static str, Verdict)> {
        let code = p.reason.code()?;
        let on = |p: &Protection| self.verdict(code, &self.lead_named(p.run));
        let shared = || {
            p.severity?;
            all.iter().filter(|q| q.guard == p.guard && q.reason == p.reason).find_map(on)
        };
        Some((code, on(p).or_else(shared)?))
    }

    fn lead_row(&self, p: &Protection, all: &[Protection]) -> CableRow {
        let plan = &self.plan;
        let many = p.cable.parallel;
        let size = p.cable.size.map(WireSize::name);
        let fuse = p.fuse.as_ref();
        let guard = match (&p.guard, fuse) {
            (Guard::Fuse(run), Some(fuse)) if *run == p.run => fuse.name(),
            (Guard::Fuse(run), Some(fuse)) => format!("{} of {}", fuse.name(), self.lead_named(*run)),
            (Guard::Source(id), _) => format!("the limit of {}", plan.nodes[id.0].name),
            (Guard::Fuse(_), None) => String::new(),
        };
        let known = p.reason != Reason::Unknown;
        let verdict = self.lead_verdict(p, all);
        CableRow {
            name: self.lead_named(p.run),
            size: size.map(|s| if many > 1 { format!("{many} × {s}") } else { s }),
            ampacity: Amps::new(p.wire.ampacity_a),
            protected_by: guard,
            fuse: fuse.map(|f| f.rating.high),
            sustained_fault: known.then(|| Amps::new(p.long_a)),
            min_fault: known.then(|| Amps::new(p.least_a)),
            code: verdict.map(|(code, _)| code),
            severity: verdict.map(|(_, v)| v.severity),
            accepted: verdict.is_some_and(|(_, v)| v.accepted),
        }
    }
}
