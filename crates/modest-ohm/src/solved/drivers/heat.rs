//! How warm a channel's junction gets: Tj = Ta + P·θ, with the losses while it conducts and while it switches.

use super::channel::Channel;
use crate::plan::driver::Driver;
use crate::plan::kinds::housing::Held;
use crate::quantity::units::{Amps, Coulombs, Hertz, Ohms, Volts};
use crate::size::gate::{SwitchingNeed, switching};
use crate::solved::heat::air_c;
use crate::solved::outcome::Snapshot;

/// Watts of a channel, by where they come from.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Heat {
    pub conduction_w: f64,
    pub switching_w: f64,
    pub control_w: f64,
}

impl Heat {
    pub fn total(self) -> f64 {
        self.conduction_w + self.switching_w + self.control_w
    }
}

/// The junction's limit where no sheet says: silicon (typical).
const JUNCTION_C: f64 = 150.0;

/// The junction's limit, °C.
pub(crate) fn junction_limit(driver: &Driver) -> f64 {
    driver.heat.most.as_ref().map_or(JUNCTION_C, |m| m.low.get())
}

impl Channel<'_> {
    /// Its losses in a state, all on.
    pub fn heat(&self, s: &Snapshot, base_a: f64, gate_v: Option<f64>) -> Option<Heat> {
        let (amps, drop) = (self.amps(s)?, self.drop_v(s)?);
        let conduction_w = (amps * drop).max(0.0);
        let control_w = self.driver.transistor().map_or(0.0, |t| t.vbe.high.get() * base_a);
        let switching_w = self.switching(s, gate_v).map_or(0.0, |l| l.2);
        Some(Heat { conduction_w, switching_w, control_w })
    }

    /// Times of its edges, on and off, s, and their loss at its PWM, W; `None` where a figure is missing or it is not
    /// switched often.
    pub fn switching(&self, s: &Snapshot, gate_v: Option<f64>) -> Option<(f64, f64, f64)> {
        let fet = self.driver.fet()?;
        let pwm = self.driver.pwm.as_ref()?;
        let (Some(qgd), Some(plateau)) = (&fet.qgd, &fet.plateau) else { return None };
        let drive = super::drive::drive_of(self.plan, self.at.driver, self.at.channel);
        let own = drive.as_ref().map_or(0.0, |d| d.ohms.1);
        let series = fet.series.as_ref().map_or(0.0, |r| r.high.get())
            + drive.and_then(|d| d.hop.series.map(|r| r.high.get())).unwrap_or(0.0);
        let losses = switching(&SwitchingNeed {
            gate_volts: Volts::new(gate_v?),
            plateau: Volts::new(plateau.typical.get()),
            gate_charge: Coulombs::new(qgd.high.get()),
            ohms: Ohms::new(own + series),
            supply: Volts::new(self.holds_v(s)?),
            current: Amps::new(self.amps(s)?.max(0.0)),
            pwm: Hertz::new(pwm.high.get()),
        })?;
        Some((losses.on.get(), losses.off.get(), losses.loss.get()))
    }
}

/// The junction of a driver's channel with watts of its own and of those that share its heat, °C; `None` where nothing
/// says how heat leaves.
pub(crate) fn junction_c(channel: &Channel<'_>, watts: f64, s: &Snapshot) -> Option<f64> {
    let heat = &channel.driver.heat;
    let theta = match (&heat.theta, &heat.case, &heat.sink) {
        (_, Some(case), Some(sink)) => case.high.get() + sink.high.get(),
        (Some(theta), ..) => theta.high.get(),
        _ => return None,
    };
    Some(air_c(channel.plan, Held::Branch(channel.run), s) + watts * theta)
}
