//! What all inputs and signal cables have in common (electrical reference, "Boards, pins and levels"; typical).

/// Capacitance of an input and of a cable, F and F/m, as on a two-line bus.
pub(crate) const INPUT_F: f64 = 10e-12;
pub(crate) const LEAD_F_PER_M: f64 = 75e-12;
/// From 10 % to 90 % through a resistor: 2.2 · R · C.
pub(crate) const RISE: f64 = 2.2;
/// An input stands this much above its supply, V.
pub(crate) const ABOVE_V: f64 = 0.3;
/// Above its supply by more than this, or below its ground, its protection conducts, V.
pub(crate) const PROTECTION_V: f64 = 0.6;
/// What goes through an input's protection continuously: below each of these an advice, a caution, a fault; beyond,
/// danger; A.
pub(crate) const ADVICE_A: f64 = 0.2e-3;
pub(crate) const CAUTION_A: f64 = 1e-3;
pub(crate) const FAULT_A: f64 = 5e-3;
