//! unreachable: chains of data that never start at a pin.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let strips = &context.plan.strips;
    for (i, strip) in strips.iter().enumerate() {
        let Some(data) = &strip.data else { continue };
        let mut at = i;
        let mut seen = vec![i];
        let ends_at = loop {
            match strips[at].data.as_ref().map(|d| (&d.pin, &d.after)) {
                Some((Some(_), _)) => break None,
                Some((None, Some((_, before)))) if seen.contains(before) => {
                    break Some(format!("the chain is circular at `{}`", strips[*before].name.text));
                }
                Some((None, Some((_, before)))) => {
                    at = *before;
                    seen.push(at);
                }
                _ => break Some(format!("`{}` has no data itself", strips[at].name.text)),
            }
        };
        match ends_at {
            None => sink.pass(&strip.name.text, || "its data starts at a pin".into()),
            Some(why) => sink.find(
                Draft::fault((&strip.name.text, data.span))
                    .says(format!("no data reaches {} `{}`: {why}", strip.word(), strip.name.text))
                    .task("feed the first strip of the chain from a pin: `data = { pin = \"board.io27\" }`"),
            ),
        }
    }
}
