//! Judgements that two families need: consumer voltages, dividers.

pub(crate) mod consumer_voltage;
pub(crate) mod divider;
pub(crate) mod joined;
pub(crate) mod pin_volts;
pub(crate) mod protection;
