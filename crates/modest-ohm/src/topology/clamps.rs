//! Clamps across a rail: what they let through.

use crate::plan::kinds::run::Clamp;

/// At its pulse current a suppressor stands at 1.3 .. 1.6 times the voltage at which it begins to conduct (typical).
pub(crate) const LETS_THROUGH: f64 = 1.45;

/// What a clamp lets through at the current of a pulse, V.
pub(crate) fn lets_through(clamp: &Clamp) -> Option<f64> {
    let stated = clamp.diode.clamps_at.as_ref().map(|v| v.high.get());
    stated.or_else(|| clamp.diode.reverse.as_ref().map(|v| LETS_THROUGH * v.typical.get()))
}
