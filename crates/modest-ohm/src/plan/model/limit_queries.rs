//! Which firmware limit holds for a strip.

use super::Plan;
use crate::plan::strip::Strip;

impl Plan {
    /// The firmware limit that a strip shares with others: its index.
    pub(crate) fn shared_limit(&self, strip: usize) -> Option<usize> {
        self.firmware_limits.iter().position(|c| c.split.is_empty() && c.strips.iter().any(|(_, i)| *i == strip))
    }

    /// True where some firmware limit bounds a strip.
    pub(crate) fn has_firmware_limit(&self, strip: usize) -> bool {
        self.strips[strip].firmware_limit.is_some() || self.shared_limit(strip).is_some()
    }

    /// What firmware counts as full white of several strips, A.
    pub(crate) fn nominal_of(&self, strips: &[usize], each: fn(&Strip) -> f64) -> f64 {
        strips.iter().map(|s| each(&self.strips[*s])).sum()
    }
}
