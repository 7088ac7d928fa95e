//! Single questions without a plan: which supply, regulator, battery, capacitor, wire, fuse, feed points, firmware
//! limit. Pure functions, used by the checks too.

pub(crate) mod base;
pub(crate) mod battery;
pub(crate) mod bridge;
pub(crate) mod capacitor;
pub(crate) mod closing;
pub(crate) mod divider;
pub(crate) mod firmware;
pub(crate) mod flyback;
pub(crate) mod fuse;
pub(crate) mod gate;
pub(crate) mod injection;
pub(crate) mod led;
pub(crate) mod level;
pub(crate) mod pair;
pub(crate) mod placing;
pub(crate) mod pull;
pub(crate) mod regulator;
pub(crate) mod relay;
pub(crate) mod release;
pub(crate) mod series;
pub(crate) mod stock;
pub(crate) mod supply;
pub(crate) mod wire;

pub use base::{BaseNeed, BaseSize, Saturates, TransistorNeed, TransistorState, base, transistor};
pub use battery::{BatteryNeed, BatterySize, CELLS, NoBattery, battery};
pub use bridge::{BridgeLack, BridgeNeed, BridgeState, bridge};
pub use capacitor::{CapacitorSize, bulk_capacitor, charging_time, inrush_peak};
pub use closing::{Closing, pair_inductance};
pub use divider::{DividerLimits, DividerNeed, DividerSize, divider, divider_finer, divider_with};
pub use firmware::{FirmwareLimit, PathLimit, PixelTiming, firmware_limit, frame, pixels_at};
pub use flyback::{FlybackClass, flyback_class, flyback_classes};
pub use fuse::{
    FuseClears, FuseSize, FuseStart, ProtectedWire, WireProtection, fuse, fuse_clears, fuse_ohms, fuse_start,
    wire_protection,
};
pub use gate::{GateNeed, GateVerdict, Switching, SwitchingNeed, gate, switching};
pub use injection::{
    InjectionCable, InjectionNeed, InjectionPlaces, InjectionSet, InjectionStrip, PixelColour, injection, injection_of,
};
pub use led::{LED_AT_WORST, LedNeed, LedResistor, LedSize, ResistorHeat, led, led_with};
pub use level::{LevelNeed, LevelOption, LevelThreshold, level};
pub use pair::{Pair, pair};
pub use pull::{BusPull, BusPullRange, PullNeed, PullSize, bus_pull, bus_speed, pull};
pub use regulator::{RegulatorHeat, RegulatorNeed, regulator};
pub use relay::{CoilNeed, CoilState, ContactLoad, coil, contact_breaks, contact_dc, contact_makes};
pub use release::{Release, ReleaseNeed, avalanche, current_after, release};
pub use series::{Series, next_larger, next_smaller};
pub use stock::{StockProblem, StockRow, Values, stock};
pub use supply::{Profile, SupplySize, profiles, profiles_of_power, supply};
pub use wire::{WireChoice, WireNeed, WireSizes, ampacity, wire, wire_ohms_per_metre};
