//! `size wire`, `size fuse`, `size wire-and-fuse`: single questions about leads.

use modest_ohm::size::{self, WireNeed};
use modest_ohm::tables::{FuseFamily, WireSize};
use modest_ohm::units::{Amps, Celsius, Fraction, Ohms};
use modest_ohm_report::{FarEnd, SizeAnswer, size_fuse, size_wire, size_wire_and_fuse};

use super::problems::Problems;
use crate::args::{Laid, SizeFuse, SizeWire, SizeWireAndFuse};

impl Laid {
    fn ambient(&self) -> Celsius {
        self.ambient.unwrap_or(Celsius::new(25.0))
    }
}

/// What a wire may lose, and what has to be above zero.
fn checked(problems: &mut Problems, current: Amps, length: f64, volts: f64, drop: Option<Fraction>) -> Fraction {
    let drop = drop.unwrap_or(Fraction::new(0.05));
    problems.unless(current.get() > 0.0, || format!("the current: {current} is not above zero"));
    problems.unless(length >= 0.0, || "the length is below zero".into());
    problems.unless(volts > 0.0, || "the voltage is not above zero".into());
    problems.unless(drop.get() > 0.0 && drop.get() < 1.0, || {
        format!("the drop is {drop}; it must be above 0 % and below 100 %")
    });
    drop
}

pub(super) fn wire(args: &SizeWire) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let drop = checked(&mut problems, args.current, args.length.get(), args.voltage.get(), args.drop);
    for (what, amps) in [("limit", args.limit), ("fuse", args.fuse), ("source's limit", args.source_limit)] {
        problems.unless(amps.is_none_or(|a| a.get() > 0.0), || format!("the {what} is not above zero"));
    }
    let family = FuseFamily::from(args.family);
    let stands = args.fuse.map(|f| Amps::new(f.get() / family.ampacity_factor())).or(args.source_limit);
    let need = WireNeed {
        load: args.current,
        length: args.length,
        drop: Some((args.voltage, drop)),
        limit: args.limit,
        for_protection: stands,
        ambient: args.laid.ambient(),
        insulation: args.laid.insulation,
        pairs: usize::from(args.laid.bundle),
        metric: args.metric,
    };
    problems.or(|| size_wire(&need, &size::wire(&need), args.fuse.map(|f| (f, family))))
}

pub(super) fn fuse(args: &SizeFuse) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    problems.unless(args.current.get() > 0.0, || format!("the current: {} is not above zero", args.current));
    let (ambient, pairs) = (args.laid.ambient(), usize::from(args.laid.bundle));
    let mut wires: Vec<(WireSize, Amps)> = Vec::new();
    for text in &args.wire {
        match text.parse::<WireSize>() {
            Ok(wire) => wires.push((wire, size::ampacity(wire, args.laid.insulation, ambient, pairs))),
            Err(message) => problems.unless(false, || format!("a wire: {message}; write `16 AWG` or `0.75 mm²`")),
        }
    }
    let family = FuseFamily::from(args.family);
    let far = args.voltage.zip(args.length).zip(wires.last().copied());
    problems.unless(args.voltage.is_none_or(|v| v.get() > 0.0), || "the voltage is not above zero".into());
    problems.or(|| {
        let amps: Vec<Amps> = wires.iter().map(|(_, a)| *a).collect();
        let load_factor = family.load_factor() * family.warm_share(ambient.get());
        let fit = size::fuse(args.current, &amps, family, load_factor, family.ampacity_factor());
        let far = far.zip(fit.rating).map(|(((volts, length), (wire, _)), rating)| {
            let insulation = args.laid.insulation.unwrap_or(modest_ohm::tables::PLAIN_INSULATION);
            let hot = size::wire_ohms_per_metre(wire, false, insulation);
            let loop_ohms = Ohms::new(2.0 * length.get() * hot.get() + size::fuse_ohms(rating).get());
            let source = args.source.unwrap_or(Ohms::new(0.0));
            let clears = size::fuse_clears(volts, source, loop_ohms, rating, family.blows_from());
            let flows = args
                .source_limit
                .map_or(clears.prospective, |l| if l < clears.prospective { l } else { clears.prospective });
            FarEnd { flows, limited: flows < clears.prospective }
        });
        size_fuse(args.current, &wires, family, &fit, far)
    })
}

pub(super) fn pair(args: &SizeWireAndFuse) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let drop = checked(&mut problems, args.current, args.length.get(), args.voltage.get(), args.drop);
    let family = FuseFamily::from(args.family);
    let need = WireNeed {
        load: args.current,
        length: args.length,
        drop: Some((args.voltage, drop)),
        limit: None,
        for_protection: None,
        ambient: args.laid.ambient(),
        insulation: args.laid.insulation,
        pairs: usize::from(args.laid.bundle),
        metric: args.metric,
    };
    problems.or(|| size_wire_and_fuse(&need, family, size::pair(&need, family).as_ref()))
}
