//! Which fuse, whether it acts, and what protects a wire.

use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Ohms, Seconds, Volts};
use crate::tables::fuse::{FuseFamily, FuseSpeed, cold_ohms};
use crate::verdict::compare::{at_least, at_most};
use crate::verdict::severity::Severity;

/// A fuse between what it carries and what the wires behind it stand.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct FuseSize {
    /// The least rating: the continuous current over the load factor.
    pub needed: Amps,
    /// The largest rating: the ampacity factor times the weakest wire's ampacity.
    pub allowed: Amps,
    /// The smallest standard rating between them; `None` where there is none.
    pub rating: Option<Amps>,
}

/// The fuse for a continuous current and the wires behind it.
///
/// `load_factor` is the share of its rating that it carries continuously ([`FuseFamily::load_factor`]),
/// `ampacity_factor` how much of a wire's ampacity its rating may be ([`FuseFamily::ampacity_factor`]).
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::tables::FuseFamily;
/// use modest_ohm::units::{Amps, Range};
/// let blade = FuseFamily::Blade;
/// let of = |amps, wire| size::fuse(Amps::new(amps), &[Amps::new(wire)], blade, 0.75, 1.0);
/// assert_eq!(of(4.2, 10.0).rating, Some(Amps::new(7.5)));
/// // 8 A need 10.7 A of fuse, and the wire allows 10 A.
/// assert_eq!(of(8.0, 10.0).rating, None);
/// ```
#[must_use]
pub fn fuse(continuous: Amps, wires: &[Amps], family: FuseFamily, load_factor: f64, ampacity_factor: f64) -> FuseSize {
    let needed = continuous.get() / load_factor.max(1e-9);
    let weakest = wires.iter().map(|a| a.get()).fold(f64::INFINITY, f64::min);
    let allowed = weakest * ampacity_factor;
    let fits = |rating: &&f64| at_least(**rating, needed) && at_most(**rating, allowed);
    let rating = family.ratings().iter().find(fits).copied().map(Amps::new);
    FuseSize { needed: Amps::new(needed), allowed: Amps::new(allowed), rating }
}

/// The cold resistance of a fuse of a rating (blade, typical; a cartridge has about as much).
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Range};
/// assert!((size::fuse_ohms(Amps::new(5.0)).get() - 0.018).abs() < 1e-12);
/// ```
#[must_use]
pub fn fuse_ohms(rating: Amps) -> Ohms {
    Ohms::new(cold_ohms(rating.get()))
}

/// What flows into a short circuit, and whether that clears a fuse.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct FuseClears {
    /// Volts over source and loop resistance.
    pub prospective: Amps,
    /// True where that is at least the factor times the rating.
    pub clears: bool,
}

/// Whether a fuse clears a short at the end of a loop; `factor` is the multiple of its rating that it needs
/// ([`FuseFamily::clears_from`]), `loop_ohms` feed and return with fuse and contacts.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::units::{Amps, Ohms, Volts};
/// let c = size::fuse_clears(Volts::new(11.4), Ohms::new(0.05), Ohms::new(0.9), Amps::new(7.5), 2.0);
/// assert_eq!(c.prospective, Amps::new(12.0));
/// assert!(!c.clears);
/// ```
#[must_use]
pub fn fuse_clears(volts: Volts, source: Ohms, loop_ohms: Ohms, rating: Amps, factor: f64) -> FuseClears {
    let prospective = volts.get() / (source.get() + loop_ohms.get());
    FuseClears { prospective: Amps::new(prospective), clears: prospective >= factor * rating.get() * (1.0 - 1e-12) }
}

/// A start through a fuse: what flows at its beginning and what is left of it, and how long it takes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct FuseStart {
    /// At the first moment, without what cold filaments take above their running current.
    pub start: Amps,
    /// What cold filaments take above their running current.
    pub filaments: Amps,
    /// What it runs with.
    pub runs: Amps,
    /// Until it runs: 95 % of the way.
    pub time: Seconds,
    /// Until the filaments are hot.
    pub hot: Seconds,
    /// The fuse.
    pub rating: Amps,
    /// Its family.
    pub family: FuseFamily,
    /// How fast a cartridge is.
    pub speed: FuseSpeed,
}

/// The heat of a filament against that of the law of a motor in the same time (simulated).
const FILAMENT: f64 = 0.25;

/// The heat of a start over what melts the fuse: below 0.35 it is nothing, up to 0.6 each start ages it, up to 2.5 it
/// may open at one, beyond it does.
///
/// I(t) = I_r + (I_s − I_r)·e^(−3t/t_s), against κ·In² of a body that is warm from what it carries and cools with 1.2
/// s; κ 1.1 s for blades, 1 s for fast and 4 s for slow cartridges, 30 s for resettable ones (typical; within 9 % of a
/// simulated body from 0.1 s to 0.3 s). A filament heats itself: its current falls faster than that law, to a quarter
/// of its heat (simulated).
///
/// ```
/// use modest_ohm::size::{FuseStart, fuse_start};
/// use modest_ohm::tables::{FuseFamily, FuseSpeed};
/// use modest_ohm::units::{Amps, Seconds};
/// let of = |rating| fuse_start(&FuseStart {
///     start: Amps::new(18.1), runs: Amps::new(1.6), time: Seconds::new(0.2),
///     filaments: Amps::new(0.0), hot: Seconds::new(0.03),
///     rating: Amps::new(rating), family: FuseFamily::Blade, speed: FuseSpeed::Fast,
/// });
/// assert!((of(3.0) - 1.29).abs() < 0.01 && (of(5.0) - 0.42).abs() < 0.01);
/// ```
#[must_use]
pub fn fuse_start(need: &FuseStart) -> f64 {
    let (i_r, i_s, t_s, rated) = (need.runs.get(), need.start.get(), need.time.get(), need.rating.get());
    let kappa = match (need.family, need.speed) {
        (FuseFamily::Blade | FuseFamily::Bolt, _) => 1.1,
        (FuseFamily::Cartridge | FuseFamily::CartridgeUl, FuseSpeed::Fast) => 1.0,
        (FuseFamily::Cartridge | FuseFamily::CartridgeUl, FuseSpeed::Slow) => 4.0,
        (FuseFamily::Resettable, _) => 30.0,
    };
    let (more, cold) = ((i_s - i_r).max(0.0), need.filaments.get());
    // Time constants; a quarter of the time is a quarter of the heat.
    let (tau, tau_cold) = (t_s / 3.0, FILAMENT * need.hot.get() / 3.0);
    let both = more * cold * 2.0 * tau * tau_cold / (tau + tau_cold).max(1e-300);
    let squares = 0.5 * (more * more * tau + cold * cold * tau_cold) + both;
    let heat = squares + 2.0 * i_r * (more * tau + cold * tau_cold);
    let lasts = if more > 0.0 { t_s } else { need.hot.get() };
    let warm = 1.0 - (i_r / (1.35 * rated)).powi(2);
    if warm <= 0.0 { f64::INFINITY } else { heat / (kappa * rated * rated * warm * (1.0 + lasts / 1.2)) }
}

/// What stands before a wire, and what the wire stands.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct WireProtection {
    /// What flows into a short circuit right behind its beginning where it is most.
    pub prospective: Amps,
    /// What flows into one at its far end where it is least.
    pub far: Amps,
    /// From what the source surely gives to what it may give; `None` where only its resistance limits it.
    pub limit: Option<Range<Amps>>,
    /// The fuse's rating, and the multiple of it from which it opens.
    pub fuse: Option<(Amps, f64)>,
    /// How much of the ampacity the rating may be.
    pub ampacity_factor: f64,
    /// What the wire carries continuously as it is laid.
    pub ampacity: Amps,
}

/// What comes of it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct ProtectedWire {
    /// True where there is a fuse and its rating is one that the wire allows.
    pub allowed: bool,
    /// True where what surely flows opens the fuse.
    pub opens: bool,
    /// What can flow continuously.
    pub sustained_fault: Amps,
    /// How bad that is; `None` where the wire is protected.
    pub severity: Option<Severity>,
}

/// A wire may carry this share of its ampacity until a fuse opens (IEC 60364-4-43, 433.1); at that it reaches some 115
/// °C, which common insulation survives for hours.
const OVER_SHARE: f64 = 1.45;

/// What protects a wire.
///
/// A fuse of allowed size that surely opens does. Else what can flow continuously, the source's limit or what just does
/// not open the fuse, has to be within 1.45 × ampacity behind a fuse of allowed size (advice: the fuse may not act),
/// and within the ampacity without one (caution to 1.45 × as much).
///
/// ```
/// use modest_ohm::{Severity, size};
/// use modest_ohm::units::{Amps, Range};
/// let a = Amps::new;
/// // A 5 A blade fuse behind a supply that limits between 6.6 A and 9 A, and a wire of 13 A.
/// let guarded = size::wire_protection(&size::WireProtection {
///     prospective: a(60.0), far: a(60.0), limit: Some(Range::new(a(6.6), a(9.0))), fuse: Some((a(5.0), 1.35)),
///     ampacity_factor: 1.0, ampacity: a(13.0),
/// });
/// assert!(guarded.allowed && !guarded.opens);
/// assert_eq!((guarded.sustained_fault, guarded.severity), (a(6.75), Some(Severity::Advisory)));
/// ```
#[must_use]
pub fn wire_protection(before: &WireProtection) -> ProtectedWire {
    let (surely, may) = match before.limit {
        Some(Range { low, high }) => (low.get().min(before.far.get()), high.get().min(before.prospective.get())),
        None => (before.far.get(), before.prospective.get()),
    };
    let ampacity = before.ampacity.get();
    let within = |long: f64, stands: f64| at_most(long, stands);
    let allowed = before
        .fuse
        .is_some_and(|(rating, _)| within(rating.get(), before.ampacity_factor * ampacity) && ampacity > 0.0);
    let opens_at = before.fuse.map(|(rating, blows_from)| rating.get() * blows_from);
    let opens = opens_at.is_some_and(|at| surely >= at * (1.0 - 1e-12));
    let long = opens_at.map_or(may, |at| may.min(at));
    let severity = match (allowed, opens) {
        (true, true) => None,
        (true, false) if within(long, OVER_SHARE * ampacity) => Some(Severity::Advisory),
        (false, _) if within(long, ampacity) => None,
        (false, _) if within(long, OVER_SHARE * ampacity) => Some(Severity::Caution),
        _ => Some(Severity::Danger),
    };
    ProtectedWire { allowed, opens, sustained_fault: Amps::new(long), severity }
}
