//! divider-range and divider-source: what a divider makes of its source, at every corner.

use super::protection;
use crate::derived::context::{Context, Worst};
use crate::derived::input_margin::{pairs as input_pairs, smallest as input_margin};
use crate::derived::level_margin::MARGIN_V;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::input::{Input, Source as InputSource};
use crate::quantity::figure::Origin;
use crate::quantity::units::{Amps, Ohms, Volts};
use crate::solved::input_source::{Arrives, Does, Front, Side, States};
use crate::tables::input::{ABOVE_V, CAUTION_A, FAULT_A, PROTECTION_V};
use crate::verdict::compare::{at_least, at_most};
use crate::verdict::severity::Severity;

/// Transients of a vehicle at 12 V: load dump without suppression (ISO 16750-2) and the largest negative pulse
/// (ISO 7637-2), V.
const DUMP_V: f64 = 101.0;
const PULSE_V: f64 = -150.0;
/// A converter is off by as much as this at its end anyway (typical).
const FULL_SHARE: f64 = 0.01;
/// With this at the pin the converter's sampling does not pull it down (electrical reference, "Boards, pins and
/// levels").
const HOLDS_F: f64 = 10e-9;

pub(crate) fn range(context: &Context<'_>, sink: &mut Sink) {
    for input in context.plan.inputs.iter().filter(|i| i.divider.is_some() || i.analogue) {
        let front = Front { plan: context.plan, layout: context.layout, input };
        if !is_found(context, sink, &front) && context.all_actual() {
            sink.pass(&input.name.text, || margin_words(context, &front));
        }
    }
}

/// Whether anything is found of an input.
fn is_found(context: &Context<'_>, sink: &mut Sink, front: &Front<'_>) -> bool {
    let found = [
        over(context, sink, front),
        full_scale(context, sink, front),
        below(context, sink, front.input),
        transients(context, sink, front),
    ];
    found.contains(&true)
}

/// Whether nothing would be found of an input that is changed; its low, which another check judges, included.
pub(crate) fn is_sound(context: &Context<'_>, input: &Input) -> bool {
    let front = Front { plan: context.plan, layout: context.layout, input };
    let vil = context.plan.boards[front.board()].pins.vil.as_ref().filter(|_| !input.analogue);
    let low = vil.and_then(|vil| input_margin(context, input, vil, false));
    low.is_none_or(|low| low.value >= MARGIN_V) && !is_found(context, &mut Sink::default(), &front)
}

/// What an input without findings reads.
fn margin_words(context: &Context<'_>, front: &Front<'_>) -> String {
    let all: Vec<_> = input_pairs(context, front);
    let of = |does, side| all.iter().filter_map(move |(_, states)| Some(front.arrives(does, side, *states)?.volts));
    let (most, least) = (of(Does::On, Side::Most), of(Does::On, Side::Least));
    let low = of(Does::Off, Side::Most);
    let (Some(most), Some(least)) = (most.reduce(f64::max), least.reduce(f64::min)) else { return String::new() };
    let text = format!("its high level is {} .. {}", Volts::new(least), Volts::new(most));
    let pins = &context.plan.boards[front.board()].pins;
    let vdd = all.iter().filter_map(|(_, states)| front.vdd(states.here)).reduce(f64::min);
    let (Some(adc), Some(vdd), true) = (&pins.adc, vdd, front.input.analogue) else { return text };
    let (zero, full) = adc.full_scale.as_ref().map_or((0.0, vdd), |f| (f.low.get(), f.high.get()));
    let count = |v: f64| (((v - zero) / (full - zero)).clamp(0.0, 1.0) * (adc.steps - 1) as f64).round();
    let middle = (least + low.reduce(f64::max).unwrap_or(0.0)) / 2.0;
    format!(
        "{text}: it reads {} .. {} of {}; threshold midway to its low level {}, {}",
        count(least),
        count(most),
        adc.steps,
        count(middle),
        Volts::new(middle)
    )
}

/// More than the pin stands.
fn over(context: &Context<'_>, sink: &mut Sink, front: &Front<'_>) -> bool {
    let input = front.input;
    if input.divider.is_none() {
        return false;
    }
    let top = context.plan.boards[front.board()].pins.stands(input.pin.at.index);
    let mut most: Option<(f64, Arrives, f64, Worst)> = None;
    for (to, states) in input_pairs(context, front) {
        let Some(vdd) = front.vdd(states.here) else { continue };
        for does in [Does::On, Does::Off] {
            let Some(arrives) = front.arrives(does, Side::Most, states) else { continue };
            let amps = front.protection_a(does, Side::Most, states, vdd + PROTECTION_V, None).unwrap_or(0.0);
            let amps = if arrives.volts > vdd + ABOVE_V { amps } else { 0.0 };
            let over = top.map_or(amps, |t| arrives.volts - t.low.get());
            if most.as_ref().is_none_or(|(m, ..)| over > *m) {
                most = Some((over, arrives, vdd, Worst::at(to, over)));
            }
        }
    }
    let Some((value, arrives, vdd, at)) = most else { return false };
    let volts = Volts::new(arrives.volts);
    let name = &input.name.text;
    let (severity, message, evidence) = match top {
        Some(top) if value > 1e-9 => (
            Severity::Danger,
            format!("the divider of `{name}` outputs {volts}; the pin's absolute maximum is {}", top.low),
            vec![Evidence::judged("voltage", volts), Evidence::at_most("absolute_maximum", top.low, &top.origin)],
        ),
        Some(_) => return false,
        None => {
            let Some(severity) = protection::severity(value) else { return false };
            let limit = protection::limit(severity);
            let more = if severity == Severity::Advisory { String::new() } else { format!("; rated {limit}") };
            let (flows, vdd) = (Amps::new(value), Volts::new(vdd));
            let message = format!(
                "the divider of `{name}` outputs {volts} while the pin's supply is {vdd}: {flows} flows through its \
                protection diodes{more}"
            );
            let evidence = vec![
                Evidence::judged("through", flows),
                Evidence::computed("voltage", volts),
                Evidence::at_most("limit", limit, &protection::origin()),
            ];
            (severity, message, evidence)
        }
    };
    sink.find(Draft::of(severity, &input.name).at(&at).says(message).facts(evidence));
    true
}

/// More than the converter tells apart.
fn full_scale(context: &Context<'_>, sink: &mut Sink, front: &Front<'_>) -> bool {
    let input = front.input;
    let pins = &context.plan.boards[front.board()].pins;
    let (Some(adc), true) = (&pins.adc, input.analogue) else { return false };
    let mut most: Option<(f64, f64, f64, Worst)> = None;
    for (to, states) in input_pairs(context, front) {
        let Some(vdd) = front.vdd(states.here) else { continue };
        let full = adc.full_scale.as_ref().map_or(vdd, |f| f.high.get());
        let Some(arrives) = front.arrives(Does::On, Side::Most, states) else { continue };
        if most.as_ref().is_none_or(|(m, ..)| arrives.volts - full > *m) {
            most = Some((arrives.volts - full, arrives.volts, full, Worst::at(to, arrives.volts)));
        }
    }
    let Some((over, volts, full, at)) = most.filter(|(over, _, full, _)| *over > FULL_SHARE * full) else {
        return false;
    };
    let name = &input.name.text;
    let origin = adc.full_scale.as_ref().map_or(Origin::Computed, |f| f.origin.clone());
    sink.find(
        Draft::fault(&input.name)
            .at(&at)
            .says(format!(
                "`{name}` reaches {} at its pin; the ADC of {} saturates at {}",
                Volts::new(volts),
                context.plan.pin_words(&input.pin.at),
                Volts::new(full)
            ))
            .judged("voltage", Volts::new(volts))
            .at_most("full_scale", Volts::new(full), &origin)
            .with("over", Volts::new(over)),
    );
    true
}

/// Less than the pin takes as high.
fn below(context: &Context<'_>, sink: &mut Sink, input: &Input) -> bool {
    if input.analogue {
        return false;
    }
    let pins = &context.plan.boards[input.pin.at.board].pins;
    let Some(vih) = &pins.vih else { return false };
    let Some(margin) = input_margin(context, input, vih, true) else { return false };
    if margin.value >= MARGIN_V {
        return false;
    }
    let name = &input.name.text;
    let (level, wanted) = (Volts::new(margin.level), Volts::new(margin.threshold));
    sink.find(
        Draft::of(if margin.value < 0.0 { Severity::Fault } else { Severity::Caution }, &input.name)
            .at(&margin.at)
            .says(format!(
                "the divider of `{name}` outputs at least {level}; {} reads {wanted} as high",
                context.plan.pin_words(&input.pin.at)
            ))
            .judged("level", level)
            .at_least("threshold", wanted, &Origin::Computed)
            .with("margin", Volts::new(margin.value)),
    );
    true
}

/// What comes through the top resistor in a vehicle.
fn transients(context: &Context<'_>, sink: &mut Sink, front: &Front<'_>) -> bool {
    let input = front.input;
    let InputSource::Swing { vehicle: true, .. } = &input.source else { return false };
    let mut most: Option<(f64, f64, Worst)> = None;
    for (to, states) in input_pairs(context, front) {
        let Some(vdd) = front.vdd(states.here) else { continue };
        let transients = [(Side::Most, vdd + PROTECTION_V, DUMP_V), (Side::Least, -PROTECTION_V, PULSE_V)];
        let through = transients.map(|(side, held, volts)| {
            Some((front.protection_a(Does::On, side, states, held, Some((volts, volts)))?, volts))
        });
        for (amps, volts) in through.into_iter().flatten() {
            if most.as_ref().is_none_or(|(m, ..)| amps > *m) {
                most = Some((amps, volts, Worst::at(to, amps)));
            }
        }
    }
    let Some((amps, volts, at)) = most.filter(|(a, ..)| *a >= CAUTION_A) else { return false };
    sink.find(
        Draft::of(if amps >= FAULT_A { Severity::Danger } else { Severity::Caution }, &input.name)
            .at(&at)
            .says(format!(
                "a vehicle transient of {} drives {} through the protection diodes of {}; rated {}",
                Volts::new(volts),
                Amps::new(amps),
                context.plan.pin_words(&input.pin.at),
                Amps::new(CAUTION_A)
            ))
            .judged("through", Amps::new(amps))
            .at_most("limit", Amps::new(CAUTION_A), &protection::origin())
            .given("transient", Volts::new(volts), &Origin::Default("ISO 16750-2 and ISO 7637-2")),
    );
    true
}

pub(crate) fn source(context: &Context<'_>, sink: &mut Sink) {
    for input in context.plan.inputs.iter().filter(|i| i.analogue) {
        let name = &input.name.text;
        let front = Front { plan: context.plan, layout: context.layout, input };
        let pins = &context.plan.boards[front.board()].pins;
        let behind = context.outcomes.iter().filter_map(|o| {
            let s = o.actual.as_ref().ok()?;
            front.arrives(Does::On, Side::Most, States { there: s, here: s })
        });
        let Some(ohms) = behind.map(|a| a.ohms).reduce(f64::max) else { continue };
        let (ohms, wants) = (Ohms::new(ohms), pins.source.high);
        let holds = input.filter.as_ref().is_some_and(|c| at_least(c.low.get(), HOLDS_F));
        if holds || at_most(ohms.get(), wants.get()) {
            sink.pass(name, || if holds { "a capacitor holds it".into() } else { format!("{ohms} of {wants}") });
            continue;
        }
        sink.find(
            Draft::caution(&input.name)
                .says(format!(
                    "`{name}` has a source resistance of {ohms}; the ADC of {} needs {wants} or less",
                    context.plan.pin_words(&input.pin.at)
                ))
                .judged("source", ohms)
                .at_most("recommended", wants, &pins.source.origin),
        );
    }
}
