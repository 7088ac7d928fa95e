//! What is said of a signal whose sender's volts are not known.

use crate::plan::model::Plan;

/// The message and the cure; `from` is the pin in words.
pub(crate) fn pin_volts_unknown(plan: &Plan, board: usize, from: &str) -> (String, &'static str) {
    let board = &plan.controllers[board].name.text;
    (
        format!("cannot check the level of {from}: the logic voltage of `{board}` is not given"),
        "name its class with `part`, or say what its pins run on: `regulator = { output = \"5v\", voltage = \"5 V\" }`",
    )
}
