//! The kinds of loads. What depends on the kind is asked here, by matches without a rest: a kind that is added does not
//! compile until each of them knows of it.

use modest_ohm_derive::Figures;

use super::load::Nature;

/// The kind that a load is written as.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum LoadKind {
    Load,
    Motor,
    Pump,
    Servo,
    Solenoid,
    Heater,
    Led,
    /// A module on a bus.
    Sensor,
    /// What a driver draws itself: a coil, a module's logic.
    Driver,
}

impl LoadKind {
    /// The word of its tables, and of messages.
    pub const fn word(self) -> &'static str {
        match self {
            Self::Load => "load",
            Self::Motor => "motor",
            Self::Pump => "pump",
            Self::Servo => "servo",
            Self::Solenoid => "solenoid",
            Self::Heater => "heater",
            Self::Led => "led",
            Self::Sensor => "sensor",
            Self::Driver => "driver",
        }
    }

    /// What it is by its nature where the plan does not say; `None` for a kind that may be anything.
    pub const fn nature(self) -> Option<Nature> {
        match self {
            Self::Load | Self::Driver => None,
            Self::Motor | Self::Pump => Some(Nature::Motor),
            Self::Servo => Some(Nature::Servo),
            Self::Solenoid => Some(Nature::Coil),
            Self::Heater => Some(Nature::Heater),
            Self::Led => Some(Nature::Led),
            Self::Sensor => Some(Nature::Electronics),
        }
    }

    /// True for what must not run dry unless the plan allows it.
    pub const fn is_ruined_dry(self) -> bool {
        match self {
            Self::Pump => true,
            Self::Load | Self::Motor | Self::Servo | Self::Solenoid | Self::Heater => false,
            Self::Led | Self::Sensor | Self::Driver => false,
        }
    }

    /// True for what a driver switches as a whole, so that one may be looked for.
    pub const fn is_switched(self) -> bool {
        match self {
            Self::Load | Self::Motor | Self::Pump | Self::Solenoid | Self::Heater => true,
            Self::Servo | Self::Led | Self::Sensor | Self::Driver => false,
        }
    }

    /// True for tables whose keys say how a coil is damped, how long it may run and what stops it. Coils of relays have
    /// these keys on their driver, LEDs have none.
    pub const fn has_limits(self) -> bool {
        match self {
            Self::Load | Self::Motor | Self::Pump | Self::Servo | Self::Solenoid | Self::Heater | Self::Sensor => true,
            Self::Led | Self::Driver => false,
        }
    }
}
