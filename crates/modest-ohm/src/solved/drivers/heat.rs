//! How warm a channel's junction gets: Tj = Ta + P·θ, with the losses while it conducts and while it switches.

use super::channel::Channel;
use crate::plan::driver::{Driver, DriverKind};
use crate::plan::kinds::enclosure::Held;
use crate::plan::kinds::load::Nature;
use crate::quantity::figure::Figure;
use crate::quantity::units::Quantity;
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

/// Which ends of the figures count: those of a usual part, or the worst of its class.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Ends {
    Nominal,
    Worst,
}

impl Ends {
    pub fn of<Q: Quantity>(self, figure: &Figure<Q>) -> f64 {
        if self == Ends::Nominal { figure.typical.si() } else { figure.high.si() }
    }
}

/// Of what a switched load takes, the share that its stage turns into heat in an edge, of V·I·t: a coil that its diode
/// frees keeps its current (½); in a heater, a lamp or LEDs current and voltage change together (∫x(1−x) = ⅙).
const WINDING: f64 = 0.5;
const RESISTIVE: f64 = 1.0 / 6.0;
/// A MOSFET's resistance once it is warm, over that of its datasheet (typical).
const HOT: f64 = 1.5;
/// What a gate driver of a P-channel stage takes by itself, s (typical of a small transistor).
const DRIVER_S: f64 = 50e-9;

/// The edges of a stage and what they cost.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Edges {
    pub on_s: f64,
    pub off_s: f64,
    pub watts: f64,
}

impl Channel<'_> {
    /// Its losses in a state, all on.
    pub fn heat(&self, s: &Snapshot, base_a: f64, gate_v: Option<f64>, ends: Ends) -> Option<Heat> {
        let (amps, drop) = (self.amps(s)?, self.drop_v(s)?);
        // The network's largest resistance of a MOSFET is that of a warm one; its typical one is the datasheet's.
        let warm = if ends == Ends::Nominal && self.driver.fet().is_some() { HOT } else { 1.0 };
        let conduction_w = (amps * drop * warm).max(0.0);
        let control_w = self.driver.transistor().map_or(0.0, |t| t.vbe.high.get() * base_a);
        let switching_w = self.switching(s, gate_v, ends).map_or(0.0, |e| e.watts);
        Some(Heat { conduction_w, switching_w, control_w })
    }

    /// The edges at its PWM; `None` where a figure is missing or it is not switched often.
    pub fn switching(&self, s: &Snapshot, gate_v: Option<f64>, ends: Ends) -> Option<Edges> {
        let pwm = self.driver.pwm.as_ref()?;
        let (on_s, off_s) = match &self.driver.edge {
            Some(edge) => (0.0, ends.of(edge)),
            None => self.fet_edges(gate_v, ends)?,
        };
        let power = self.holds_v(s)? * self.amps(s)?.max(0.0);
        let share = if self.is_resistive() { RESISTIVE } else { WINDING };
        // Never more than one that hangs between on and off.
        let watts = (share * power * (on_s + off_s) * pwm.high.get()).min(0.25 * power);
        Some(Edges { on_s, off_s, watts })
    }

    /// True where it is known that nothing behind it has a coil.
    fn is_resistive(&self) -> bool {
        let plain = |n: Option<Nature>| matches!(n, Some(Nature::Heater | Nature::Lamp | Nature::Led));
        self.plan.loads_behind(self.run).all(|i| plain(self.plan.loads[i].nature))
    }

    fn fet_edges(&self, gate_v: Option<f64>, ends: Ends) -> Option<(f64, f64)> {
        let fet = self.driver.fet()?;
        let (Some(qgd), Some(plateau)) = (&fet.qgd, &fet.plateau) else { return None };
        let drive = super::drive::drive_of(self.plan, self.at.driver, self.at.channel);
        let own = drive.as_ref().map_or(0.0, |d| d.ohms.1);
        let series = fet.series.as_ref().map_or(0.0, |r| r.high.get());
        let hop = drive.and_then(|d| d.hop.series.map(|r| r.high.get())).unwrap_or(0.0);
        let (charge, at) = (ends.of(qgd), plateau.typical.get());
        let above = gate_v? - at;
        if above <= 0.0 || at <= 0.0 {
            return None;
        }
        if self.driver.kind == DriverKind::Pmos {
            // A gate driver pulls it down; only the pull-up lifts it again.
            let pull = fet.pull.as_ref()?.high.get();
            let threshold = fet.threshold.as_ref().map_or(0.5 * at, |t| t.typical.get()).clamp(1e-3, at);
            let rc = fet.ciss.as_ref().map_or(0.0, |c| pull * c.high.get() * (at / threshold).ln());
            return Some((DRIVER_S + charge * series / above, charge * pull / at + rc));
        }
        // The pull-down at the gate divides the voltage and lies beside the resistors that they come through.
        let before = own + series + hop;
        let ohms = fet.pull.as_ref().map_or(before, |r| before * r.high.get() / (before + r.high.get()));
        Some((charge * ohms / above, charge * ohms / at))
    }
}

/// The junction of a driver's channel with power of its own and of those that share its heat, °C; `None` where nothing
/// says how heat leaves.
pub(crate) fn junction_c(channel: &Channel<'_>, watts: f64, s: &Snapshot, ends: Ends) -> Option<f64> {
    let heat = &channel.driver.heat;
    let theta = match (&heat.theta, &heat.case, &heat.sink) {
        (_, Some(case), Some(sink)) => ends.of(case) + ends.of(sink),
        (Some(theta), ..) => ends.of(theta),
        _ => return None,
    };
    Some(air_c(channel.plan, Held::Branch(channel.run), s) + watts * theta)
}
