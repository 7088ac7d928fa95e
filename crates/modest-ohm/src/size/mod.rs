//! Single questions without a plan: which supply, regulator, battery, capacitor. Pure functions, used by the checks too.

mod battery;
mod capacitor;
mod regulator;
mod supply;

pub use battery::{BatteryNeed, BatterySize, CELLS, NoBattery, battery};
pub use capacitor::{CapacitorSize, bulk_capacitor, charging_time, inrush_peak};
pub(crate) use regulator::MARGIN_K;
pub use regulator::{RegulatorHeat, RegulatorNeed, regulator};
pub(crate) use supply::UNMARKED_A;
pub use supply::{Profile, SupplySize, profiles, profiles_of_power, supply};
