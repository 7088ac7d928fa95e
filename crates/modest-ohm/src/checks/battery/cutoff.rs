//! battery-no-cutoff: lithium and lead without anything that ends their discharge.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::quantity::figure::Origin;
use crate::quantity::units::Volts;
use crate::verdict::compare::at_least;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for supply in &context.plan.supplies {
        let Some(battery) = &supply.battery else { continue };
        let (name, Some(cell)) = (&supply.name.text, battery.figures()) else { continue };
        let Some(ruined_v) = cell.ruined_below_v else {
            sink.pass(name, || "withstands being emptied once".into());
            continue;
        };
        let of_pack = |volts: f64| Volts::new(volts * battery.series as f64);
        let (empty, ruined) = (of_pack(cell.emf_v(0.0)), of_pack(ruined_v));
        let mut evidence = vec![
            Evidence::context("empty", empty, &Origin::Default("open-circuit voltage of the empty cell (typical)")),
            Evidence::context(
                "damaged_below",
                ruined,
                &Origin::Default(
                    "discharge cut-off in the datasheets of this cell \
                type (typical)",
                ),
            ),
        ];
        let message = match &battery.cut_off {
            Some(cut_off) if at_least(cut_off.low.get(), ruined.get()) => {
                sink.pass(name, || format!("cut off at {}; damaged below {ruined}", cut_off.low));
                continue;
            }
            Some(cut_off) => {
                evidence.push(Evidence::context("cut_off", cut_off.low, &cut_off.origin));
                format!("`{name}` ({}) is cut off at {}; damaged below {ruined}", cell.name, cut_off.low)
            }
            None => {
                format!("`{name}` ({}) has no discharge cut-off: empty at {empty}, damaged below {ruined}", cell.name)
            }
        };
        sink.find(Draft::caution((name, supply.name.span)).says(message).facts(evidence).task(format!(
            "use a pack with a protection circuit, or a cut-off module, and write `cut-off = \"{empty}\"` or more"
        )));
    }
}
