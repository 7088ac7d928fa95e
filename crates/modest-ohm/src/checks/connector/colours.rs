//! wire-colour-ambiguous: what a colour means along one path.

use super::meets::runs;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::network::names::lead_name;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::cable::Cable;
use crate::topology::conductors::{cable_of, feed_of};
use crate::topology::rail::way_up;
use crate::topology::run::Run;

/// What a core is for, by its place in the list.
const MEANINGS: [&str; 3] = ["+", "−", "a signal"];

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (info, _) in runs(context.layout) {
        let Some(cable) = cable_of(plan, info.run).filter(|c| c.cores.len() > 1) else { continue };
        let name = lead_name(plan, info);
        let clash = within(cable).or_else(|| {
            let feed = feed_of(plan, info.run)?;
            let above = way_up(plan, feed.from.id).into_iter().filter_map(|id| match plan.nodes[id.0].kind {
                NodeKind::Branch(i) => Some(Run::Branch(i)),
                NodeKind::BoardInput(i) => Some(Run::Board(i)),
                _ => None,
            });
            above.into_iter().find_map(|run| between(plan, cable, run))
        });
        let Some(message) = clash else {
            sink.pass(name, || "each colour has one meaning".into());
            continue;
        };
        sink.find(Draft::caution((name, cable.span)).says(format!("`{name}`: {message}")));
    }
}

fn meaning(core: usize) -> &'static str {
    MEANINGS[core.min(2)]
}

/// Feed and return, or one of them and a signal, that look alike.
fn within(cable: &Cable) -> Option<String> {
    for (i, core) in cable.cores.iter().enumerate() {
        let twin = cable.cores.iter().enumerate().skip(i + 1).find(|(j, c)| *c == core && meaning(*j) != meaning(i));
        if let Some((j, _)) = twin {
            return Some(format!(
                "{} and {} are both {} and cannot be told apart",
                meaning(i),
                meaning(j),
                core.name()
            ));
        }
    }
    None
}

/// A colour that means something else in a cable further up.
fn between(plan: &Plan, cable: &Cable, above: Run) -> Option<String> {
    let other = cable_of(plan, above)?;
    let upper = match above {
        Run::Branch(i) => &plan.branches[i].name.text,
        Run::Board(i) => &plan.boards[i].name.text,
        _ => return None,
    };
    for (i, core) in cable.cores.iter().enumerate() {
        let clash = other.cores.iter().enumerate().find(|(j, c)| *c == core && meaning(*j) != meaning(i));
        if let Some((j, _)) = clash {
            return Some(format!(
                "{} is {} here and {} in the cable to `{upper}`, which feeds it",
                core.name(),
                meaning(i),
                meaning(j)
            ));
        }
    }
    None
}
