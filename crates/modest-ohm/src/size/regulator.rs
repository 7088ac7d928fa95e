//! A linear regulator or a switching one: heat, junction, input.

use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Celsius, Fraction, KelvinsPerWatt, Volts, Watts};

/// What is asked of a regulator.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RegulatorNeed {
    /// Smallest and largest input.
    pub input: Range<Volts>,
    /// The output.
    pub output: Volts,
    /// What it delivers.
    pub current: Amps,
    /// What a linear one takes for itself, from its input to ground: 5 mA is typical.
    pub own: Amps,
    /// The air around it.
    pub ambient: Celsius,
    /// Least input above the output.
    pub dropout: Volts,
    /// Junction against air.
    pub theta: KelvinsPerWatt,
    /// How hot the junction may be.
    pub limit: Celsius,
    /// A switching regulator's efficiency, for comparison.
    pub efficiency: Fraction,
}

/// What becomes of it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct RegulatorHeat {
    /// The input it needs: output + dropout.
    pub least_input: Volts,
    /// Whether the smallest input is enough.
    pub regulates: bool,
    /// Heat of a linear regulator at the largest input: (V_in − V_out)·I + V_in·I_own.
    pub linear_heat: Watts,
    /// Its junction.
    pub junction: Celsius,
    /// The largest sum of thermal resistances that keeps it 15 K below its limit; `None` where nothing would.
    pub theta_needed: Option<KelvinsPerWatt>,
    /// Heat of a switching regulator: P_out·(1/η − 1).
    pub switching_heat: Watts,
    /// Its input current at the smallest input.
    pub switching_input: Amps,
}

/// Closer than this to its limit a junction is too warm for comfort.
pub(crate) const MARGIN_K: f64 = 15.0;

/// Works out a linear regulator, with a switching one beside it.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Celsius, Fraction, KelvinsPerWatt, Range, Volts};
/// let r = size::regulator(&size::RegulatorNeed {
///     input: Range::new(Volts::new(11.4), Volts::new(12.6)),
///     output: Volts::new(5.0),
///     current: Amps::new(0.3),
///     own: Amps::new(0.005),
///     ambient: Celsius::new(25.0),
///     dropout: Volts::new(2.0),
///     theta: KelvinsPerWatt::new(62.0),
///     limit: Celsius::new(125.0),
///     efficiency: Fraction::new(0.85),
/// });
/// assert!((r.linear_heat.get() - (7.6 * 0.3 + 12.6 * 0.005)).abs() < 1e-12);
/// assert!((r.junction.get() - (25.0 + 2.343 * 62.0)).abs() < 1e-9);
/// assert!(r.regulates);
/// ```
#[must_use]
pub fn regulator(need: &RegulatorNeed) -> RegulatorHeat {
    let least_input = need.output + need.dropout;
    let above = (need.input.high - need.output).get().max(0.0);
    let linear_heat = Watts::new(above * need.current.get() + need.input.high.get().max(0.0) * need.own.get());
    let room = need.limit.get() - MARGIN_K - need.ambient.get();
    let out = need.output * need.current;
    let efficiency = need.efficiency.get().clamp(0.01, 1.0);
    RegulatorHeat {
        least_input,
        regulates: need.input.low >= least_input,
        linear_heat,
        junction: Celsius::new(need.ambient.get() + linear_heat.get() * need.theta.get()),
        theta_needed: (room > 0.0 && linear_heat.get() > 0.0).then(|| KelvinsPerWatt::new(room / linear_heat.get())),
        switching_heat: Watts::new(out.get() * (1.0 / efficiency - 1.0)),
        switching_input: Amps::new(out.get() / (efficiency * need.input.low.get().max(1e-9))),
    }
}
