//! Battery cells: EMF and resistance by charge, what they give continuously, charge by current. Typical of the classes.

/// A kind of cell.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Cell {
    AlkalineAa,
    AlkalineBlock,
    NimhAa,
    LiIon18650,
    LiFePo4,
    LeadAcid,
}

/// The figures of a kind of cell.
#[derive(Clone, Copy, Debug)]
pub(crate) struct CellFigures {
    pub name: &'static str,
    /// V at 100, 75, 50, 25, 10, 0 % of charge.
    emf: [f64; 6],
    /// Ω, full and empty.
    ohms: [f64; 2],
    /// On its charger, V.
    charging_v: Option<f64>,
    pub current: CellCurrent,
    /// Ah at a current in A, from small currents to large; empty where the class has no usual size.
    charge: &'static [(f64, f64)],
    /// V below which deep discharge ruins it.
    pub ruined_below_v: Option<f64>,
}

/// What a cell gives continuously.
#[derive(Clone, Copy, Debug)]
pub(crate) enum CellCurrent {
    Amps(f64),
    /// Amperes per ampere-hour.
    TimesCharge(f64),
}

const CHARGES: [f64; 6] = [1.0, 0.75, 0.5, 0.25, 0.1, 0.0];

/// Holder springs and leads, Ω a cell (typical).
pub(crate) const HOLDER_OHMS: [f64; 3] = [0.03, 0.065, 0.1];

impl Cell {
    pub const NAMES: [(&'static str, Cell); 6] = [
        ("alkaline-aa", Cell::AlkalineAa),
        ("alkaline-9v", Cell::AlkalineBlock),
        ("nimh-aa", Cell::NimhAa),
        ("li-ion-18650", Cell::LiIon18650),
        ("lifepo4", Cell::LiFePo4),
        ("lead-acid-12v", Cell::LeadAcid),
    ];

    pub fn figures(self) -> CellFigures {
        match self {
            Cell::AlkalineAa => CellFigures {
                name: "alkaline AA",
                emf: [1.55, 1.35, 1.25, 1.15, 1.05, 0.9],
                ohms: [0.15, 0.7],
                charging_v: None,
                current: CellCurrent::Amps(1.0),
                charge: &[(0.025, 2.5), (0.5, 1.2), (1.0, 0.7)],
                ruined_below_v: None,
            },
            Cell::AlkalineBlock => CellFigures {
                name: "alkaline 9 V block",
                emf: [9.3, 8.1, 7.5, 6.9, 6.3, 5.4],
                ohms: [2.0, 6.0],
                charging_v: None,
                current: CellCurrent::Amps(0.2),
                charge: &[(0.025, 0.5), (0.2, 0.3)],
                ruined_below_v: None,
            },
            Cell::NimhAa => CellFigures {
                name: "NiMH AA",
                emf: [1.4, 1.28, 1.25, 1.22, 1.15, 1.0],
                ohms: [0.03, 0.06],
                charging_v: None,
                current: CellCurrent::Amps(4.0),
                charge: &[(4.0, 2.0)],
                ruined_below_v: None,
            },
            Cell::LiIon18650 => CellFigures {
                name: "Li-ion 18650",
                emf: [4.2, 3.95, 3.75, 3.6, 3.45, 3.0],
                ohms: [0.05, 0.10],
                charging_v: Some(4.2),
                current: CellCurrent::TimesCharge(2.0),
                charge: &[(5.0, 2.5)],
                // Discharge cut-off of cell sheets: 2.5 V.
                ruined_below_v: Some(2.5),
            },
            Cell::LiFePo4 => CellFigures {
                name: "LiFePO4",
                emf: [3.4, 3.3, 3.28, 3.25, 3.15, 2.5],
                ohms: [0.03, 0.06],
                charging_v: Some(3.65),
                current: CellCurrent::TimesCharge(3.0),
                charge: &[],
                // Of cell sheets: 2.0 V.
                ruined_below_v: Some(2.0),
            },
            Cell::LeadAcid => CellFigures {
                name: "lead-acid 12 V",
                emf: [12.8, 12.5, 12.2, 11.9, 11.6, 10.5],
                ohms: [0.02, 0.05],
                charging_v: Some(14.4),
                current: CellCurrent::TimesCharge(5.0),
                charge: &[],
                // 1.75 V a cell.
                ruined_below_v: Some(10.5),
            },
        }
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

    /// Resistance in Ω at a charge from 0 to 1.
    pub fn ohms(&self, charge: f64) -> f64 {
        let [full, empty] = self.ohms;
        empty + charge.clamp(0.0, 1.0) * (full - empty)
    }

    /// The highest volts it can show: on its charger, if it has one in the plan.
    pub fn highest_v(&self, on_charger: bool) -> f64 {
        let full = self.emf[0];
        self.charging_v.filter(|_| on_charger).map_or(full, |v| v.max(full))
    }

    /// Ah at a mean current in A, log–log between the given currents and level beyond them; `None` where the class has
    /// no usual size.
    pub fn charge_ah(&self, amps: f64) -> Option<f64> {
        let (first, last) = (self.charge.first()?, self.charge.last()?);
        if amps <= first.0 {
            return Some(first.1);
        }
        let pair = self.charge.windows(2).find(|pair| amps <= pair[1].0);
        let Some([(a0, q0), (a1, q1)]) = pair else { return Some(last.1) };
        let share = (amps / a0).ln() / (a1 / a0).ln();
        Some((q0.ln() + share * (q1 / q0).ln()).exp())
    }

    /// What of its label a cell gives at a mean current in A.
    pub fn charge_share(&self, amps: f64) -> f64 {
        match (self.charge_ah(amps), self.label_ah()) {
            (Some(now), Some(label)) => now / label,
            _ => 1.0,
        }
    }

    /// The charge written on it.
    pub fn label_ah(&self) -> Option<f64> {
        self.charge.first().map(|(_, ah)| *ah)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn points_are_met_and_between_them_it_is_linear() {
        let cell = Cell::AlkalineAa.figures();
        assert_eq!([1.0, 0.75, 0.5, 0.25, 0.1, 0.0].map(|c| cell.emf_v(c)), cell.emf);
        // Half way from 1.25 V to 1.15 V; a third of the way from 1.15 V to 1.05 V.
        assert!((cell.emf_v(0.375) - 1.20).abs() < 1e-12);
        assert!((cell.emf_v(0.20) - (1.15 - 0.1 / 3.0)).abs() < 1e-12);
        assert!((cell.ohms(0.5) - 0.425).abs() < 1e-12);
        assert_eq!((cell.emf_v(2.0), cell.emf_v(-1.0)), (1.55, 0.9));
    }

    #[test]
    fn charge_falls_log_log_with_the_current() {
        let cell = Cell::AlkalineAa.figures();
        for (amps, ah) in [(0.001, 2.5), (0.025, 2.5), (0.5, 1.2), (1.0, 0.7), (9.0, 0.7)] {
            assert!((cell.charge_ah(amps).unwrap_or(0.0) - ah).abs() < 1e-12, "{amps} A");
        }
        // √(0.025·0.5) A lies half way on the log scale: √(2.5·1.2) Ah.
        let middle = cell.charge_ah((0.025f64 * 0.5).sqrt()).unwrap_or(0.0);
        assert!((middle - 3.0f64.sqrt()).abs() < 1e-12, "{middle}");
        assert_eq!(Cell::LiFePo4.figures().charge_ah(1.0), None);
    }
}
