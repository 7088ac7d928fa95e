//! Where the boxes of a tree go: a column a depth, a row a leaf, a parent in the middle of what it feeds.

use modest_ohm::views::TreeItem;

/// The place of one box: column, and row as a fraction of rows.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Place {
    pub column: usize,
    pub row: f64,
}

/// Places, number of columns, number of rows.
pub(crate) fn places(items: &[TreeItem]) -> (Vec<Place>, usize, usize) {
    let mut places = vec![Place { column: 0, row: 0.0 }; items.len()];
    let mut span: Vec<Option<(f64, f64)>> = vec![None; items.len()];
    let mut rows = 0usize;
    // Items come depth first, so a parent's place is known before its children's columns, and its row after them.
    for (i, item) in items.iter().enumerate() {
        places[i].column = item.parent.map_or(0, |p| places[p].column + 1);
    }
    for i in (0..items.len()).rev() {
        let is_leaf = !items[i + 1..].iter().any(|c| c.parent == Some(i));
        if is_leaf {
            continue;
        }
        span[i] = Some((f64::INFINITY, f64::NEG_INFINITY));
    }
    for (i, place) in places.iter_mut().enumerate() {
        if span[i].is_none() {
            place.row = rows as f64;
            rows += 1;
        }
    }
    for i in (0..items.len()).rev() {
        if let Some((low, high)) = span[i] {
            places[i].row = (low + high) / 2.0;
        }
        if let Some(parent) = items[i].parent
            && let Some((low, high)) = &mut span[parent]
        {
            (*low, *high) = (low.min(places[i].row), high.max(places[i].row));
        }
    }
    let columns = places.iter().map(|p| p.column + 1).max().unwrap_or(1);
    (places, columns, rows.max(1))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn item(parent: Option<usize>) -> TreeItem {
        TreeItem {
            name: String::new(),
            kind: "branch",
            parent,
            voltage: None,
            current: None,
            intake: None,
            limit: None,
            trouble: None,
            dead: false,
        }
    }

    #[test]
    fn a_parent_stands_in_the_middle_of_what_it_feeds() {
        // A source with a run of two loads, a load of its own, and a second source.
        let items: Vec<TreeItem> = [None, Some(0), Some(1), Some(1), Some(0), None].map(item).into();
        let (places, columns, rows) = places(&items);
        assert_eq!((columns, rows), (3, 4));
        assert_eq!(places.iter().map(|p| p.column).collect::<Vec<_>>(), [0, 1, 2, 2, 1, 0]);
        assert_eq!(places.iter().map(|p| p.row).collect::<Vec<_>>(), [1.25, 0.5, 0.0, 1.0, 2.0, 3.0]);
    }
}
