//! The base resistor of a transistor, and what a transistor does with the one it has.

use super::series::Series;
use super::stock::Values;
use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Ohms, Volts, Watts};
use crate::verdict::compare::{at_most, is_below};

/// A transistor and the pin that drives it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BaseNeed {
    /// The pin's supply.
    pub vdd: Volts,
    /// The pin's own resistance.
    pub pin: Ohms,
    /// Base to emitter: the highest sizes the resistor, the lowest loads the pin.
    pub vbe: Range<Volts>,
    /// The collector's current.
    pub current: Amps,
    /// Collector current over base current that is sized for: 10 for a transistor, 250 for a Darlington pair.
    pub ratio: f64,
    /// What the pin may carry continuously.
    pub pin_recommended: Amps,
}

/// A base resistor.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct BaseSize {
    /// The resistor that gives exactly the base current sized for.
    pub exact: Ohms,
    /// The next smaller value that keeps the pin within its recommended current; `None` where there is none.
    pub chosen: Option<Ohms>,
    /// What the next smaller value draws from the pin, whether it keeps that or not.
    pub base: Option<Amps>,
}

/// The base resistor for a collector current: R_B = (VDD − VBE)/I_B − R_out, the next smaller value (electrical
/// reference, "Switching stages").
///
/// ```
/// use modest_ohm::units::{Amps, Ohms, Range, Volts};
/// use modest_ohm::size::{BaseNeed, Series, Values, base};
/// let need = BaseNeed {
///     vdd: Volts::new(5.0),
///     pin: Ohms::new(40.0),
///     vbe: Range::exactly(Volts::new(0.7)),
///     current: Amps::new(0.08),
///     ratio: 10.0,
///     pin_recommended: Amps::new(0.020),
/// };
/// let size = base(&need, &Values::Series(Series::E12));
/// assert_eq!(size.chosen, Some(Ohms::new(470.0)));
/// ```
#[must_use]
pub fn base(need: &BaseNeed, values: &Values) -> BaseSize {
    let (large, small) = (need.vbe.high.get(), need.vbe.low.get());
    let wanted = need.current.get() / need.ratio;
    let exact = Ohms::new((need.vdd.get() - large) / wanted.max(1e-12) - need.pin.get());
    let drawn = |ohms: Ohms| Amps::new(((need.vdd.get() - small) / (ohms.get() + need.pin.get()).max(1e-9)).max(0.0));
    let next = |values: &Values| Some(exact).filter(|e| e.get() > 0.0).and_then(|e| values.next_smaller(e));
    let keeps = |r: &Ohms| at_most(drawn(*r).get(), need.pin_recommended.get());
    let first = next(values);
    // A finer series has a value nearer to the exact one.
    let finer = || next(&Values::Series(Series::E24)).filter(|_| *values == Values::Series(Series::E12));
    let chosen = first.filter(keeps).or_else(|| finer().filter(keeps));
    BaseSize { exact, chosen, base: chosen.or(first).map(drawn) }
}

/// A transistor with its base resistor and its load.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct TransistorNeed {
    /// What drives its base, and its own resistance.
    pub vdd: Volts,
    /// The pin's own resistance.
    pub pin: Ohms,
    /// Base to emitter.
    pub vbe: Volts,
    /// The base resistor.
    pub base: Ohms,
    /// The current its load needs.
    pub current: Amps,
    /// The least current gain.
    pub hfe: f64,
    /// What it drops saturated.
    pub saturation: Volts,
    /// What feeds the load.
    pub supply: Volts,
    /// The load's resistance.
    pub load: Ohms,
}

/// Whether a transistor saturates.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Saturates {
    /// Twice the base current that its least gain needs, or more.
    Pass,
    /// Between 1.3 times and twice.
    Caution,
    /// Less.
    Fault,
}

impl Saturates {
    /// What an overdrive means.
    #[must_use]
    pub fn of(overdrive: f64) -> Self {
        if is_below(overdrive, LEAST_OVERDRIVE) {
            Saturates::Fault
        } else if is_below(overdrive, GOOD_OVERDRIVE) {
            Saturates::Caution
        } else {
            Saturates::Pass
        }
    }

    /// `pass`, `caution` or `fault`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Saturates::Pass => "pass",
            Saturates::Caution => "caution",
            Saturates::Fault => "fault",
        }
    }
}

/// Less overdrive and it need not saturate; less than this and it has no margin (electrical reference, "NPN").
pub(crate) const LEAST_OVERDRIVE: f64 = 1.3;
pub(crate) const GOOD_OVERDRIVE: f64 = 2.0;

/// What a transistor does.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct TransistorState {
    /// Into its base.
    pub base: Amps,
    /// hFE_min·I_B/I_C.
    pub overdrive: f64,
    /// Whether it saturates.
    pub verdict: Saturates,
    /// What flows through its load.
    pub collector: Amps,
    /// Across it.
    pub vce: Volts,
    /// Its heat: VCE·I_C + VBE·I_B.
    pub heat: Watts,
    /// The worst heat of one that is not fully on: V²/(4·R_load).
    pub worst_partial: Watts,
}

/// What a transistor does with a base resistor: I_C is what the load needs, or hFE_min·I_B where that is less; the rest
/// of the supply is then across it (electrical reference, "Switching stages").
///
/// ```
/// use modest_ohm::units::{Amps, Ohms, Range, Volts};
/// use modest_ohm::size::{Saturates, TransistorNeed, transistor};
/// let state = transistor(&TransistorNeed {
///     vdd: Volts::new(5.0), pin: Ohms::new(40.0), vbe: Volts::new(0.7), base: Ohms::new(1000.0),
///     current: Amps::new(0.07), hfe: 50.0, saturation: Volts::new(0.3),
///     supply: Volts::new(12.0), load: Ohms::new(170.0),
/// });
/// assert_eq!(state.verdict, Saturates::Pass);
/// ```
#[must_use]
pub fn transistor(need: &TransistorNeed) -> TransistorState {
    let base = ((need.vdd.get() - need.vbe.get()) / (need.base.get() + need.pin.get()).max(1e-9)).max(0.0);
    let wanted = need.current.get();
    let can = need.hfe * base;
    let saturated = can >= wanted;
    let collector = can.min(wanted);
    let vce = if saturated {
        need.saturation.get()
    } else {
        (need.supply.get() - collector * need.load.get()).max(need.saturation.get())
    };
    let overdrive = can / wanted.max(1e-12);
    TransistorState {
        base: Amps::new(base),
        overdrive,
        verdict: Saturates::of(overdrive),
        collector: Amps::new(collector),
        vce: Volts::new(vce),
        heat: Watts::new(vce * collector + need.vbe.get() * base),
        worst_partial: Watts::new(need.supply.get().powi(2) / (4.0 * need.load.get().max(1e-9))),
    }
}
