//! A wire and its fuse, chosen together.

use super::fuse::{FuseSize, fuse};
use super::wire::{WireChoice, WireNeed, choices, drops_no_more};
use crate::quantity::units::Amps;
use crate::tables::fuse::FuseFamily;
use crate::verdict::compare::at_least;

/// A wire with a fuse that carries the load and protects the wire.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Pair {
    /// The wire.
    pub wire: WireChoice,
    /// The fuse's rating.
    pub fuse: Amps,
    /// The least rating that carries the load.
    pub needed: Amps,
}

/// The thinnest wire for which a standard fuse lies between what the load needs and what the wire allows, and which
/// loses no more than it may; with the smallest such fuse. `None` where no listed size has one.
///
/// The wire has to carry its load, and the limit of the port or device where one is given; `for_protection` is ignored,
/// for the fuse is what makes the wire stand.
///
/// ```
/// use modest_ohm::size;
/// use modest_ohm::tables::{FuseFamily, WireSize};
/// use modest_ohm::units::{Amps, Celsius, Metres};
/// let need = size::WireNeed {
///     load: Amps::new(8.0), length: Metres::new(1.0), drop: None, limit: None, for_protection: None,
///     ambient: Celsius::new(25.0), insulation: None, pairs: 1, metric: false,
/// };
/// // 18 AWG carries 12.9 A, but no blade fuse lies between that and the 10.7 A that the load needs; 16 AWG carries 17.3 A.
/// let pair = size::pair(&need, FuseFamily::Blade).expect("a pair");
/// assert_eq!((pair.wire.size, pair.fuse), (WireSize::Awg(16), Amps::new(15.0)));
/// ```
#[must_use]
pub fn pair(need: &WireNeed, family: FuseFamily) -> Option<Pair> {
    choices(need).into_iter().find_map(|wire| {
        let carries = |amps: Amps| at_least(wire.ampacity.get(), amps.get());
        if !carries(need.load) || need.limit.is_some_and(|l| !carries(l)) || !drops_no_more(need, &wire) {
            return None;
        }
        let FuseSize { needed, rating, .. } = of_family(need, &wire, family);
        Some(Pair { wire, fuse: rating?, needed })
    })
}

/// The fuse of a family for a wire in this run.
fn of_family(need: &WireNeed, wire: &WireChoice, family: FuseFamily) -> FuseSize {
    let load_factor = family.load_factor() * family.warm_share(need.ambient.get());
    fuse(need.load, &[wire.ampacity], family, load_factor, family.ampacity_factor())
}
