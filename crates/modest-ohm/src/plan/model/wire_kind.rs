//! In which units proposals name wires: as the policy says, as the cable at hand, or as most cables of the plan.

use crate::plan::model::Plan;
use crate::tables::wire::WireSize;

impl Plan {
    /// A size of the kind to propose; `own` is that of the cable in question.
    pub(crate) fn wire_kind(&self, own: Option<WireSize>) -> WireSize {
        let metric = self.policy.metric.unwrap_or_else(|| match own {
            Some(own) => matches!(own, WireSize::Mm2(_)),
            None => self.is_mostly_metric(),
        });
        if metric { WireSize::Mm2(1.5) } else { WireSize::Awg(16) }
    }

    /// A size that is easy to solder to the pads of a strip.
    pub(crate) fn wire_for_pads(&self, own: Option<WireSize>) -> WireSize {
        match self.wire_kind(own) {
            WireSize::Mm2(_) => WireSize::Mm2(0.75),
            WireSize::Awg(_) => WireSize::Awg(18),
        }
    }

    fn is_mostly_metric(&self) -> bool {
        let sizes = self.feeds().into_iter().filter_map(|(_, feed, _)| feed.cable.as_ref()?.size).collect::<Vec<_>>();
        2 * sizes.iter().filter(|size| matches!(size, WireSize::Mm2(_))).count() > sizes.len()
    }
}
