//! supply-voltage: a consumer's solved voltage against its absolute maximum, its minimum and its recommended range.

use crate::checks::shared::consumer_voltage::{Which, is_winding, judge};
use crate::derived::context::Context;
use crate::findings::sink::Sink;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for consumer in context.consumers().iter().filter(|c| context.asks(&c.name)) {
        let which = if is_winding(context, consumer) { Which::Milder } else { Which::All };
        judge(context, sink, consumer, which);
    }
}
