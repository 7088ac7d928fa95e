//! Single questions without a plan: which supply, regulator, battery, capacitor, wire, fuse, feed points, cap. Pure functions, used by the checks too.

mod base;
mod battery;
mod bridge;
mod capacitor;
mod divider;
mod firmware;
mod flyback;
mod fuse;
mod gate;
mod injection;
mod led;
mod level;
mod pair;
mod placing;
mod pull;
mod regulator;
mod relay;
mod release;
mod series;
mod stock;
mod supply;
mod wire;

pub use base::{BaseNeed, BaseSize, Saturates, TransistorNeed, TransistorState, base, transistor};
pub(crate) use base::{GOOD_OVERDRIVE, LEAST_OVERDRIVE};
pub use battery::{BatteryNeed, BatterySize, CELLS, NoBattery, battery};
pub use bridge::{BridgeLack, BridgeNeed, BridgeState, bridge};
pub use capacitor::{CapacitorSize, bulk_capacitor, charging_time, inrush_peak};
pub use divider::{DividerLimits, DividerNeed, DividerSize, divider, divider_finer, divider_with};
pub use firmware::{CapLimit, FirmwareCap, PixelTiming, firmware_cap, frame, pixels_at};
pub(crate) use flyback::SINGLE_SHARE;
pub use flyback::{FLYBACK_CLASSES, FlybackClass, flyback_class};
pub use fuse::{FuseClears, FuseSize, Guarded, WireProtection, fuse, fuse_clears, fuse_ohms, wire_protection};
pub use gate::{GateNeed, GateVerdict, Switching, SwitchingNeed, gate, switching};
pub(crate) use injection::gaps_of;
pub use injection::{
    InjectionLead, InjectionNeed, InjectionPlaces, InjectionSet, InjectionStrip, PixelColour, injection, injection_of,
};
pub(crate) use led::{COMFORT, LEAST_SHARE};
pub use led::{LedNeed, LedResistor, LedSize, ResistorHeat, led, led_with};
pub use level::{LevelNeed, LevelWay, level};
pub use pair::{Pair, pair};
pub(crate) use placing::{Gaps, best as best_places, is_exhaustive};
pub use pull::{BusPull, BusPullRange, PullNeed, PullSize, bus_pull, bus_speed, pull};
pub(crate) use regulator::MARGIN_K;
pub use regulator::{RegulatorHeat, RegulatorNeed, regulator};
pub use relay::{CoilNeed, CoilState, ContactLoad, coil, contact_dc, contact_share};
pub use release::{Release, ReleaseNeed, avalanche, current_after, release};
pub use series::{Series, next_larger, next_smaller};
pub use stock::{StockProblem, StockRow, Values, stock};
pub(crate) use supply::UNMARKED_A;
pub use supply::{Profile, SupplySize, profiles, profiles_of_power, supply};
pub use wire::{WireChoice, WireNeed, WireSizes, ampacity, wire, wire_ohms_per_metre};
