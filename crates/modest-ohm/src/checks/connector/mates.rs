//! connector-mismatch: family and gender of two halves.

use super::meets::connectors;
use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::sink::Sink;

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    for (_, name, connector) in connectors(context.plan) {
        let [Some(near), Some(far)] = &connector.halves else { continue };
        let own = connector.contact.family.as_ref();
        let families = [near.family.as_ref().or(own), far.family.as_ref().or(own)];
        let message = match (families, near.gender, far.gender) {
            ([Some(a), Some(b)], ..) if a != b => {
                format!("the halves of `{}` are of different families, {a} and {b}", name.text)
            }
            (_, Some(a), Some(b)) if a == b => format!("both halves of `{}` are {}s", name.text, a.word()),
            ([Some(_), Some(_)], Some(_), Some(_)) => {
                sink.pass(&name.text, || "plug and socket of one family".into());
                continue;
            }
            _ => continue,
        };
        sink.find(Draft::fault((&name.text, far.span)).says(message));
    }
}
