//! What moving one figure changes in a network.

use std::collections::{BTreeMap, BTreeSet};

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

    /// What differs, as one number each: branches, and ladders counted down from the largest.
    pub fn places(&self) -> impl Iterator<Item = usize> + '_ {
        let branches = self.branches.iter().map(|(i, ..)| *i);
        branches.chain(self.ladders.iter().map(|(i, ..)| usize::MAX - i))
    }

    /// The changes of a group of figures as those of each, by what each may reach; `None` where one is nobody's.
    pub fn split(&self, group: &[(usize, BTreeSet<usize>)]) -> Option<BTreeMap<usize, Self>> {
        // One alone has made them all.
        let owner = |place: usize| match group {
            [(only, _)] => Some(*only),
            _ => group.iter().find(|(_, reach)| reach.contains(&place)).map(|(m, _)| *m),
        };
        let mut each: BTreeMap<usize, Self> = BTreeMap::new();
        for change in &self.branches {
            each.entry(owner(change.0)?).or_default().branches.push(change.clone());
        }
        for change in &self.ladders {
            each.entry(owner(usize::MAX - change.0)?).or_default().ladders.push(change.clone());
        }
        Some(each)
    }

    /// The way back.
    pub fn reversed(&self) -> Self {
        Self {
            branches: self.branches.iter().map(|(i, before, after)| (*i, after.clone(), before.clone())).collect(),
            ladders: self.ladders.iter().map(|(i, before, after)| (*i, after.clone(), before.clone())).collect(),
        }
    }

    /// True where a network has the laws from which this starts.
    pub fn starts_from(&self, net: &Network) -> bool {
        self.branches.iter().all(|(i, before, _)| net.branches.get(*i).is_some_and(|b| b.law == *before))
            && self.ladders.iter().all(|(i, before, _)| net.ladders.get(*i).is_some_and(|l| l == before))
    }

    /// True where nothing differs.
    pub fn is_empty(&self) -> bool {
        self.branches.is_empty() && self.ladders.is_empty()
    }
}
