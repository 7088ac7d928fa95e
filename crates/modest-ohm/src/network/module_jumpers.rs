//! Jumpers of relay modules: conductors between the supply of the inputs and that of the coils.

use super::build::{Builder, fixed};
use crate::plan::driver::figures::Jumper;

/// The cable of a module's inputs, which no plan sizes, with the jumper behind it (typical of a jumper lead), Ω.
const JUMPER_OHMS: f64 = 0.1;

impl Builder<'_> {
    /// The jumper of a relay module joins the + of its coils and that of its inputs; their − are one anyhow.
    pub(super) fn module_jumpers(&mut self) {
        for driver in &self.plan.drivers {
            let relay = driver.relay().filter(|r| r.jumper == Jumper::In);
            let (Some(logic), Some(load)) = (relay.and_then(|r| r.logic.as_ref()), driver.load) else { continue };
            let Some(coil) = self.layout.loads.get(load).and_then(|members| members.first()).map(|d| d.at) else {
                continue;
            };
            let logic = self.node(logic.from.id);
            if logic.plus != coil.plus {
                let branch = self.branch(logic.plus, coil.plus, fixed(JUMPER_OHMS));
                self.layout.module_jumpers.push((load, branch));
                self.branch(logic.minus, coil.minus, fixed(JUMPER_OHMS));
            }
        }
    }
}
