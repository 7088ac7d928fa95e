//! side-mismatch: a switch in the return of what is grounded anyhow, or in the + that colours share.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;
use crate::solved::drivers::channel::{Channel, channels};

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    // Either side of a contact is fine, and a bridge switches both.
    let one_sided = |c: &&Channel<'_>| !c.driver.kind.is_contact() && c.driver.bridge().is_none();
    for channel in channels(context.plan).iter().filter(one_sided) {
        judge(context, sink, channel);
    }
}

fn judge(context: &Context<'_>, sink: &mut Sink, channel: &Channel<'_>) {
    let plan = context.plan;
    let grounded = plan.loads_behind(channel.run).find(|i| plan.loads[*i].grounded);
    let shared = channel.strips().find(|s| plan.strips[*s].is_fan());
    let what = match (channel.is_low_side(), grounded, shared) {
        (true, Some(load), _) => format!(
            "{} is in the return of `{}`, whose negative is its case: the current bypasses it",
            channel.words(),
            plan.loads[load].name.text
        ),
        (false, _, Some(strip)) => format!(
            "{} is in the positive of `{}`, which all its colours share: it cannot switch one colour",
            channel.words(),
            plan.strips[strip].name.text
        ),
        _ => {
            sink.pass(channel.name(), || "on the side that it can switch".into());
            return;
        }
    };
    sink.find(Draft::fault((channel.name(), channel.span())).says(what));
}
