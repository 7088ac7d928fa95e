//! A quantity of a solved state that can be bad by being too large or too small.

use modest_ohm_solve::network::Law;
use modest_ohm_solve::solve::Measure;

use super::outcome::{Outcome, Snapshot, Solved};
use crate::network::layout::{Layout, Terminals};

/// Which of an outcome's three solutions a quantity is read from.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Which {
    /// What flows continuously, limits lifted.
    Sustained,
    /// The demand, limits lifted.
    Wanted,
    /// What flows, limits in force.
    Actual,
}

impl Which {
    pub fn of(self, outcome: &Outcome) -> &Solved {
        match self {
            Which::Sustained => &outcome.sustained,
            Which::Wanted => &outcome.wanted,
            Which::Actual => &outcome.actual,
        }
    }
}

/// What is looked at.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Quantity {
    /// The current of a branch, in its own direction.
    Current(usize),
    /// The voltage across a pair of terminals.
    Voltage(Terminals),
    /// The power that a branch turns into heat.
    Heat(usize),
    /// The voltage of a strip's lowest pixel.
    LowestPixel(usize),
}

/// A quantity, and which way it is bad.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Aim {
    pub what: Quantity,
    pub which: Which,
    /// True where large is bad, false where small is.
    pub largest: bool,
}

impl Aim {
    fn sign(&self) -> f64 {
        if self.largest { 1.0 } else { -1.0 }
    }

    /// The base unit of the quantity.
    pub fn unit(&self) -> &'static str {
        match self.what {
            Quantity::Current(_) => "A",
            Quantity::Voltage(_) | Quantity::LowestPixel(_) => "V",
            Quantity::Heat(_) => "W",
        }
    }

    /// How bad it is in a state: the larger the worse. `None` where the state does not have it.
    pub fn badness(&self, s: &Snapshot) -> Option<f64> {
        let value = match self.what {
            Quantity::Current(branch) => s.alive(branch).then(|| s.amps(branch))?,
            Quantity::Voltage(at) => s.volts(at)?,
            Quantity::Heat(branch) => s.alive(branch).then(|| s.amps(branch) * s.drop_of(branch))?,
            Quantity::LowestPixel(strip) => {
                let strip = &s.solution.strips[strip];
                strip.alive.then_some(strip.lowest.0)?
            }
        };
        Some(self.sign() * value)
    }

    /// The derivative of its badness by what has been solved, at a state.
    pub fn measure(&self, s: &Snapshot) -> Option<Measure> {
        let sign = self.sign();
        Some(match self.what {
            Quantity::Current(branch) => Measure::default().plus_current(branch, sign),
            Quantity::Voltage(at) => Measure::default().plus_voltage(at.plus, at.minus, sign),
            Quantity::Heat(branch) => {
                let b = &s.net.branches[branch];
                Measure::default().plus_current(branch, sign * s.drop_of(branch)).plus_voltage(
                    b.from,
                    b.to,
                    sign * s.amps(branch),
                )
            }
            Quantity::LowestPixel(strip) => {
                let pixel = s.solution.strips[strip].lowest.1;
                let net = &s.net.strips[strip];
                match &net.fan {
                    Some(fan) => {
                        let plus = *fan.plus.get(pixel)?;
                        let volts = |minus: &usize| s.solution.across(plus, *minus);
                        let minus = fan
                            .minus
                            .iter()
                            .filter_map(|m| m.get(pixel))
                            .min_by(|a, b| volts(a).total_cmp(&volts(b)))?;
                        Measure::default().plus_voltage(plus, *minus, sign)
                    }
                    None => {
                        let section = net.sections.iter().rfind(|q| q.first_pixel <= pixel)?;
                        let mut measure = Measure::pixel(section.ladder, pixel - section.first_pixel);
                        measure.pixels.iter_mut().for_each(|(.., weight)| *weight *= sign);
                        measure
                    }
                }
            }
        })
    }
}

impl Snapshot {
    /// Voltage from `from` to `to` of a branch, V.
    fn drop_of(&self, branch: usize) -> f64 {
        let b = &self.net.branches[branch];
        self.solution.across(b.from, b.to)
    }
}

/// Everything that is judged by voltage, current or heat, wherever it is in the plan.
pub(crate) fn aims(layout: &Layout, s: &Snapshot) -> Vec<Aim> {
    let mut aims = Vec::new();
    let regulators = layout.boards.iter().filter_map(|b| b.regulator);
    let sources = layout.supplies.iter().copied().chain(layout.converters.iter().map(|c| c.output)).chain(regulators);
    for branch in sources {
        for which in [Which::Sustained, Which::Wanted] {
            aims.push(Aim { what: Quantity::Current(branch), which, largest: true });
        }
        if matches!(s.net.branches[branch].law, Law::Regulator { .. }) {
            aims.push(Aim { what: Quantity::Heat(branch), which: Which::Sustained, largest: true });
        }
    }
    let elements = layout.elements.iter().flatten().copied().chain(layout.links.iter().copied());
    let cables = layout.conductors.iter().map(|c| c.feed.unwrap_or(c.back));
    for branch in elements.chain(cables) {
        for which in [Which::Sustained, Which::Wanted] {
            aims.push(Aim { what: Quantity::Current(branch), which, largest: true });
        }
    }
    let loads = layout.loads.iter().flatten().map(|l| l.at);
    let boards = layout.boards.iter().map(|b| b.main);
    let others = layout.shifters.iter().map(|l| l.at).chain(layout.converters.iter().map(|c| c.input));
    for at in loads.chain(boards).chain(others).chain(layout.nodes.iter().copied()) {
        for largest in [false, true] {
            aims.push(Aim { what: Quantity::Voltage(at), which: Which::Actual, largest });
        }
    }
    for strip in 0..s.net.strips.len() {
        aims.push(Aim { what: Quantity::LowestPixel(strip), which: Which::Actual, largest: false });
    }
    let mut unique: Vec<Aim> = Vec::with_capacity(aims.len());
    for aim in aims {
        if !unique.contains(&aim) {
            unique.push(aim);
        }
    }
    unique
}
