//! A MOSFET's gate: whether its voltage opens it, and what its edges cost.

use crate::quantity::units::{Amps, Coulombs, Hertz, Ohms, Seconds, Volts, Watts};
use crate::verdict::compare::{at_least, at_most};

/// A gate and what drives it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GateNeed {
    /// What it gets: the VDD of what drives it, for a gate takes no direct current.
    pub volts: Volts,
    /// The least V_GS for which its datasheet gives R_DS(on).
    pub specified: Volts,
    /// The largest threshold V_GS(th) of its kind; `None`: not known.
    pub threshold: Option<Volts>,
    /// What is to flow, and what it is rated for.
    pub current: Amps,
    /// What it is rated for.
    pub rating: Option<Amps>,
}

/// Whether a MOSFET is fully on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum GateVerdict {
    /// At the voltage for which its resistance is given, or above.
    Pass,
    /// Above its largest threshold by 1 V, and no more than a tenth of its rating flows.
    Caution,
    /// Neither.
    Fault,
}

impl GateVerdict {
    /// `pass`, `caution` or `fault`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            GateVerdict::Pass => "pass",
            GateVerdict::Caution => "caution",
            GateVerdict::Fault => "fault",
        }
    }
}

/// Volts above the largest threshold, and share of the rating, up to which a MOSFET that is not specified for its
/// gate's voltage works for all that (electrical reference, "N-MOSFET").
const ABOVE_V: f64 = 1.0;
const OF_RATING: f64 = 0.10;

/// Whether a gate's voltage opens a MOSFET (electrical reference, "N-MOSFET").
///
/// ```
/// use modest_ohm::units::{Amps, Volts};
/// use modest_ohm::size::{GateNeed, GateVerdict, gate};
/// let need = GateNeed {
///     volts: Volts::new(3.3), specified: Volts::new(10.0), threshold: Some(Volts::new(4.0)),
///     current: Amps::new(0.8), rating: Some(Amps::new(30.0)),
/// };
/// assert_eq!(gate(&need), GateVerdict::Fault);
/// assert_eq!(gate(&GateNeed { specified: Volts::new(2.5), ..need }), GateVerdict::Pass);
/// ```
#[must_use]
pub fn gate(need: &GateNeed) -> GateVerdict {
    if at_least(need.volts.get(), need.specified.get()) {
        return GateVerdict::Pass;
    }
    let above = need.threshold.is_some_and(|t| at_least(need.volts.get(), t.get() + ABOVE_V));
    let small = need.rating.is_some_and(|r| at_most(need.current.get(), OF_RATING * r.get()));
    if above && small { GateVerdict::Caution } else { GateVerdict::Fault }
}

/// A MOSFET that is switched often.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SwitchingNeed {
    /// What drives its gate while it is high.
    pub gate_volts: Volts,
    /// The gate's voltage while its drain moves.
    pub plateau: Volts,
    /// Qgd: between gate and drain.
    pub gate_charge: Coulombs,
    /// In front of the gate: the series resistor and the pin's own.
    pub ohms: Ohms,
    /// Across it while it is off.
    pub supply: Volts,
    /// Through it while it is on.
    pub current: Amps,
    /// How often.
    pub pwm: Hertz,
}

/// How long its edges take and what they cost.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Switching {
    /// t_on = Qgd·R/(V − V_plateau).
    pub on: Seconds,
    /// t_off = Qgd·R/V_plateau.
    pub off: Seconds,
    /// 0.5·V·I·(t_on + t_off)·f.
    pub loss: Watts,
}

/// The edges of a MOSFET; `None` where its gate never gets above its plateau (electrical reference, "N-MOSFET").
///
/// ```
/// use modest_ohm::units::{Amps, Coulombs, Hertz, Ohms, Volts};
/// use modest_ohm::size::{SwitchingNeed, switching};
/// let edges = switching(&SwitchingNeed {
///     gate_volts: Volts::new(5.0), plateau: Volts::new(2.5), gate_charge: Coulombs::new(10e-9),
///     ohms: Ohms::new(140.0), supply: Volts::new(12.0), current: Amps::new(2.0), pwm: Hertz::new(20e3),
/// }).unwrap();
/// assert!((edges.on.get() - 560e-9).abs() < 1e-12);
/// ```
#[must_use]
pub fn switching(need: &SwitchingNeed) -> Option<Switching> {
    let over = need.gate_volts.get() - need.plateau.get();
    let charge = need.gate_charge.get() * need.ohms.get();
    if over <= 0.0 || need.plateau.get() <= 0.0 {
        return None;
    }
    let (on, off) = (charge / over, charge / need.plateau.get());
    let loss = 0.5 * need.supply.get() * need.current.get() * (on + off) * need.pwm.get();
    Some(Switching { on: Seconds::new(on), off: Seconds::new(off), loss: Watts::new(loss) })
}
