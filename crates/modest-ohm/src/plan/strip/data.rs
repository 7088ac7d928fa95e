//! How data reaches the first pixel.

use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::cable_text::read_cable;
use crate::plan::wiring::pin::PinRef;
use crate::plan::wiring::threshold::{Threshold, read_threshold};
use crate::plan::wiring::through::{Stage, read_through};
use crate::quantity::figure::Figure;
use crate::quantity::units::{Ohms, Volts};
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// How data reaches the first pixel.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Data {
    pub span: Span,
    pub pin: Option<PinRef>,
    /// The clock's pin, of clocked pixels.
    pub clock: Option<PinRef>,
    /// True where it shows what another strip on its pin shows.
    pub mirror: bool,
    /// What stands between, in the order of the data.
    pub through: Vec<(Named, Stage)>,
    /// The strip whose data output feeds this one.
    pub after: Option<(Named, usize)>,
    /// Series resistor in front of the input.
    pub series: Option<Figure<Ohms>>,
    /// The lead to its first pixel.
    pub cable: Option<Cable>,
    /// True where a − goes along with it.
    pub ground: bool,
    pub voh: Option<Figure<Volts>>,
    pub vol: Option<Figure<Volts>>,
    /// Thresholds of this strip's input, where they differ from its class's.
    pub vih: Option<Threshold>,
    pub vil: Option<Threshold>,
}

pub(crate) fn read_data(reader: &mut Reader<'_>) -> Option<Data> {
    let mut inner = reader.child("data")?;
    let pin = inner.text("pin").map(PinRef::new);
    let clock = inner.text("clock").map(PinRef::new);
    let through = read_through(&mut inner);
    let after = inner.text("after").map(|n| (n, usize::MAX));
    let mirror = inner.flag("mirror", false);
    let series = inner.figure::<Ohms>("series", Need::NotNegative);
    let cable = read_cable(&mut inner, "cable", true);
    let voh = inner.figure::<Volts>("voh", Need::NotNegative);
    let vol = inner.figure::<Volts>("vol", Need::NotNegative);
    let vih = read_threshold(&mut inner, "vih");
    let vil = read_threshold(&mut inner, "vil");
    let ground = inner.flag("ground", false);
    let span = inner.span;
    let what = inner.what().to_owned();
    inner.finish();
    if pin.is_some() == after.is_some() {
        reader.problem(Problem::new(
            span,
            format!(
                "{what} names {}",
                if pin.is_some() {
                    "both a pin and a strip before it"
                } else {
                    "neither a pin \
                nor a strip before it"
                }
            ),
            "write `pin = \"board.io27\"`, or `after = \"other-strip\"` for a strip that is chained",
        ));
        return None;
    }
    Some(Data { span, pin, clock, mirror, through, after, series, cable, ground, voh, vol, vih, vil })
}
