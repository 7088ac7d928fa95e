//! What builds say of a finding, in words.

use super::judged::{Likely, Part, Share, VerdictOdds};
use crate::findings::draft::sentence;
use crate::quantity::format::engineering_of;

impl VerdictOdds {
    /// `works in 95 of 100 builds (93 to 97)`; a range where that says more of what is assumed than of what is built.
    #[must_use]
    pub fn words(&self) -> String {
        if self.endangers {
            return "a danger in the worst builds; no share is given".into();
        }
        let differs = match &self.range {
            Some((worst, best)) if self.assumed && worst.percent() < best.percent() => {
                let builds = match (worst.percent(), best.percent()) {
                    (0, 100) => "all builds or in none".to_owned(),
                    (worst, best) => format!("{worst} to {best} of 100 builds"),
                };
                format!("{} in {builds}, depending on assumed values", self.verb())
            }
            _ if self.of_margin && self.clear == self.works => format!("works with margin in {}", self.works.words()),
            _ if self.of_margin => format!("{} in {}", self.verb(), self.clear.words()),
            _ => format!("{} in {}", self.verb(), self.works.words()),
        };
        if self.of_margin && self.clear.count == 0 {
            format!("works in {}; has its margin in none", self.works.words())
        } else if self.of_margin && self.clear != self.works {
            format!("works in {}; {differs}", self.works.words())
        } else if self.clear != self.works {
            let margin = if self.clear.count == 0 { "none".to_owned() } else { self.clear.words() };
            format!("{differs}; has its margin in {margin}")
        } else {
            differs
        }
    }

    fn verb(&self) -> &'static str {
        if self.of_margin && self.clear != self.works { "has its margin" } else { "works" }
    }

    /// `decided by `copper` of `dial` (59 %, assumed)`; `None` where no figure decides it.
    #[must_use]
    pub fn decided_words(&self) -> Option<String> {
        let name = |p: &Part| {
            let share = self.adds_up.then(|| format!("{:.0} %", 100.0 * p.share));
            let assumed = p.assumed.then(|| "assumed".to_owned());
            let notes: Vec<String> = share.into_iter().chain(assumed).collect();
            let notes = if notes.is_empty() { String::new() } else { format!(" ({})", notes.join(", ")) };
            format!("`{}` of `{}`{notes}", p.key, p.item)
        };
        let parts: Vec<String> = self.parts.iter().map(name).collect();
        let together = if parts.len() > 1 && !self.adds_up { "together " } else { "" };
        (!parts.is_empty()).then(|| format!("decided {together}by {}", parts.join(", ")))
    }

    /// What a measurement of the figure that decides most is worth: `Measure …: at 0.1 Ω/m it works in all builds, at
    /// 0.16 Ω/m in 73 of 100`; `None` where it changes little.
    #[must_use]
    pub fn worth_words(&self) -> Option<String> {
        let worth = self.worth.as_ref().filter(|_| !self.endangers)?;
        let of = |share: Share| match share.percent() {
            0 => "none".to_owned(),
            100 => "all".to_owned(),
            n => format!("{n} of 100"),
        };
        let value = |value: f64| engineering_of(value, worth.unit);
        let ((best, most), (worst, least)) = (worth.best, worth.worst);
        Some(format!(
            "{}: at {} it {} in {} builds, at {} in {}",
            sentence(&worth.how),
            value(best),
            self.verb(),
            of(most),
            value(worst),
            of(least)
        ))
    }
}

impl Likely {
    /// `worst possible 3.22 V, worst likely 3.58 V, usual 3.9 V; minimum 3.74 V`.
    #[must_use]
    pub fn words(&self) -> String {
        let words = |v| engineering_of(v, self.unit);
        format!(
            "worst possible {}, worst likely {}, usual {}; {} {}",
            words(self.worst_possible),
            words(self.worst_likely),
            words(self.middle),
            self.limit_name.replace('_', " "),
            words(self.limit)
        )
    }
}
