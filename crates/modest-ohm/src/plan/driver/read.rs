//! Reading `[driver.x]`: its values by kind.

use super::channels::read_channels;
use super::figures::{Bridge, Fet, GateDriver, Jumper, Relay, SolidState, Stage, Transistor, Volley};
use crate::plan::driver::consumer::{Feeds, ReadDriver, read_consumer};
use crate::plan::driver::{Driver, DriverKind, Thermal};
use crate::plan::kinds::flyback::read_flyback;
use crate::plan::kinds::signal_lines::{read_input_figures, read_line};
use crate::plan::wiring::driven::Side;
use crate::plan::wiring::feed::NodeRef;
use crate::plan::wiring::name::Name;
use crate::plan::wiring::resistor::read_resistor;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::parse::parse_quantity;
use crate::quantity::units::{
    Amps, Celsius, Coulombs, Farads, Fraction, Hertz, KelvinsPerWatt, Ohms, Quantity, Seconds, Volts,
};
use crate::text::Named;
use crate::text::order::at_most;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;

pub(crate) fn read_driver(reader: &mut Reader<'_>, name: Name) -> ReadDriver {
    let kind = reader.choice("kind", &DriverKind::WORDS);
    if !reader.has("kind") {
        let all: Vec<String> = DriverKind::WORDS.iter().map(|(w, _)| format!("\"{w}\"")).collect();
        reader.missing("kind", &format!("write `kind = ` and one of {}", all.join(", ")));
    }
    let kind = kind.unwrap_or(DriverKind::Nmos);
    let channels = read_channels(reader, &name, kind);
    let line = read_line(reader, "signal-cable");
    let input = read_input_figures(reader);
    let stage = read_stage(reader, kind);
    let active_low = reader.choice("active", &[("high", false), ("low", true)]).unwrap_or(false);
    let default_side = if kind == DriverKind::Pmos || kind.is_contact() { Side::High } else { Side::Low };
    let side = reader.choice("side", &[("low", Side::Low), ("high", Side::High)]).unwrap_or(default_side);
    let rests_off = reader.choice("safe-state", &[("off", true), ("on", false)]);
    let feeds = Feeds::read(reader, kind);
    let thermal_legs = reader.choice("thermal-pins", &[("wired", true), ("open", false)]);
    let (drop, ohms) = read_drop(reader, kind, &stage);
    let (limits, limit) = read_limits(reader);
    let (current, surge) = read_currents(reader);
    let mut driver = Driver {
        kind,
        stage,
        side,
        channels,
        line,
        input,
        active_low,
        pwm: reader.figure::<Hertz>("pwm", Need::Positive),
        limits,
        limit,
        edge: reader.figure::<Seconds>("edge", Need::Positive),
        pwm_range: reader.figure::<Hertz>("pwm-range", Need::NotNegative),
        current,
        surge,
        voltage: reader.figure::<Volts>("voltage", Need::Positive),
        heat: read_thermal(reader),
        drop,
        ohms,
        flyback: read_flyback(reader),
        common: reader.text("common").map(NodeRef::new),
        rests_off,
        feed: None,
        load: None,
        isolates: reader.flag("isolates", false),
        thermal_legs,
        mirror: reader.flag("mirror", false),
        legs: read_legs(reader),
        name,
    };
    let mut read = read_consumer(reader, &mut driver, feeds);
    read.driver = Some(driver);
    read
}

fn read_stage(reader: &mut Reader<'_>, kind: DriverKind) -> Stage {
    match kind {
        DriverKind::Npn | DriverKind::Darlington => {
            Stage::Transistor(read_transistor(reader, kind == DriverKind::Darlington))
        }
        DriverKind::Nmos | DriverKind::Pmos | DriverKind::MosfetModule => Stage::Fet(Box::new(read_fet(reader, kind))),
        DriverKind::Bridge => Stage::Bridge(Box::new(read_bridge(reader))),
        DriverKind::Relay | DriverKind::RelayModule => Stage::Relay(Box::new(read_relay(reader))),
        DriverKind::SolidState => Stage::SolidState(SolidState {
            ac: reader.choice("switches", &[("ac", true), ("dc", false)]).unwrap_or(false),
            leak: reader.figure::<Amps>("leakage", Need::NotNegative),
            reversed: reader.choice("output", &[("forward", false), ("reversed", true)]).unwrap_or(false),
        }),
    }
}

fn default_volts(values: [f64; 3], why: &'static str) -> Figure<Volts> {
    let [low, typical, high] = values.map(Volts::new);
    Figure { low, typical, high, origin: Origin::Default(why), bare: false }
}

pub(crate) fn read_transistor(reader: &mut Reader<'_>, darlington: bool) -> Transistor {
    let vbe = reader.figure::<Volts>("vbe", Need::Positive).unwrap_or_else(|| {
        if darlington {
            default_volts([1.2, 1.4, 1.6], "a Darlington pair needs 1.2 V .. 1.6 V at its base (typical)")
        } else {
            default_volts([0.6, 0.7, 0.8], "a silicon transistor needs 0.6 V .. 0.8 V at its base (typical)")
        }
    });
    let own = read_resistor(reader, "base-resistor");
    let built_in = read_resistor(reader, "input-resistor");
    Transistor {
        hfe: if reader.has("hfe") { reader.whole("hfe", 1..=1_000_000) } else { None },
        vbe,
        base_built_in: built_in.is_some(),
        base: built_in.or(own),
        needs: read_needs(reader),
    }
}

/// `needs = ["2.4 V at 200 mA", "3.0 V at 300 mA"]`: what an input needs at a current through the channel.
fn read_needs(reader: &mut Reader<'_>) -> Vec<Volley> {
    let mut points: Vec<Volley> = Vec::new();
    for word in reader.texts("needs-voltage") {
        let read = word.text.split_once(" at ").and_then(|(v, a)| {
            Some(Volley {
                volts: parse_quantity::<Volts>(v.trim()).ok()?,
                amps: parse_quantity::<Amps>(a.trim()).ok()?,
            })
        });
        let in_bounds = |p: &Volley| p.amps.get() > 0.0 && p.volts.get() > 0.0 && p.volts.si() <= Volts::BOUNDS.1;
        match read.filter(in_bounds) {
            Some(point) => points.push(point),
            None => reader.problem(Problem::new(
                word.span,
                format!("`{}` of {} is not a voltage at a current", word.text, reader.what()),
                "write `needs-voltage = [\"2.4 V at 200 mA\"]`",
            )),
        }
    }
    points.sort_by(|a, b| a.amps.get().total_cmp(&b.amps.get()));
    points.dedup_by(|a, b| a.amps == b.amps);
    points
}

fn read_fet(reader: &mut Reader<'_>, kind: DriverKind) -> Fet {
    let gate = if let Some(mut inner) = child_of_class(reader, "gate-driver") {
        let _ = inner.text("part");
        let _ = inner.text("kind");
        let transistor = read_transistor(&mut inner, false);
        // What else its class says of it decides nothing here: it carries the pull-up's current.
        for key in
            ["current", "voltage", "drop", "resistance", "power", "theta-ja", "junction-max", "pinout", "surge-current"]
        {
            let _ = inner.has(key);
        }
        inner.finish();
        GateDriver::Transistor(Box::new(transistor))
    } else if reader.choice("drive", &[("pin", false), ("rail", true)]).unwrap_or(false) {
        GateDriver::Rail
    } else {
        GateDriver::Pin
    };
    let _ = reader.has("drive");
    let pull_key = if kind == DriverKind::Pmos { "pull-up" } else { "pull-down" };
    Fet {
        sheet: reader.figure::<Ohms>("resistance", Need::NotNegative).unwrap_or_else(|| {
            Figure::exact(Ohms::new(0.05), Origin::Default("50 mΩ, typical of small power MOSFETs"))
        }),
        specified: reader.figure::<Volts>("rds-on-at", Need::Positive),
        threshold: reader.figure::<Volts>("threshold", Need::Positive),
        gate_max: reader.figure::<Volts>("gate-maximum", Need::Positive),
        qgd: reader.figure::<Coulombs>("gate-charge", Need::Positive),
        plateau: reader.figure::<Volts>("plateau", Need::Positive),
        ciss: reader.figure::<Farads>("gate-capacitance", Need::Positive),
        series: read_resistor(reader, "gate-resistor"),
        pull: read_resistor(reader, pull_key),
        clamp: reader.figure::<Volts>("gate-clamp", Need::Positive),
        gate,
    }
}

/// A table under a key that names a driver class, or the name of one.
fn child_of_class<'a>(reader: &mut Reader<'a>, key: &'static str) -> Option<Reader<'a>> {
    let node = reader.node(key)?;
    let what = format!("`{key}` of {}", reader.what());
    match &node.value {
        Value::Text(text, _) => reader.class("driver", what, text, node.span),
        Value::Table(table) => {
            let part = match table.get("part").map(|(_, n)| (&n.value, n.span)) {
                Some((Value::Text(text, _), span)) => Some((text.as_str(), span)),
                _ => None,
            };
            Some(reader.nested_of_class("driver", table, what, node.span, part))
        }
        other => {
            let message = format!("{what} is {}", other.kind());
            let help = "name a small transistor: `{ part = \"npn-small\", base-resistor = \"10 kΩ\" }`";
            reader.problem(Problem::new(node.span, message, help));
            None
        }
    }
}

fn read_bridge(reader: &mut Reader<'_>) -> Bridge {
    const JUMPER: [(&str, Jumper); 3] = [("none", Jumper::None), ("in", Jumper::In), ("out", Jumper::Out)];
    Bridge {
        logic: reader.figure::<Volts>("logic-voltage", Need::Positive),
        regulator: reader.choice("regulator-jumper", &JUMPER).unwrap_or(Jumper::None),
        regulator_least: reader.figure_or::<Volts>(
            "regulator-least",
            Need::Positive,
            Volts::new(7.0),
            "a 5 V regulator needs 7 V (typical)",
        ),
        regulator_theta: reader.figure::<KelvinsPerWatt>("regulator-theta", Need::Positive),
        logic_fed: false,
        enable_pull: read_resistor(reader, "pull-down"),
    }
}

fn read_relay(reader: &mut Reader<'_>) -> Relay {
    const JUMPER: [(&str, Jumper); 3] = [("none", Jumper::None), ("in", Jumper::In), ("out", Jumper::Out)];
    let share = |value: f64, why: &'static str| Figure::exact(Fraction::new(value), Origin::Default(why));
    Relay {
        coil: reader.figure::<Volts>("coil", Need::Positive),
        coil_ohms: reader.figure::<Ohms>("coil-resistance", Need::Positive).map(|f| f.with_tolerance(0.10)),
        pull_in: reader
            .figure::<Fraction>("pull-in", Need::Positive)
            .unwrap_or_else(|| share(0.75, "a relay pulls in at 75 % of its coil voltage (typical)")),
        most: reader
            .figure::<Fraction>("coil-maximum", Need::Positive)
            .unwrap_or_else(|| share(1.3, "a coil withstands 130 % of its rated voltage at 23 °C (typical)")),
        coil_rise: reader.figure_or::<Celsius>(
            "coil-rise",
            Need::NotNegative,
            Celsius::new(30.0),
            "a coil of 0.4 W is 30 K warmer than the air after ten minutes (typical)",
        ),
        dc_volts: reader.figure_or::<Volts>(
            "dc-voltage",
            Need::Positive,
            Volts::new(30.0),
            "contacts break their rated current up to 30 V DC (typical)",
        ),
        ac_volts: reader.figure::<Volts>("ac-voltage", Need::Positive),
        making: reader.figure::<Amps>("making-current", Need::Positive),
        life: if reader.has("life") { reader.whole("life", 1..=1_000_000_000) } else { None },
        per_hour: reader.figure::<Hertz>("switched", Need::Positive),
        jumper: reader.choice("jumper", &JUMPER).unwrap_or(Jumper::None),
        logic: None,
    }
}

/// What a channel drops, and its resistance, as the network has them. A MOSFET's sheet resistance is at 25 °C: hot it
/// is half as much again.
fn read_drop(reader: &mut Reader<'_>, kind: DriverKind, stage: &Stage) -> (Option<Figure<Volts>>, Figure<Ohms>) {
    let drop = reader.figure::<Volts>("drop", Need::NotNegative);
    if let Stage::Fet(fet) = stage {
        let high = Ohms::new(1.5 * fet.sheet.high.get());
        return (drop, Figure { high, ..fet.sheet.clone() });
    }
    let ohms = reader.figure::<Ohms>("resistance", Need::NotNegative);
    let default = |ohms: f64, why: &'static str| Figure::exact(Ohms::new(ohms), Origin::Default(why));
    match (kind, drop) {
        (DriverKind::Npn, None) if ohms.is_none() => (
            Some(default_volts([0.1, 0.2, 0.3], "a small transistor saturates at 0.1 V .. 0.3 V (typical)")),
            default(0.0, "no resistance apart from its saturation"),
        ),
        (DriverKind::Darlington, None) if ohms.is_none() => (
            Some(default_volts([0.7, 0.9, 1.1], "a Darlington pair saturates at 0.7 V .. 1.1 V (typical)")),
            default(0.0, "no resistance apart from its saturation"),
        ),
        (k, drop) if k.is_contact() => {
            (drop, ohms.unwrap_or_else(|| default(0.05, "a relay's contact has 50 mΩ (typical)")))
        }
        (DriverKind::SolidState, None) if ohms.is_none() => (
            Some(default_volts([1.0, 1.2, 1.6], "a solid-state relay drops 1.0 V .. 1.6 V (typical)")),
            default(0.0, "no resistance apart from its drop"),
        ),
        (_, drop) => (drop, ohms.unwrap_or_else(|| default(0.0, "no resistance if none is given"))),
    }
}

fn read_thermal(reader: &mut Reader<'_>) -> Thermal {
    Thermal {
        theta: reader.figure::<KelvinsPerWatt>("theta-ja", Need::Positive),
        case: reader.figure::<KelvinsPerWatt>("theta-jc", Need::Positive),
        sink: reader.figure::<KelvinsPerWatt>("heatsink", Need::Positive),
        most: reader.figure::<Celsius>("junction-max", Need::Positive),
        shared: reader.flag("shares-heat", false),
    }
}

/// `wired-pinout = "collector base emitter"` against `legs` of its class, both seen from the printed side.
fn read_legs(reader: &mut Reader<'_>) -> Option<(Named, String)> {
    let legs = reader.text("pinout");
    let wired = reader.text("wired-pinout");
    match (wired, legs) {
        (Some(wired), Some(legs)) => Some((wired, legs.text)),
        _ => None,
    }
}

/// `limits = true`, or the current at which it does: `limits = "5 A .. 6.5 A"`.
fn read_limits(reader: &mut Reader<'_>) -> (bool, Option<Figure<Amps>>) {
    match reader.node("limits").map(|n| &n.value) {
        None | Some(Value::Flag(_)) => (reader.flag("limits", false), None),
        Some(_) => (true, reader.figure::<Amps>("limits", Need::Positive)),
    }
}

/// What it carries continuously, and briefly.
fn read_currents(reader: &mut Reader<'_>) -> (Option<Figure<Amps>>, Option<Figure<Amps>>) {
    let current = reader.figure::<Amps>("current", Need::Positive);
    let surge = reader.figure::<Amps>("surge-current", Need::Positive);
    let typical = |f: &Option<Figure<Amps>>| f.as_ref().map(|f| f.typical);
    let help = "its peak rating is at least its continuous rating";
    at_most(reader, ("current", typical(&current)), ("surge-current", typical(&surge)), help);
    (current, surge)
}
