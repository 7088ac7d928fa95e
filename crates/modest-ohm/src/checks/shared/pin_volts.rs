//! What is said of a signal whose sender's volts are not known.

use crate::plan::model::Plan;

/// The message and the cure; `from` is the pin in words.
pub(crate) fn pin_volts_unknown(plan: &Plan, board: usize, from: &str) -> (String, &'static str) {
    let board = &plan.controllers[board].name.text;
    (
        format!("the plan does not say which volts {from} gives: `{board}` is fed with more than logic runs on"),
        "name its class with `part`, or say what its pins run on: `regulator = { output = \"5v\", voltage = \"5 V\" }`",
    )
}
