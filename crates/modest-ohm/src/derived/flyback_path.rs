//! The flyback path of a load behind a driver channel.

use crate::plan::driver::DriverKind;
use crate::plan::kinds::flyback::Flyback;
use crate::plan::kinds::load::Load;
use crate::solved::drivers::channel::Channel;

static BUILT_IN: Flyback = Flyback::BuiltIn;

/// Where the current of a load goes when a channel lets it go; `None` where nothing is shown.
pub(crate) fn path_of<'p>(channel: &Channel<'p>, load: &'p Load) -> Option<&'p Flyback> {
    // Of a relay, bare or on a module, `flyback` is that of its coil, which damps no load on its contacts.
    let of_driver = channel.driver.flyback.as_ref().filter(|_| !channel.driver.kind.is_contact());
    let own = load.flyback.as_ref().or(of_driver);
    own.or_else(|| match channel.driver.kind {
        DriverKind::Bridge => Some(&BUILT_IN),
        // Of an array's diodes only with their common pin where the coil's own + is.
        DriverKind::Darlington if common_fits(channel) => Some(&BUILT_IN),
        _ => None,
    })
}

/// True where an array's common pin goes to the + that its coils are connected to.
fn common_fits(channel: &Channel<'_>) -> bool {
    let plan = channel.plan;
    let from = plan.branches[channel.run].feed.from.id;
    channel.driver.common.as_ref().is_some_and(|c| plan.root(c.id) == plan.root(from))
}
