//! The resistor of an LED: exact, preferred, at its worst, its heat.

use super::stock::Values;
use crate::quantity::range::Nominal;
use crate::quantity::units::{Amps, Fraction, Ohms, Volts, Watts};

/// An LED or several in series, and what feeds them.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LedNeed {
    /// The supply, nominal and at its highest.
    pub supply: Nominal<Volts>,
    /// Of all LEDs of the branch together, nominal and at their lowest.
    pub vf: Nominal<Volts>,
    /// A diode in series, nominal and at its lowest; 0 V: none.
    pub diode: Nominal<Volts>,
    /// The pin's own resistance, nominal and at its lowest; 0 Ω: no pin.
    pub pin: Nominal<Ohms>,
    /// The current that is wanted: nominally no more than this flows.
    pub current: Amps,
    /// What may flow at the worst, its absolute maximum; `None`: not known, and not looked at.
    pub most: Option<Amps>,
    /// Of the resistor.
    pub tolerance: Fraction,
    /// What the resistor stands.
    pub rated: Watts,
}

/// How a resistor's heat compares with what it withstands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ResistorHeat {
    /// 60 % of its rating or less.
    Pass,
    /// More than 60 %.
    Caution,
    /// More than its rating.
    Danger,
}

impl ResistorHeat {
    /// What power is to a rating.
    #[must_use]
    pub fn of(heat: Watts, rated: Watts) -> Self {
        if heat > rated {
            ResistorHeat::Danger
        } else if heat.get() > COMFORT * rated.get() {
            ResistorHeat::Caution
        } else {
            ResistorHeat::Pass
        }
    }

    /// `pass`, `caution` or `danger`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            ResistorHeat::Pass => "pass",
            ResistorHeat::Caution => "caution",
            ResistorHeat::Danger => "danger",
        }
    }
}

/// At worst an LED carries a quarter more than is recommended without harm: its nominal current counts (our own
/// figure).
pub const LED_AT_WORST: f64 = 1.25;
/// Warmer than this share of its rating a resistor is too warm for comfort (electrical reference, "LED").
pub(crate) const COMFORT: f64 = 0.6;
/// With a smaller share of the supply on the resistor the LEDs' own spread decides.
pub(crate) const LEAST_SHARE: f64 = 0.2;

/// What calculation may lose.
const NEAR: f64 = 1.0 - 1e-9;

/// A resistor and what it makes of an LED's current.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct LedResistor {
    /// The resistor.
    pub ohms: Ohms,
    /// Every figure at its nominal.
    pub nominal: Amps,
    /// Supply highest, Vf, diode and pin lowest, resistor at its lower tolerance.
    pub worst: Amps,
    /// Heat in the resistor at the nominal current.
    pub nominal_heat: Watts,
    /// Heat in the resistor at the worst current, at its lower tolerance.
    pub worst_heat: Watts,
    /// That against its rating.
    pub heat: ResistorHeat,
}

/// The answer to an LED's question.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct LedSize {
    /// (Vs − Vdiode − Vf)/I − R_pin; zero or less: the supply is too low.
    pub exact: Ohms,
    /// The smallest that also keeps the worst current within what may flow; the exact one where that is enough.
    pub least: Ohms,
    /// What a sum without the diode and the pin gives: (Vs − Vf)/I.
    pub naive: Ohms,
    /// The next value from `least` up; `None` where the supply is too low or no value is large enough.
    pub chosen: Option<LedResistor>,
    /// The next value from the exact one up, where it lies below `least`: too much would flow at the worst.
    pub passed_over: Option<LedResistor>,
    /// The value before and the values after it, and what was passed over, in rising order.
    pub others: Vec<LedResistor>,
    /// Less than a fifth of the supply is left for the resistor: the LEDs' own spread decides about the current.
    pub undefined: bool,
}

/// A resistor's currents and heat in an LED's branch: I = (Vs − Vdiode − Vf)/(R + R_pin), P = I²·R.
#[must_use]
pub fn led_with(need: &LedNeed, ohms: Ohms) -> LedResistor {
    let left = |vs: Volts, diode: Volts, vf: Volts| (vs - diode - vf).get().max(0.0);
    let nominal =
        left(need.supply.nominal, need.diode.nominal, need.vf.nominal) / (ohms + need.pin.nominal).get().max(1e-9);
    let least = ohms * (1.0 - need.tolerance.get());
    let worst = left(need.supply.worst, need.diode.worst, need.vf.worst) / (least + need.pin.worst).get().max(1e-9);
    let worst_heat = Watts::new(worst * worst * least.get());
    LedResistor {
        ohms,
        nominal: Amps::new(nominal),
        worst: Amps::new(worst),
        nominal_heat: Watts::new(nominal * nominal * ohms.get()),
        worst_heat,
        heat: ResistorHeat::of(worst_heat, need.rated),
    }
}

/// The smallest resistor whose worst current is no more than `most`: ((Vs − Vdiode − Vf)/I − R_pin)/(1 − tol), the
/// supply at its highest, all else at its lowest.
fn least_at_worst(need: &LedNeed, most: Amps) -> Ohms {
    let left = (need.supply.worst - need.diode.worst - need.vf.worst).get().max(0.0);
    Ohms::new((left / most.get().max(1e-12) - need.pin.worst.get()).max(0.0) / (1.0 - need.tolerance.get()).max(1e-9))
}

/// The resistor of an LED: the next larger value of a series or of a stock at which no more than the wanted current
/// flows nominally, and no more than may flow at the worst.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Fraction, Nominal, Ohms, Volts, Watts};
/// let need = size::LedNeed {
///     supply: Nominal::new(Volts::new(12.0), Volts::new(12.6)),
///     vf: Nominal::new(Volts::new(3.2), Volts::new(2.88)),
///     diode: Nominal::exactly(Volts::new(0.0)),
///     pin: Nominal::exactly(Ohms::new(0.0)),
///     current: Amps::new(0.02),
///     most: None,
///     tolerance: Fraction::new(0.05),
///     rated: Watts::new(0.25),
/// };
/// let size = size::led(&need, &size::Values::of_series(size::Series::E12));
/// assert!((size.exact.get() - 440.0).abs() < 1e-9);
/// assert_eq!(size.chosen.map(|c| c.ohms), Some(Ohms::new(470.0)));
/// ```
#[must_use]
pub fn led(need: &LedNeed, values: &Values) -> LedSize {
    let left = need.supply.nominal - need.diode.nominal - need.vf.nominal;
    let exact = left / need.current - need.pin.nominal;
    let least = need.most.map_or(exact, |most| Ohms::new(exact.get().max(least_at_worst(need, most).get())));
    let choice = if exact.get() > 0.0 { values.around(least) } else { Vec::new() };
    let chosen = choice.iter().copied().find(|v| *v >= least * NEAR);
    let next = values.around(Ohms::new(exact.get().max(0.0))).into_iter().find(|v| *v >= exact * NEAR);
    let passed_over = next.filter(|v| exact.get() > 0.0 && *v < least * NEAR);
    let with = |ohms: Ohms| led_with(need, ohms);
    let mut others: Vec<Ohms> = choice.into_iter().filter(|v| Some(*v) != chosen).collect();
    others.extend(passed_over.filter(|v| !others.contains(v)));
    others.sort_by(|a, b| a.get().total_cmp(&b.get()));
    LedSize {
        exact,
        least,
        naive: (need.supply.nominal - need.vf.nominal) / need.current,
        chosen: chosen.map(with),
        passed_over: passed_over.map(with),
        others: others.into_iter().map(with).collect(),
        undefined: left.get() / need.supply.nominal.get() < LEAST_SHARE,
    }
}
