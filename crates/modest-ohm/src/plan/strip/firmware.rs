//! What a maker says is set in the firmware: `firmware = { count = 120, pin = "io27" }`.

use super::panel::{Setting, read_setting};
use crate::quantity::figure::Figure;
use crate::quantity::units::Amps;
use crate::source::Span;
use crate::text::Named;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// What is set; only what is said.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Firmware {
    pub span: Span,
    pub count: Option<usize>,
    pub pin: Option<Named>,
    pub class: Option<Named>,
    pub firmware_limit: Option<Figure<Amps>>,
    /// Colour order.
    pub order: Option<Named>,
}

/// Whose firmware settings are read.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Sets {
    /// A strip's: no layout.
    Strip,
    /// Those of a panel made of strips, which say the rest: layout alone.
    Layout { tiles: usize },
    /// A panel's that is its own pixels: all.
    Both { tiles: usize },
}

pub(crate) fn read_firmware(reader: &mut Reader<'_>, sets: Sets) -> (Option<Firmware>, Option<Setting>) {
    let Some(mut inner) = reader.child("firmware") else { return (None, None) };
    let tiles = match sets {
        Sets::Strip => None,
        Sets::Layout { tiles } | Sets::Both { tiles } => Some(tiles),
    };
    let pixels = (!matches!(sets, Sets::Layout { .. })).then(|| Firmware {
        span: inner.span,
        count: inner.whole("count", 1..=super::MOST_PIXELS),
        pin: inner.text("pin"),
        class: inner.text("part"),
        firmware_limit: inner.figure::<Amps>("limit", Need::Positive),
        order: inner.text("order"),
    });
    let layout = tiles.map(|tiles| read_setting(&mut inner, tiles));
    inner.finish();
    (pixels, layout)
}
