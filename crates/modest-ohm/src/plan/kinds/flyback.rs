//! Where a coil's current goes when it is turned off: `flyback`, of a load or of the driver in front of it.

use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Volts};
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

#[derive(Clone, Debug, Figures)]
pub(crate) enum Flyback {
    /// The part has its own.
    BuiltIn,
    /// The maker says that there is none.
    Nothing,
    /// A resistor and a capacitor, or a varistor: at contacts and on alternating current.
    Snubber,
    Varistor,
    Diode(Box<FlyDiode>),
}

/// A diode across the load, or a Zener diode with it.
#[derive(Clone, Debug, Figures)]
pub(crate) struct FlyDiode {
    pub span: Span,
    /// The class that it is named by.
    pub class: Option<String>,
    pub vf: Figure<Volts>,
    /// What it carries continuously, and once.
    pub current: Option<Figure<Amps>>,
    #[figures(key = "surge-current")]
    pub surge: Option<Figure<Amps>>,
    pub reverse: Option<Figure<Volts>>,
    /// Whether it follows PWM above 1 kHz.
    pub fast: Option<bool>,
    /// A Zener diode in series with it, or the clamp that it is itself.
    pub zener: Option<Figure<Volts>>,
    /// True for a clamp across the switch, no diode across the load.
    pub at_switch: bool,
    /// True where its cathode is at the load's −.
    pub reversed: bool,
}

/// What stands for no part.
fn of_word(word: &str) -> Option<Flyback> {
    Some(match word {
        "built-in" => Flyback::BuiltIn,
        "none" => Flyback::Nothing,
        "snubber" => Flyback::Snubber,
        "varistor" => Flyback::Varistor,
        _ => return None,
    })
}

/// `flyback = "schottky-3a-40v"`, `{ part = …, cathode = "minus", zener = "24 V", at = "switch" }`, or a word.
pub(crate) fn read_flyback(reader: &mut Reader<'_>) -> Option<Flyback> {
    let node = reader.node("flyback")?;
    match &node.value {
        Value::Text(text, _) => {
            if let Some(word) = of_word(text) {
                return Some(word);
            }
            let what = format!("the flyback diode of {}", reader.what());
            // A class that there is none of is reported already.
            let mut class = reader.class("diode", what, text, node.span)?;
            Some(read_diode(&mut class, Some(text.clone()), node.span))
        }
        Value::Table(table) => {
            let part = match table.get("part").map(|(_, n)| (&n.value, n.span)) {
                Some((Value::Text(text, _), span)) => Some((text.clone(), span)),
                _ => None,
            };
            let what = format!("`flyback` of {}", reader.what());
            let class = part.as_ref().map(|(text, span)| (text.as_str(), *span));
            let mut inner = reader.nested_of_class("diode", table, what, node.span, class);
            let _: Option<Named> = inner.text("part");
            let diode = read_diode(&mut inner, part.map(|(text, _)| text), node.span);
            inner.finish();
            Some(diode)
        }
        other => {
            reader.problem(Problem::new(
                node.span,
                format!("`flyback` of {} is {}", reader.what(), other.kind()),
                "name the diode, `flyback = \"schottky-1a-40v\"`, or write `\"built-in\"` or `\"none\"`",
            ));
            None
        }
    }
}

fn read_diode(reader: &mut Reader<'_>, class: Option<String>, span: Span) -> Flyback {
    let _ = reader.text("kind");
    let vf = reader.figure::<Volts>("vf", Need::NotNegative).unwrap_or_else(|| Figure {
        low: Volts::new(0.6),
        typical: Volts::new(0.7),
        high: Volts::new(1.0),
        origin: Origin::Default("a silicon diode drops 0.6 V .. 1.0 V (typical)"),
        bare: false,
    });
    let _ = reader.has("resistance");
    let speed = reader.choice("speed", &[("fast", true), ("slow", false)]);
    let reversed = reader.choice("cathode", &[("plus", false), ("minus", true)]).unwrap_or(false);
    let at_switch = reader.choice("at", &[("load", false), ("switch", true)]).unwrap_or(false);
    Flyback::Diode(Box::new(FlyDiode {
        span,
        class,
        vf,
        current: reader.figure::<Amps>("current", Need::Positive),
        surge: reader.figure::<Amps>("surge-current", Need::Positive),
        reverse: reader.figure::<Volts>("reverse", Need::Positive),
        fast: speed,
        zener: reader.figure::<Volts>("zener", Need::Positive),
        at_switch,
        reversed,
    }))
}
