//! Kinds of change of a plan that may end a finding; each check names those that may help against what it finds.

use super::setting::Setting;

/// A kind of change that may end a finding.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Change {
    /// A part of a higher rating: the figure that the finding was held to.
    Rating,
    /// A larger supply or converter on the way up.
    Source,
    /// Another voltage of what feeds the part.
    Voltage,
    /// More cells.
    Cells,
    /// Another source for the part.
    Rail,
    /// A converter of its own for the part.
    OwnRail,
    /// A thicker wire.
    Wire,
    /// Another fuse.
    Fuse,
    /// A fuse where there is none.
    AddFuse,
    /// A thicker wire with another fuse.
    WireAndFuse,
    /// The current to which the firmware dims.
    FirmwareLimit,
    /// More feed points.
    FeedPoints,
    /// A length that ends at a cut mark.
    CutMark,
    /// A buffer in a signal.
    Level,
    /// A divider in front of an input.
    Divider,
    /// A generic part of the same kind.
    Part,
    /// A diode across a coil.
    Flyback,
    /// A transistor between a pin and its load.
    Stage,
    /// A resistor for each LED.
    OwnResistors,
    /// Another pin.
    Pin,
    /// A switch that stops a part.
    Stop,
    /// Grounds joined.
    Ground,
    /// A capacitor across a node.
    Capacitor,
    /// An NTC resistor in a feed.
    Limiter,
    /// A resistor across a source, to draw enough.
    Bleeder,
    /// Keys of an item, each with the values that are tried.
    Keys(&'static [Setting]),
    /// A key that says that it is meant as it is, or that less is enough.
    Concession(&'static [Setting]),
    /// Something that the plan has is taken out.
    Remove,
}
