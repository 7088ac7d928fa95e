//! What the rows of tables hold: nodes, conductors, converters, totals, strips, loads, signal links.

use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Celsius, Fraction, Metres, Volts, Watts};
use crate::topology::ratings::CableLimit;
use crate::verdict::severity::Severity;

/// A supply, branch, converter or board supply pin.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct NodeRow {
    /// Its name.
    pub name: String,
    /// `supply`, `branch`, `switch`, `diode`, `bus half`, `port`, `converter`, `board terminal`, `board input`, `board
    /// output`, `stage` (a channel of a driver), `inlet` (what feeds a bridge's channels).
    pub kind: &'static str,
    /// + against −, source limits in force; `None` where they have no solution.
    pub voltage: Option<Volts>,
    /// − against the − of the first source of its group.
    pub minus: Option<Volts>,
    /// What it delivers, source limits in force, boards at peak current.
    pub current: Option<Amps>,
    /// What is asked of it with source limits lifted.
    pub demand: Option<Amps>,
    /// What it may carry continuously.
    pub limit: Option<Amps>,
    /// 1 − wanted/limit.
    pub headroom: Option<Fraction>,
    /// What the wanted current is made of: what is fed from the node, by name; what comes in by another way is
    /// negative.
    pub parts: Vec<(String, Amps)>,
    /// True where a supply or converter holds its current limit and gives less than is wanted.
    pub limiting: bool,
}

/// A feed and a return conductor. Currents count away from the source: the return's is negative.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct ConductorRow {
    /// Named by what it feeds.
    pub name: String,
    /// Current in the feed; `None` for a ground tie, which has none.
    pub feed: Option<Amps>,
    /// Current in the return.
    pub back: Amps,
    /// Heat in the feed.
    pub feed_loss: Watts,
    /// Heat in the return.
    pub return_loss: Watts,
    /// Volts lost in the feed.
    pub feed_drop: Volts,
    /// Volts lost in the return.
    pub return_drop: Volts,
    /// How warm its wire gets continuously, boards at their mean: Ta + (T_ins − Ta)·(I/ampacity)²; `None` where its
    /// size is not given.
    pub temperature: Option<Celsius>,
    /// What the conductor carries in the air around it; `None` where its size is not given.
    pub ampacity: Option<Amps>,
    /// What the whole lead may carry continuously: the least of fuse × load factor, wire and contacts.
    pub limit: Option<Amps>,
    /// Which of them that is.
    pub limited_by: Option<CableLimit>,
}

/// What protects a cable.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct CableRow {
    /// Named by what it feeds.
    pub name: String,
    /// Its size; `None` where only its ampacity is given.
    pub size: Option<String>,
    /// What the weaker of feed and return carries continuously.
    pub ampacity: Amps,
    /// The fuse that protects it and whose run that lies in, or the source.
    pub protected_by: String,
    /// The rating of that fuse.
    pub fuse: Option<Amps>,
    /// What can flow continuously; `None` where nothing says what the source gives.
    pub sustained_fault: Option<Amps>,
    /// What surely flows into a short circuit at its far end.
    pub min_fault: Option<Amps>,
    /// The check that has something to say of it: `fuse-missing`, `fuse-too-large`, `fuse-may-not-blow`.
    pub code: Option<&'static str>,
    /// How bad the check finds it.
    pub severity: Option<Severity>,
    /// True where the plan accepts that.
    pub accepted: bool,
}

/// A converter.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct ConverterRow {
    /// Its name.
    pub name: String,
    /// Voltage at its input terminals.
    pub input_v: Volts,
    /// Input current.
    pub input_a: Amps,
    /// Input power.
    pub input_w: Watts,
    /// Output current.
    pub output_a: Amps,
    /// Input power less power at the output terminals.
    pub loss: Watts,
}

/// Where the power goes: source = inside the source + loads + conductors + converter losses.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct TotalRow {
    /// Σ EMF·I.
    pub source: Watts,
    /// In the sources' own resistance.
    pub source_internal: Watts,
    /// In loads, boards and pixels.
    pub load: Watts,
    /// In cables, fuses, ties and strip copper.
    pub conductor: Watts,
    /// In converters and regulators.
    pub converter_loss: Watts,
    /// Heat in junctions: series diodes, clamps, transistors. What is ohmic in a stage counts as `conductor`.
    pub diode: Watts,
}

/// A feed point of a strip.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct InjectionFlow {
    /// Position from the start.
    pub at: Metres,
    /// Into the strip's feed copper.
    pub feed: Amps,
    /// Into its return copper: negative.
    pub back: Amps,
    /// + against − where it meets the strip.
    pub voltage: Volts,
}

/// A strip.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct StripRow {
    /// Its name.
    pub name: String,
    /// Number of pixels.
    pub pixels: usize,
    /// Sum over the pixels.
    pub current: Amps,
    /// Power in the pixels.
    pub pixel_power: Watts,
    /// Lowest pixel voltage.
    pub lowest: Volts,
    /// Where.
    pub lowest_at: Metres,
    /// Its index, from 0.
    pub lowest_index: usize,
    /// Highest pixel voltage.
    pub highest: Volts,
    /// The voltage of the first pixel.
    pub first: Volts,
    /// The voltage of the last pixel.
    pub last: Volts,
    /// − of the first pixel against 0 V.
    pub first_minus: Volts,
    /// Pixels that draw less than their full current.
    pub below_full: usize,
    /// Heat in the strip's copper.
    pub copper_loss: Watts,
    /// Largest current in any piece of the feed copper.
    pub copper_max_feed: Amps,
    /// Largest current in any piece of the return copper.
    pub copper_max_return: Amps,
    /// The firmware limit, if the plan sets one: its own, or the whole of the one that it shares.
    pub firmware_limit: Option<Amps>,
    /// The name of the firmware limit that it shares with other strips.
    pub shared_limit: Option<String>,
    /// Its LEDs: pixels, or groups of a plain strip, times the LEDs in one.
    pub leds: usize,
    /// Of a plain strip: what switches each colour, as far as the plan says; colour, then the switch's name.
    pub switched: Vec<(String, String)>,
    /// Its feed points.
    pub feeds: Vec<InjectionFlow>,
    /// "pixel" or, of a plain strip, "group".
    pub unit: &'static str,
    /// It works from here on.
    pub minimum: Option<Volts>,
    /// The range of its datasheet.
    pub recommended: Option<Range<Volts>>,
}

/// One pixel of a profile.
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct ProfilePoint {
    /// From the start.
    pub position: Metres,
    /// Across the pixel.
    pub voltage: Volts,
    /// Through it.
    pub current: Amps,
}

/// A load, a board or a shifter.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct LoadRow {
    /// Its name; members of a count are `name.1`, `name.2` ….
    pub name: String,
    /// Across its own terminals.
    pub voltage: Volts,
    /// What it draws.
    pub current: Amps,
    /// Its − against the − of the first source of the group.
    pub ground_shift: Volts,
}

/// A signal from one part to another, with its signed margins in one state.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct SignalRow {
    /// Sender.
    pub from: String,
    /// Receiver.
    pub to: String,
    /// The receiver's supply.
    pub vdd: Volts,
    /// Its VIH.
    pub vih: Option<Volts>,
    /// Receiver's ground less sender's ground.
    pub shift: Volts,
    /// VOH,min − shift − VIH.
    pub high_margin: Option<Volts>,
    /// VIL − VOL,max + shift.
    pub low_margin: Option<Volts>,
    /// (VDD + 0.3 V) − (VOH,max − shift).
    pub over_margin: Volts,
    /// VOL,min − shift + 0.3 V.
    pub below_margin: Volts,
}
