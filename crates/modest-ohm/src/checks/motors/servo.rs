//! servo-supply: servos and motors on the output of a board's regulator, or on a pin.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::load::{Demand, Nature};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Volts};
use crate::topology::ratings::node_limit;
use crate::verdict::codes;
use crate::verdict::compare::at_most;

/// What a load takes at most, held or running, all its members together, A.
fn most_a(plan: &Plan, load: usize) -> f64 {
    let load = &plan.loads[load];
    let each = match &load.demand {
        Demand::Current(s) => s.surge.as_ref().map_or(s.peak.high.get(), |f| f.high.get().max(s.peak.high.get())),
        _ => 0.0,
    };
    each * load.count as f64
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, load) in plan.loads.iter().enumerate().filter(|(_, l)| l.is_motor()) {
        let name = &load.name.text;
        let root = plan.root(load.feed.from.id);
        let kind = plan.nodes[root.0].kind;
        let asked = Amps::new(most_a(plan, i));
        let (out, into) = load.feed.pins();
        // A motor on a pin is pin-drives-coil's matter; a servo has electronics, and stands there no better.
        let on_pin = out.or(into).filter(|_| load.nature == Some(Nature::Servo));
        let on_output = matches!(kind, NodeKind::BoardOutput(_)) && load.feed.pins() == (None, None);
        let limit = match (on_pin, on_output) {
            (Some(pin), _) => plan.boards[pin.board].pins.limits(pin.index, out.is_none()).0.map(|f| f.low),
            (None, true) => node_limit(plan, kind),
            (None, false) => {
                if load.feed.pins() == (None, None) {
                    sink.pass(name, || format!("fed from `{}`, not a logic rail", plan.nodes[root.0].name));
                }
                continue;
            }
        };
        let volts = plan.highest_of(root);
        let enough_volts = load.recommended_range().is_none_or(|r| volts >= r.low.get());
        // Some boards have an output that is made for servos.
        if limit.is_some_and(|l| at_most(asked.get(), l.get())) && enough_volts && on_pin.is_none() {
            sink.pass(name, || format!("draws {asked} of {}", limit.map_or_else(String::new, |l| l.to_string())));
            continue;
        }
        let what = on_pin
            .map_or_else(|| format!("`{}`", plan.nodes[root.0].name), |pin| format!("pin {}", plan.pin_words(pin)));
        let gives = limit.map_or_else(|| "its rating is not given".to_owned(), |l| format!("rated {l}"));
        let mut evidence = vec![Evidence::judged("demand", asked), Evidence::computed("rail", Volts::new(volts))];
        evidence.extend(limit.map(|l| Evidence::at_most("rating", l, &Origin::Computed)));
        let draft = Draft::danger(&load.name)
            .says(format!(
                "{} `{name}` draws up to {asked} from {what}, the board's {} for logic; {gives}",
                load.nature.map_or("motor", Nature::word),
                Volts::new(volts)
            ))
            .facts(evidence);
        // A rail that could never do is one finding.
        sink.find(if enough_volts {
            draft
        } else {
            draft.implies(codes::MOTOR_VOLTAGE, name).implies(codes::SUPPLY_VOLTAGE, name)
        });
    }
}
