//! What several kinds share, and `ground`.

use crate::plan::wiring::between::read_between;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::cable_text::read_cable;
use crate::plan::wiring::feed::NodeRef;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Ohms;
use crate::text::Named;
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// `[ground.x]`: a conductor between the − of two nodes.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Ground {
    pub name: Name,
    pub between: [NodeRef; 2],
    pub cable: Option<Cable>,
    pub resistance: Option<Figure<Ohms>>,
    /// The load at whose own − its second end is, of a signal's − that goes along.
    pub load: Option<usize>,
    pub what: GroundKind,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum GroundKind {
    /// A wire, a bus bar, the pins of two stacked boards.
    Tie,
    /// The − of a signal's lead.
    WithSignal,
    /// Inside a part: the − of a bridge's motors and of its logic are one leg, or one terminal.
    Inside,
}

/// What joins the − of the halves of a bus bar that are fed apart.
pub(crate) fn bridge_at_minus(name: &Name, ends: [&Name; 2]) -> Ground {
    let end = |name: &Name| NodeRef::new(Named { text: name.text.clone(), span: Some(name.span) });
    let resistance = Figure::exact(Ohms::new(0.001), Origin::Default("1 mΩ between the halves of a bus bar (typical)"));
    Ground {
        name: Name { text: format!("{}.minus", name.text), span: name.span },
        between: ends.map(end),
        cable: None,
        resistance: Some(resistance),
        load: None,
        what: GroundKind::Tie,
    }
}

pub(crate) fn read_ground(reader: &mut Reader<'_>, name: Name) -> Ground {
    let between = read_between(reader, "a tie joins the grounds of two nodes: `between = [\"wall\", \"bench\"]`");
    let cable = read_cable(reader, "cable", false);
    let resistance = reader.figure::<Ohms>("resistance", Need::NotNegative);
    Ground { name, between, cable, resistance, load: None, what: GroundKind::Tie }
}
