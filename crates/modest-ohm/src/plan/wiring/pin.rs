//! A pin that a plan names.

use crate::text::Named;
use modest_ohm_derive::Figures;

/// A pin that a plan names.
#[derive(Clone, Debug, PartialEq, Eq, Figures)]
pub(crate) struct PinAt {
    pub board: usize,
    /// Among the board's pins; `None` where the board lists none, or none of this name.
    pub index: Option<usize>,
    /// The chip's name, `io27`; of a pin that is not listed as it is written.
    pub pin: String,
}

impl PinAt {
    /// True where the plan leaves the pin open: `keeper.any`.
    pub fn is_open(&self) -> bool {
        self.index.is_none() && self.pin == OPEN_PIN
    }
}

/// What stands for a pin that is still to be chosen.
pub(crate) const OPEN_PIN: &str = "any";

/// One end of a signal as the plan names it: `"keeper.io27"`; once names are resolved, by the chip's name.
#[derive(Clone, Debug, Figures)]
pub(crate) struct PinRef {
    pub name: Named,
    pub at: PinAt,
}

impl PinRef {
    pub fn new(name: Named) -> Self {
        Self { name, at: PinAt { board: usize::MAX, index: None, pin: String::new() } }
    }
}
