//! What the resistors of an input turn into heat.

use super::input_source::{Does, Front, Side, States};

impl Front<'_> {
    /// The hottest of its resistors with its heat, W, where its source does this; `None` where nothing arrives.
    pub(crate) fn hottest(&self, does: Does, states: States<'_>) -> Option<(&'static str, f64)> {
        let node = self.arrives(does, Side::Most, states)?.volts;
        let arms = self.arms(does, states.there, Some(states.here), None)?;
        let heats = arms.iter().filter_map(|arm| {
            let (what, ohms) = arm.resistor?;
            // At its lower tolerance, as what drives it is at its highest.
            let amps = (arm.volts.1 - node) / arm.ohms.0;
            Some((what, amps * amps * ohms))
        });
        heats.reduce(|a, b| if b.1 > a.1 { b } else { a })
    }
}
