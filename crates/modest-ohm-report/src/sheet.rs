//! Comma-separated values (RFC 4180).

/// A heading and its rows.
pub(crate) fn csv(heading: &[&str], rows: impl IntoIterator<Item = Vec<String>>) -> String {
    let mut writer = csv::Writer::from_writer(Vec::new());
    // A vector takes whatever is written.
    let _ = writer.write_record(heading);
    for row in rows {
        let _ = writer.write_record(row);
    }
    writer.into_inner().ok().and_then(|bytes| String::from_utf8(bytes).ok()).unwrap_or_default()
}
