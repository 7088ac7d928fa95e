//! Other ways to keep a strip's pixels at their voltage, side by side.

use super::trial::{Found, Trial};
use super::verdict::FeedVerdict;
use crate::plan::model::Plan;
use crate::plan::strip::Strip;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction, PerMetre, Volts};
use crate::tables::wire::WireSize;

/// One way, solved in all lasting scenarios and corners.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct FeedAlternative {
    /// What is done, in words.
    pub what: String,
    /// The lowest pixel.
    pub lowest: Volts,
    /// How much weaker the colour that suffers most is there, every figure at its worst.
    pub shift: Fraction,
    /// The same at nominal figures.
    pub shift_nominal: Fraction,
    /// What the strip takes at most.
    pub current: Amps,
    /// Whether it suffices; of a strip of another voltage by its own sheet.
    pub verdict: FeedVerdict,
}

impl FeedAlternative {
    fn of(what: String, found: &Found, strip: &Strip, limit: Volts) -> Self {
        Self {
            what,
            lowest: Volts::new(found.lowest_v),
            shift: Fraction::new(found.shift),
            shift_nominal: Fraction::new(found.shift_nominal),
            current: Amps::new(found.strip_a),
            verdict: FeedVerdict::of(strip, found, limit),
        }
    }
}

/// The plan as it is, then one change at a time.
pub(crate) fn alternatives(trial: &mut Trial<'_>, limit: Volts) -> Vec<FeedAlternative> {
    let mut ways = Vec::new();
    let planned = trial.plan.clone();
    let limited = {
        let mut plan = trial.variant.clone();
        plan.strips[trial.strip].injections = planned.strips[trial.strip].injections.clone();
        plan
    };
    let own = &planned.strips[trial.strip];
    let mut push = |what: String, found: Option<Found>, limit: Volts| {
        ways.extend(found.map(|f| FeedAlternative::of(what, &f, own, limit)));
    };
    push("as planned".into(), trial.solve_variant(&planned), limit);
    if let Some(firmware_limit) = trial.with_limit {
        push(format!("with a firmware limit of {firmware_limit}"), trial.solve_variant(&limited), limit);
    } else if let Some((firmware_limit, plan)) = half_light(&limited, trial.strip) {
        push(
            format!("with a firmware limit of {firmware_limit}, half of full white"),
            trial.solve_variant(&plan),
            limit,
        );
    }
    let length = trial.plan.strips[trial.strip].length.typical.get();
    let size = trial.size;
    if let Some((leads, found)) = trial.fused(&[0.0, length]) {
        let size = leads.iter().map(|l| l.size).find(|s| *s != size).unwrap_or(size);
        push(format!("fed at both ends over {size}, with fuses"), Some(found), limit);
    }
    if let Some((what, plan)) = heavier(trial, &limited) {
        push(what, trial.solve_variant(&plan), limit);
    }
    if let Some((what, plan)) = half_as_dense(&limited, trial.strip) {
        push(what, trial.solve_variant(&plan), limit);
    }
    ways.extend(higher_volts(trial));
    ways
}

/// A firmware limit that leaves half of the light.
fn half_light(plan: &Plan, strip: usize) -> Option<(Amps, Plan)> {
    let own = &plan.strips[strip];
    if own.pixel.plain || plan.has_firmware_limit(strip) {
        return None;
    }
    let firmware_limit = Amps::new(0.5 * (own.nominal_dark_a() + own.nominal_full_a()));
    let mut plan = plan.clone();
    plan.strips[strip].firmware_limit = Some(Figure::exact(firmware_limit, Origin::Computed));
    Some((firmware_limit, plan))
}

/// The planned leads four AWG numbers, or two sizes in mm², thicker: about two and a half times the copper.
fn heavier(trial: &Trial<'_>, limited: &Plan) -> Option<(String, Plan)> {
    let mut plan = limited.clone();
    let mut sizes: Vec<WireSize> = Vec::new();
    for q in &mut plan.strips[trial.strip].injections {
        let cable = q.feed.cable.as_ref()?;
        let (size, length) = (cable.size?, cable.length_m()?);
        let listed = size.listed_like();
        let at = listed.iter().position(|s| *s == size)?;
        let thicker = *listed.get(at + 2)?;
        q.feed.cable = Some(crate::plan::wiring::cable::cable_of_size(q.span, length, thicker));
        sizes.push(thicker);
    }
    let first = sizes.first()?;
    Some((format!("fed as planned over {first}"), plan))
}

/// The same strip with half as many LEDs per metre.
fn half_as_dense(plan: &Plan, strip: usize) -> Option<(String, Plan)> {
    let own = &plan.strips[strip];
    if own.pixels < 2 || own.rows.is_some() || own.is_panel {
        return None;
    }
    let density = PerMetre::new(own.density.typical.get() / 2.0);
    // What is printed on the reel counts LEDs, not groups of them.
    let leds = density * own.group as f64;
    let mut plan = plan.clone();
    let own = &mut plan.strips[strip];
    own.pixels /= 2;
    own.density = Figure::exact(density, Origin::Computed);
    Some((format!("with half as many LEDs per metre, {leds}"), plan))
}

/// The class for the next higher voltage with the same LEDs a metre, on an adapter of that voltage, fed as planned.
fn higher_volts(trial: &mut Trial<'_>) -> Option<FeedAlternative> {
    let own = &trial.plan.strips[trial.strip];
    if own.pixel.plain || own.voltage.as_ref()?.typical.get() > 6.0 || own.rows.is_some() || own.is_panel {
        return None;
    }
    let leds = own.density.typical.get() * own.group as f64;
    let mut inject = Vec::new();
    for q in &own.injections {
        let cable = q.feed.cable.as_ref()?;
        inject.push(format!("{{ at = \"{} m\", cable = \"{} m {}\" }}", q.at_m, cable.length_m()?, cable.size?));
    }
    let text = format!(
        "format = 1\n[supply.it]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"60 A\"\n[strip.it-]\n\
         part = \"pixel-12v-rgb-threes\"\nfrom = \"it\"\nlength = \"{} m\"\nleds = \"{leds} /m\"\ninject = [{}]\n",
        own.length.typical.get(),
        inject.join(", ")
    );
    let plan = Plan::from_toml(&text).ok()?;
    let sheet = plan.strips[0].pixel.sheet.as_ref()?.low;
    let mut other = Trial::new(&plan, 0, trial.size)?;
    let mut free = plan.clone();
    free.strips[0].firmware_limit = None;
    let found = other.solve_variant(&free)?;
    let what = "as a 12 V strip in groups of three, the same LEDs per metre, at 12 V".into();
    Some(FeedAlternative::of(what, &found, &free.strips[0], sheet))
}
