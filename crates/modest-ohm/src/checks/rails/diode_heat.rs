//! diode-heat: the junction of a diode in a feed, by its package.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::enclosure::Held;
use crate::plan::kinds::run::Diode;
use crate::quantity::figure::{Corner, Origin};
use crate::quantity::units::{Celsius, Watts};
use crate::size::regulator::MARGIN_K;
use crate::solved::heat::air_c;
use crate::solved::outcome::Snapshot;
use crate::verdict::severity::Severity;

/// What every package sheds without getting warm, W (our own figure).
const SHEDS_W: f64 = 0.25;
/// A diode with less forward voltage is a Schottky diode.
const SCHOTTKY_V: f64 = 0.5;

/// A package of a size of diode: its name, junction to air in K/W, and what its junction withstands, °C (typical).
struct Package {
    name: &'static str,
    theta: f64,
    most_c: f64,
}

/// The axial and the surface-mount package of a rating.
fn packages(diode: &Diode) -> Vec<Package> {
    let schottky = diode.vf.typical.get() < SCHOTTKY_V;
    let axial_c = if schottky { 125.0 } else { 150.0 };
    let package = |name, theta, most_c| Package { name, theta, most_c };
    match diode.rating.as_ref().map_or(1.0, |a| a.typical.get()) {
        a if a <= 1.5 => vec![package("axial", 60.0, axial_c), package("surface-mount", 90.0, 150.0)],
        a if a <= 5.0 => vec![package("axial", 35.0, axial_c), package("surface-mount", 75.0, 150.0)],
        _ => vec![package("TO-220 without a heatsink", 60.0, 150.0)],
    }
}

/// How warm a junction gets in a package, nominal and at worst, and what of that; where its resistance is known the
/// worst decides, else the nominal.
fn verdict(p: &Package, air: f64, (nominal, worst): (f64, f64), is_known: bool) -> (Option<Severity>, f64, f64) {
    let (warm, hot) = (air + nominal * p.theta, air + worst * p.theta);
    let decides = if is_known { hot } else { warm };
    let severity = if decides > p.most_c {
        Some(Severity::Danger)
    } else if decides > p.most_c - MARGIN_K || hot > p.most_c {
        Some(Severity::Caution)
    } else {
        None
    };
    (severity, warm, hot)
}

pub(crate) fn run(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for (i, branch) in plan.branches.iter().enumerate() {
        let (Some(diode), Some(element)) =
            (branch.diode().filter(|d| !d.fet && !d.reversed), context.layout.elements[i])
        else {
            continue;
        };
        let watts = |s: &Snapshot| if s.alive(element) { (s.amps(element) * s.drop_v(element)).max(0.0) } else { 0.0 };
        let air = |s: &Snapshot| air_c(plan, Held::Branch(i), s);
        let Some(worst) = context.worst_sustained(watts) else { continue };
        let name = &branch.name.text;
        if worst.value <= SHEDS_W {
            sink.pass(name, || format!("{} dissipated, within any package's rating", Watts::new(worst.value)));
            continue;
        }
        let air = context.worst_sustained(air).map_or(plan.warmest_c(), |w| w.value);
        let typical = context.continuous().filter(|o| o.corner == Corner::Typical);
        let nominal = typical.filter_map(|o| Some(watts(o.sustained.as_ref().ok()?))).fold(0.0, f64::max);
        let stated = diode.theta.as_ref();
        let all = match stated {
            Some(t) => vec![Package { name: "", theta: t.high.get(), most_c: diode.junction_c() }],
            None => packages(diode),
        };
        let is_known = stated.is_some_and(|t| !t.origin.is_assumed());
        let each: Vec<_> = all.iter().map(|p| (p, verdict(p, air, (nominal, worst.value), is_known))).collect();
        let Some((package, (severity, warm, hot))) = each.iter().max_by_key(|(_, v)| v.0) else { continue };
        let Some(mut severity) = *severity else {
            sink.pass(name, || format!("{} of {}", Celsius::new(*warm), Celsius::new(package.most_c)));
            continue;
        };
        // Where the package decides, and nothing says which it is, the verdict is no worse than a caution.
        let hangs = each.iter().any(|(_, v)| v.0 != Some(severity));
        if hangs {
            severity = Severity::Caution;
        }
        let of =
            if package.name.is_empty() { String::new() } else { format!(" in a package that is {}", package.name) };
        let other = if hangs { "; the other common package would do: write `theta-ja`" } else { "" };
        let limit = Celsius::new(package.most_c);
        sink.find(
            Draft::of(severity, &branch.name)
                .at(&worst)
                .says(format!(
                    "`{name}` dissipates {}{of}: junction {} nominal, {} at worst; limit {limit}{other}",
                    Watts::new(worst.value),
                    Celsius::new(*warm),
                    Celsius::new(*hot)
                ))
                .judged("junction", Celsius::new(if severity == Severity::Danger { *warm } else { *hot }))
                .at_most("limit", limit, &Origin::Default("125 °C axial Schottky, 150 °C others (typical)"))
                .fact(Evidence::computed("loss", Watts::new(worst.value))),
        );
    }
}
