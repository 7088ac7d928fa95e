//! motor-voltage: the voltage at motors and coils, from a fault on; what is milder is the matter of `supply-voltage`.

use crate::checks::shared::consumer_voltage::{Which, is_winding, judge};
use crate::derived::context::Context;
use crate::findings::sink::Sink;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for consumer in context.consumers().iter().filter(|c| is_winding(context, c)) {
        judge(context, sink, consumer, Which::Worse);
    }
}
