//! What a stage is made of, by its kind (electrical reference, "Switching stages").

use crate::plan::wiring::feed::NodeRef;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Coulombs, Farads, Fraction, Ohms, Volts};
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) enum Stage {
    Transistor(Transistor),
    Fet(Box<Fet>),
    Bridge(Box<Bridge>),
    Relay(Box<Relay>),
    SolidState(SolidState),
}

/// An NPN transistor, a Darlington pair, or a channel of an array.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Transistor {
    /// The least current gain.
    pub hfe: Option<usize>,
    pub vbe: Figure<Volts>,
    /// In front of its base, built in or not.
    #[figures(key = "base-resistor")]
    pub base: Option<Figure<Ohms>>,
    pub base_built_in: bool,
    /// The voltage that an array's input needs at a current through its channel, from the smallest on.
    pub needs: Vec<Volley>,
}

/// Volts wanted at a current.
#[derive(Clone, Debug, PartialEq, Figures)]
pub(crate) struct Volley {
    pub amps: Amps,
    pub volts: Volts,
}

/// What is wanted at a current: on the line between the points, and beyond them on its continuation; never less than at
/// the first.
pub(crate) fn needed_at(points: &[Volley], amps: f64) -> Option<f64> {
    let first = points.first()?;
    let Some(pair) = points.windows(2).find(|w| amps <= w[1].amps.get()).or_else(|| points.windows(2).next_back())
    else {
        return Some(first.volts.get());
    };
    let [a, b] = [&pair[0], &pair[1]].map(|p| (p.amps.get(), p.volts.get()));
    let at = a.1 + (b.1 - a.1) * (amps - a.0) / (b.0 - a.0).max(1e-12);
    Some(at.max(first.volts.get()))
}

/// A MOSFET, with what stands between a pin and its gate.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Fet {
    /// As its datasheet gives it at 25 °C.
    #[figures(skip)]
    pub sheet: Figure<Ohms>,
    /// The least V_GS for which the datasheet gives it.
    #[figures(key = "rds-on-at")]
    pub specified: Option<Figure<Volts>>,
    pub threshold: Option<Figure<Volts>>,
    /// |V_GS| that the gate stands.
    #[figures(key = "gate-maximum")]
    pub gate_max: Option<Figure<Volts>>,
    /// Between gate and drain, and the voltage at which it flows.
    #[figures(key = "gate-charge")]
    pub qgd: Option<Figure<Coulombs>>,
    pub plateau: Option<Figure<Volts>>,
    /// What its gate holds, of one that a pull-up turns off.
    #[figures(key = "gate-capacitance")]
    pub ciss: Option<Figure<Farads>>,
    #[figures(key = "gate-resistor")]
    pub series: Option<Figure<Ohms>>,
    /// From its gate to where it is off.
    #[figures(key = "pull")]
    pub pull: Option<Figure<Ohms>>,
    /// What bounds V_GS.
    #[figures(key = "gate-clamp")]
    pub clamp: Option<Figure<Volts>>,
    #[figures(key = "gate-driver")]
    pub gate: GateDriver,
}

/// What drives a gate.
#[derive(Clone, Debug, Figures)]
pub(crate) enum GateDriver {
    /// The pin itself, or what stands in its line.
    Pin,
    /// An optocoupler in a module: the gate gets the load's own rail.
    Rail,
    /// A small transistor that pulls a P-channel gate low.
    Transistor(Box<Transistor>),
}

/// A supply of a module's logic.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Logic {
    pub from: NodeRef,
}

/// Two half bridges a channel.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Bridge {
    /// The range of its logic supply.
    #[figures(key = "logic-voltage", range)]
    pub logic: Option<Figure<Volts>>,
    /// Its own 5 V regulator.
    pub regulator: Jumper,
    /// What the regulator may get warm by, and the least that it needs.
    #[figures(key = "regulator-minimum")]
    pub regulator_least: Figure<Volts>,
    pub regulator_theta: Option<Figure<crate::quantity::units::KelvinsPerWatt>>,
    /// True where logic comes from a supply of its own.
    pub logic_fed: bool,
    /// From its enables to where it is off.
    #[figures(key = "pull-down")]
    pub enable_pull: Option<Figure<Ohms>>,
}

/// A jumper on a module.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Jumper {
    /// There is none.
    None,
    In,
    Out,
}

/// A relay, or a module of them.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Relay {
    /// The coil's rated voltage.
    pub coil: Option<Figure<Volts>>,
    #[figures(key = "coil-resistance")]
    pub coil_ohms: Option<Figure<Ohms>>,
    /// Shares of its rated voltage, cold: it surely pulls in, it surely stands.
    pub pull_in: Figure<Fraction>,
    #[figures(key = "coil-maximum")]
    pub most: Figure<Fraction>,
    /// How warm its coil gets by itself, K.
    pub coil_rise: Figure<crate::quantity::units::Celsius>,
    /// What its contacts break at direct voltage, and up to how many.
    pub dc_volts: Figure<Volts>,
    /// At alternating voltage.
    pub ac_volts: Option<Figure<Volts>>,
    /// The current on which they may close.
    pub making: Option<Figure<Amps>>,
    /// Operations that they last.
    pub life: Option<usize>,
    /// How often they switch in an hour.
    #[figures(key = "switched")]
    pub per_hour: Option<Figure<crate::quantity::units::Hertz>>,
    /// The jumper between logic and coil supply of a module.
    pub jumper: Jumper,
    /// The supply of its inputs, of a module.
    #[figures(flat)]
    pub logic: Option<Logic>,
}

/// A relay without contacts.
#[derive(Clone, Debug, Figures)]
pub(crate) struct SolidState {
    /// True for a triac: it turns off at the next zero of an alternating current, and never of a direct one.
    pub ac: bool,
    pub leak: Option<Figure<Amps>>,
    /// True where + and − of its output are changed over.
    pub reversed: bool,
}
