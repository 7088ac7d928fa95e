//! `[led.x]`: one or several LEDs on a resistor, fed from a rail, out of a pin, or into one.

use super::led_source::{LedSource, read_led_source};
use super::load::{Demand, LedDraw, Load, Nature};
use super::load_kind::LoadKind;
use crate::plan::wiring::feed::{Feed, NodeRef, Return, read_feed};
use crate::plan::wiring::name::Name;
use crate::plan::wiring::resistor::{read_rating, read_resistor};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Celsius, KelvinsPerWatt, Ohms, Volts, Watts};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) struct Led {
    pub name: Name,
    /// The load that it is as well.
    pub load: usize,
    /// Of one LED.
    pub vf: Figure<Volts>,
    /// In series in a branch.
    pub in_series: usize,
    /// Side by side behind one resistor.
    pub parallel: usize,
    /// None: nothing but the supply sets the current.
    pub resistor: Option<Figure<Ohms>>,
    /// What the resistor stands.
    pub rated: Figure<Watts>,
    /// Of one LED: what it may carry continuously, and its absolute maximum.
    pub current: Figure<Amps>,
    pub absolute: Option<Figure<Amps>>,
    /// The least that is wanted of one.
    pub wanted: Option<Figure<Amps>>,
    /// Junction to case, and the heat sink that it is on.
    #[figures(key = "theta-ja")]
    pub theta: Option<Figure<KelvinsPerWatt>>,
    #[figures(key = "heatsink")]
    pub sink: Option<Figure<KelvinsPerWatt>>,
    pub junction: Option<Figure<Celsius>>,
    /// What sets its current in place of a resistor; its load draws what that takes.
    #[figures(key = "constant-current")]
    pub source: Option<LedSource>,
    /// True where it shares its pin with another on purpose.
    pub mirror: bool,
}

/// A small LED's own resistance, Ω: what sets its current where no resistor does (typical).
const OWN_OHMS: f64 = 10.0;
const CURRENT_A: f64 = 0.020;

pub(crate) fn read_led(reader: &mut Reader<'_>, name: Name) -> (Led, Load) {
    let feed = read_led_feed(reader);
    let mut whole = |key| if reader.has(key) { reader.whole(key, 1..=1000) } else { None }.unwrap_or(1);
    let (count, in_series, parallel) = (whole("count"), whole("in-series"), whole("parallel"));
    let vf = reader.required::<Volts>("vf", Need::Positive).with_tolerance(0.10);
    let resistor = read_resistor(reader, "resistor");
    let rated = read_rating(reader);
    let diode = reader.figure::<Volts>("diode", Need::NotNegative);
    let current = reader.figure_or::<Amps>(
        "current",
        Need::Positive,
        Amps::new(CURRENT_A),
        "a small LED is rated 20 mA (typical)",
    );
    let absolute = reader.figure::<Amps>("absolute", Need::Positive);
    let wanted = reader.figure::<Amps>("minimum-current", Need::Positive);
    let theta = reader.figure::<KelvinsPerWatt>("theta-ja", Need::Positive);
    let sink = reader.figure::<KelvinsPerWatt>("heatsink", Need::Positive);
    let junction = reader.figure::<Celsius>("junction-max", Need::Positive);
    let mirror = reader.flag("mirror", false);
    let rests_off = reader.choice("at-power-on", &[("off", true), ("on", false)]).unwrap_or(false);
    let ohms = resistor.clone().unwrap_or_else(|| {
        Figure::exact(
            Ohms::new(OWN_OHMS * in_series as f64 / parallel as f64),
            Origin::Default("an LED has 10 Ω series resistance (typical)"),
        )
    });
    let draw = LedDraw { vf: vf.scaled(in_series as f64), diode, ohms };
    let source = read_led_source(reader);
    if let (Some(_), Some(span)) = (&source, reader.own_span("resistor")) {
        reader.problem(Problem::new(
            span,
            format!("{} has a resistor and a constant-current driver", reader.what()),
            "the driver sets the current: remove the resistor",
        ));
    }
    let mut load = Load { count, rests_off, ..load_of(name.clone(), feed, draw, source.as_ref()) };
    load.read_driven(reader);
    (
        Led {
            name,
            load: usize::MAX,
            vf,
            in_series,
            parallel,
            resistor,
            rated,
            current,
            absolute,
            wanted,
            theta,
            sink,
            junction,
            source,
            mirror,
        },
        load,
    )
}

/// What LEDs draw along their resistor, or what their driver takes for them.
fn load_of(name: Name, feed: Feed, draw: LedDraw, source: Option<&LedSource>) -> Load {
    let nature = Some(Nature::Led);
    let Some(source) = source else {
        return Load { nature, ..Load::plain(name, LoadKind::Led, feed, Demand::Leds(draw)) };
    };
    let string = draw.vf;
    Load {
        nature,
        minimum: Some(source.least_v(&string)),
        recommended: Some(source.range(&string)),
        absolute: source.input.clone().map(|v| Figure::exact(v.high, v.origin)),
        regulated: true,
        // The driver is electronics.
        pwm_supply: Some(false),
        ..Load::plain(name, LoadKind::Led, feed, source.demand(&string))
    }
}

/// `from` names a node or a pin; `sink` the pin that its current flows into.
fn read_led_feed(reader: &mut Reader<'_>) -> Feed {
    let mut feed = read_feed(reader);
    if let Some(pin) = reader.text("sink") {
        if let (Some(back), Some(span)) = (&feed.back, reader.own_span("sink")) {
            reader.problem(
                Problem::new(
                    span,
                    format!("{} has both `return` and `sink`", reader.what()),
                    "`sink` is the pin that its current flows into: remove one of them",
                )
                .with_related(back.to.name.span, "the return"),
            );
        }
        feed.back = Some(Return { to: NodeRef::new(pin), cable: feed.cable.clone() });
    }
    feed.taking_pins()
}
