//! A resistor across a source that switches off when too little is drawn.

use crate::edit::Edit;
use crate::findings::finding::Finding;
use crate::fixes::bench::candidate::{Candidate, Ladder};
use crate::fixes::bench::trial::Bench;
use crate::quantity::units::{Ohms, Volts, Watts};
use crate::size::series::{Series, next_smaller};

/// Resistors that are tried: that which draws just enough where the voltage is lowest, and the next.
const RUNGS: usize = 3;

pub(super) fn ladders(bench: &Bench, f: &Finding) -> Vec<Ladder> {
    let supply = bench.plan.supplies.iter().find(|s| s.name.text == f.subject);
    let Some((supply, (drawn, stays))) = supply.zip(f.comparison()) else { return Vec::new() };
    let more = (stays.value - drawn.value).max(1e-6);
    let name = bench.sheet().new_name("keep-on");
    let least = supply.voltage.low.get() / more;
    let sizes = std::iter::successors(next_smaller(Ohms::new(least), Series::E12), |ohms| {
        next_smaller(Ohms::new(ohms.get() * 0.99), Series::E12)
    });
    let rung = |ohms: Ohms| {
        let volts = supply.voltage.typical;
        let watts = Watts::new(volts.get().powi(2) / ohms.get());
        let table = format!(
            "{{ from = \"{}\", resistance = \"{ohms}\", idle = \"{ohms}\", voltage = \"{}\", kind = \"electronics\" }}",
            supply.name.text,
            Volts::new(volts.get())
        );
        let title = format!("Draw more, {ohms} across `{}`, which costs {watts}", supply.name.text);
        Candidate::new(title, vec![Edit::set(format!("load.{name}"), table)])
    };
    vec![Ladder::of(sizes.take(RUNGS).map(rung))]
}
