//! A bridge: what it leaves its motor, what it carries, how warm it gets.

use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Celsius, KelvinsPerWatt, Ohms, Volts, Watts};
use crate::verdict::compare::exceeds;

/// A motor behind a bridge.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BridgeNeed {
    /// The motor supply, at least and at most.
    pub supply: Range<Volts>,
    /// The voltage that the bridge drops over both switches, at most.
    pub drop: Volts,
    /// The resistance of both switches together, which drops more, at most.
    pub drop_ohms: Ohms,
    /// The range of its motor supply.
    pub range: Range<Volts>,
    /// Its continuous current rating.
    pub continuous: Amps,
    /// Its peak current rating.
    pub peak: Amps,
    /// What the motor runs with, and takes held.
    pub running: Amps,
    /// Held.
    pub stall: Amps,
    /// True where it is reversed at speed.
    pub reverses: bool,
    /// Junction to air; `None`: not known.
    pub theta: Option<KelvinsPerWatt>,
    /// The warmest air.
    pub ambient: Celsius,
}

/// What follows.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct BridgeState {
    /// What the motor gets while it runs, at least.
    pub leaves: Volts,
    /// The heat of the bridge while it runs.
    pub heat: Watts,
    /// Its junction; `None` where θ is not known.
    pub junction: Option<Celsius>,
    /// The most briefly: held, or reversed at speed.
    pub demand: Amps,
    /// Why it does not do; `None` where it does.
    pub why_not: Option<BridgeLack>,
}

/// Why a bridge does not do.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum BridgeLack {
    /// More voltage than it takes.
    TooMuchSupply,
    /// a lower voltage than it works from.
    TooLittleSupply,
    /// It runs with more than it carries continuously.
    Runs,
    /// Held it takes more than the bridge carries continuously.
    Stall,
    /// More than it stands briefly.
    Moment,
}

/// A motor reversed at speed takes up to twice what it takes held.
const TWICE: f64 = 2.0;

/// What a bridge does with a motor (electrical reference, "Bridge").
///
/// ```
/// use modest_ohm::units::{Amps, Celsius, Ohms, Range, Volts};
/// use modest_ohm::size::{BridgeLack, BridgeNeed, bridge};
/// let need = BridgeNeed {
///     supply: Range::exactly(Volts::new(6.0)), drop: Volts::new(1.5), drop_ohms: Ohms::new(1.7),
///     range: Range::new(Volts::new(5.0), Volts::new(46.0)), continuous: Amps::new(2.0), peak: Amps::new(3.0),
///     running: Amps::new(1.0), stall: Amps::new(1.6), reverses: true, theta: None, ambient: Celsius::new(25.0),
/// };
/// let state = bridge(&need);
/// assert!((state.leaves.get() - 2.8).abs() < 1e-12);
/// assert_eq!(state.why_not, Some(BridgeLack::Moment));
/// ```
#[must_use]
pub fn bridge(need: &BridgeNeed) -> BridgeState {
    let runs = need.running.get();
    let drop = need.drop.get() + need.drop_ohms.get() * runs;
    let heat = drop * runs;
    let moment = if need.reverses { TWICE * need.stall.get() } else { need.stall.get() };
    let over = |a: f64, limit: f64| exceeds(a, limit);
    let why_not = if over(need.supply.high.get(), need.range.high.get()) {
        Some(BridgeLack::TooMuchSupply)
    } else if over(need.range.low.get(), need.supply.low.get()) {
        Some(BridgeLack::TooLittleSupply)
    } else if over(runs, need.continuous.get()) {
        Some(BridgeLack::Runs)
    } else if over(moment, need.peak.get()) {
        Some(BridgeLack::Moment)
    } else if over(need.stall.get(), need.continuous.get()) {
        Some(BridgeLack::Stall)
    } else {
        None
    };
    BridgeState {
        leaves: Volts::new((need.supply.low.get() - drop).max(0.0)),
        heat: Watts::new(heat),
        junction: need.theta.map(|t| Celsius::new(need.ambient.get() + heat * t.get())),
        demand: Amps::new(moment),
        why_not,
    }
}
