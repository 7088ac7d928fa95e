//! back-fed: what is over its absolute maximum with a link closed, and not with it open.

use crate::derived::consumers::{Consumer, consumers};
use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::layout::Layout;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Volts;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::source::Span;
use crate::verdict::compare::exceeds;

/// A regulator's output, and what is fed from it inside its board, stands this much of its set voltage (3.6 V of 3.3 V:
/// typical absolute maximum of 3.3 V logic).
const LOGIC_SHARE: f64 = 3.6 / 3.3;

/// A part that voltage can be too much for.
struct Victim<'a> {
    name: String,
    what: &'static str,
    span: Span,
    limit: Figure<Volts>,
    at: Place<'a>,
}

enum Place<'a> {
    Consumer(Box<Consumer<'a>>),
    /// A node of the plan.
    Node(usize),
}

impl Victim<'_> {
    fn highest(&self, s: &Snapshot) -> Option<f64> {
        match &self.at {
            Place::Consumer(c) => c.highest(s),
            Place::Node(n) => s.volts_at(NodeId(*n)),
        }
    }
}

fn victims<'a>(plan: &'a Plan, layout: &Layout) -> Vec<Victim<'a>> {
    let mut victims: Vec<Victim<'a>> = Vec::new();
    for c in consumers(plan, layout) {
        if let Some(limit) = c.absolute.clone() {
            let (name, span) = (c.name.clone(), c.declared.span);
            victims.push(Victim { name, what: c.what, span, limit, at: Place::Consumer(Box::new(c)) });
        }
    }
    for (id, node) in plan.nodes.iter().enumerate() {
        let NodeKind::BoardOutput(i) = node.kind else { continue };
        let Some(regulator) = &plan.boards[i].regulator else { continue };
        let limit = Figure::exact(
            regulator.voltage.typical * LOGIC_SHARE,
            Origin::Default("a regulated logic rail withstands 9 % above nominal (3.6 V at 3.3 V, typical)"),
        );
        let (name, span) = (node.name.clone(), plan.boards[i].name.span);
        victims.push(Victim { name, what: "board output", span, limit, at: Place::Node(id) });
    }
    victims
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    if !plan.links.iter().any(|l| l.closed) {
        return;
    }
    let victims = victims(plan, context.layout);
    let over = |v: &Victim<'_>| context.worst_actual(|_| true, |_, s| v.highest(s)).filter(|w| is_over(w.value, v));
    let mut hit: Vec<(&Victim<'_>, Worst)> = victims.iter().filter_map(|v| Some((v, over(v)?))).collect();
    // The part that gets most beyond its maximum first: it stands for all that the link harms.
    let beyond = |(v, worst): &(&Victim<'_>, Worst)| worst.value / v.limit.typical.get().max(1e-9);
    hit.sort_by(|a, b| beyond(b).total_cmp(&beyond(a)));
    if hit.is_empty() {
        if context.all_actual() {
            for link in plan.links.iter().filter(|l| l.closed) {
                sink.pass(&link.name.text, || "raises nothing above its maximum".into());
            }
        }
        return;
    }
    let mut told: Vec<&str> = Vec::new();
    for (l, link) in plan.links.iter().enumerate().filter(|(_, l)| l.closed) {
        let mut variant = plan.clone();
        variant.links[l].closed = false;
        let Some((_, outcomes)) = context.trial(&variant) else { return };
        let still = |v: &Victim<'_>| {
            let solved = outcomes.iter().filter(|o: &&Outcome| !o.case.programming);
            let volts = solved.filter_map(|o| v.highest(o.actual.as_ref().ok()?));
            volts.fold(f64::NEG_INFINITY, f64::max)
        };
        for (v, worst) in &hit {
            if told.contains(&v.name.as_str()) || is_over(still(v), v) {
                continue;
            }
            told.push(&v.name);
            let volts = Volts::new(worst.value);
            sink.find(
                Draft::danger((&v.name, v.span))
                    .at(worst)
                    .says(format!(
                        "through the {} `{}`, {} `{}` is at {volts}; maximum {}",
                        link.what.word(),
                        link.name.text,
                        v.what,
                        v.name,
                        v.limit.typical
                    ))
                    .judged("voltage", volts)
                    .at_most("maximum", v.limit.typical, &v.limit.origin),
            );
        }
    }
}

fn is_over(volts: f64, v: &Victim<'_>) -> bool {
    exceeds(volts, v.limit.typical.get())
}
