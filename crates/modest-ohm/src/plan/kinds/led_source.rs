//! A constant-current driver in front of an LED: it sets the current, so that no resistor does.

use super::demand::{Demand, States};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction, Quantity, Volts, Watts};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// What its datasheet says.
#[derive(Clone, Debug, Figures)]
pub(crate) struct LedSource {
    /// What it sends through its string.
    pub current: Figure<Amps>,
    /// What its input has to be above the string.
    pub headroom: Figure<Volts>,
    #[figures(range)]
    pub input: Option<Figure<Volts>>,
    pub efficiency: Figure<Fraction>,
}

/// `constant-current = "led-driver-350ma"`, or a table of its figures.
pub(crate) fn read_led_source(reader: &mut Reader<'_>) -> Option<LedSource> {
    const KEY: &str = "constant-current";
    let node = reader.node(KEY)?.clone();
    let what = format!("`{KEY}` of {}", reader.what());
    match &node.value {
        Value::Text(class, _) => {
            let mut inner = reader.class("led-driver", what, class, node.span)?;
            Some(read_figures(&mut inner))
        }
        Value::Table(_) => {
            let mut inner = reader.child(KEY)?;
            let source = read_figures(&mut inner);
            inner.finish();
            Some(source)
        }
        other => {
            reader.problem(Problem::new(
                node.span,
                format!("{what} is {}", other.kind()),
                "name the part, `\"led-driver-350ma\"`, or write `{ current = \"350 mA ± 5 %\", headroom = \"2 V\" \
                }`",
            ));
            None
        }
    }
}

fn read_figures(reader: &mut Reader<'_>) -> LedSource {
    let spread = |low: f64, typical: f64, high: f64, why| (low, typical, high, Origin::Default(why));
    let usual = spread(1.0, 2.0, 3.0, "a constant-current driver needs 1 V .. 3 V above its LEDs (typical)");
    let headroom = reader.figure::<Volts>("headroom", Need::NotNegative).unwrap_or_else(|| figure(usual));
    let usual = spread(0.80, 0.88, 0.95, "constant-current drivers reach 80 % .. 95 % (typical)");
    let efficiency = reader.figure::<Fraction>("efficiency", Need::Positive).unwrap_or_else(|| figure(usual));
    LedSource {
        current: reader.required::<Amps>("current", Need::Positive).with_tolerance(0.05),
        headroom,
        input: reader.figure::<Volts>("input", Need::Positive),
        efficiency,
    }
}

fn figure<Q: Quantity>((low, typical, high, origin): (f64, f64, f64, Origin)) -> Figure<Q> {
    let [low, typical, high] = [low, typical, high].map(Q::from_si);
    Figure { low, typical, high, origin, bare: false }
}

impl LedSource {
    /// The power that it takes for a string of this voltage.
    pub fn demand(&self, string: &Figure<Volts>) -> Demand {
        let watts = |v: Volts, a: Amps, share: Fraction| Watts::new(v.get() * a.get() / share.get().max(0.01));
        let (i, e) = (&self.current, &self.efficiency);
        let peak = Figure {
            low: watts(string.low, i.low, e.high),
            typical: watts(string.typical, i.typical, e.typical),
            high: watts(string.high, i.high, e.low),
            origin: i.origin.clone(),
            bare: false,
        };
        Demand::Power(States { peak, idle: None, typical: None, surge: None })
    }

    /// What its input needs at least for a string: exact, of a usual LED.
    pub fn least_v(&self, string: &Figure<Volts>) -> Figure<Volts> {
        let least = self.input.as_ref().map_or(0.0, |v| v.low.get());
        let wanted = string.typical + self.headroom.typical;
        Figure::exact(Volts::new(wanted.get().max(least)), self.headroom.origin.clone())
    }

    /// The range in which even the worst LED gets its current.
    pub fn range(&self, string: &Figure<Volts>) -> Figure<Volts> {
        let low = string.high + self.headroom.high;
        let high = self.input.as_ref().map_or(Volts::new(28.0), |v| v.high);
        let origin = self
            .input
            .as_ref()
            .map_or(Origin::Default("28 V if none is given (typical of modules)"), |v| v.origin.clone());
        Figure { low, typical: low, high: Volts::new(high.get().max(low.get())), origin, bare: false }
    }
}
