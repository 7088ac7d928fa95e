//! What is said of a signal whose sender's voltage is not known.

use crate::plan::model::Plan;

/// The message and the fix; `from` is the pin in words.
pub(crate) fn pin_volts_unknown(plan: &Plan, board: usize, from: &str) -> (String, &'static str) {
    let board = &plan.boards[board].name.text;
    (
        format!("cannot check the level of {from}: the logic voltage of `{board}` is not given"),
        "set `part`, or write what powers its pins: `regulator = { output = \"5v\", voltage = \"5 V\" }`",
    )
}
