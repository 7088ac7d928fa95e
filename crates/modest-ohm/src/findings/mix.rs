//! A combination of tolerances that none of the four corners has.

use crate::plan::model::Plan;
use crate::quantity::figures::End;

/// Where the figures are in which a finding is worst, where that is worse than in every named corner: as in the finding's
/// corner, but for these.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Mix {
    /// Figures at the other end than in the corner, and those that decide as well, the most important first.
    pub figures: Vec<MixedFigure>,
}

/// A figure of a [`Mix`].
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct MixedFigure {
    /// The item of the plan; of several with one cause the first.
    pub item: String,
    /// The key that leads to it.
    pub key: String,
    /// Its value in the base unit.
    pub value: f64,
    /// The base unit.
    pub unit: &'static str,
    /// True where it is at the other end than in the corner.
    pub differs: bool,
    /// True where the result depends mostly on it.
    pub decides: bool,
    pub(crate) end: End,
}

impl Mix {
    /// The plan with the figures that differ from the corner held where they are.
    pub(crate) fn held(&self, plan: &Plan) -> Plan {
        let mut held = plan.clone();
        for movable in plan.movables() {
            let own = |m: &&MixedFigure| m.differs && m.item == movable.item && m.key == movable.key;
            if let Some(figure) = self.figures.iter().find(own) {
                held.hold(&movable, figure.end);
            }
        }
        held
    }

    /// `east` at 5.78 V while `west` is at 5.23 V.
    #[must_use]
    pub fn words(&self) -> String {
        let deciding: Vec<&MixedFigure> = self.figures.iter().filter(|f| f.decides).collect();
        let value = |f: &MixedFigure| crate::quantity::format::engineering_of(f.value, f.unit);
        let name = |f: &MixedFigure| match f.key.as_str() {
            // What a supply or a converter is known by; a board has other voltages than its regulator's.
            "voltage" | "output" => format!("`{}`", f.item),
            key => format!("`{key}` of `{}`", f.item),
        };
        let (other, same): (Vec<_>, Vec<_>) = deciding.into_iter().partition(|f| f.differs);
        let list = |figures: &[&MixedFigure], verb: &str| {
            let each: Vec<String> = figures.iter().map(|f| format!("{} {verb}at {}", name(f), value(f))).collect();
            each.join(" and ")
        };
        match (same.is_empty(), other.is_empty()) {
            (true, _) => list(&other, ""),
            (false, true) => list(&same, ""),
            (false, false) => format!("{} while {}", list(&same, ""), list(&other, "is ")),
        }
    }
}
