//! A divider of two resistors: what it makes of a range of voltages, and the pair that suits a window.

use super::stock::Values;
use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Fraction, Ohms, Volts};

/// What a divider has to do.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct DividerNeed {
    /// The smallest high that still has to count, and the largest voltage that can come.
    pub input: Range<Volts>,
    /// Of both resistors.
    pub tolerance: Fraction,
    /// What may arrive at most: the pin's maximum, or an analogue input's full scale.
    pub most: Volts,
    /// What has to arrive at least: VIH, or the analogue threshold.
    pub least: Volts,
}

/// What a pair of resistors makes of it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct DividerSize {
    /// From the source to the tap.
    pub top: Ohms,
    /// From the tap to ground.
    pub bottom: Ohms,
    /// At the largest input, nominal: V·R2/(R1 + R2).
    pub nominal: Volts,
    /// At the largest input, the top at its lower tolerance and the bottom at its upper.
    pub worst_high: Volts,
    /// At the smallest high, the top at its upper tolerance and the bottom at its lower.
    pub worst_low: Volts,
    /// What the tap looks like to an input: both in parallel.
    pub source: Ohms,
    /// What it takes from the largest input.
    pub current: Amps,
    /// More than may arrive.
    pub over: bool,
    /// Less than has to arrive.
    pub below: bool,
}

impl DividerSize {
    /// True where every corner lies inside the window.
    #[must_use]
    pub const fn fits(&self) -> bool {
        !self.over && !self.below
    }

    /// The smaller of both margins, as a share of its limit.
    fn margin(&self, need: &DividerNeed) -> f64 {
        let above = 1.0 - self.worst_high / need.most;
        let below = self.worst_low / Volts::new(need.least.get().max(1e-9)) - 1.0;
        above.min(below)
    }
}

/// Works out a pair.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Fraction, Ohms, Range, Volts};
/// let need = size::DividerNeed {
///     input: Range::new(Volts::new(9.0), Volts::new(14.8)),
///     tolerance: Fraction::new(0.01),
///     most: Volts::new(3.3),
///     least: Volts::new(1.7),
/// };
/// let d = size::divider_with(&need, Ohms::new(39e3), Ohms::new(10e3));
/// assert!((d.nominal.get() - 14.8 * 10.0 / 49.0).abs() < 1e-12);
/// assert!(d.fits());
/// ```
#[must_use]
pub fn divider_with(need: &DividerNeed, top: Ohms, bottom: Ohms) -> DividerSize {
    let t = need.tolerance.get();
    let part = |top: f64, bottom: f64| bottom / (top + bottom).max(1e-12);
    let worst_high = need.input.high * part(top.get() * (1.0 - t), bottom.get() * (1.0 + t));
    let worst_low = need.input.low * part(top.get() * (1.0 + t), bottom.get() * (1.0 - t));
    DividerSize {
        top,
        bottom,
        nominal: need.input.high * part(top.get(), bottom.get()),
        worst_high,
        worst_low,
        source: Ohms::new(top.get() * bottom.get() / (top + bottom).get().max(1e-12)),
        current: need.input.high / Ohms::new((top + bottom).get().max(1e-12)),
        over: worst_high > need.most,
        below: worst_low < need.least,
    }
}

/// What else a pair has to keep.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct DividerLimits {
    /// The most that the tap may look like: 10 kΩ for analogue inputs.
    pub source: Ohms,
    /// The most that it may take from the largest input.
    pub current: Amps,
    /// The least that its top resistor may have: transients come through it.
    pub top: Ohms,
}

/// Tolerances that resistors are sold with, below the usual 5 % (IEC 60062, table 3).
const FINER: [f64; 4] = [0.02, 0.01, 0.005, 0.001];

/// Where no pair fits at the tolerance that is asked for: the coarsest finer one at which one does, with the best pair.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Fraction, Ohms, Range, Volts};
/// let need = size::DividerNeed {
///     input: Range::new(Volts::new(21.0), Volts::new(24.0)),
///     tolerance: Fraction::new(0.05),
///     most: Volts::new(3.3),
///     least: Volts::new(2.55),
/// };
/// let limits = size::DividerLimits { source: Ohms::new(10e3), current: Amps::new(5e-3), top: Ohms::new(0.0) };
/// let values = size::Values::of_series(size::Series::E24);
/// assert!(size::divider(&need, &limits, &values, 1).is_empty());
/// let (tolerance, _) = size::divider_finer(&need, &limits, &values).unwrap();
/// assert_eq!(tolerance, Fraction::new(0.02));
/// ```
#[must_use]
pub fn divider_finer(need: &DividerNeed, limits: &DividerLimits, values: &Values) -> Option<(Fraction, DividerSize)> {
    FINER.into_iter().filter(|t| *t < need.tolerance.get()).map(Fraction::new).find_map(|tolerance| {
        let found = divider(&DividerNeed { tolerance, ..*need }, limits, values, 1);
        Some((tolerance, *found.first()?))
    })
}

/// Pairs inside the window at every corner, the one with the largest margin first: of the smaller of both margins, each
/// as a share of its limit, in whole per cent; of equal ones the one that takes least current. At most `most` of them.
///
/// Every pair of values is tried: of E192 a million.
#[must_use]
pub fn divider(need: &DividerNeed, limits: &DividerLimits, values: &Values, most: usize) -> Vec<DividerSize> {
    let bottoms = values.between(Ohms::new(100.0), Ohms::new(1e6));
    let tops = values.between(Ohms::new(limits.top.get().max(100.0)), Ohms::new(1e6));
    let mut found: Vec<(f64, DividerSize)> = Vec::new();
    for top in &tops {
        for bottom in &bottoms {
            let pair = divider_with(need, *top, *bottom);
            if pair.fits() && pair.source <= limits.source && pair.current <= limits.current {
                found.push((pair.margin(need), pair));
            }
        }
    }
    // A per cent of margin more is no reason to draw more current.
    let rank = |m: f64| -(m * 100.0 + 1e-9).floor();
    found.sort_by(|(a, p), (b, q)| rank(*a).total_cmp(&rank(*b)).then(p.current.get().total_cmp(&q.current.get())));
    found.truncate(most);
    found.into_iter().map(|(_, pair)| pair).collect()
}
