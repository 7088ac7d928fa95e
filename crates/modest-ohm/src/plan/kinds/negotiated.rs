//! Negotiated sources: what they list, what is asked of them, and what arrives.

use crate::quantity::figure::{Figure, Origin};
use crate::quantity::parse::parse_quantity;
use crate::quantity::units::{Amps, Volts, Watts};
use crate::size::supply::{Profile, UNMARKED_A};
use crate::source::Span;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// What a negotiated source offers and what is asked of it.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Negotiation {
    pub profiles: Vec<Profile>,
    pub selected: Figure<Volts>,
    /// What the device asks for, where it says.
    pub asks: Option<Figure<Amps>>,
    pub offer: Offer,
    /// Above 3 A a marked cable is needed.
    pub marked_cable: bool,
}

#[derive(Clone, Copy, Debug, PartialEq, Figures)]
pub(crate) enum Offer {
    Offered(Profile),
    /// Not in the list: 5 V arrives.
    NotOffered,
    /// 12 V of a source whose list is not given: optional, and often missing.
    NotKnown,
}

/// Two voltages closer than this are the same profile.
const SAME_V: f64 = 0.05;

/// Reads `profiles` or `power`, `selected`, `asks`, `marked-cable`; the voltage and the rating that arrive.
pub(crate) fn read_negotiation(reader: &mut Reader<'_>) -> (Negotiation, Figure<Volts>, Figure<Amps>) {
    if let Some(span) = reader.own_span("voltage").filter(|_| !reader.has("selected")) {
        return like_an_adapter(reader, span);
    }
    let listed = reader.has("profiles");
    let mut profiles = read_profiles(reader);
    let power = reader.figure::<Watts>("power", Need::Positive);
    if !listed {
        match &power {
            Some(power) => profiles = crate::size::supply::profiles_of_power(power.typical),
            None => reader.missing(
                "profiles",
                "list what it offers, `profiles = [\"5 V 3 A\", \"9 V 3 A\"]`, or write its \
                    `power`",
            ),
        }
    }
    let selected = reader.required::<Volts>("selected", Need::Positive);
    let asks = reader.figure::<Amps>("requested-current", Need::Positive);
    let marked_cable = reader.flag("marked-cable", false);
    let found = profiles.iter().find(|p| (p.volts - selected.typical).get().abs() <= SAME_V).copied();
    let offer = match found {
        Some(profile) => Offer::Offered(profile),
        None if !listed
            && (selected.typical.get() - 12.0).abs() <= SAME_V
            && power.as_ref().is_some_and(|p| p.typical.get() > 15.0) =>
        {
            Offer::NotKnown
        }
        None => Offer::NotOffered,
    };
    let (volts, amps) = match offer {
        Offer::Offered(profile) => (profile.volts.get(), profile.current.get()),
        Offer::NotOffered => {
            let five = profiles.iter().find(|p| (p.volts.get() - 5.0).abs() <= SAME_V);
            (5.0, five.map_or(UNMARKED_A, |p| p.current.get()))
        }
        Offer::NotKnown => {
            let watts = power.as_ref().map_or(36.0, |p| p.typical.get());
            (selected.typical.get(), (watts / selected.typical.get()).min(UNMARKED_A))
        }
    };
    let amps = if marked_cable { amps } else { amps.min(UNMARKED_A) };
    let origin =
        if listed { selected.origin.clone() } else { Origin::Default("fixed profiles of a source of this power") };
    let voltage = Figure {
        low: Volts::new(volts * 0.95),
        typical: Volts::new(volts),
        high: Volts::new(volts * 1.05),
        origin: origin.clone(),
        bare: false,
    };
    let rating = Figure::exact(Amps::new(amps), origin);
    (Negotiation { profiles, selected, asks, offer, marked_cable }, voltage, rating)
}

/// One that is written like an adapter: a single problem, with its own figures in the keys that they belong in.
fn like_an_adapter(reader: &mut Reader<'_>, span: Span) -> (Negotiation, Figure<Volts>, Figure<Amps>) {
    let voltage = reader.figure::<Volts>("voltage", Need::Positive);
    let current = reader.figure::<Amps>("current", Need::Positive);
    let _ = (reader.node("profiles"), reader.node("power"));
    if let Some(volts) = voltage.as_ref().map(|v| v.typical) {
        let amps = current.as_ref().map_or(Amps::new(3.0), |a| a.typical);
        reader.problem(Problem::new(
            span,
            format!("`voltage` of {}: a negotiated source is set to one of its profiles", reader.what()),
            format!("write `profiles = [\"{volts} {amps}\"]`, all that it offers, and `selected = \"{volts}\"`"),
        ));
    }
    let selected = Figure::stand_in();
    let profiles = Vec::new();
    let negotiation = Negotiation { profiles, selected, asks: None, offer: Offer::NotOffered, marked_cable: false };
    (negotiation, Figure::stand_in(), Figure::stand_in())
}

fn read_profiles(reader: &mut Reader<'_>) -> Vec<Profile> {
    let Some(node) = reader.node("profiles") else { return Vec::new() };
    let mut profiles = Vec::new();
    let wrong = |span| {
        reader.problem(Problem::new(
            span,
            format!("`profiles` of {} lists something that is not a profile", reader.what()),
            "write voltage and current: `profiles = [\"5 V 3 A\", \"9 V 2.2 A\"]`",
        ));
    };
    let Value::List(items) = &node.value else {
        wrong(node.span);
        return profiles;
    };
    for item in items {
        let read = match &item.value {
            Value::Text(text, _) => profile(text),
            _ => None,
        };
        match read {
            Some(profile) => profiles.push(profile),
            None => wrong(item.span),
        }
    }
    if items.is_empty() {
        wrong(node.span);
    }
    profiles
}

/// `"9 V 3 A"`, `"9 V / 3 A"`.
fn profile(text: &str) -> Option<Profile> {
    let split = text.find(['V', 'v'])? + 1;
    let volts = parse_quantity::<Volts>(&text[..split]).ok()?;
    let rest = text[split..].trim_start_matches([' ', '/', ',', '×']);
    let current = parse_quantity::<Amps>(rest).ok()?;
    (volts.get() > 0.0 && current.get() > 0.0).then_some(Profile { volts, current })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_profile_is_volts_and_amperes() {
        let of = |volts, amps| Some(Profile { volts: Volts::new(volts), current: Amps::new(amps) });
        assert_eq!(profile("9 V 2.2 A"), of(9.0, 2.2));
        assert_eq!(profile("9V/3A"), of(9.0, 3.0));
        for wrong in ["9 V", "3 A", "9 V 0 A", "-9 V 3 A", "9 V 3 V", "", "V A"] {
            assert_eq!(profile(wrong), None, "{wrong}");
        }
    }
}
