//! Items that no fix may change.

use std::sync::Arc;

use super::sheet::Sheet;
use crate::edit::Edit;
use crate::plan::model::Plan;
use crate::text::kept::is_kept;

/// The items that no fix may change, by the paths of their tables.
#[derive(Clone, Debug, Default)]
pub(crate) struct Keep {
    paths: Arc<Vec<String>>,
}

impl Keep {
    /// Those that are named, and those that say so.
    pub fn of(plan: &Plan, names: &[&str]) -> Self {
        let sheet = Sheet::of(plan);
        let kept = sheet.items().filter(|item| names.contains(&item.name) || is_kept(item.table));
        Self { paths: Arc::new(kept.map(|item| item.path()).collect()) }
    }

    /// Whether an edit changes one of them.
    pub fn forbids(&self, edit: &Edit) -> bool {
        let within = |path: &String| {
            edit.path.strip_prefix(path.as_str()).is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '[']))
        };
        self.paths.iter().any(within)
    }
}
