//! Which parts a table shows: those that are named, and the rails and cables on the way to them.

use std::collections::HashSet;

use super::select::Select;
use crate::review::Review;

/// The parts that a [`Select`] names; everything where it names none.
#[derive(Clone, Debug)]
pub struct Selected {
    items: Vec<String>,
    on_the_way: HashSet<String>,
}

impl Selected {
    /// True for a part that is named, for a terminal or cable of it, and for a member of a `count`.
    #[must_use]
    pub fn shows(&self, name: &str) -> bool {
        self.items.is_empty() || self.items.iter().any(|item| is_of(name, item))
    }

    /// As [`shows`](Self::shows), and true for what feeds those parts.
    #[must_use]
    pub fn shows_on_the_way(&self, name: &str) -> bool {
        self.shows(name) || self.on_the_way.contains(name)
    }

    /// True where every part is shown.
    #[must_use]
    pub fn is_all(&self) -> bool {
        self.items.is_empty()
    }
}

/// `line.3`, `line.inject[0]` and `line` are of `line`; `line2` is not.
fn is_of(name: &str, item: &str) -> bool {
    name.strip_prefix(item).is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '[']))
}

impl Review {
    /// The parts that a selection shows.
    ///
    /// ```
    /// use modest_ohm::{Plan, Select};
    ///
    /// let plan = Plan::from_toml(
    ///     "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"5 A\"\n\
    ///      [branch.hall]\nfrom = \"wall\"\ncable = \"1 m 16 AWG\"\n\
    ///      [load.lamp]\nfrom = \"hall\"\nvoltage = \"12 V\"\ncurrent = \"1 A\"\n\
    ///      [load.bell]\nfrom = \"wall\"\nvoltage = \"12 V\"\ncurrent = \"1 A\"\n",
    /// )?;
    /// let selected = plan.review().selected(&Select { items: vec!["lamp".into()], ..Select::default() });
    /// assert!(selected.shows("lamp") && !selected.shows("hall"));
    /// assert!(selected.shows_on_the_way("hall") && !selected.shows_on_the_way("bell"));
    /// # Ok::<(), modest_ohm::PlanErrors>(())
    /// ```
    #[must_use]
    pub fn selected(&self, select: &Select) -> Selected {
        let mut selected = Selected { items: select.items.clone(), on_the_way: HashSet::new() };
        if selected.is_all() {
            return selected;
        }
        let plan = &self.plan;
        let nodes = plan.nodes.iter().enumerate().filter(|(_, n)| selected.shows(&n.name));
        let own = nodes.map(|(id, _)| crate::plan::wiring::feed::NodeId(id));
        let fed = plan.feeds().into_iter().filter(|(name, ..)| selected.shows(name)).map(|(_, feed, _)| feed.from.id);
        let way = own.chain(fed).flat_map(|id| plan.path_up(id)).map(|id| plan.nodes[id.0].name.clone());
        selected.on_the_way = way.collect();
        selected
    }
}
