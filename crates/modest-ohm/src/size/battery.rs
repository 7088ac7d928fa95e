//! Which battery lasts, and stays within the voltage of what it feeds.

use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Seconds, Volts, Watts};
use crate::tables::cell::{Cell, CellCurrent, Spread};

/// The names of the cell classes.
pub const CELLS: [&str; 11] = [
    "alkaline-aa",
    "alkaline-9v",
    "nimh-aa",
    "li-ion-18650",
    "li-ion-21700",
    "li-ion-power",
    "li-po-rc",
    "li-po-flat",
    "lifepo4",
    "lead-acid-12v",
    "lead-starter-12v",
];

/// What is asked of a battery.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BatteryNeed {
    /// The constant power of what it feeds, at its terminals.
    pub power: Watts,
    /// Smallest and largest voltage of what it feeds.
    pub volts: Range<Volts>,
    /// How long it should last.
    pub time: Seconds,
    /// Ampere-hours of one cell, where its class has no usual size or yours differs.
    pub cell_ah: Option<f64>,
}

/// A battery that does it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct BatterySize {
    /// Cells in series.
    pub series: usize,
    /// Strings in parallel.
    pub parallel: usize,
    /// The EMF, from empty to full.
    pub emf: Range<Volts>,
    /// How long it lasts.
    pub lasts: Seconds,
    /// The largest current of the pack: just before it is empty.
    pub current: Amps,
    /// What its cells give continuously.
    pub rating: Amps,
}

/// Why no battery of a class does it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum NoBattery {
    /// There is no such class.
    UnknownCell,
    /// The class has no usual size, and none is given.
    ChargeUnknown,
    /// One full cell is above the largest voltage.
    TooHigh {
        /// Its voltage.
        full: Volts,
    },
    /// As many in series as the largest voltage allow fall below the smallest at once.
    TooLow {
        /// Their voltage without load.
        full: Volts,
    },
    /// It would take more strings in parallel than anyone builds.
    TooMany {
        /// The most that is tried.
        most: usize,
    },
}

impl NoBattery {
    /// One of `unknown-cell`, `charge-unknown`, `too-high`, `too-low`, `too-many`.
    #[must_use]
    pub fn word(&self) -> &'static str {
        match self {
            Self::UnknownCell => "unknown-cell",
            Self::ChargeUnknown => "charge-unknown",
            Self::TooHigh { .. } => "too-high",
            Self::TooLow { .. } => "too-low",
            Self::TooMany { .. } => "too-many",
        }
    }
}

/// More than this is no job for such cells.
const MOST_PARALLEL: usize = 60;
const MOST_SERIES: usize = 60;
/// The end of a discharge is met to one of these.
const STEPS: usize = 2000;

/// The smallest battery of a class of cell that keeps the voltage and lasts, by integrating its discharge.
///
/// Series: the full EMF within the largest voltage; of those that do, the one with the fewest cells altogether. EMF and
/// resistance by charge, Ah by the current of a cell as the classes have them.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Range, Seconds, Volts, Watts};
/// let need = size::BatteryNeed {
///     power: Watts::new(5.0),
///     volts: Range::new(Volts::new(9.0), Volts::new(13.0)),
///     time: Seconds::new(4.0 * 3600.0),
///     cell_ah: None,
/// };
/// let pack = size::battery("li-ion-18650", &need).unwrap();
/// assert_eq!((pack.series, pack.parallel), (3, 1));
/// assert!(pack.lasts >= need.time);
/// assert_eq!(size::battery("lifepo4", &need), Err(size::NoBattery::ChargeUnknown));
/// ```
///
/// # Errors
/// Why none of the class does it.
pub fn battery(cell: &str, need: &BatteryNeed) -> Result<BatterySize, NoBattery> {
    let (_, cell) = *Cell::NAMES.iter().find(|(name, _)| *name == cell).ok_or(NoBattery::UnknownCell)?;
    let full = cell.figures().highest_v(false);
    if need.cell_ah.or_else(|| cell.figures().label_ah()).is_none() {
        return Err(NoBattery::ChargeUnknown);
    }
    let most = ((need.volts.high.get() / full + 1e-9).floor() as usize).min(MOST_SERIES);
    if most == 0 {
        return Err(NoBattery::TooHigh { full: Volts::new(full) });
    }
    let mut best: Option<BatterySize> = None;
    for series in (1..=most).rev() {
        for parallel in 1..=MOST_PARALLEL {
            if best.as_ref().is_some_and(|b| b.series * b.parallel <= series * parallel) {
                break;
            }
            if let Some(size) = discharge(cell, series, parallel, need)
                && size.lasts >= need.time
                && size.current <= size.rating
            {
                best = Some(size);
                break;
            }
        }
    }
    best.ok_or_else(|| {
        if discharge(cell, most, MOST_PARALLEL, need).is_none() {
            NoBattery::TooLow { full: Volts::new(full * most as f64) }
        } else {
            NoBattery::TooMany { most: MOST_PARALLEL }
        }
    })
}

/// A pack run down at constant power until its voltage is too low for what it feeds, or it is empty.
fn discharge(cell: Cell, series: usize, parallel: usize, need: &BatteryNeed) -> Option<BatterySize> {
    let figures = cell.figures_of(need.cell_ah);
    let (s, p) = (series as f64, parallel as f64);
    let label = need.cell_ah.or_else(|| figures.label_ah())?;
    // P = V·I, V = E − R·I on its upper branch.
    let at = |charge: f64| -> Option<(f64, f64)> {
        let (emf, ohms) = (
            s * figures.emf_v(charge),
            (figures.ohms(charge, Some(label), Spread::Typical) + figures.links[1]) * s / p + figures.pack_ohms[1],
        );
        let root = emf * emf - 4.0 * ohms * need.power.get();
        if root < 0.0 {
            return None;
        }
        let volts = (emf + root.sqrt()) / 2.0;
        Some((volts, need.power.get() / volts))
    };
    let (mut inverse, mut largest, mut used) = (0.0, 0.0f64, 0.0);
    for k in 0..STEPS {
        let charge = 1.0 - (k as f64 + 0.5) / STEPS as f64;
        let Some((volts, amps)) = at(charge) else { break };
        if volts < need.volts.low.get() {
            break;
        }
        inverse += 1.0 / (amps * STEPS as f64);
        used += 1.0 / STEPS as f64;
        largest = largest.max(amps);
    }
    if used == 0.0 {
        return None;
    }
    // dt = Q·ds/I, with Q at the mean current.
    let mean = used / inverse;
    let hours = figures.charge_ah(Some(label), mean / p)? * p * inverse;
    let rating = match figures.current.0 {
        CellCurrent::Amps(a) => a * p,
        CellCurrent::TimesCharge(times) => times * label * p,
    };
    let empty = 1.0 - used;
    Some(BatterySize {
        series,
        parallel,
        emf: Range::new(Volts::new(s * figures.emf_v(empty)), Volts::new(s * figures.emf_v(1.0))),
        lasts: Seconds::new(hours * 3600.0),
        current: Amps::new(largest),
        rating: Amps::new(rating),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_names_are_those_of_the_table() {
        assert_eq!(Cell::NAMES.map(|(name, _)| name), CELLS);
    }

    /// Without sag and at level voltage the time is Q·V/P: a stiff case by hand.
    #[test]
    fn a_light_load_takes_the_charge_at_the_mean_volts() {
        let need = BatteryNeed {
            power: Watts::new(0.001),
            volts: Range::new(Volts::new(0.5), Volts::new(4.3)),
            time: Seconds::new(0.0),
            cell_ah: Some(2.0),
        };
        let size = discharge(Cell::LiIon18650, 1, 1, &need).unwrap_or_else(|| panic!("no discharge"));
        // ∫EMF ds: trapezoids over the points of the class.
        let mean_emf = 0.25 * ((4.2 + 3.95) / 2.0 + (3.95 + 3.75) / 2.0 + (3.75 + 3.6) / 2.0)
            + 0.15 * (3.6 + 3.45) / 2.0
            + 0.10 * (3.45 + 3.0) / 2.0;
        let expected = 2.0 * mean_emf / 0.001 * 3600.0;
        assert!((size.lasts.get() / expected - 1.0).abs() < 1e-4, "{} {expected}", size.lasts.get());
    }
}
