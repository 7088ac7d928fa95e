//! Words of tables.

use modest_ohm::views::Row;

/// Scenario and corner of a row, as the cells of a table.
pub(crate) fn state<T>(row: &Row<T>) -> [String; 2] {
    let scenario = match &row.surging {
        Some(load) => format!("{} of {load}", row.scenario),
        None => row.scenario.to_string(),
    };
    [scenario, row.corner.name().to_owned()]
}

/// A value or a dash.
pub(crate) fn or_dash<T: ToString>(value: Option<T>) -> String {
    value.map_or_else(|| "–".into(), |v| v.to_string())
}
