//! A strip written in code, with its feed points.

use super::drafts::{Draft, quoted, written};
use super::lead::Lead;
use crate::quantity::units::{Amps, Metres, OhmsPerMetre, PerMetre};

/// A strip in the making.
#[derive(Clone, Debug)]
pub struct StripDraft {
    pub(crate) base: Draft,
    pub(crate) inject: Vec<String>,
}

/// A feed point in the making.
#[derive(Clone, Debug)]
pub struct InjectionDraft(String);

impl InjectionDraft {
    /// A feed point at a position from the start, over a cable of its own.
    #[must_use]
    pub fn at(position: Metres, lead: Lead) -> Self {
        Self(format!("{{ at = \"{} m\", cable = {} }}", position.get(), lead.to_toml()))
    }
}

impl StripDraft {
    /// A strip of a class.
    #[must_use]
    pub fn new(name: &str, part: &str) -> Self {
        Self { base: Draft::new(name), inject: Vec::new() }.key("part", &quoted(part))
    }

    /// Its length.
    #[must_use]
    pub fn length(self, length: Metres) -> Self {
        self.key("length", &written(length))
    }

    /// Pixels per metre.
    #[must_use]
    pub fn pixels(self, density: PerMetre) -> Self {
        self.key("pixels", &format!("\"{} /m\"", density.get()))
    }

    /// Copper of each conductor.
    #[must_use]
    pub fn copper(self, copper: OhmsPerMetre) -> Self {
        self.key("copper", &written(copper))
    }

    /// The firmware limit.
    #[must_use]
    pub fn firmware_limit(self, firmware_limit: Amps) -> Self {
        self.key("firmware-limit", &written(firmware_limit))
    }

    /// The node that feeds it.
    #[must_use]
    pub fn from(self, node: &str) -> Self {
        self.key("from", &quoted(node))
    }

    /// Adds a feed point; without any, one feed at the start.
    #[must_use]
    pub fn inject(mut self, injection: InjectionDraft) -> Self {
        self.inject.push(injection.0);
        self
    }

    /// Any other key of the plan file, with its TOML value.
    #[must_use]
    pub fn key(mut self, key: &str, toml: &str) -> Self {
        self.base.set(key, toml);
        self
    }
}
