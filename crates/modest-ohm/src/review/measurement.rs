//! How to measure a figure at the bench.

use crate::plan::model::movable::Movable;

/// The bench measurement that settles a figure.
pub(crate) fn measurement(on: &Movable) -> String {
    let item = &on.item;
    match on.key.as_str() {
        "current" | "power" => format!("measure the peak current of `{item}` with an ammeter in its positive"),
        "surge" => format!("measure the current of `{item}` at start or stall, at its rated voltage"),
        "idle" | "typical" => format!("measure the current of `{item}` in that state with an ammeter in its positive"),
        "mean" | "peak" | "quiescent" | "own-current" => format!("measure the current that `{item}` draws itself"),
        "copper" => format!(
            "measure the resistance of one metre of the tracks of `{item}`: the voltage along it at a known current"
        ),
        "limit" => format!("load `{item}` until its voltage falls, and read the current there"),
        "efficiency" => format!("measure voltage and current at the input and output of `{item}` under load"),
        "vf" | "usb-diode" => "measure the voltage across the diode at its current".into(),
        "colours.vf" | "colours.vreg" => {
            format!(
                "lower the voltage of a short piece of `{item}`; note where each colour starts to fade and where \
                it goes dark"
            )
        }
        "colours.current" => format!("measure a short piece of `{item}` at full white and divide by its pixels"),
        "voltage" | "regulator.voltage" | "unregulated.makes" | "output" => {
            format!("measure the output of `{item}` under load")
        }
        "regulator.dropout" | "unregulated.dropout" | "dropout" => {
            format!("lower the input of `{item}` until its output falls, and take the difference")
        }
        "holder" | "resistance" | "esr" => {
            format!(
                "measure the voltage at `{item}` with no load and at a known current; divide the difference by \
                that current"
            )
        }
        "theta-ja" | "regulator.theta-ja" | "unregulated.theta-ja" => {
            format!("measure the temperature of the part in `{item}` under load with a thermocouple")
        }
        _ => format!("take `{}` of `{item}` from its datasheet", on.key),
    }
}
