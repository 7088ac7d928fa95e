//! Battery cells: EMF and resistance by charge, what they give continuously, charge by current. Typical of the classes.

use super::cell_rate::{LEAD_RATE, LFP_RATE, LITHIUM_RATE, NIMH_RATE, Rate, log_linear, log_log};

/// A kind of cell.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Cell {
    AlkalineAa,
    AlkalineBlock,
    NimhAa,
    /// Made for charge: 18650 of 2.5 .. 3.5 Ah, 21700 of 5 Ah.
    LiIon18650,
    LiIon21700,
    /// Made for current: 18650 of 2 .. 3 Ah.
    LiIonPower,
    /// Flat pack of models, without a board.
    LiPoRc,
    /// Flat single cell with its board.
    LiPoFlat,
    LiFePo4,
    /// Sealed block for standby.
    LeadAcid,
    LeadStarter,
}

/// The figures of a kind of cell.
#[derive(Clone, Copy, Debug)]
pub(crate) struct CellFigures {
    pub name: &'static str,
    /// V at 100, 75, 50, 25, 10, 0 % of charge.
    emf: [f64; 6],
    resistance: CellOhms,
    /// Links from cell to cell, or the springs of a holder where it usually has one, Ω a cell: least, typical, most.
    pub links: [f64; 3],
    /// Leads and protection board, Ω a pack.
    pub pack_ohms: [f64; 3],
    /// On its charger, V.
    charging_v: Option<f64>,
    /// Up to the first it gives continuously; above the second it is damaged.
    pub current: (CellCurrent, CellCurrent),
    /// Ah where no capacity is given.
    usual_ah: Option<f64>,
    /// True where a capacity has to be stated before a discharge is worked out.
    asks_capacity: bool,
    rate: Rate,
    /// V below which deep discharge ruins it.
    pub ruined_below_v: Option<f64>,
    /// The resistance of the first milliseconds, which a short meets, against that of a lasting current.
    short_share: f64,
}

/// The resistance of a cell.
#[derive(Clone, Copy, Debug)]
enum CellOhms {
    /// Ω full and empty, whatever its size.
    Fixed([f64; 2]),
    /// Ω·Ah at half charge, least, typical and most: a cell of twice the size has half of it. Then the factor when
    /// empty.
    PerAh([f64; 3], f64),
    /// A block of lead: 22 mΩ·(7 Ah/C)^0.6 at half charge, × 0.75 .. 1.5, times a share.
    Lead(f64),
}

/// What a cell gives continuously.
#[derive(Clone, Copy, Debug)]
pub(crate) enum CellCurrent {
    Amps(f64),
    /// Amperes per ampere-hour.
    TimesCharge(f64),
}

const CHARGES: [f64; 6] = [1.0, 0.75, 0.5, 0.25, 0.1, 0.0];

/// Springs of a holder for round cells, Ω a cell (typical): AA, AAA; a single 18650.
pub(crate) const HOLDER_OHMS: [f64; 3] = [0.03, 0.065, 0.1];
pub(crate) const HOLDER_18650_OHMS: [f64; 3] = [0.015, 0.03, 0.06];
/// Welded from cell to cell.
const WELDED_OHMS: [f64; 3] = [0.0005, 0.001, 0.002];
const NO_OHMS: [f64; 3] = [0.0; 3];

/// A full LiFePO4 cell against a half full one; lithium and NiMH have 10 % less when full.
const FULL: f64 = 0.9;

const LITHIUM_EMF: [f64; 6] = [4.2, 3.95, 3.75, 3.6, 3.45, 3.0];
const LEAD_EMF: [f64; 6] = [12.8, 12.5, 12.2, 11.9, 11.6, 10.5];

/// From here on LiFePO4 cells are made for charge, Ah (typical).
const LARGE_LFP_AH: f64 = 20.0;

/// Which end of a spread.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Spread {
    Least,
    Typical,
    Most,
}

impl Spread {
    pub fn of<T: Copy>(self, [least, typical, most]: [T; 3]) -> T {
        match self {
            Spread::Least => least,
            Spread::Typical => typical,
            Spread::Most => most,
        }
    }
}

impl Cell {
    pub const NAMES: [(&'static str, Cell); 11] = [
        ("alkaline-aa", Cell::AlkalineAa),
        ("alkaline-9v", Cell::AlkalineBlock),
        ("nimh-aa", Cell::NimhAa),
        ("li-ion-18650", Cell::LiIon18650),
        ("li-ion-21700", Cell::LiIon21700),
        ("li-ion-power", Cell::LiIonPower),
        ("li-po-rc", Cell::LiPoRc),
        ("li-po-flat", Cell::LiPoFlat),
        ("lifepo4", Cell::LiFePo4),
        ("lead-acid-12v", Cell::LeadAcid),
        ("lead-starter-12v", Cell::LeadStarter),
    ];

    /// The figures of a cell of a size in Ah; without one those of the usual size.
    pub fn figures_of(self, cell_ah: Option<f64>) -> CellFigures {
        match self {
            Cell::AlkalineAa | Cell::AlkalineBlock => self.primary(),
            Cell::NimhAa => self.nimh(),
            Cell::LiIon18650 | Cell::LiIon21700 | Cell::LiIonPower | Cell::LiPoRc | Cell::LiPoFlat => self.lithium(),
            Cell::LiFePo4 => lifepo4(cell_ah),
            Cell::LeadAcid | Cell::LeadStarter => self.lead(),
        }
    }

    /// The figures of a cell of the usual size.
    pub fn figures(self) -> CellFigures {
        self.figures_of(None)
    }

    fn primary(self) -> CellFigures {
        let is_block = self == Cell::AlkalineBlock;
        let amps = CellCurrent::Amps(if is_block { 0.2 } else { 1.0 });
        CellFigures {
            name: if is_block { "alkaline 9 V block" } else { "alkaline AA" },
            emf: if is_block { [9.3, 8.1, 7.5, 6.9, 6.3, 5.4] } else { [1.55, 1.35, 1.25, 1.15, 1.05, 0.9] },
            resistance: CellOhms::Fixed(if is_block { [2.0, 6.0] } else { [0.15, 0.7] }),
            links: HOLDER_OHMS,
            pack_ohms: NO_OHMS,
            charging_v: None,
            current: (amps, amps),
            usual_ah: None,
            asks_capacity: false,
            rate: Rate::Amps(if is_block {
                &[(0.025, 0.5), (0.2, 0.3)]
            } else {
                &[(0.025, 2.5), (0.5, 1.2), (1.0, 0.7)]
            }),
            ruined_below_v: None,
            short_share: 1.0,
        }
    }

    fn nimh(self) -> CellFigures {
        CellFigures {
            name: "NiMH AA",
            emf: [1.4, 1.28, 1.25, 1.22, 1.15, 1.0],
            resistance: CellOhms::PerAh([0.045, 0.06, 0.10], 2.0),
            links: HOLDER_OHMS,
            pack_ohms: NO_OHMS,
            charging_v: None,
            current: (CellCurrent::TimesCharge(2.0), CellCurrent::TimesCharge(10.0)),
            usual_ah: Some(2.0),
            asks_capacity: false,
            rate: NIMH_RATE,
            ruined_below_v: None,
            short_share: 0.6,
        }
    }

    fn lithium(self) -> CellFigures {
        let times = |pass, damage| (CellCurrent::TimesCharge(pass), CellCurrent::TimesCharge(damage));
        let (name, per_ah, links, pack_ohms, current, usual_ah) = match self {
            Cell::LiIonPower => {
                ("Li-ion 18650 for power", [0.04, 0.055, 0.08], WELDED_OHMS, NO_OHMS, times(8.0, 12.0), Some(2.5))
            }
            Cell::LiPoRc => {
                let leads = [0.002, 0.0035, 0.005];
                ("LiPo of models", [0.010, 0.016, 0.025], NO_OHMS, leads, times(10.0, 15.0), None)
            }
            Cell::LiPoFlat => {
                let board = [0.05, 0.075, 0.1];
                ("LiPo flat cell with its board", [0.08, 0.12, 0.20], NO_OHMS, board, times(1.0, 2.0), Some(1.0))
            }
            Cell::LiIon21700 => ("Li-ion 21700", [0.10, 0.13, 0.18], WELDED_OHMS, NO_OHMS, times(2.0, 4.0), Some(5.0)),
            _ => ("Li-ion 18650", [0.10, 0.13, 0.18], WELDED_OHMS, NO_OHMS, times(2.0, 4.0), Some(2.5)),
        };
        CellFigures {
            name,
            emf: LITHIUM_EMF,
            resistance: CellOhms::PerAh(per_ah, 2.0),
            links,
            pack_ohms,
            charging_v: Some(4.2),
            current,
            usual_ah: usual_ah.or(Some(2.2)),
            asks_capacity: usual_ah.is_none(),
            rate: LITHIUM_RATE,
            // Discharge cut-off of cell sheets: 2.5 V.
            ruined_below_v: Some(2.5),
            short_share: 0.6,
        }
    }

    fn lead(self) -> CellFigures {
        let is_starter = self == Cell::LeadStarter;
        let times = |pass, damage| (CellCurrent::TimesCharge(pass), CellCurrent::TimesCharge(damage));
        CellFigures {
            name: if is_starter { "lead-acid starter 12 V" } else { "lead-acid 12 V" },
            emf: LEAD_EMF,
            resistance: CellOhms::Lead(if is_starter { 0.6 } else { 1.0 }),
            links: NO_OHMS,
            pack_ohms: NO_OHMS,
            charging_v: Some(14.4),
            current: if is_starter { times(1.0, 10.0) } else { times(3.0, 7.0) },
            usual_ah: Some(if is_starter { 60.0 } else { 7.0 }),
            asks_capacity: true,
            rate: LEAD_RATE,
            // 1.75 V a cell.
            ruined_below_v: Some(10.5),
            short_share: 0.8,
        }
    }
}

/// LiFePO4: large cells are made for charge and bolted, small ones for current and welded.
fn lifepo4(cell_ah: Option<f64>) -> CellFigures {
    let is_large = cell_ah.is_some_and(|ah| ah >= LARGE_LFP_AH);
    let times = |pass, damage| (CellCurrent::TimesCharge(pass), CellCurrent::TimesCharge(damage));
    CellFigures {
        name: "LiFePO4",
        emf: [3.4, 3.3, 3.28, 3.25, 3.15, 2.5],
        resistance: CellOhms::PerAh(if is_large { [0.025, 0.045, 0.08] } else { [0.04, 0.06, 0.09] }, 1.5),
        links: if is_large { [0.0001, 0.0002, 0.0004] } else { WELDED_OHMS },
        pack_ohms: if is_large { [0.001, 0.0025, 0.004] } else { NO_OHMS },
        charging_v: Some(3.65),
        current: if is_large { times(1.0, 3.0) } else { times(3.0, 5.0) },
        usual_ah: Some(6.0),
        asks_capacity: true,
        rate: LFP_RATE,
        // Of cell sheets: 2.0 V.
        ruined_below_v: Some(2.0),
        short_share: 0.6,
    }
}

/// Below this the figures of the classes do not go, °C.
pub(crate) const COLDEST_C: f64 = -10.0;

impl Cell {
    /// The resistance in air at a temperature in °C against that at 25 °C: at 0 °C twice as much, of lead 1.4 times
    /// (typical); between and beyond by the same factor a kelvin (Arrhenius over a small range). Warm cells are not
    /// taken to be better than at 25 °C; below the coldest figures the last one stands.
    pub fn cold_factor(self, air_c: f64) -> f64 {
        let at_freezing: f64 = if matches!(self, Cell::LeadAcid | Cell::LeadStarter) { 1.4 } else { 2.0 };
        at_freezing.powf((25.0 - air_c.clamp(COLDEST_C, 25.0)) / 25.0)
    }
}

impl CellFigures {
    /// EMF in V at a charge from 0 to 1, linear between the points.
    pub fn emf_v(&self, charge: f64) -> f64 {
        let charge = charge.clamp(0.0, 1.0);
        let next = CHARGES.iter().position(|c| *c <= charge).unwrap_or(CHARGES.len() - 1).max(1);
        let (c0, c1) = (CHARGES[next - 1], CHARGES[next]);
        let share = (charge - c1) / (c0 - c1);
        self.emf[next] + share * (self.emf[next - 1] - self.emf[next])
    }

    /// Resistance in Ω at a charge from 0 to 1, of a cell of a size in Ah.
    pub fn ohms(&self, charge: f64, cell_ah: Option<f64>, spread: Spread) -> f64 {
        let charge = charge.clamp(0.0, 1.0);
        let ah = cell_ah.or(self.usual_ah).unwrap_or(1.0);
        let (half, empty) = match self.resistance {
            CellOhms::Fixed([full, empty]) => return empty + charge * (full - empty),
            CellOhms::PerAh(per_ah, empty) => (spread.of(per_ah) / ah, empty),
            CellOhms::Lead(share) => (share * spread.of([0.75, 1.0, 1.5]) * 0.022 * (7.0 / ah).powf(0.6), 1.8),
        };
        // Full × 0.9, half × 1, empty × 1.5 .. 2; linear between.
        half * if charge >= 0.5 {
            1.0 + (FULL - 1.0) * (charge - 0.5) / 0.5
        } else {
            empty + (1.0 - empty) * charge / 0.5
        }
    }

    /// What a short meets of its typical resistance, before polarisation sets in.
    pub fn short_share(&self) -> f64 {
        self.short_share
    }

    /// The highest voltage it can show: on its charger, if it has one in the plan.
    pub fn highest_v(&self, on_charger: bool) -> f64 {
        let full = self.emf[0];
        self.charging_v.filter(|_| on_charger).map_or(full, |v| v.max(full))
    }

    /// Ah of a cell at a mean current in A; `None` where the class has no usual size and none is given.
    pub fn charge_ah(&self, cell_ah: Option<f64>, amps: f64) -> Option<f64> {
        match self.rate {
            Rate::Amps(points) => {
                let given = log_log(points, amps);
                // A label counts at a small current; it falls with the current as the class's charge does.
                Some(cell_ah.map_or(given, |label| label * given / points[0].1))
            }
            Rate::Share(points) => {
                let label = cell_ah.or(self.usual_ah.filter(|_| !self.asks_capacity))?;
                Some(label * log_linear(points, amps / label))
            }
        }
    }

    /// The charge written on it where a plan gives none.
    pub fn label_ah(&self) -> Option<f64> {
        match self.rate {
            Rate::Amps(points) => points.first().map(|(_, ah)| *ah),
            Rate::Share(_) => self.usual_ah.filter(|_| !self.asks_capacity),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn close(got: f64, want: f64) {
        assert!((got - want).abs() <= 1e-9 * want.abs().max(1.0), "{got} against {want}");
    }

    #[test]
    fn points_are_met_and_between_them_it_is_linear() {
        let cell = Cell::AlkalineAa.figures();
        assert_eq!([1.0, 0.75, 0.5, 0.25, 0.1, 0.0].map(|c| cell.emf_v(c)), cell.emf);
        // Half way from 1.25 V to 1.15 V; a third of the way from 1.15 V to 1.05 V.
        close(cell.emf_v(0.375), 1.20);
        close(cell.emf_v(0.20), 1.15 - 0.1 / 3.0);
        close(cell.ohms(0.5, None, Spread::Typical), 0.425);
        assert_eq!((cell.emf_v(2.0), cell.emf_v(-1.0)), (1.55, 0.9));
    }

    /// Small and large packs by hand: 100 Ah LiFePO4 0.45 mΩ a cell, 7 Ah and 100 Ah of lead, 2.5 Ah 18650.
    #[test]
    fn resistance_falls_with_size() {
        let of = |cell: Cell, ah: f64, charge| cell.figures_of(Some(ah)).ohms(charge, Some(ah), Spread::Typical);
        close(of(Cell::LiFePo4, 100.0, 0.5), 0.00045);
        close(of(Cell::LiFePo4, 10.0, 0.0), 1.5 * 0.006);
        close(of(Cell::LeadAcid, 7.0, 0.5), 0.022);
        close(of(Cell::LeadAcid, 100.0, 0.5), 0.022 * 0.07f64.powf(0.6));
        close(of(Cell::LiIon18650, 2.5, 1.0), 0.9 * 0.052);
        close(of(Cell::LiIon18650, 2.5, 0.25), 1.5 * 0.052);
    }

    /// 0 °C is given; 12.5 °C lies half way on a logarithmic scale; −10 °C is 35 K away.
    #[test]
    fn resistance_rises_in_the_cold() {
        close(Cell::LiIon18650.cold_factor(0.0), 2.0);
        close(Cell::LiFePo4.cold_factor(12.5), 2.0f64.sqrt());
        close(Cell::LeadAcid.cold_factor(0.0), 1.4);
        close(Cell::LeadStarter.cold_factor(-10.0), 1.4f64.powf(1.4));
        for cell in Cell::NAMES.map(|(_, cell)| cell) {
            close(cell.cold_factor(25.0), 1.0);
            close(cell.cold_factor(60.0), 1.0);
            close(cell.cold_factor(-40.0), cell.cold_factor(-10.0));
        }
    }

    #[test]
    fn charge_falls_with_the_current() {
        let cell = Cell::AlkalineAa.figures();
        for (amps, ah) in [(0.001, 2.5), (0.025, 2.5), (0.5, 1.2), (1.0, 0.7), (9.0, 0.7)] {
            close(cell.charge_ah(None, amps).unwrap_or(0.0), ah);
        }
        // √(0.025·0.5) A lies half way on the log scale: √(2.5·1.2) Ah.
        close(cell.charge_ah(None, (0.025f64 * 0.5).sqrt()).unwrap_or(0.0), 3.0f64.sqrt());
        let lead = Cell::LeadAcid.figures_of(Some(7.0));
        // 0.5 C gives 67 % of the label; half way between 0.5 C and 1 C on the log scale 61 %.
        close(lead.charge_ah(Some(7.0), 3.5).unwrap_or(0.0), 4.69);
        close(lead.charge_ah(Some(7.0), 7.0 * 0.5f64.sqrt()).unwrap_or(0.0), 4.27);
        assert_eq!(lead.charge_ah(None, 1.0), None);
    }
}
