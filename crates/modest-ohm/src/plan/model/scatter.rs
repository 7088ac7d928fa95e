//! Builds of a plan: each figure takes one value out of its spread.
//!
//! How values lie within a spread is known of few figures, so these are assumptions, and every output says so:
//!
//! - a tolerance of the plan (`12 V ± 5 %`), and a bare number to which a tolerance belongs: normal around the nominal
//!   value, the ends being two standard deviations away, and cut there (makers sort out what is outside);
//! - a range of the plan (`9 V .. 14 V`), and what is assumed of a generic part: evenly on each side of the typical
//!   value, which half of the builds exceed;
//! - efficiency and the resistance of contacts: evenly from the typical value to the worse end, since few are better
//!   than their datasheet says, and contacts age;
//! - what a part goes through, such as a battery's voltage: none. It stays in its corner.

use statrs::function::erf::erf_inv;

use super::Plan;
use super::movable::{Movable, belongs};
use crate::quantity::figure::Origin;
use crate::quantity::figures::{AnyFigure, End};
use crate::source::Source;

/// How values lie within a spread.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Spread {
    Normal,
    Even,
    /// From the typical value to one end.
    Towards(End),
}

/// The share of a normal distribution within two standard deviations: `erf(2 / √2)`.
const WITHIN_TWO_SIGMA: f64 = 0.954_499_736_103_642;

impl Spread {
    fn of(source: &Source, key: &str, origin: &Origin) -> Self {
        match (key, origin) {
            ("efficiency", _) => Self::Towards(End::Low),
            ("cable.connectors.resistance" | "holder", _) => Self::Towards(End::High),
            (_, Origin::Plan(span)) if !source.slice(*span).contains("..") => Self::Normal,
            _ => Self::Even,
        }
    }

    /// The value that a share of all builds stays below.
    pub fn value(self, [low, typical, high]: [f64; 3], share: f64) -> f64 {
        let between = |from: f64, to: f64, share: f64| from + share * (to - from);
        // Where the typical value is an end, half of the builds would be at it.
        let one_sided = typical <= low || typical >= high;
        match self {
            Self::Normal if !one_sided => {
                let sigmas = std::f64::consts::SQRT_2 * erf_inv((2.0 * share - 1.0) * WITHIN_TWO_SIGMA);
                let far = if sigmas < 0.0 { typical - low } else { high - typical };
                typical + sigmas / 2.0 * far
            }
            Self::Towards(End::Low) if typical > low => between(low, typical, share),
            Self::Towards(End::High) if typical < high => between(typical, high, share),
            Self::Even if !one_sided && share < 0.5 => between(low, typical, 2.0 * share),
            Self::Even if !one_sided => between(typical, high, 2.0 * share - 1.0),
            _ => between(low, high, share),
        }
    }
}

/// Where the figures of a plan are that differ between builds.
#[derive(Clone, Debug)]
pub(crate) struct Scatter {
    /// Per figure, in the order in which the plan shows them: its movable, and how it spreads.
    figures: Vec<Option<(usize, Spread)>>,
}

impl Scatter {
    /// `vary` says of which movables the values differ.
    pub fn of(plan: &Plan, movables: &[Movable], vary: impl Fn(&Movable) -> bool) -> Self {
        let belongs = belongs(movables);
        let mut figures = Vec::new();
        plan.clone().each_figure(&mut |seen, figure| {
            let own = belongs.get(&seen.place).copied().filter(|m| vary(&movables[*m]));
            let spread = |m| (m, Spread::of(&plan.source, &seen.at.to_string(), figure.origin()));
            figures.push(own.map(spread));
        });
        Self { figures }
    }

    /// One build: per movable the share of all builds that are below it.
    pub fn build(&self, plan: &Plan, shares: &[f64]) -> Plan {
        let mut one = plan.clone();
        let mut figures = self.figures.iter();
        one.each_figure(&mut |_, figure: &mut dyn AnyFigure| {
            if let Some(Some((m, spread))) = figures.next() {
                figure.set_values([spread.value(figure.values(), shares[*m]); 3]);
            }
        });
        one
    }

    /// The value of a movable's first figure at a share, in the base unit.
    pub fn value(&self, plan: &Plan, movable: usize, share: f64) -> Option<f64> {
        let mut figures = self.figures.iter();
        let mut value = None;
        plan.clone().each_figure(&mut |_, figure: &mut dyn AnyFigure| {
            if let Some(Some((m, spread))) = figures.next()
                && *m == movable
            {
                value.get_or_insert(spread.value(figure.values(), share));
            }
        });
        value
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Means and quantiles from tables of the distributions.
    #[test]
    fn values_lie_as_their_spread_says() {
        let figure = [9.0, 10.0, 12.0];
        // Φ⁻¹(0.02275 + 0.9545 · 0.25) = −0.6391: a quarter of what is left after the cut is below.
        assert!((Spread::Normal.value(figure, 0.25) - (10.0 - 0.6391 / 2.0)).abs() < 1e-3);
        assert!((Spread::Normal.value(figure, 0.75) - (10.0 + 0.6391)).abs() < 1e-3);
        assert!((Spread::Normal.value(figure, 1e-12) - 9.0).abs() < 1e-6);
        assert_eq!(Spread::Even.value(figure, 0.25), 9.5);
        assert_eq!(Spread::Even.value(figure, 0.75), 11.0);
        assert_eq!(Spread::Towards(End::Low).value(figure, 0.5), 9.5);
        assert_eq!(Spread::Towards(End::High).value(figure, 0.5), 11.0);
        // A rating from which values go one way only.
        assert_eq!(Spread::Even.value([5.0, 5.0, 7.0], 0.5), 6.0);
        assert_eq!(Spread::Normal.value([5.0, 5.0, 7.0], 0.25), 5.5);
        assert_eq!(Spread::Towards(End::Low).value([5.0, 5.0, 7.0], 0.25), 5.5);
    }

    #[test]
    fn a_build_holds_each_figure_once_and_leaves_states_alone() {
        let text = "format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V ± 5 %\"\ncurrent = \"2 A\"\n\
            [load.lamp]\nfrom = \"wall\"\ncable = \"1 m 20 AWG\"\nvoltage = \"12 V\"\ncurrent = \"0.5 A .. 1 A\"\n";
        let plan = Plan::from_toml(text).unwrap();
        let movables = plan.movables();
        let scatter = Scatter::of(&plan, &movables, |_| true);
        let place = |key: &str| movables.iter().position(|m| m.key == key).unwrap();
        let mut shares = vec![0.5; movables.len()];
        shares[place("current")] = 0.25;
        let one = scatter.build(&plan, &shares);
        assert!(one.movables().is_empty(), "{:?}", one.movables());
        assert!((scatter.value(&plan, place("voltage"), 0.5).unwrap() - 12.0).abs() < 1e-12);
        assert!((scatter.value(&plan, place("current"), 0.25).unwrap() - 0.625).abs() < 1e-12);
        assert_eq!(Scatter::of(&plan, &movables, |m| m.key != "current").build(&plan, &shares).movables().len(), 1);
    }
}
