//! battery-no-cutoff: lithium and lead without anything that ends their discharge.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::quantity::{Origin, Volts};
use crate::tables::Cell;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    for supply in &context.plan.supplies {
        let Some(battery) = &supply.battery else { continue };
        let (name, Some(cell)) = (&supply.name.text, battery.cell.map(Cell::figures)) else { continue };
        if !cell.ruined_when_empty {
            sink.pass(name, "stands being emptied once".into());
            continue;
        }
        if let Some(cut_off) = &battery.cut_off {
            sink.pass(name, format!("cut off at {}", cut_off.typical));
            continue;
        }
        let empty = Volts::new(cell.emf_v(0.0) * battery.series as f64);
        sink.find(Draft {
            severity: Severity::Caution,
            subject: name,
            span: supply.name.span,
            at: None,
            message: format!(
                "nothing ends the discharge of `{name}`; below {empty} its {} {} ruined",
                if battery.series * battery.parallel == 1 { cell.name.to_owned() } else { format!("{}s", cell.name) },
                if battery.series * battery.parallel == 1 { "is" } else { "are" }
            ),
            cures: vec![format!(
                "take a pack with a protection circuit, or a cut-off module, and give it: `cut-off = \"{empty}\"` or more"
            )],
            evidence: vec![Evidence::new("empty", empty, &Origin::Default("EMF of the empty cell (typical)"))],
        });
    }
}
