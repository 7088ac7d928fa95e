//! What moving one figure changes in a network.

use modest_ohm_solve::network::{Ladder, Law, Network};

/// Laws that differ between two networks of the same parts.
#[derive(Clone, Debug, Default)]
pub(crate) struct Shift {
    /// Branches with the law before and after.
    pub branches: Vec<(usize, Law, Law)>,
    /// Ladders, before and after.
    pub ladders: Vec<(usize, Ladder, Ladder)>,
}

impl Shift {
    /// What differs; `None` where the networks have other parts.
    pub fn between(before: &Network, after: &Network) -> Option<Self> {
        let same = before.vertices == after.vertices
            && before.branches.len() == after.branches.len()
            && before.ladders.len() == after.ladders.len();
        if !same {
            return None;
        }
        let branches = before.branches.iter().zip(&after.branches).enumerate();
        let ladders = before.ladders.iter().zip(&after.ladders).enumerate();
        Some(Self {
            branches: branches
                .filter(|(_, (a, b))| a.law != b.law)
                .map(|(i, (a, b))| (i, a.law.clone(), b.law.clone()))
                .collect(),
            ladders: ladders.filter(|(_, (a, b))| a != b).map(|(i, (a, b))| (i, a.clone(), b.clone())).collect(),
        })
    }

    /// True where nothing differs.
    pub fn is_empty(&self) -> bool {
        self.branches.is_empty() && self.ladders.is_empty()
    }
}
