//! The facts of a finding: the numbers a check compared, each with its part in the comparison.

use crate::quantity::figure::Origin;
use crate::quantity::units::Quantity;

/// What part a number has in a comparison.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum EvidenceRole {
    /// The number that was judged.
    Judged,
    /// The most that the judged number may be.
    AtMost,
    /// The least that the judged number must be.
    AtLeast,
    /// What explains the comparison.
    Context,
}

impl EvidenceRole {
    /// The role in one word, as in JSON: `judged`, `at-most`, `at-least`, `context`.
    #[must_use]
    pub const fn word(self) -> &'static str {
        match self {
            Self::Judged => "judged",
            Self::AtMost => "at-most",
            Self::AtLeast => "at-least",
            Self::Context => "context",
        }
    }

    /// The bound that a number beyond a limit has broken.
    pub(crate) fn beyond(judged: f64, limit: f64) -> Self {
        if judged > limit { Self::AtMost } else { Self::AtLeast }
    }

    /// As it is written before a limit in a sentence: `at most`.
    pub(crate) fn phrase(self) -> String {
        self.word().replace('-', " ")
    }
}

/// One of the numbers a check compared.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Evidence {
    /// What it is: `wanted`, `rating`, `lowest_pixel` ….
    pub name: &'static str,
    /// Its part in the comparison.
    pub role: EvidenceRole,
    /// The number in the base unit.
    pub value: f64,
    /// The unit.
    pub unit: &'static str,
    /// Where it came from.
    pub origin: Origin,
}

impl Evidence {
    fn new<Q: Quantity>(role: EvidenceRole, name: &'static str, value: Q, origin: &Origin) -> Self {
        Self { name, role, value: value.si(), unit: Q::SYMBOL, origin: origin.clone() }
    }

    /// The number that is judged, computed from the plan.
    pub(crate) fn judged<Q: Quantity>(name: &'static str, value: Q) -> Self {
        Self::new(EvidenceRole::Judged, name, value, &Origin::Computed)
    }

    /// The number that is judged, where it is a figure of the plan itself.
    pub(crate) fn judged_as_given<Q: Quantity>(name: &'static str, value: Q, origin: &Origin) -> Self {
        Self::new(EvidenceRole::Judged, name, value, origin)
    }

    pub(crate) fn at_most<Q: Quantity>(name: &'static str, limit: Q, origin: &Origin) -> Self {
        Self::new(EvidenceRole::AtMost, name, limit, origin)
    }

    pub(crate) fn at_least<Q: Quantity>(name: &'static str, limit: Q, origin: &Origin) -> Self {
        Self::new(EvidenceRole::AtLeast, name, limit, origin)
    }

    /// A limit whose side depends on the case.
    pub(crate) fn limit<Q: Quantity>(side: EvidenceRole, name: &'static str, limit: Q, origin: &Origin) -> Self {
        Self::new(side, name, limit, origin)
    }

    /// A computed number that explains the comparison.
    pub(crate) fn computed<Q: Quantity>(name: &'static str, value: Q) -> Self {
        Self::context(name, value, &Origin::Computed)
    }

    /// A figure that explains the comparison.
    pub(crate) fn context<Q: Quantity>(name: &'static str, value: Q, origin: &Origin) -> Self {
        Self::new(EvidenceRole::Context, name, value, origin)
    }
}
