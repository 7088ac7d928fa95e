//! `[bus.x]`, lines that several parts share, and `[sensor.x]`, what is fed from one.

use super::load::{Demand, Load, Nature, States};
use super::load_kind::LoadKind;
use crate::plan::wiring::feed::{NodeRef, read_feed};
use crate::plan::wiring::name::Name;
use crate::plan::wiring::pin::PinRef;
use crate::plan::wiring::resistor::read_resistor;
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Farads, Hertz, Metres, Ohms, Volts};
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum BusKind {
    /// Two lines that rise through pull-ups (I²C): data and clock.
    I2c,
    /// Clock, data out and data in, and a select a part.
    Spi,
}

#[derive(Clone, Debug, Figures)]
pub(crate) struct Bus {
    pub name: Name,
    pub kind: BusKind,
    /// Of I²C data and clock; of SPI clock, out and in as they are given.
    pub lines: Vec<(&'static str, PinRef)>,
    pub speed: Figure<Hertz>,
    /// Pull-ups that stand on the bus itself, and the node to whose + they go (`None`: the board's own rail).
    pub pull: Option<Figure<Ohms>>,
    pub pull_to: Option<NodeRef>,
    /// Of all its cables together.
    pub length: Option<Figure<Metres>>,
    /// Of a line, where it is known.
    pub capacitance: Option<Figure<Farads>>,
}

#[derive(Clone, Debug, Figures)]
pub(crate) struct Sensor {
    pub name: Name,
    /// The load that it is as well.
    pub load: usize,
    pub bus: (Named, usize),
    /// On I²C, with where it is written.
    pub address: Option<(u32, Span)>,
    /// Its module's own pull-ups.
    pub pull: Option<Figure<Ohms>>,
    /// On SPI.
    pub select: Option<PinRef>,
    /// What its pins stand, where that is not its supply.
    #[figures(key = "input-voltage")]
    pub volts: Option<Figure<Volts>>,
}

pub(crate) fn read_bus(reader: &mut Reader<'_>, name: Name) -> Bus {
    let kind = reader.choice("kind", &[("i2c", BusKind::I2c), ("spi", BusKind::Spi)]).unwrap_or(BusKind::I2c);
    let keys: &[&'static str] = if kind == BusKind::I2c { &["data", "clock"] } else { &["clock", "out", "in"] };
    let mut lines = Vec::new();
    for key in keys {
        match reader.text(key) {
            Some(pin) => lines.push((*key, PinRef::new(pin))),
            None if *key != "in" && *key != "out" && !reader.has(key) => {
                reader.missing(key, &format!("name its pin: `{key} = \"keeper.io21\"`"));
            }
            None => {}
        }
    }
    let speed = reader.figure_or::<Hertz>("speed", Need::Positive, Hertz::new(100e3), "100 kHz if none is given");
    Bus {
        name,
        kind,
        lines,
        speed,
        pull: read_resistor(reader, "pull"),
        pull_to: reader.text("pull-to").map(NodeRef::new),
        length: reader.figure::<Metres>("length", Need::NotNegative),
        capacitance: reader.figure::<Farads>("capacitance", Need::NotNegative),
    }
}

pub(crate) fn read_sensor(reader: &mut Reader<'_>, name: Name) -> (Sensor, Load) {
    let feed = read_feed(reader).taking_pins();
    if !reader.has("bus") {
        reader.missing("bus", "name its bus: `bus = \"mast\"`");
    }
    let bus = reader.text("bus").unwrap_or(Named { text: String::new(), span: None });
    let current =
        reader.figure_or::<Amps>("current", Need::NotNegative, Amps::new(0.002), "a sensor draws 2 mA (typical)");
    let demand = Demand::Current(States { idle: Some(current.clone()), peak: current, typical: None, surge: None });
    let load = Load {
        recommended: reader.figure::<Volts>("recommended", Need::Positive),
        minimum: reader.figure::<Volts>("minimum", Need::Positive),
        absolute: reader.figure::<Volts>("absolute", Need::Positive),
        regulated: true,
        nature: Some(Nature::Electronics),
        ..Load::plain(name.clone(), LoadKind::Sensor, feed, demand)
    };
    let sensor = Sensor {
        name,
        load: usize::MAX,
        bus: (bus, usize::MAX),
        address: read_address(reader),
        pull: read_resistor(reader, "pull"),
        select: reader.text("select").map(PinRef::new),
        volts: reader.figure::<Volts>("input-voltage", Need::Positive),
    };
    (sensor, load)
}

/// `address = "0x76"`, or `address = 0x76`.
fn read_address(reader: &mut Reader<'_>) -> Option<(u32, Span)> {
    let node = reader.node("address")?;
    let text = match &node.value {
        Value::Number(t) | Value::Text(t, _) => t.replace('_', ""),
        _ => String::new(),
    };
    let value = match text.strip_prefix("0x").or_else(|| text.strip_prefix("0X")) {
        Some(hex) => u32::from_str_radix(hex, 16).ok(),
        None => text.parse().ok(),
    };
    // Seven bits, less what the standard keeps for itself (I²C-bus specification, table 3): 0x08 .. 0x77.
    if let Some(value) = value.filter(|a| (0x08..=0x77).contains(a)) {
        return Some((value, node.span));
    }
    reader.problem(Problem::new(
        node.span,
        format!("`address` of {} is not a seven-bit address", reader.what()),
        "write it without the read bit, 0x08 .. 0x77: `address = \"0x76\"`",
    ));
    None
}
