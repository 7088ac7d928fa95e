//! contact-overloaded, of boards: what leaves by a terminal or a header pin of a board, and what a stacked pin carries.

use crate::derived::context::{Context, Worst};
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::layout::ConductorInfo;
use crate::plan::kinds::link::LinkKind;
use crate::plan::kinds::run::RunKind;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::contact::Bears;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Amps;
use crate::solved::outcome::Snapshot;
use crate::source::Span;
use crate::topology::conductors::feed_of;
use crate::verdict::compare::{at_most, exceeds};
use crate::verdict::severity::Severity;

/// A pin of 0.64 mm square, with the trace behind it (typical).
const PIN_A: f64 = 3.0;

/// From a board's USB connector to its main terminal (typical).
const USB_PATH_A: f64 = 1.0;
const USB_PATH: Origin = Origin::Default("a board's path from USB to its main terminal is rated 1 A (typical)");

const TYPICAL: Origin = Origin::Default("a header pin with its trace is rated 3 A (typical)");

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    terminals(context, sink);
    usb_paths(context, sink);
    stacked(context, sink);
}

/// What is connected to a board's terminal goes through its pin and its trace; a board with ports is made for it.
fn terminals(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (c, board) in plan.boards.iter().enumerate() {
        let Some(node) = plan.node_id(NodeKind::BoardInput(c)) else { continue };
        let has_ports = plan.branches.iter().any(|b| matches!(&b.kind, RunKind::Port(p) if p.board == c));
        let limit = match (&board.through, &board.total) {
            (Some(stated), _) => stated.clone(),
            (None, Some(_)) => continue,
            (None, None) if has_ports => continue,
            (None, None) => Figure::exact(Amps::new(PIN_A), TYPICAL),
        };
        let out = |s: &Snapshot| leaving(context, node, s);
        let Some(worst) = context.worst_sustained(out).filter(|w| w.value > 1e-6) else { continue };
        let name = &plan.nodes[node.0].name;
        let text = format!("leaves by terminal `{name}`; its pin and trace are rated");
        judge(context, sink, (name, board.name.span), &worst, &limit, &text);
    }
}

/// What comes in by USB goes through the board's own trace, and its diode or polyfuse, to its main terminal.
fn usb_paths(context: &Context<'_>, sink: &mut Sink) {
    for (board, inlets) in context.plan.boards.iter().zip(&context.layout.inlets) {
        let Some(usb) = inlets.usb.as_ref().filter(|usb| context.alive(usb.join)) else { continue };
        let Some(worst) = context.worst_sustained(|s| s.amps(usb.join)).filter(|w| w.value > 1e-6) else { continue };
        // What the board bursts with itself comes by it as well.
        let usual = || Figure::exact(Amps::new(USB_PATH_A.max(board.peak.high.get())), USB_PATH);
        let limit = board.through.clone().unwrap_or_else(usual);
        let name = format!("{}.usb", board.name.text);
        let text = "flows from USB through the board; its trace and diode are rated";
        judge(context, sink, (&name, board.name.span), &worst, &limit, text);
    }
}

/// What all that names a node as its feed takes from it, A.
fn leaving(context: &Context<'_>, node: NodeId, s: &Snapshot) -> f64 {
    let from_it =
        |c: &&ConductorInfo| feed_of(context.plan, c.run).is_some_and(|f| f.from.id == node && f.from.pin.is_none());
    let own = s.layout.conductors.iter().filter(from_it);
    own.filter_map(|c| c.feed).map(|b| s.amps(b)).sum::<f64>().max(0.0)
}

/// Each supply pin that two stacked boards share.
fn stacked(context: &Context<'_>, sink: &mut Sink) {
    for (link, branch) in context.plan.links.iter().zip(&context.layout.links) {
        if link.what != LinkKind::Stack || !link.closed || !context.alive(*branch) {
            continue;
        }
        let Some(worst) = context.worst_sustained(|s| s.amps(*branch).abs()) else { continue };
        let limit = Figure::exact(Amps::new(PIN_A), TYPICAL);
        let text = format!("flows through the stacked pin `{}`; rated", link.name.text);
        judge(context, sink, (&link.name.text, link.name.span), &worst, &limit, &text);
    }
}

fn judge(
    context: &Context<'_>,
    sink: &mut Sink,
    subject: (&String, Span),
    worst: &Worst,
    limit: &Figure<Amps>,
    text: &str,
) {
    let (amps, may) = (Amps::new(worst.value), limit.low);
    if !exceeds(amps.get(), may.get()) {
        if context.all_sustained() {
            sink.pass(subject.0, || format!("{amps} of {may}"));
        }
        return;
    }
    let little = at_most(amps.get(), Bears::Contact.share() * may.get());
    sink.find(
        Draft::of(if little { Severity::Caution } else { Severity::Danger }, subject)
            .at(worst)
            .says(format!("{amps} {text} {may}"))
            .judged("demand", amps)
            .at_most("rating", may, &limit.origin)
            .task("if its datasheet gives its rating, write it: `through-current`"),
    );
}
