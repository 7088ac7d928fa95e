//! Keys of a part that describe it and are not values.

/// Keys of a part that describe it and are no figures of the item that uses it.
pub(crate) fn is_part_note(key: &str) -> bool {
    PART_NOTES.contains(&key)
}

/// Keys of a part that describe it and are no figures.
pub(crate) const PART_NOTES: [&str; 5] = ["for", "like", "title", "markings", "source"];
