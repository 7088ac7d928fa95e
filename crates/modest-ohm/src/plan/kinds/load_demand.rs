//! What a load draws: a current, a power or a resistance, in each of its states.

use super::load::{Demand, States};
use crate::quantity::figure::Figure;
use crate::quantity::units::Quantity;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};

pub(super) fn read_demand(reader: &mut Reader<'_>) -> Demand {
    let given: Vec<&str> = ["current", "power", "resistance"].into_iter().filter(|k| reader.own_or_class(k)).collect();
    match given.as_slice() {
        ["current"] => Demand::Current(states(reader, "current", Need::NotNegative)),
        ["power"] => Demand::Power(states(reader, "power", Need::NotNegative)),
        ["resistance"] => Demand::Resistance(states(reader, "resistance", Need::Positive)),
        other => {
            // Keep the keys known, so that they are not reported twice.
            for key in ["current", "power", "resistance", "idle", "typical", "surge", "start", "stall"] {
                let _ = reader.has(key);
            }
            // A part that is not known might have said it.
            if other.is_empty() && reader.is_lenient() {
                return Demand::Current(states(reader, "current", Need::NotNegative));
            }
            let found = if other.is_empty() { "nothing".to_owned() } else { format!("`{}`", other.join("` and `")) };
            reader.problem(Problem::new(
                reader.span,
                format!("{} needs exactly one of `current`, `power` and `resistance`; found {found}", reader.what()),
                "write one of `current = \"350 mA\"`, `power = \"15 W\"`, `resistance = \"24 Ω\"`",
            ));
            Demand::Current(States { peak: Figure::stand_in(), idle: None, typical: None, surge: None })
        }
    }
}

fn states<Q: Quantity>(reader: &mut Reader<'_>, key: &'static str, need: Need) -> States<Q> {
    let peak = reader.required(key, need);
    let idle = reader.figure("idle", need);
    let typical = reader.figure("typical", need);
    // A motor that starts and one that stalls are the same coil at a standstill; the larger counts.
    let keys = ["surge", "start", "stall"];
    let mut surges: Vec<(bool, Figure<Q>)> = Vec::new();
    for key in keys {
        let own = reader.own_span(key).is_some();
        surges.extend(reader.figure(key, need).map(|f| (own, f)));
    }
    // What the plan says itself takes the place of all that its class says.
    if surges.iter().any(|(own, _)| *own) {
        surges.retain(|(own, _)| *own);
    }
    let larger = |a: Figure<Q>, b: Figure<Q>| if b.high > a.high { b } else { a };
    let surge = surges.into_iter().map(|(_, f)| f).reduce(larger);
    States { peak, idle, typical, surge }
}
