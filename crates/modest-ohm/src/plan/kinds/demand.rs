//! What a load draws, by state.

use super::scenario::LoadState;
use crate::quantity::figure::Figure;
use crate::quantity::figures::{At, See};
use crate::quantity::units::{Amps, Ohms, Quantity, Volts, Watts};
use modest_ohm_derive::Figures;

/// What a load draws, by state; all states in the same kind of figure.
#[derive(Clone, Debug)]
pub(crate) enum Demand {
    Current(States<Amps>),
    Power(States<Watts>),
    Resistance(States<Ohms>),
    Leds(LedDraw),
}

/// LEDs in series on a resistor: nothing up to their voltage, then along the resistor.
#[derive(Clone, Debug, Figures)]
pub(crate) struct LedDraw {
    /// Of all LEDs of the branch together.
    pub vf: Figure<Volts>,
    /// Of a diode in series.
    pub diode: Option<Figure<Volts>>,
    #[figures(key = "resistor")]
    pub ohms: Figure<Ohms>,
}

#[derive(Clone, Debug)]
pub(crate) struct States<Q: Quantity> {
    pub peak: Figure<Q>,
    pub idle: Option<Figure<Q>>,
    pub typical: Option<Figure<Q>>,
    pub surge: Option<Figure<Q>>,
}

/// The largest draw goes by the demand's own key, the other states by theirs.
impl crate::quantity::figures::Figures for Demand {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        fn states<Q: Quantity>(states: &mut States<Q>, key: &'static str, at: At<'_>, see: See<'_>) {
            let States { peak, idle, typical, surge } = states;
            peak.each(at.under(key), see);
            idle.each(at.under("idle"), see);
            typical.each(at.under("typical"), see);
            surge.each(at.under("surge"), see);
        }
        match self {
            Demand::Current(s) => states(s, "current", at, see),
            Demand::Power(s) => states(s, "power", at, see),
            Demand::Resistance(s) => states(s, "resistance", at, see),
            Demand::Leds(draw) => draw.each(at, see),
        }
    }
}

impl<Q: Quantity> States<Q> {
    /// All states a factor larger.
    pub fn scale(&mut self, factor: f64) {
        let Self { peak, idle, typical, surge } = self;
        for figure in std::iter::once(peak).chain([idle, typical, surge].into_iter().flatten()) {
            *figure = figure.scaled(factor);
        }
    }

    /// The figure of a state; `None` where nothing is drawn.
    pub fn of(&self, state: LoadState) -> Option<&Figure<Q>> {
        match state {
            LoadState::Off => None,
            LoadState::Idle => self.idle.as_ref(),
            LoadState::Typical => self.typical.as_ref().or(Some(&self.peak)),
            LoadState::Peak => Some(&self.peak),
            LoadState::Surge => self.surge.as_ref().or(Some(&self.peak)),
        }
    }
}

/// The input of a heating appliance may be 5 % above and 10 % below its rating (IEC 60335-1, 10.1), its resistance the
/// other way.
const HEATER_OHMS: (f64, f64) = (0.95, 1.11);

impl States<Watts> {
    /// The resistance that power at the rated voltage means: V²/P.
    pub fn at_rated(self, rated: Volts) -> States<Ohms> {
        let ohms = |p: Watts| Ohms::new(rated.get() * rated.get() / p.get().max(1e-9));
        let of = |f: Figure<Watts>| {
            let (least, most) = if f.bare { HEATER_OHMS } else { (1.0, 1.0) };
            Figure {
                low: ohms(f.high) * least,
                typical: ohms(f.typical),
                high: ohms(f.low) * most,
                origin: f.origin,
                bare: false,
            }
        };
        // What takes nothing at rest has no resistance then.
        let some = |f: Option<Figure<Watts>>| f.filter(|f| f.low.get() > 0.0).map(of);
        States { peak: of(self.peak), idle: some(self.idle), typical: some(self.typical), surge: some(self.surge) }
    }
}

impl Demand {
    pub fn has_surge(&self) -> bool {
        match self {
            Demand::Current(s) => s.surge.is_some(),
            Demand::Power(s) => s.surge.is_some(),
            Demand::Resistance(s) => s.surge.is_some(),
            Demand::Leds(_) => false,
        }
    }
}
