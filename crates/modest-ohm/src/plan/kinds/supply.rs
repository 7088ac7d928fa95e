//! Sources: `supply` of every kind.

use super::battery::{Battery, read_battery};
use super::derating::read_derates;
use super::negotiated::{Negotiation, read_negotiation};
use crate::plan::wiring::name::{Name, read_share};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction, Ohms, Seconds, Volts};
use crate::text::figures::figure_of_node;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// `[supply.x]`: where power comes from.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Supply {
    pub name: Name,
    #[figures(flat)]
    pub kind: SupplyKind,
    #[figures(state)]
    pub voltage: Figure<Volts>,
    pub resistance: Figure<Ohms>,
    /// Continuous rating; without it the supply is unlimited and its overload unknown.
    pub current: Option<Figure<Amps>>,
    /// Where it starts to limit.
    pub limit: Option<Figure<Amps>>,
    /// True where it switches off and tries again beyond its limit.
    pub hiccups: bool,
    /// Its hiccup cycle in a short circuit, where that is known.
    pub hiccup: Option<Hiccup>,
    pub sinks: bool,
    /// Below this it switches itself off.
    pub off_below: Option<Figure<Amps>>,
    /// True where its plug fits in one direction only.
    pub keyed: bool,
    pub headroom: Option<Figure<Fraction>>,
    #[figures(flat)]
    pub battery: Option<Battery>,
    #[figures(flat)]
    pub negotiation: Option<Negotiation>,
    /// What a vehicle's net does as well, of one.
    pub vehicle: VehicleNet,
    /// The share of its rating that it carries by the air around it, warmest last; empty where its kind's counts.
    pub derates: Vec<(f64, f64)>,
    /// The mains' voltage that it takes, of one that is connected to them.
    #[figures(range)]
    pub input: Option<Figure<Volts>>,
}

/// What a vehicle's net does in addition to its steady voltage.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) struct VehicleNet {
    /// True where the alternator's own diodes bound a load dump, as in most vehicles since about 1990.
    pub suppressed: bool,
    /// True where what is fed from it has to run on while the engine starts.
    pub through_cranking: bool,
}

/// For how long a supply gives its limit in a short circuit, and then nothing.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Hiccup {
    pub on: Figure<Seconds>,
    pub off: Figure<Seconds>,
}

impl Hiccup {
    /// The largest share of the time for which it is on.
    pub fn share(&self) -> f64 {
        self.on.high.get() / (self.on.high.get() + self.off.low.get())
    }
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum SupplyKind {
    Adapter,
    Bench,
    MainsConverter,
    Usb,
    Negotiated,
    Battery,
    /// On-board network of a vehicle, nominal voltage.
    Vehicle {
        volts: u8,
    },
}

impl SupplyKind {
    /// True where nothing but its resistance limits what it gives.
    pub fn is_stiff(self) -> bool {
        matches!(self, SupplyKind::Battery | SupplyKind::Vehicle { .. })
    }

    /// The word for messages.
    pub fn word(self) -> &'static str {
        match self {
            SupplyKind::Battery => "battery",
            SupplyKind::Usb => "USB port",
            SupplyKind::Negotiated => "negotiated source",
            SupplyKind::Vehicle { .. } => "vehicle supply",
            _ => "supply",
        }
    }
}

const KINDS: [(&str, SupplyKind); 7] = [
    ("adapter", SupplyKind::Adapter),
    ("bench", SupplyKind::Bench),
    ("mains-converter", SupplyKind::MainsConverter),
    ("usb", SupplyKind::Usb),
    ("negotiated", SupplyKind::Negotiated),
    ("battery", SupplyKind::Battery),
    ("vehicle", SupplyKind::Vehicle { volts: 12 }),
];

/// The keys of all kinds.
const ALL_KEYS: [&str; 34] = [
    "holder-current",
    "off-below",
    "derates",
    "mounted",
    "protection",
    "load-dump",
    "through-cranking",
    "input",
    "hiccup",
    "voltage",
    "current",
    "resistance",
    "limit",
    "sinks",
    "headroom",
    "keyed",
    "port",
    "cable-resistance",
    "profiles",
    "power",
    "selected",
    "requested-current",
    "marked-cable",
    "cell",
    "series",
    "parallel",
    "holder",
    "capacity",
    "reserve",
    "charger",
    "cut-off",
    "runtime",
    "runtime-in",
    "system",
];

/// A USB port's voltage (USB 2.0 § 7.2, at the port).
pub(crate) fn usb_volts() -> Figure<Volts> {
    Figure {
        low: Volts::new(4.75),
        typical: Volts::new(5.0),
        high: Volts::new(5.25),
        origin: Origin::Default("4.75 V .. 5.25 V at a USB port"),
        bare: false,
    }
}

/// A USB lead, in both directions: 0.75 V at 3 A is the most that the standard allows a cable; good ones lose a third
/// of it.
pub(crate) fn usb_lead() -> Figure<Ohms> {
    Figure {
        low: Ohms::new(0.08),
        typical: Ohms::new(0.13),
        high: Ohms::new(0.25),
        origin: Origin::Default("a USB cable has 0.08 Ω .. 0.25 Ω, both conductors, usually 0.13 Ω (typical)"),
        bare: false,
    }
}

/// What a USB port gives a device that has not asked for more.
pub(crate) const USB_PORT_AMPS: f64 = 0.5;

pub(crate) fn read_supply(reader: &mut Reader<'_>, name: Name) -> Supply {
    let kind = reader.choice("kind", &KINDS);
    if !reader.has("kind") {
        let words: Vec<&str> = KINDS.iter().map(|(word, _)| *word).collect();
        reader.missing("kind", &format!("write one of: {}", words.join(", ")));
    }
    let Some(kind) = kind else {
        // Which keys it should have is not known: none is missed, none is too much; what is written wrong in itself is
        // told all the same.
        let _ = reader.figure::<Volts>("voltage", Need::Positive);
        let _ = reader.figure::<Amps>("current", Need::Positive);
        let _ = reader.figure::<Ohms>("resistance", Need::NotNegative);
        for key in ALL_KEYS {
            let _ = reader.node(key);
        }
        return bare(name, SupplyKind::Adapter, Figure::stand_in(), Figure::stand_in(), None);
    };
    match kind {
        SupplyKind::Usb => read_usb(reader, name),
        SupplyKind::Negotiated => read_negotiated(reader, name),
        SupplyKind::Battery => read_battery(reader, name),
        SupplyKind::Vehicle { .. } => read_vehicle(reader, name),
        regulated => read_regulated(reader, name, regulated),
    }
}

/// Adapters ± 5 %, bench supplies ± 1 % (typical of the classes); a stated resistance makes the voltage exact.
fn read_regulated(reader: &mut Reader<'_>, name: Name, kind: SupplyKind) -> Supply {
    let mut voltage = reader.required::<Volts>("voltage", Need::Positive);
    let current = reader.figure::<Amps>("current", Need::Positive);
    let stated_resistance = reader.figure::<Ohms>("resistance", Need::NotNegative);
    let (limit, hiccups) = read_limit(reader, current.as_ref(), kind);
    if stated_resistance.is_some() {
        voltage.bare = false;
    } else {
        voltage = voltage.with_tolerance(if kind == SupplyKind::Bench { 0.01 } else { 0.05 });
    }
    let resistance = stated_resistance.unwrap_or_else(|| {
        Figure::exact(Ohms::new(0.0), Origin::Default("a regulated supply: its tolerance includes regulation"))
    });
    let input = reader.figure::<Volts>("input", Need::Positive);
    finish(reader, Supply { limit, hiccups, input, ..bare(name, kind, voltage, resistance, current) })
}

fn read_usb(reader: &mut Reader<'_>, name: Name) -> Supply {
    // USB 2.0 § 7.2.1, USB 3.2 § 11.4, Battery Charging 1.2 § 4.1, Type-C § 4.6.2.
    const PORTS: [(&str, f64); 5] = [("usb-2", 0.5), ("usb-3", 0.9), ("charging", 1.5), ("c-1.5", 1.5), ("c-3", 3.0)];
    let port = reader.choice("port", &PORTS).unwrap_or(USB_PORT_AMPS);
    let voltage = reader.figure::<Volts>("voltage", Need::Positive).map_or_else(usb_volts, |v| v.with_tolerance(0.05));
    let current = reader.figure::<Amps>("current", Need::Positive).unwrap_or_else(|| {
        Figure::exact(Amps::new(port), Origin::Default("what this kind of USB port supplies; 0.5 A if none is given"))
    });
    let lead = reader.figure::<Ohms>("cable-resistance", Need::NotNegative).unwrap_or_else(usb_lead);
    let (limit, hiccups) = read_limit(reader, Some(&current), SupplyKind::Usb);
    finish(reader, Supply { limit, hiccups, ..bare(name, SupplyKind::Usb, voltage, lead, Some(current)) })
}

fn read_negotiated(reader: &mut Reader<'_>, name: Name) -> Supply {
    let (negotiation, voltage, current) = read_negotiation(reader);
    let lead = reader.figure::<Ohms>("cable-resistance", Need::NotNegative).unwrap_or_else(usb_lead);
    let (limit, hiccups) = read_limit(reader, Some(&current), SupplyKind::Negotiated);
    let supply = bare(name, SupplyKind::Negotiated, voltage, lead, Some(current));
    finish(reader, Supply { limit, hiccups, negotiation: Some(negotiation), ..supply })
}

/// 9 .. 16 V or 16 .. 32 V; the resistance of a lead battery where none is given.
fn read_vehicle(reader: &mut Reader<'_>, name: Name) -> Supply {
    let volts = reader.choice("system", &[("12 V", 12u8), ("24 V", 24)]);
    if !reader.has("system") {
        reader.missing("system", "write `system = \"12 V\"` or `system = \"24 V\"`");
    }
    let volts = volts.unwrap_or(12);
    let (low, high, why) = if volts == 24 {
        (16.0, 32.0, "a 24 V vehicle has 16 V .. 32 V")
    } else {
        (9.0, 16.0, "a 12 V vehicle has 9 V .. 16 V")
    };
    let voltage = reader.figure::<Volts>("voltage", Need::Positive).unwrap_or_else(|| Figure {
        low: Volts::new(low),
        typical: Volts::new((low + high) / 2.0),
        high: Volts::new(high),
        origin: Origin::Default(why),
        bare: false,
    });
    let resistance = reader.figure::<Ohms>("resistance", Need::NotNegative).unwrap_or_else(|| Figure {
        low: Ohms::new(0.02),
        typical: Ohms::new(0.035),
        high: Ohms::new(0.05),
        origin: Origin::Default("a vehicle's battery has 0.02 Ω .. 0.05 Ω (typical)"),
        bare: false,
    });
    let current = reader.figure::<Amps>("current", Need::Positive);
    let vehicle = VehicleNet {
        suppressed: reader.choice("load-dump", &[("suppressed", true), ("unsuppressed", false)]).unwrap_or(true),
        through_cranking: reader.flag("through-cranking", false),
    };
    finish(reader, Supply { vehicle, ..bare(name, SupplyKind::Vehicle { volts }, voltage, resistance, current) })
}

pub(crate) fn bare(
    name: Name,
    kind: SupplyKind,
    voltage: Figure<Volts>,
    resistance: Figure<Ohms>,
    current: Option<Figure<Amps>>,
) -> Supply {
    Supply {
        name,
        kind,
        voltage,
        resistance,
        current,
        limit: None,
        hiccups: false,
        hiccup: None,
        sinks: false,
        off_below: None,
        keyed: false,
        headroom: None,
        battery: None,
        negotiation: None,
        vehicle: VehicleNet { suppressed: true, through_cranking: false },
        derates: Vec::new(),
        input: None,
    }
}

/// What all kinds have.
pub(crate) fn finish(reader: &mut Reader<'_>, supply: Supply) -> Supply {
    let sinks = reader.flag("sinks", false);
    let off_below = reader.figure::<Amps>("off-below", Need::Positive);
    let headroom = read_share(reader, "headroom");
    let keyed = match supply.kind {
        SupplyKind::Battery | SupplyKind::Vehicle { .. } => reader.flag("keyed", false),
        _ => true,
    };
    let hiccup = if supply.limit.is_some() { read_hiccup(reader) } else { None };
    let derates = read_derates(reader);
    Supply { sinks, off_below, headroom, keyed, hiccup, derates, ..supply }
}

/// What a source can do beyond its limit. All are solved as constant current at the limit.
const BEYOND: [(&str, bool); 3] = [("hiccup", true), ("constant-current", false), ("foldback", false)];

/// `hiccup = { on = "20 ms", off = "480 ms" }`.
fn read_hiccup(reader: &mut Reader<'_>) -> Option<Hiccup> {
    let mut inner = reader.child("hiccup")?;
    let on = inner.required::<Seconds>("on", Need::Positive);
    let off = inner.required::<Seconds>("off", Need::Positive);
    inner.finish();
    Some(Hiccup { on, off })
}

/// `limit` in amperes or as a share of the rating, with a word for what comes beyond it (`"120 % .. 150 %, hiccup"`);
/// else what the class does: a bench supply limits where its knob stands, all others at 1.1 .. 1.5 times their rating
/// and hiccup (typical).
fn read_limit(
    reader: &mut Reader<'_>,
    rating: Option<&Figure<Amps>>,
    kind: SupplyKind,
) -> (Option<Figure<Amps>>, bool) {
    let mut hiccups = kind != SupplyKind::Bench;
    let (low, high, why) = if kind == SupplyKind::Bench {
        (1.0, 1.0, "a bench supply limits at its rating")
    } else {
        (1.1, 1.5, "supplies limit at 110 % .. 150 % of their rating (typical)")
    };
    let usual = || {
        let rating = rating?;
        Some(Figure {
            low: rating.low * low,
            typical: rating.typical * ((low + high) / 2.0),
            high: rating.high * high,
            origin: Origin::Default(why),
            bare: false,
        })
    };
    let Some(node) = reader.node("limit") else { return (usual(), hiccups) };
    let mut node = node.clone();
    if let Value::Text(text, _) = &mut node.value
        && let Some((figure, word)) = text.rsplit_once(',')
        && let Some((_, trips)) = BEYOND.iter().find(|(known, _)| *known == word.trim())
    {
        hiccups = *trips;
        *text = figure.to_owned();
    }
    let is_share = matches!(&node.value, Value::Text(t, _) if t.trim_end().ends_with('%') && !t.contains('±'));
    if !is_share {
        return (figure_of_node::<Amps>(reader, &node, "limit", Need::Positive), hiccups);
    }
    let share = figure_of_node::<Fraction>(reader, &node, "limit", Need::Positive);
    let Some(rating) = rating else {
        reader.problem(Problem::new(
            node.span,
            format!("`limit` of {} is a share of a rating that is not given", reader.what()),
            "write `current`, or the limit in amperes",
        ));
        return (None, hiccups);
    };
    let of = |share: Fraction| rating.typical * share.get();
    let limit = share.map(|share| Figure {
        low: of(share.low),
        typical: of(share.typical),
        high: of(share.high),
        origin: share.origin,
        bare: share.bare,
    });
    (limit, hiccups)
}
