//! Which supply, and which profile of a negotiated source.

use crate::quantity::units::{Amps, Fraction, Volts, Watts};

/// Ratings that adapters are sold in, A (typical).
pub(crate) const RATINGS: [f64; 20] =
    [0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.5, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 80.0];

/// What a supply has to give.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct SupplySize {
    /// What the loads take together.
    pub demand: Amps,
    /// The least rating: wanted/(1 − headroom).
    pub least: Amps,
    /// The next usual rating; `None` where one supply does not do it.
    pub usual: Option<Amps>,
    /// Power at least rating.
    pub power: Watts,
}

/// The supply for loads on one rail: the sum of their currents, with headroom.
///
/// Headroom is what stays unused: a share from 0 to below 1, 20 % where nothing else is known.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Fraction, Volts};
/// let s = size::supply(Volts::new(12.0), &[Amps::new(2.5), Amps::new(0.8)], Fraction::new(0.2));
/// assert!((s.least.get() - 3.3 / 0.8).abs() < 1e-12);
/// assert_eq!(s.usual, Some(Amps::new(5.0)));
/// ```
#[must_use]
pub fn supply(volts: Volts, loads: &[Amps], headroom: Fraction) -> SupplySize {
    let wanted: f64 = loads.iter().map(|a| a.get()).sum();
    let least = wanted / (1.0 - headroom.get().clamp(0.0, 0.99));
    let usual = RATINGS.into_iter().find(|r| *r >= least * (1.0 - 1e-12)).map(Amps::new);
    SupplySize { demand: Amps::new(wanted), least: Amps::new(least), usual, power: volts * Amps::new(least) }
}

/// Fixed voltage of a negotiated source with the current that goes with them.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Profile {
    /// The voltage.
    pub volts: Volts,
    /// The largest current.
    pub current: Amps,
}

/// Without an electronic mark a cable carries this (Type-C § 4.9).
pub(crate) const UNMARKED_A: f64 = 3.0;

/// The fixed profiles that a source of some power has to list; 12 V is optional and not among them.
///
/// Up to 15 W 5 V; above it also 9 V, above 27 W 15 V, above 45 W 20 V; lower voltage at 3 A, the highest at what the
/// power gives (Power Delivery 3.1, table 10-2).
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::Watts;
/// let of = |w| size::profiles_of_power(Watts::new(w)).iter().map(|p| p.volts.get()).collect::<Vec<_>>();
/// assert_eq!(of(27.0), [5.0, 9.0]);
/// assert_eq!(of(65.0), [5.0, 9.0, 15.0, 20.0]);
/// ```
#[must_use]
pub fn profiles_of_power(power: Watts) -> Vec<Profile> {
    let watts = power.get();
    let most = |volts: f64| if volts < 20.0 { UNMARKED_A } else { 5.0 };
    [(5.0, 0.0), (9.0, 15.0), (15.0, 27.0), (20.0, 45.0)]
        .into_iter()
        .filter(|(_, above)| watts > *above)
        .map(|(volts, _)| Profile { volts: Volts::new(volts), current: Amps::new((watts / volts).min(most(volts))) })
        .collect()
}

/// The profiles that do: voltage within the range, and power (or, where given, current) with headroom.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Fraction, Volts, Watts};
/// let list = size::profiles_of_power(Watts::new(45.0));
/// let found = size::profiles(&list, (Volts::new(8.0), Volts::new(16.0)), Watts::new(30.0), None, Fraction::new(0.2), false);
/// assert_eq!(found.len(), 1);
/// assert_eq!(found[0].volts, Volts::new(15.0));
/// ```
#[must_use]
pub fn profiles(
    list: &[Profile],
    (least, most): (Volts, Volts),
    power: Watts,
    current: Option<Amps>,
    headroom: Fraction,
    marked_lead: bool,
) -> Vec<Profile> {
    let usable = 1.0 - headroom.get().clamp(0.0, 0.99);
    let lead = if marked_lead { f64::INFINITY } else { UNMARKED_A };
    list.iter()
        .copied()
        .filter(|p| p.volts >= least && p.volts <= most)
        .filter(|p| {
            let amps = p.current.get().min(lead) * usable;
            let wanted = current.map_or(power.get() / p.volts.get(), Amps::get);
            wanted <= amps * (1.0 + 1e-12)
        })
        .collect()
}
