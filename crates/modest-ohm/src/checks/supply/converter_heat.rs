//! converter-heat: junction temperatures of converters and on-board regulators whose θ is known.

use crate::derived::context::{Context, Worst, worst_of};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::converter::Heat;
use crate::plan::kinds::enclosure::Held;
use crate::quantity::units::{Celsius, Watts};
use crate::size::regulator::MARGIN_K;
use crate::solved::heat::{air_c, converter_w, regulator_w, unregulated_w};
use crate::solved::outcome::{Outcome, Snapshot};
use crate::source::Span;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let (plan, layout) = (context.plan, context.layout);
    for (i, c) in plan.converters.iter().enumerate() {
        let watts = |_: &Outcome, s: &Snapshot| converter_w(plan, i, s);
        let part = Part { name: c.name.text.clone(), what: "converter", span: c.name.span, heat: &c.heat };
        judge(context, sink, &part, Held::Converter(i), &watts);
    }
    for (i, c) in plan.boards.iter().enumerate() {
        if let Some(r) = &c.regulator {
            let name = format!("{}.{}", c.name.text, r.output);
            let part = Part { name, what: "on-board regulator", span: c.name.span, heat: &r.heat };
            judge(context, sink, &part, Held::Board(i), &|o, s| regulator_w(plan, i, o, s));
        }
        if let (Some(u), Some(_)) = (&c.unregulated, &layout.inlets[i].unregulated) {
            let name = format!("{}.{}", c.name.text, u.terminal);
            let part = Part { name, what: "on-board regulator", span: c.name.span, heat: &u.heat };
            judge(context, sink, &part, Held::Board(i), &|_, s| unregulated_w(i, s));
        }
    }
}

struct Part<'a> {
    name: String,
    what: &'static str,
    span: Span,
    heat: &'a Heat,
}

fn judge(
    context: &Context<'_>,
    sink: &mut Sink,
    part: &Part<'_>,
    held: Held,
    watts: &dyn Fn(&Outcome, &Snapshot) -> f64,
) {
    let Some(theta) = &part.heat.theta else { return };
    let hot = |o: &Outcome, s: &Snapshot| air_c(context.plan, held, s) + watts(o, s) * theta.high.get();
    let Some((o, hottest_c)) = worst_of(context.continuous(), |o| Some(hot(o, o.sustained.as_ref().ok()?))) else {
        return;
    };
    let worst = Worst::at(o, hottest_c);
    let heat_w = o.sustained.as_ref().map_or(0.0, |s| watts(o, s));
    let (name, limit) = (&part.name, part.heat.limit.typical);
    let (junction, watts) = (Celsius::new(hottest_c), Watts::new(heat_w));
    let severity = if exceeds(junction.get(), limit.get()) {
        Severity::Danger
    } else if exceeds(junction.get(), limit.get() - MARGIN_K) {
        Severity::Caution
    } else {
        if context.all_sustained() {
            sink.pass(name, || format!("{junction} of {limit}"));
        }
        return;
    };
    sink.find(
        Draft::of(severity, (name, part.span))
            .at(&worst)
            .says(format!(
                "{} `{name}` dissipates {watts}: junction {junction} ({}); limit {limit}",
                part.what, theta.high
            ))
            .judged("junction", junction)
            .with("heat", watts)
            .given("theta_ja", theta.high, &theta.origin)
            .at_most("limit", limit, &part.heat.limit.origin),
    );
}
