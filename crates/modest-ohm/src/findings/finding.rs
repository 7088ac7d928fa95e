//! A finding: what a check says of one thing, with the numbers it compared.

use crate::quantity::figure::{Corner, Origin};
use crate::quantity::units::Quantity;
use crate::source::Span;
use crate::verdict::severity::Severity;

/// One of the numbers a check compared.
#[derive(Clone, Debug, PartialEq)]
pub struct Evidence {
    /// What it is: `wanted`, `rating`, `lowest_pixel` ….
    pub name: &'static str,
    /// The number in the base unit.
    pub value: f64,
    /// The unit.
    pub unit: &'static str,
    /// Where it came from.
    pub origin: Origin,
}

impl Evidence {
    pub(crate) fn new<Q: Quantity>(name: &'static str, value: Q, origin: &Origin) -> Self {
        Self { name, value: value.si(), unit: Q::SYMBOL, origin: origin.clone() }
    }

    pub(crate) fn computed<Q: Quantity>(name: &'static str, value: Q) -> Self {
        Self::new(name, value, &Origin::Computed)
    }
}

/// What a check found.
#[derive(Clone, Debug, PartialEq)]
pub struct Finding {
    /// The check's stable code.
    pub code: &'static str,
    /// How bad it is.
    pub severity: Severity,
    /// The part of the plan it is about.
    pub subject: String,
    /// The scenario in which it is worst; `None` for what does not depend on one.
    pub scenario: Option<String>,
    /// The corner in which it is worst.
    pub corner: Option<Corner>,
    /// The part, the two numbers, what is wrong.
    pub message: String,
    /// What would cure it, in words and numbers.
    pub cures: Vec<String>,
    /// The place in the plan's text.
    pub span: Option<Span>,
    /// The numbers compared.
    pub evidence: Vec<Evidence>,
    /// Findings with the same cause, which are not listed by themselves.
    pub also: Vec<Consequence>,
    /// The reason, where the plan accepts it.
    pub accepted: Option<String>,
}

/// A finding with the same cause as another, under which it stands.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Consequence {
    /// The code of its check.
    pub code: &'static str,
    /// The part of the plan it is about.
    pub subject: String,
    /// How bad it is by itself.
    pub severity: Severity,
}

impl Consequence {
    pub(crate) fn of(f: Finding) -> Self {
        Self { code: f.code, subject: f.subject, severity: f.severity }
    }
}

/// A pair of check and subject that was decided without a finding.
#[derive(Clone, Debug, PartialEq)]
pub struct Passed {
    /// The check's code.
    pub code: &'static str,
    /// The part of the plan.
    pub subject: String,
    /// How far from the limit, in words: `3.60 A of 5.00 A`.
    pub margin: String,
}
