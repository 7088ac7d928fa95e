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
        self.item_of(edit).is_some()
    }

    /// The one that an edit changes, by its name.
    pub fn item_of(&self, edit: &Edit) -> Option<&str> {
        let within = |path: &&String| {
            edit.path.strip_prefix(path.as_str()).is_some_and(|rest| rest.is_empty() || rest.starts_with(['.', '[']))
        };
        let path = self.paths.iter().find(within)?;
        Some(path.split_once('.').map_or(path.as_str(), |(_, name)| name))
    }
}
