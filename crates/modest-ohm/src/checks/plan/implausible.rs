//! figure-implausible: figures of the plan that no such part has, mostly a slip of the unit.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::plan::kinds::battery::Battery;
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Fraction, KelvinsPerWatt, Ohms, Quantity};

/// Electrolytic capacitors have milliohms to some ohms (our own bound).
const MOST_ESR: f64 = 10.0;
/// A bare small package has some 400 K/W (our own bound).
const MOST_THETA: f64 = 500.0;
/// Switching converters (our own bounds).
const EFFICIENCY: (f64, f64) = (0.40, 0.98);
/// Of the resistance of a cell's class, by its capacity (our own bound).
const OF_CLASS: f64 = 5.0;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for c in &plan.capacitors {
        within(sink, &c.name, "esr", &c.esr, (None, Ohms::new(MOST_ESR)));
    }
    for d in &plan.drivers {
        theta(sink, &d.name, d.heat.theta.as_ref());
    }
    for l in &plan.leds {
        theta(sink, &l.name, l.theta.as_ref());
    }
    for c in &plan.converters {
        theta(sink, &c.name, c.heat.theta.as_ref());
        let [low, high] = [EFFICIENCY.0, EFFICIENCY.1].map(Fraction::new);
        within(sink, &c.name, "efficiency", &c.efficiency, (Some(low), high));
    }
    for s in &plan.supplies {
        if let Some(usual) = s.battery.as_ref().and_then(Battery::usual_ohms) {
            within(sink, &s.name, "resistance", &s.resistance, (Some(usual * (1.0 / OF_CLASS)), usual * OF_CLASS));
        }
    }
}

fn theta(sink: &mut Sink, name: &Name, figure: Option<&Figure<KelvinsPerWatt>>) {
    if let Some(figure) = figure {
        within(sink, name, "theta-ja", figure, (None, KelvinsPerWatt::new(MOST_THETA)));
    }
}

/// A stated figure against what such parts have.
fn within<Q: Quantity>(
    sink: &mut Sink,
    name: &Name,
    key: &'static str,
    figure: &Figure<Q>,
    (least, most): (Option<Q>, Q),
) {
    if figure.origin.is_assumed() {
        return;
    }
    match least {
        _ if figure.low.si() > most.si() => tell(sink, name, key, figure, ("more", most)),
        Some(least) if figure.high.si() < least.si() => tell(sink, name, key, figure, ("less", least)),
        _ => sink.pass(&name.text, || format!("`{key}` {} is plausible", figure.typical)),
    }
}

fn tell<Q: Quantity>(sink: &mut Sink, name: &Name, key: &'static str, figure: &Figure<Q>, (than, bound): (&str, Q)) {
    let draft = Draft::caution(name)
        .says(format!("`{key}` of `{}` is {}, {than} than the plausible limit of {bound}", name.text, figure.typical))
        .judged_as_given("figure", figure.typical, &figure.origin)
        .given("bound", bound, &Origin::Default("our own bound, from typical parts"));
    sink.find(draft.task(format!("check its unit; if it is right, accept this finding and say why (`{key}`)")));
}
