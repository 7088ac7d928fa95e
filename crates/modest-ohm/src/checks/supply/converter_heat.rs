//! converter-heat: junction temperatures of converters and on-board regulators whose θ is known.

use crate::checks::context::{Context, Worst};
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::heat::{air_c, converter_w, regulator_w, unregulated_w};
use crate::plan::{Heat, Held};
use crate::quantity::{Celsius, Watts};
use crate::review::{Outcome, Snapshot};
use crate::text::Span;

/// Closer than this to its limit a junction is too warm for comfort.
const MARGIN_K: f64 = 15.0;

pub(super) fn run(context: &Context<'_>, sink: &mut Sink) {
    let (plan, layout) = (context.plan, context.layout);
    for (i, c) in plan.converters.iter().enumerate() {
        let watts = |_: &Outcome, s: &Snapshot| converter_w(plan, layout, i, s);
        let part = Part { name: c.name.text.clone(), what: "converter", span: c.name.span, heat: &c.heat };
        judge(context, sink, &part, Held::Converter(i), &watts);
    }
    for (i, c) in plan.controllers.iter().enumerate() {
        if let Some(r) = &c.regulator {
            let name = format!("{}.{}", c.name.text, r.output);
            let part = Part { name, what: "on-board regulator", span: c.name.span, heat: &r.heat };
            judge(context, sink, &part, Held::Controller(i), &|o, s| regulator_w(plan, layout, i, o, s));
        }
        if let (Some(u), Some(_)) = (&c.unregulated, &layout.inlets[i].unregulated) {
            let name = format!("{}.{}", c.name.text, u.terminal);
            let part = Part { name, what: "on-board regulator", span: c.name.span, heat: &u.heat };
            judge(context, sink, &part, Held::Controller(i), &|_, s| unregulated_w(layout, i, s));
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
    let hot = |o: &Outcome, s: &Snapshot| air_c(context.plan, context.layout, held, s) + watts(o, s) * theta.high.get();
    let lasting = context.outcomes.iter().filter(|o| o.case.continuous);
    let mut worst: Option<(Worst, f64)> = None;
    for o in lasting {
        let Ok(s) = &o.sustained else { continue };
        let value = hot(o, s);
        // Of equals *worst* is the plainest to speak of.
        let plainer = |w: &Worst| o.case.name == "worst" && w.scenario != "worst" && value >= w.value - 1e-9;
        if worst.as_ref().is_none_or(|(w, _)| value > w.value + 1e-9 || plainer(w)) {
            worst = Some((Worst { value, scenario: o.case.name.clone(), corner: o.corner }, watts(o, s)));
        }
    }
    let Some((worst, heat_w)) = worst else { return };
    let (name, limit) = (&part.name, part.heat.limit.typical);
    let (junction, watts) = (Celsius::new(worst.value), Watts::new(heat_w));
    let severity = if junction.get() > limit.get() * (1.0 + 1e-9) {
        Severity::Danger
    } else if junction.get() > (limit.get() - MARGIN_K) * (1.0 + 1e-9) {
        Severity::Caution
    } else {
        if context.all_sustained() {
            sink.pass(name, format!("{junction} of {limit}"));
        }
        return;
    };
    sink.find(Draft {
        severity,
        subject: name,
        span: part.span,
        at: Some(&worst),
        message: format!(
            "{} `{name}` makes {watts} of heat, which {} takes to {junction}; it stands {limit}",
            part.what, theta.high
        ),
        cures: vec![
            "take less volts at its input, a switching converter, less load, or a heat sink (give its `theta`)".into(),
        ],
        evidence: vec![
            Evidence::computed("junction", junction),
            Evidence::computed("heat", watts),
            Evidence::new("theta", theta.high, &theta.origin),
            Evidence::new("limit", limit, &part.heat.limit.origin),
        ],
    });
}
