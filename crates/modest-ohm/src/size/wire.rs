//! Which wire: for the load, for the port's or device's limit, for the fuse or the source.

use crate::quantity::units::{Amps, Celsius, Fraction, Metres, OhmsPerMetre, Volts};
use crate::tables::wire::{
    Laid, Material, WireSize, ampacity_at, conductor_ohms_per_metre, rise_k, temperature_factor,
};
use crate::verdict::compare::{at_least, at_most};

/// Resistance of one conductor at a temperature; stranded AWG leads have 3 % more than solid ones.
///
/// AWG by ASTM B258, metric sizes by IEC 60228 class 5; ρ(T) = ρ20·(1 + 0.00393·(T − 20 °C)) (IEC 60028).
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::tables::WireSize;
/// use modest_ohm::units::Celsius;
/// let r = size::wire_ohms_per_metre(WireSize::Mm2(1.5), false, Celsius::new(20.0));
/// assert!((r.get() - 0.0133).abs() < 1e-12);
/// ```
#[must_use]
pub fn wire_ohms_per_metre(size: WireSize, solid: bool, at: Celsius) -> OhmsPerMetre {
    OhmsPerMetre::new(conductor_ohms_per_metre(size, solid, Material::Copper) * temperature_factor(at.get()))
}

/// What a copper conductor carries continuously, `pairs` loaded pairs lying together.
///
/// In free air of 30 °C, warming to 70 °C: 18.8 A/mm²·S up to 0.5 mm², else 14.6 A·(S/mm²)^0.63 (within 5 % of
/// VDE 0298-4 to 16 mm²); times √((T_ins − Ta)/40 K · 1.1965/(1 + 0.00393·(T_ins − 20 °C))), at most 1 for the 70 °C of
/// common insulation and at most 1.6 for what is stated; times the share of a bundle (IEC 60364-5-52).
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::tables::WireSize;
/// use modest_ohm::units::Celsius;
/// // 1 mm² in air of 45 °C: 14.6 A · √(25/40).
/// let a = size::ampacity(WireSize::Mm2(1.0), None, Celsius::new(45.0), 1);
/// assert!((a.get() - 14.6 * (25.0f64 / 40.0).sqrt()).abs() < 1e-9);
/// ```
#[must_use]
pub fn ampacity(size: WireSize, insulation: Option<Celsius>, ambient: Celsius, pairs: usize) -> Amps {
    Amps::new(ampacity_at(size, bundled(insulation, pairs), ambient.get()))
}

fn bundled(insulation: Option<Celsius>, pairs: usize) -> Laid {
    Laid { insulation_c: insulation.map(|t| t.get()), pairs: pairs.max(1), ..Laid::PLAIN }
}

/// A run that needs a wire.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct WireNeed {
    /// What it carries today.
    pub load: Amps,
    /// One way.
    pub length: Metres,
    /// What its source has, and the share of it that feed and return may lose at the load; `None`: not judged.
    pub drop: Option<(Volts, Fraction)>,
    /// What the port or the device may carry one day.
    pub limit: Option<Amps>,
    /// What the fuse before it (its rating over the ampacity factor), or else the source, makes it stand.
    pub for_protection: Option<Amps>,
    /// The air around it.
    pub ambient: Celsius,
    /// What its insulation stands; `None`: 70 °C.
    pub insulation: Option<Celsius>,
    /// Loaded pairs that lie together.
    pub pairs: usize,
    /// True for mm², false for AWG.
    pub metric: bool,
}

/// A wire.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct WireChoice {
    /// Its size.
    pub size: WireSize,
    /// What it carries continuously as it is laid.
    pub ampacity: Amps,
    /// What feed and return lose at today's load.
    pub drop: Volts,
    /// How warm today's load makes it.
    pub temperature: Celsius,
}

/// The wires that three questions ask for, each the thinnest that does; `None` where no listed size does, or the
/// question was not asked.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct WireSizes {
    /// For today's load: ampacity and drop.
    pub load: Option<WireChoice>,
    /// For the port's or the device's limit.
    pub limit: Option<WireChoice>,
    /// For the fuse or the source.
    pub for_protection: Option<WireChoice>,
}

/// The wires for a run: three questions, kept apart.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::tables::WireSize;
/// use modest_ohm::units::{Amps, Celsius, Fraction, Metres, Volts};
/// let need = size::WireNeed {
///     load: Amps::new(2.0), length: Metres::new(3.0), drop: Some((Volts::new(12.0), Fraction::new(0.05))),
///     limit: Some(Amps::new(4.0)), for_protection: Some(Amps::new(10.0)),
///     ambient: Celsius::new(25.0), insulation: None, pairs: 1, metric: false,
/// };
/// let sizes = size::wire(&need);
/// assert_eq!(sizes.load.map(|w| w.size), Some(WireSize::Awg(20)));
/// assert_eq!(sizes.limit.map(|w| w.size), Some(WireSize::Awg(22)));
/// assert_eq!(sizes.for_protection.map(|w| w.size), Some(WireSize::Awg(18)));
/// ```
#[must_use]
pub fn wire(need: &WireNeed) -> WireSizes {
    let choices = choices(need);
    let first = |does: &dyn Fn(&WireChoice) -> bool| choices.iter().copied().find(|c| does(c));
    let carries = |c: &WireChoice, amps: Amps| at_least(c.ampacity.get(), amps.get());
    WireSizes {
        load: first(&|c| carries(c, need.load) && drops_no_more(need, c)),
        limit: need.limit.and_then(|limit| first(&|c| carries(c, limit))),
        for_protection: need.for_protection.and_then(|stands| first(&|c| carries(c, stands))),
    }
}

pub(crate) fn drops_no_more(need: &WireNeed, choice: &WireChoice) -> bool {
    need.drop.is_none_or(|(volts, share)| at_most(choice.drop.get(), volts.get() * share.get()))
}

/// Every listed size as it would be in this run, thinnest first.
pub(crate) fn choices(need: &WireNeed) -> Vec<WireChoice> {
    let kind = if need.metric { WireSize::Mm2(1.0) } else { WireSize::Awg(16) };
    let choice = |size: WireSize| {
        let laid = bundled(need.insulation, need.pairs);
        let ambient = need.ambient.get();
        let carries = ampacity_at(size, laid, ambient);
        let load = need.load.get();
        let temperature = ambient + rise_k(size, laid, load.min(carries));
        let ohms = wire_ohms_per_metre(size, false, Celsius::new(temperature)).get() * 2.0 * need.length.get();
        let drop = Volts::new(load * ohms);
        WireChoice { size, ampacity: Amps::new(carries), drop, temperature: Celsius::new(temperature) }
    };
    kind.listed_like().into_iter().map(choice).collect()
}
