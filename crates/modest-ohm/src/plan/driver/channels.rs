//! The channels of a driver: each with the pins that drive it.

use super::DriverKind;
use crate::plan::wiring::name::Name;
use crate::plan::wiring::pin::PinRef;
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::Reader;
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Channel {
    /// As loads name it: `tide-switch`, `array.3`, `crane.a`.
    pub name: String,
    pub span: Span,
    /// What drives it; of a bridge its two inputs. Empty where nothing in the plan does.
    pub pins: Vec<PinRef>,
    /// Of a bridge.
    pub enable: Enable,
    /// True where it is the driver itself, that has no channels of its own.
    pub only: bool,
}

/// What holds a bridge's enable.
#[derive(Clone, Debug, Figures)]
pub(crate) enum Enable {
    /// It has none.
    None,
    /// A jumper to its logic supply.
    Held,
    Pin(PinRef),
    /// Joined to nothing.
    Open,
}

/// More channels than any array or module has.
const MOST: usize = 64;

/// `pin = "keeper.io32"`, or `[driver.x.channels]` with `1 = "keeper.io32"` or `a = { pins = […], enable = … }`.
pub(crate) fn read_channels(reader: &mut Reader<'_>, name: &Name, kind: DriverKind) -> Vec<Channel> {
    let is_bridge = kind == DriverKind::Bridge;
    let own_pin = pins_of(reader, is_bridge);
    let own_enable = read_enable(reader, is_bridge);
    let has_own = !own_pin.is_empty();
    if kind == DriverKind::Relay {
        refuse_pins(reader);
    }
    let Some(mut table) = reader.child("channels") else {
        let first = if is_bridge { format!("{}.a", name.text) } else { name.text.clone() };
        return vec![Channel { name: first, span: name.span, pins: own_pin, enable: own_enable, only: !is_bridge }];
    };
    if has_own {
        table.problem(Problem::new(
            table.span,
            format!("{} has `channels` and a `pin` of its own", reader.what()),
            "write each channel's pin in `channels`",
        ));
    }
    let mut channels = Vec::new();
    for (key, span) in table.keys().into_iter().take(MOST) {
        let Some((node, _)) = table.any(&key) else { continue };
        let named = format!("{}.{key}", name.text);
        match &node.value {
            Value::Text(text, _) => {
                let pin = PinRef::new(Named { text: text.clone(), span: Some(node.span) });
                let enable = own_enable.clone();
                channels.push(Channel { name: named, span, pins: vec![pin], enable, only: false });
            }
            Value::Table(inner) => {
                let mut inner = table.nested(inner, format!("channel `{key}` of {}", reader.what()), node.span, None);
                let pins = pins_of(&mut inner, is_bridge);
                let enable = if inner.has("enable") { read_enable(&mut inner, is_bridge) } else { own_enable.clone() };
                inner.finish();
                channels.push(Channel { name: named, span, pins, enable, only: false });
            }
            other => table.problem(Problem::new(
                node.span,
                format!("channel `{key}` of {} is {}", reader.what(), other.kind()),
                "name the pin that drives it: `1 = \"keeper.io32\"`",
            )),
        }
    }
    if table.keys().is_empty() {
        table.problem(Problem::new(
            table.span,
            format!("{} has no channel", table.what()),
            "name the pins that drive them: `1 = \"keeper.io32\"`",
        ));
    }
    channels
}

/// The coil of a bare relay is a load: what is written as its pin would be judged as a signal, and the coil not at all.
fn refuse_pins(reader: &mut Reader<'_>) {
    for key in ["pin", "channels"] {
        let Some(span) = reader.own_span(key) else { continue };
        let what = reader.what().to_owned();
        reader.problem(Problem::new(
            span,
            format!("{what} is a bare relay: its coil is a load that `{key}` does not switch"),
            "name the driver that switches the coil, `driver = \"coil-switch\"` (a driver with a `pin`); if a pin \
            drives the coil directly, write `from = \"keeper.io21\"`",
        ));
    }
}

fn pins_of(reader: &mut Reader<'_>, is_bridge: bool) -> Vec<PinRef> {
    let pins: Vec<Named> = if is_bridge { reader.texts("pins") } else { reader.text("pin").into_iter().collect() };
    if is_bridge && pins.len() > 2 {
        let span = reader.own_span("pins");
        let message = format!("{} has {} inputs per channel", reader.what(), pins.len());
        reader.problem(Problem::new(span, message, "a channel of a bridge has two inputs; `enable` is a separate key"));
    }
    pins.into_iter().map(PinRef::new).collect()
}

/// `enable = "keeper.io5"`, `"jumper"`, `"open"` or `"none"`.
fn read_enable(reader: &mut Reader<'_>, is_bridge: bool) -> Enable {
    if !is_bridge {
        return Enable::None;
    }
    match reader.text("enable") {
        None => Enable::Held,
        Some(word) => match word.text.as_str() {
            "jumper" => Enable::Held,
            "open" => Enable::Open,
            "none" => Enable::None,
            _ => Enable::Pin(PinRef::new(word)),
        },
    }
}
