//! header-polarity: a cable whose + is on a ground position of a header, or whose − is on a supply position.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::names::lead_name;
use crate::plan::kinds::load::Nature;
use crate::plan::model::Plan;
use crate::plan::wiring::feed::{Feed, Position};
use crate::topology::conductors::feed_of;
use crate::topology::rail::nominal_volts;
use crate::topology::run::Run;
use crate::verdict::compare::exceeds;
use crate::verdict::severity::Severity;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    let mut seen: Vec<Run> = Vec::new();
    for info in &context.layout.conductors {
        if seen.contains(&info.run) {
            continue;
        }
        seen.push(info.run);
        let Some(feed) = feed_of(plan, info.run) else { continue };
        let name = lead_name(plan, info);
        let back = feed.back.as_ref().and_then(|b| b.to.position);
        if feed.from.position.is_none() && back.is_none() {
            continue;
        }
        match judge(plan, info.run, feed) {
            Some(draft) => sink.find(draft(name)),
            None => sink.pass(name, || "its positive is on a supply position, its return on ground".into()),
        }
    }
}

/// What is wrong with the two ends; `None` where nothing is.
fn judge<'p>(plan: &'p Plan, run: Run, feed: &'p Feed) -> Option<impl FnOnce(&str) -> Draft + use<'p>> {
    let plus = &feed.from;
    let minus = feed.back.as_ref().map(|b| &b.to);
    let plus_is_wrong = plus.position == Some(Position::Minus);
    let minus_is_wrong = minus.is_some_and(|m| m.position == Some(Position::Plus));
    let at = |name: &str, what: &str| format!("`{name}`, which is {what}");
    let (severity, says) = match (plus_is_wrong, minus.filter(|_| minus_is_wrong)) {
        (true, Some(minus)) => {
            let severity = if is_polarised(plan, run) { Severity::Danger } else { Severity::Fault };
            let (plus, minus) = (at(&plus.name.text, "ground"), at(&minus.name.text, "a supply position"));
            (severity, format!("is reversed: its positive is on {plus}, its return on {minus}"))
        }
        (false, Some(minus)) => {
            let volts = |id| nominal_volts(plan, plan.root(id)).map(|v| v.typical);
            let (own, other) = (volts(plus.id), volts(minus.id));
            let same = plan.root(plus.id) == plan.root(minus.id) || own.zip(other).is_some_and(|(a, b)| a == b);
            let turned = own.zip(other).is_some_and(|(a, b)| exceeds(b.get(), a.get())) && is_polarised(plan, run);
            let gets = match own.zip(other) {
                Some((a, b)) => format!("; it is at {} less {}", a, b),
                None => String::new(),
            };
            let severity = if turned { Severity::Danger } else { Severity::Fault };
            let gets = if same { "; both its ends are positive: it is at 0 V".to_owned() } else { gets };
            (severity, format!("has its return on {}{gets}", at(&minus.name.text, "a supply position")))
        }
        (true, None) => {
            (Severity::Fault, format!("has its positive on {}: it is at 0 V", at(&plus.name.text, "ground")))
        }
        (false, None) => return None,
    };
    let span = minus.filter(|_| minus_is_wrong).unwrap_or(plus).name.span;
    Some(move |name: &str| {
        let span = span.unwrap_or(crate::source::Span { start: 0, end: 0 });
        Draft::of(severity, (name, span))
            .says(format!("`{name}` {says}"))
            .task("move it to the position that the pin table gives for it: `mohm pins PLAN`")
    })
}

/// True for what reversed voltage destroy: all but motors, coils, lamps and heaters.
fn is_polarised(plan: &Plan, run: Run) -> bool {
    let Run::Load(i) = run else { return true };
    !matches!(plan.loads[i].nature, Some(Nature::Motor | Nature::Coil | Nature::Lamp | Nature::Heater))
}
