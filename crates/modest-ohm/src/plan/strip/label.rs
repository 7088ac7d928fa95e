//! Current per metre from what a label gives: amperes or power, per metre or of the whole strip or tile.

use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, AmpsPerMetre, Quantity, Volts, Watts, WattsPerMetre};
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};

/// Current per metre at rated voltage: stated so, as power per metre, or as a total of the whole strip.
pub(crate) fn read_per_metre(
    reader: &mut Reader<'_>,
    voltage: Option<&Figure<Volts>>,
    metres: Option<f64>,
) -> Option<Figure<AmpsPerMetre>> {
    let power = reader.per_metre::<WattsPerMetre, Watts>("power", metres);
    let current = reader.per_metre::<AmpsPerMetre, Amps>("current", metres);
    one_of(reader, power.is_some(), current.is_some());
    current.or_else(|| {
        let volts = rated(reader, &power, voltage)?;
        power.map(|p| mapped(&p, |w| w / volts))
    })
}

/// The same of a panel, whose label counts power or current of a whole tile.
pub(crate) fn read_per_tile(
    reader: &mut Reader<'_>,
    voltage: Option<&Figure<Volts>>,
    tile_m: f64,
) -> Option<Figure<AmpsPerMetre>> {
    let power = reader.figure::<Watts>("power", Need::Positive);
    let current = reader.figure::<Amps>("current", Need::Positive);
    one_of(reader, power.is_some(), current.is_some());
    let tile = current.or_else(|| {
        let volts = rated(reader, &power, voltage)?;
        power.map(|p| mapped(&p, |w| w / volts))
    });
    tile.map(|amps| mapped(&amps, |a: Amps| AmpsPerMetre::new(a.get() / tile_m)))
}

fn one_of(reader: &Reader<'_>, power: bool, current: bool) {
    if let (true, true, Some(span)) = (power, current, reader.own_span("current")) {
        reader.problem(Problem::new(
            span,
            format!("{} has both `power` and `current`", reader.what()),
            "write one of them, as its label does",
        ));
    }
}

/// The voltage that power is meant at; a problem where there are power and no such voltage.
fn rated<P>(reader: &Reader<'_>, power: &Option<P>, voltage: Option<&Figure<Volts>>) -> Option<Volts> {
    if power.is_some() && voltage.is_none() {
        reader.missing("voltage", "the power on a label is at rated voltage: `voltage = \"12 V\"`");
    }
    voltage.filter(|_| power.is_some()).map(|v| v.typical)
}

/// A figure in other units, its spread and origin kept.
pub(super) fn mapped<A: Quantity, B>(figure: &Figure<A>, of: impl Fn(A) -> B) -> Figure<B> {
    Figure {
        low: of(figure.low),
        typical: of(figure.typical),
        high: of(figure.high),
        origin: figure.origin.clone(),
        bare: figure.bare,
    }
}
