//! Things that belong together because a chain of pairs joins them (union–find with path halving).

/// Groups of the numbers from 0.
#[derive(Clone, Debug)]
pub struct Groups(Vec<usize>);

impl Groups {
    /// Each of `count` on its own.
    pub fn new(count: usize) -> Self {
        Self((0..count).collect())
    }

    /// The one that stands for the group.
    pub fn find(&mut self, mut i: usize) -> usize {
        while self.0[i] != i {
            self.0[i] = self.0[self.0[i]];
            i = self.0[i];
        }
        i
    }

    /// Joins the groups of two numbers.
    pub fn join(&mut self, a: usize, b: usize) {
        let (a, b) = (self.find(a), self.find(b));
        self.0[a] = b;
    }

    /// True where two numbers are in one group.
    pub fn together(&mut self, a: usize, b: usize) -> bool {
        self.find(a) == self.find(b)
    }
}
