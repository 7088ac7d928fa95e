//! Single questions without a plan: which supply, regulator, battery, capacitor, wire, fuse, feed points, cap. Pure functions, used by the checks too.

mod battery;
mod capacitor;
mod firmware;
mod fuse;
mod injection;
mod pair;
mod placing;
mod regulator;
mod supply;
mod wire;

pub use battery::{BatteryNeed, BatterySize, CELLS, NoBattery, battery};
pub use capacitor::{CapacitorSize, bulk_capacitor, charging_time, inrush_peak};
pub use firmware::{CapLimit, FirmwareCap, PixelTiming, firmware_cap, frame, pixels_at};
pub use fuse::{FuseClears, FuseSize, Guarded, WireProtection, fuse, fuse_clears, fuse_ohms, wire_protection};
pub(crate) use injection::gaps_of;
pub use injection::{
    InjectionLead, InjectionNeed, InjectionPlaces, InjectionSet, InjectionStrip, PixelColour, injection, injection_of,
};
pub use pair::{Pair, pair};
pub(crate) use placing::{Gaps, best as best_places, is_exhaustive};
pub(crate) use regulator::MARGIN_K;
pub use regulator::{RegulatorHeat, RegulatorNeed, regulator};
pub(crate) use supply::UNMARKED_A;
pub use supply::{Profile, SupplySize, profiles, profiles_of_power, supply};
pub use wire::{WireChoice, WireNeed, WireSizes, ampacity, wire, wire_ohms_per_metre};
