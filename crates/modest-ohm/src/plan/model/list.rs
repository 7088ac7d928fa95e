//! The items of one kind in a plan. Copies of a plan share them until one of them changes an item: variants are made by
//! the hundred, and most differ in one figure.

use std::ops::{Deref, DerefMut};
use std::sync::Arc;

/// A list that its copies share until one is changed.
#[derive(Debug)]
pub(crate) struct List<T>(Arc<Vec<T>>);

impl<T> Clone for List<T> {
    fn clone(&self) -> Self {
        Self(Arc::clone(&self.0))
    }
}

impl<T> Default for List<T> {
    fn default() -> Self {
        Self(Arc::default())
    }
}

impl<T> From<Vec<T>> for List<T> {
    fn from(items: Vec<T>) -> Self {
        Self(Arc::new(items))
    }
}

impl<T> Deref for List<T> {
    type Target = Vec<T>;

    fn deref(&self) -> &Vec<T> {
        &self.0
    }
}

/// Makes a copy of the items where another list still has them.
impl<T: Clone> DerefMut for List<T> {
    fn deref_mut(&mut self) -> &mut Vec<T> {
        Arc::make_mut(&mut self.0)
    }
}

impl<'a, T> IntoIterator for &'a List<T> {
    type Item = &'a T;
    type IntoIter = std::slice::Iter<'a, T>;

    fn into_iter(self) -> Self::IntoIter {
        self.0.iter()
    }
}

impl<'a, T: Clone> IntoIterator for &'a mut List<T> {
    type Item = &'a mut T;
    type IntoIter = std::slice::IterMut<'a, T>;

    fn into_iter(self) -> Self::IntoIter {
        self.iter_mut()
    }
}

#[cfg(test)]
impl<T> List<T> {
    /// Whether two lists still are one.
    pub(crate) fn is_shared_with(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.0, &other.0)
    }
}
