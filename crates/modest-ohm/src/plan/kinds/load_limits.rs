//! How long and in what state a load may run, and how it starts.

use super::load::{Demand, Load};
use crate::quantity::figure::{Corner, Figure, Origin, Role};
use crate::quantity::units::{Amps, Seconds, Volts};
use crate::text::Named;
use crate::text::order::at_most;
use crate::text::reader::Reader;
use modest_ohm_derive::Figures;

/// How long and in what state a load may run.
#[derive(Clone, Debug, Default, Figures)]
pub(crate) struct Limits {
    /// What a motor takes while it is held.
    pub stall: Option<Figure<Amps>>,
    /// True for a pump that must not run dry.
    pub never_dry: bool,
    /// The input that tells when to stop.
    pub watched_by: Option<Named>,
    /// It may be on so long at once.
    pub on_time: Option<Figure<Seconds>>,
    /// True where it is always let stop before it reverses.
    pub stops_first: bool,
    /// True where its bridge brakes it, so that its energy comes back.
    pub brakes: bool,
    /// How long it takes to come to rest by itself.
    pub run_down: Option<Figure<Seconds>>,
    /// How long a start takes.
    pub start_time: Option<Figure<Seconds>>,
    /// The start that is assumed where none is stated, least, typical and most, in times of what it runs with.
    pub assumed_start: Option<[f64; 3]>,
    /// What the stage before it lets through at most.
    pub bound: Option<Bound>,
}

/// A start that a stage limits: it takes the stage's limit instead of what its coil would.
#[derive(Clone, Copy, Debug, Figures)]
pub(crate) struct Bound {
    /// Least, typical and most, A.
    pub amps: [f64; 3],
    /// The rail on which it would take more, V.
    pub rail_v: f64,
}

impl Bound {
    /// What flows in a corner where a coil of `amps` at `rated` voltage would take more than the stage lets through.
    pub fn holds(&self, amps: f64, rated: Volts, corner: Corner) -> Option<f64> {
        let [low, typical, high] = self.amps.map(Amps::new);
        let limit = Figure { low, typical, high, origin: Origin::Computed, bare: false }.at(corner, Role::Demand).get();
        (amps * self.rail_v / rated.get().max(1e-9) > limit).then_some(limit)
    }
}

/// Figures of a load that contradict each other.
pub(crate) fn contradictions(reader: &Reader<'_>, load: &Load) {
    let typical = |f: &Option<Figure<Volts>>| f.as_ref().map(|f| f.typical);
    let rated = typical(&load.voltage);
    let highest = load.recommended.as_ref().map(|r| r.high);
    let absolute = load.absolute.as_ref().map(|a| a.high);
    at_most(reader, ("minimum", typical(&load.minimum)), ("voltage", rated), "it works at its rated voltage");
    at_most(reader, ("knee", typical(&load.knee)), ("voltage", rated), "it draws its current at its rated voltage");
    at_most(reader, ("minimum", typical(&load.minimum)), ("recommended", highest), "it works in its recommended range");
    at_most(
        reader,
        ("recommended", highest),
        ("absolute", absolute),
        "an absolute maximum is above what is recommended",
    );
    at_most(reader, ("voltage", rated), ("absolute", absolute), "an absolute maximum is above the rated voltage");
    if let (Demand::Current(states), Some(stall)) = (&load.demand, &load.limits.stall) {
        let help = "a motor draws its largest current when stalled";
        at_most(reader, ("current", Some(states.peak.typical)), ("stall", Some(stall.high)), help);
    }
}
