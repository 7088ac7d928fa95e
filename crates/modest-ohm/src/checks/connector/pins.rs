//! connector-pinout: what meets what in a plug pair, by the labels of its contacts.

use super::meets::connectors;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::connector::{Counted, Half};
use crate::quantity::parse::parse_quantity;
use crate::quantity::units::Volts;
use crate::verdict::severity::Severity;

/// What a label stands for: printed labels have many spellings.
#[derive(Clone, Debug, PartialEq)]
enum Means {
    /// A supply's +, with its voltage where the label says them, mV.
    Plus(Option<i64>),
    Minus,
    Signal,
    Clock,
    /// A contact that is not used.
    Nothing,
    /// Something that only its own spelling tells.
    Other(String),
}

/// Labels of −.
const MINUS: [&str; 13] = ["-", "−", "gnd", "ground", "0v", "v-", "v−", "com", "vss", "g", "minus", "neg", "return"];
/// Labels of + that say no voltage.
const PLUS: [&str; 11] = ["+", "v+", "vcc", "vdd", "vin", "v", "plus", "pos", "power", "pwr", "vbus"];
/// Labels of a signal.
const SIGNAL: [&str; 12] = ["data", "din", "do", "di", "dout", "d", "dat", "sig", "signal", "s", "pwm", "control"];

/// Labels of a clock.
const CLOCK: [&str; 6] = ["clock", "clk", "ck", "ci", "co", "cki"];
/// Labels of nothing.
const NOTHING: [&str; 7] = ["", "nc", "n.c.", "n/c", "spare", "unused", "none"];

fn means(label: &str) -> Means {
    let plain = label.trim().to_lowercase().replace([' ', '_'], "");
    let plain = plain.as_str();
    if MINUS.contains(&plain) {
        return Means::Minus;
    }
    if PLUS.contains(&plain) {
        return Means::Plus(None);
    }
    if SIGNAL.contains(&plain) {
        return Means::Signal;
    }
    if CLOCK.contains(&plain) {
        return Means::Clock;
    }
    if NOTHING.contains(&plain) {
        return Means::Nothing;
    }
    // "+5V", "5v", "3v3", "12 V".
    let bare = plain.trim_start_matches('+');
    if let Some((whole, part)) = bare.split_once('v').filter(|(w, p)| !w.is_empty() && p.len() <= 2)
        && let (Ok(whole), Ok(part)) = (whole.parse::<f64>(), format!("0.{part}0").parse::<f64>())
    {
        return Means::Plus(Some(((whole + part) * 1000.0).round() as i64));
    }
    if let Ok(volts) = parse_quantity::<Volts>(&bare.replace('v', " V")) {
        return Means::Plus(Some((volts.get() * 1000.0).round() as i64));
    }
    Means::Other(plain.to_owned())
}

impl Means {
    /// Whether two contacts that meet carry the same. A + without voltage may be any.
    fn meets(&self, other: &Self) -> bool {
        match (self, other) {
            (Means::Plus(Some(a)), Means::Plus(Some(b))) => a == b,
            (Means::Plus(_), Means::Plus(_)) => true,
            _ => self == other,
        }
    }
}

/// The labels of a half as seen into the near half's face from the left, or from its mark.
fn in_order(half: &Half, is_far: bool) -> Vec<&str> {
    let mut pins: Vec<&str> = half.pins.iter().map(String::as_str).collect();
    // The far half's left is the near half's right.
    let turned = match half.counted {
        Counted::Mark => false,
        Counted::Left => is_far,
        Counted::Right => !is_far,
    };
    if turned {
        pins.reverse();
    }
    pins
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (_, name, connector) in connectors(context.plan) {
        if let [Some(near), Some(far)] = &connector.halves {
            judge_pair(sink, &name.text, near, far);
        }
        let half = connector.halves.iter().flatten().find(|h| h.pins.len() > 1);
        if let (Some(false), Some(half)) = (connector.keyed, half) {
            judge_turned(sink, &name.text, half);
        }
    }
}

fn judge_pair(sink: &mut Sink, name: &str, near: &Half, far: &Half) {
    if near.pins.is_empty() || far.pins.is_empty() {
        return;
    }
    let mut draft = |severity: Severity, message: String| {
        sink.find(Draft::of(severity, (name, far.span)).says(message));
    };
    if near.pins.len() != far.pins.len() {
        let (a, b) = (near.pins.len(), far.pins.len());
        return draft(Severity::Fault, format!("the halves of `{name}` have {a} and {b} contacts"));
    }
    if (near.counted == Counted::Mark) != (far.counted == Counted::Mark) {
        return draft(
            Severity::Fault,
            format!("the halves of `{name}` are counted from a mark and from a side; they cannot be compared"),
        );
    }
    let pairs: Vec<(&str, &str)> = in_order(near, false).into_iter().zip(in_order(far, true)).collect();
    let wrong: Vec<String> = pairs
        .iter()
        .enumerate()
        .filter(|(_, (a, b))| !means(a).meets(&means(b)))
        .map(|(i, (a, b))| format!("contact {}: {} meets {}", i + 1, label(a), label(b)))
        .collect();
    if wrong.is_empty() {
        sink.pass(name, || format!("{} contacts match", pairs.len()));
        return;
    }
    let reverses = |a: &str, b: &str| {
        matches!((means(a), means(b)), (Means::Plus(_), Means::Minus) | (Means::Minus, Means::Plus(_)))
    };
    let (severity, harm) = match pairs.iter().any(|(a, b)| reverses(a, b)) {
        true => (Severity::Danger, "; positive on return destroys what it feeds"),
        false => (Severity::Fault, ""),
    };
    draft(severity, format!("`{name}` is miswired: {}{harm}", wrong.join(", ")));
}

/// A contact's printed label in words; one without is not connected.
fn label(text: &str) -> &str {
    if text.trim().is_empty() { "nothing" } else { text }
}

/// A connector that can be plugged in either way.
fn judge_turned(sink: &mut Sink, name: &str, half: &Half) {
    let own: Vec<Means> = half.pins.iter().map(|p| means(p)).collect();
    let on_minus = own.iter().zip(own.iter().rev()).any(|(a, b)| {
        matches!(
            (a, b),
            (Means::Plus(_), Means::Minus | Means::Signal) | (Means::Minus | Means::Signal, Means::Plus(_))
        )
    });
    if !on_minus {
        sink.pass(name, || "plugged in reversed, no positive meets a return or a signal".into());
        return;
    }
    sink.find(Draft::caution((name, half.span)).says(format!(
        "`{name}` is not keyed: plugged in reversed, its positive meets {}",
        {
            let meets = own
                .iter()
                .zip(own.iter().rev())
                .find(|(a, b)| matches!(a, Means::Plus(_)) && matches!(b, Means::Minus | Means::Signal));
            match meets {
                Some((_, Means::Signal)) => "a signal",
                _ => "−",
            }
        }
    )));
}

#[cfg(test)]
mod tests {
    use super::Means;
    use super::means;

    #[test]
    fn printed_labels_and_their_synonyms() {
        assert_eq!(means("GND"), Means::Minus);
        assert_eq!(means("0 V"), Means::Minus);
        assert_eq!(means("V+"), Means::Plus(None));
        assert_eq!(means("+5V"), Means::Plus(Some(5000)));
        assert_eq!(means("3V3"), Means::Plus(Some(3300)));
        assert_eq!(means("12 V"), Means::Plus(Some(12000)));
        assert_eq!(means("3.3V"), Means::Plus(Some(3300)));
        assert_eq!(means("DIN"), Means::Signal);
        assert_eq!((means("CI"), means("n.c."), means("")), (Means::Clock, Means::Nothing, Means::Nothing));
        assert_eq!(means("enable"), Means::Other("enable".into()));
        assert!(means("+").meets(&means("12V")) && !means("5V").meets(&means("12V")));
    }
}
