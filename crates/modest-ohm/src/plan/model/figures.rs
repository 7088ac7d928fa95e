//! Every figure of a plan with the item and the keys it belongs to.

use super::Plan;
use super::list::List;
use crate::quantity::figures::{AnyFigure, At, Figures};

/// Where a figure is: the number of its item among all that the plan shows, and its own number within the item.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct Place {
    pub item: usize,
    pub figure: usize,
}

/// A figure's item, its keys and its place.
#[derive(Clone, Copy)]
pub(crate) struct Seen<'s> {
    pub item: &'s str,
    pub at: At<'s>,
    pub place: Place,
}

/// Sees each figure; equal keys of one item belong together.
pub(crate) type SeeItem<'a> = &'a mut dyn FnMut(Seen<'_>, &mut dyn AnyFigure);

/// A walk over all items.
struct Visit<'v> {
    /// The items to see, by their numbers in rising order; `None` for all.
    wanted: Option<&'v [usize]>,
    /// The number of the next item.
    next: usize,
}

impl Visit<'_> {
    fn wants(&self, item: usize) -> bool {
        self.wanted.is_none_or(|wanted| wanted.binary_search(&item).is_ok())
    }

    /// The figures of a list's items, each under its name. A list that only holds items nobody wants stays shared.
    fn items<T: Figures + Clone>(&mut self, list: &mut List<T>, name: fn(&mut T) -> &mut String, see: SeeItem<'_>) {
        for i in 0..list.len() {
            let number = self.next;
            self.next += 1;
            if !self.wants(number) {
                continue;
            }
            let item = &mut list[i];
            // Lent, not copied: variants of a plan are made by the thousand.
            let own = std::mem::take(name(item));
            figures(item, At::ITEM, (&own, number), 0, see);
            *name(item) = own;
        }
    }
}

/// The figures of a part of an item, counted on from `first`; the number of the next.
fn figures(part: &mut dyn Figures, at: At<'_>, (item, number): (&str, usize), first: usize, see: SeeItem<'_>) -> usize {
    let mut next = first;
    part.each(at, &mut |at, figure| {
        see(Seen { item, at, place: Place { item: number, figure: next } }, figure);
        next += 1;
    });
    next
}

impl Plan {
    /// Visits every figure of the plan. A list that is added to the plan does not compile until it is visited here.
    pub(crate) fn each_figure(&mut self, see: SeeItem<'_>) {
        self.visit(Visit { wanted: None, next: 0 }, see);
    }

    /// As [`each_figure`](Self::each_figure), of some items only, by their numbers in rising order.
    pub(crate) fn each_figure_of(&mut self, items: &[usize], see: SeeItem<'_>) {
        self.visit(Visit { wanted: Some(items), next: 0 }, see);
    }

    fn visit(&mut self, mut visit: Visit<'_>, see: SeeItem<'_>) {
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
        if visit.wants(visit.next) {
            let whole = ("the plan", visit.next);
            let next = figures(ambient, At::ITEM.under("ambient").as_state(), whole, 0, see);
            figures(policy, At::ITEM.under("policy"), whole, next, see);
        }
        visit.next += 1;
        macro_rules! visit {
            ($($list:ident),+) => { $(visit.items($list, |i| &mut i.name.text, see);)+ };
        }
        // What most verdicts depend on comes first: the assumption check tries as many as it has time for.
        visit!(supplies, branches, converters, clamps, links, capacitors, enclosures, grounds, boards, shifters);
        visit!(pairs, strips, drivers, firmware_limits, loads, leds, inputs, buses, sensors, wires, mains, panels);
        visit!(stacks, groups, scenarios);
    }
}
