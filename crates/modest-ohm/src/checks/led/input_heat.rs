//! resistor-heat at inputs: a divider in ohms instead of kilohms, a pull-up that a closed contact shorts to ground.

use crate::derived::context::{Context, Worst};
use crate::derived::input_margin::{front, pairs};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::Input;
use crate::quantity::units::Watts;
use crate::size::led::COMFORT;
use crate::solved::input_source::Does;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for input in &context.plan.inputs {
        judge(context, sink, input);
    }
}

fn judge(context: &Context<'_>, sink: &mut Sink, input: &Input) {
    let front = front(context, input);
    let mut most: Option<(&'static str, Worst)> = None;
    for (to, states) in pairs(context, &front) {
        for (what, watts) in [Does::On, Does::Off].into_iter().filter_map(|does| front.hottest(does, states)) {
            if most.as_ref().is_none_or(|(_, worst)| watts > worst.value) {
                most = Some((what, Worst::at(to, watts)));
            }
        }
    }
    let Some((what, at)) = most else { return };
    let (watts, rated, name) = (Watts::new(at.value), input.rated.low, &input.name.text);
    let severity = match at.value / rated.get() {
        share if share > 1.0 => Severity::Danger,
        share if share > COMFORT => Severity::Caution,
        _ => {
            if context.all_actual() {
                sink.pass(name, format!("its `{what}` dissipates {watts}, rated {rated}"));
            }
            return;
        }
    };
    let limit = if severity == Severity::Danger { "rated" } else { "more than 60 % of its rating," };
    sink.find(
        Draft::of(severity, &input.name)
            .at(&at)
            .says(format!("the resistor `{what}` of `{name}` dissipates {watts}; {limit} {rated}"))
            .judged("heat", watts)
            .at_most("rated", rated, &input.rated.origin)
            .cure(match what {
                "top" | "bottom" => "use larger resistors of the same ratio: kilohms, not ohms",
                _ => "use a larger resistor",
            }),
    );
}
