//! What the findings about a fuse call a cable.

use crate::derived::context::Context;
use crate::derived::protection::judge::Protection;
use crate::network::names::lead_name;
use crate::quantity::units::Celsius;
use crate::tables::wire::WireSize;
use crate::topology::run::Run;

/// The size of a cable in words.
pub(crate) fn size_words(context: &Context<'_>, p: &Protection) -> String {
    let cable = &p.cable;
    let size = cable.size.map_or_else(|| "its wire".to_owned(), WireSize::name);
    let many = if cable.parallel > 1 { format!("{} × {size}", cable.parallel) } else { size };
    let air = context.air_c(p.run);
    if air > 30.0 { format!("{many} at {}", Celsius::new(air)) } else { many }
}

/// The cable's name from its run.
pub(crate) fn name_of<'c>(context: &'c Context<'_>, run: Run) -> &'c str {
    let info = context.layout.conductors.iter().find(|c| c.run == run);
    info.map_or("", |info| lead_name(context.plan, info))
}
