//! What a maker says is set in the firmware: `firmware = { count = 120, pin = "io27" }`.

use crate::quantity::{Amps, Figure};
use crate::text::{Named, Need, Reader, Span};

/// What is set; only what is said.
#[derive(Clone, Debug)]
pub(crate) struct Firmware {
    pub span: Span,
    pub count: Option<usize>,
    pub pin: Option<Named>,
    pub class: Option<Named>,
    pub cap: Option<Figure<Amps>>,
}

pub(super) fn read_firmware(reader: &mut Reader<'_>) -> Option<Firmware> {
    let mut inner = reader.child("firmware")?;
    let firmware = Firmware {
        span: inner.span,
        count: inner.whole("count", 1..=super::MOST_PIXELS),
        pin: inner.text("pin"),
        class: inner.text("class"),
        cap: inner.figure::<Amps>("cap", Need::Positive),
    };
    inner.finish();
    Some(firmware)
}
