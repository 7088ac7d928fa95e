//! Every figure of a record, with the keys of the plan that lead to it: for tracing values and for trying assumed ones
//! at the ends of their spread.
//!
//! The records derive [`Figures`]; nobody lists figures by hand.

use std::fmt;

use super::figure::{Figure, Origin};
use super::format::duration;
use super::units::{Amps, Bytes, Celsius, Quantity, Seconds, Volts};
use crate::source::Span;

/// Which end of its spread a figure is held at.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum End {
    Low,
    High,
}

impl End {
    pub fn other(self) -> Self {
        if self == Self::Low { Self::High } else { Self::Low }
    }
}

/// A figure of any quantity.
pub(crate) trait AnyFigure {
    fn origin(&self) -> &Origin;
    /// True where its smallest and largest value differ.
    fn is_spread(&self) -> bool;
    /// Takes one end of its spread as its only value.
    fn hold(&mut self, end: End);
    /// Makes its smallest value the largest and the other way round, so that it stands at its other end in every
    /// corner. Only networks are built from such a figure; twice is as before.
    fn flip(&mut self);
    /// Smallest, nominal and largest value in the base unit.
    fn values(&self) -> [f64; 3];
    /// Takes these in their place.
    fn set_values(&mut self, values: [f64; 3]);
    /// Smallest and largest value in the base unit, and the unit.
    fn ends(&self) -> (f64, f64, &'static str);
    /// Its values in words: `12.0 V`, `11.4 V .. 12.6 V`.
    fn words(&self) -> String;
}

impl<Q: Quantity> AnyFigure for Figure<Q> {
    fn origin(&self) -> &Origin {
        &self.origin
    }

    fn is_spread(&self) -> bool {
        self.high.si() - self.low.si() > 1e-9 * self.high.si().abs()
    }

    fn hold(&mut self, end: End) {
        let value = if end == End::Low { self.low } else { self.high };
        (self.low, self.typical, self.high) = (value, value, value);
    }

    fn flip(&mut self) {
        std::mem::swap(&mut self.low, &mut self.high);
    }

    fn values(&self) -> [f64; 3] {
        [self.low.si(), self.typical.si(), self.high.si()]
    }

    fn set_values(&mut self, values: [f64; 3]) {
        [self.low, self.typical, self.high] = values.map(Q::from_si);
    }

    fn ends(&self) -> (f64, f64, &'static str) {
        (self.low.si(), self.high.si(), Q::SYMBOL)
    }

    fn words(&self) -> String {
        if !self.is_spread() {
            return spoken(self.typical);
        }
        format!("{} .. {}, typical {}", spoken(self.low), spoken(self.high), spoken(self.typical))
    }
}

/// Nobody says 3.60 ks.
fn spoken<Q: Quantity>(value: Q) -> String {
    if Q::SYMBOL == Seconds::SYMBOL { duration(Seconds::new(value.si())) } else { value.to_string() }
}

/// Where a figure is: the keys from its item down to it.
#[derive(Clone, Copy)]
pub(crate) struct At<'a> {
    above: Option<&'a At<'a>>,
    pub key: &'static str,
    /// True for a range in which something works, which no measurement narrows.
    pub is_range: bool,
    /// True for a range that a part goes through: a battery's voltage with its charge.
    pub is_state: bool,
}

impl At<'_> {
    /// An item of the plan.
    pub const ITEM: At<'static> = At { above: None, key: "", is_range: false, is_state: false };

    pub fn under(&self, key: &'static str) -> At<'_> {
        At { above: Some(self), key, is_range: false, is_state: false }
    }

    /// A key written next to this one, in place of it.
    pub fn beside(&self, key: &'static str) -> Self {
        Self { key, ..*self }
    }

    pub fn as_state(self) -> Self {
        Self { is_state: true, ..self }
    }

    pub fn as_range(self) -> Self {
        Self { is_range: true, ..self }
    }
}

impl fmt::Display for At<'_> {
    /// `regulator.dropout`.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if let Some(above) = self.above.filter(|a| !a.key.is_empty()) {
            write!(f, "{above}.")?;
        }
        f.write_str(self.key)
    }
}

/// Sees each figure with where it is.
pub(crate) type See<'a> = &'a mut dyn FnMut(At<'_>, &mut dyn AnyFigure);

/// What holds figures.
pub(crate) trait Figures {
    /// Shows every figure to `see`.
    fn each(&mut self, at: At<'_>, see: See<'_>);
}

impl<Q: Quantity> Figures for Figure<Q> {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        see(at, self);
    }
}

impl<T: Figures> Figures for Option<T> {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        if let Some(inner) = self {
            inner.each(at, see);
        }
    }
}

impl<T: Figures> Figures for Box<T> {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        (**self).each(at, see);
    }
}

impl<T: Figures> Figures for Vec<T> {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        self.iter_mut().for_each(|inner| inner.each(at, see));
    }
}

impl<T: Figures, const N: usize> Figures for [T; N] {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        self.iter_mut().for_each(|inner| inner.each(at, see));
    }
}

impl<A: Figures, B: Figures> Figures for (A, B) {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        self.0.each(at, see);
        self.1.each(at, see);
    }
}

impl<A: Figures, B: Figures, C: Figures> Figures for (A, B, C) {
    fn each(&mut self, at: At<'_>, see: See<'_>) {
        self.0.each(at, see);
        self.1.each(at, see);
        self.2.each(at, see);
    }
}

/// Says of types that they hold no figures.
macro_rules! no_figures {
    ($($type:ty),+ $(,)?) => {
        $(impl $crate::quantity::figures::Figures for $type {
            fn each(&mut self, _: $crate::quantity::figures::At<'_>, _: $crate::quantity::figures::See<'_>) {}
        })+
    };
}
pub(crate) use no_figures;

no_figures!(String, bool, usize, u8, u32, f64, &'static str, Span);
// Bare quantities are rows of a datasheet or computed; they have no spread to try.
no_figures!(Amps, Volts, Bytes, Celsius);
