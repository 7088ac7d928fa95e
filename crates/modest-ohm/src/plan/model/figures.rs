//! Every figure of a plan with the item and the keys it belongs to.

use super::Plan;
use crate::quantity::figures::{AnyFigure, At, Figures};

/// Sees each figure with its item and its keys; equal keys of one item belong together.
pub(crate) type SeeItem<'a> = &'a mut dyn FnMut(&str, At<'_>, &mut dyn AnyFigure);

/// Visits the figures of items, each under its name.
fn items<T: Figures>(
    list: &mut [T],
    name: impl Fn(&mut T) -> &mut String,
    wanted: &dyn Fn(&str) -> bool,
    see: SeeItem<'_>,
) {
    for item in list {
        if !wanted(name(item)) {
            continue;
        }
        // Lent, not copied: variants of a plan are made by the thousand.
        let own = std::mem::take(name(item));
        item.each(At::ITEM, &mut |at, figure| see(&own, at, figure));
        *name(item) = own;
    }
}

impl Plan {
    /// Visits every figure of the plan. A list that is added to the plan does not compile until it is visited here.
    pub(crate) fn each_figure(&mut self, see: SeeItem<'_>) {
        self.each_figure_of(&|_| true, see);
    }

    /// As [`each_figure`](Self::each_figure), of some items only.
    pub(crate) fn each_figure_of(&mut self, wanted: &dyn Fn(&str) -> bool, see: SeeItem<'_>) {
        let Self {
            source: _,
            title: _,
            ambient,
            policy,
            supplies,
            branches,
            converters,
            boards,
            shifters,
            pairs,
            strips,
            firmware_limits,
            panels,
            loads,
            drivers,
            mains,
            wires,
            stacks,
            inputs,
            buses,
            sensors,
            leds,
            grounds,
            links,
            clamps,
            capacitors,
            groups,
            enclosures,
            shortages: _,
            scenarios,
            accepts: _,
            unused_parts: _,
            nodes: _,
        } = self;
        let whole = "the plan";
        if wanted(whole) {
            ambient.each(At::ITEM.under("ambient").as_state(), &mut |at, f| see(whole, at, f));
            policy.each(At::ITEM.under("policy"), &mut |at, f| see(whole, at, f));
        }
        macro_rules! visit {
            ($($list:ident),+) => { $(items($list, |i| &mut i.name.text, wanted, see);)+ };
        }
        // What most verdicts depend on comes first: the assumption check tries as many as it has time for.
        visit!(supplies, branches, converters, clamps, links, capacitors, enclosures, grounds, boards, shifters);
        visit!(
            pairs,
            strips,
            drivers,
            firmware_limits,
            loads,
            leds,
            inputs,
            buses,
            sensors,
            wires,
            mains,
            panels,
            stacks
        );
        visit!(groups, scenarios);
    }
}
