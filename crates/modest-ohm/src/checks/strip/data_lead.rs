//! data-slow-edge and data-cable: what rounds the edges of a data line, and how long it is.

use crate::derived::context::Context;
use crate::findings::draft::Draft;
use crate::findings::evidence::Evidence;
use crate::findings::sink::Sink;
use crate::plan::kinds::differential_pair::DifferentialPair;
use crate::plan::kinds::shifter::Shifter;
use crate::plan::strip::Strip;
use crate::plan::strip::data::Data;
use crate::plan::wiring::through::Stage;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Metres, Ohms, Seconds};
use crate::tables::input::{INPUT_F, LEAD_F_PER_M, RISE};
use crate::topology::data_cables::{Driver, Leg, legs};
use crate::verdict::compare::{at_most, exceeds};

/// The shortest high pulse of one-wire data at 800 kHz, 0.4 µs (typical; 0.25 to 0.4 µs): an edge that takes half of it
/// leaves too little.
const SHORTEST_PULSE_S: f64 = 0.4e-6;
const EDGE_SHARE: f64 = 0.5;

/// Beyond this a cable needs a series resistor at the sender.
const SERIES_FROM_M: f64 = 0.3;
/// Beyond this it needs a buffer, or better a differential pair.
const BUFFER_FROM_M: f64 = 3.0;
/// Beyond this a buffer does no longer (typical: at 5 ns a metre what reflects comes back 150 ns later, more than a
/// third of the shortest pulse).
const PAIR_FROM_M: f64 = 15.0;

/// How long a shifter's output takes to rise, and in words why.
fn edge_of(shifter: &Shifter, lead_m: f64) -> Option<(f64, String, Origin)> {
    let stated = shifter.edge.as_ref().map(|e| (e.high.get(), "from its datasheet".to_owned(), e.origin.clone()));
    let pulled = shifter.pull.as_ref().map(|pull| {
        let farads = INPUT_F + LEAD_F_PER_M * lead_m;
        let why = format!("through {} into the cable of {}", pull.typical, Metres::new(lead_m));
        (RISE * pull.typical.get() * farads, why, pull.origin.clone())
    });
    stated.into_iter().chain(pulled).reduce(|a, b| if b.0 > a.0 { b } else { a })
}

pub(crate) fn slow_edge(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for strip in &plan.strips {
        let one_wire = strip.pixel.timing.as_ref().is_some_and(|t| !t.clocked);
        let Some(data) = strip.data.as_ref().filter(|_| one_wire) else { continue };
        for leg in legs(plan, strip, data) {
            if let Driver::Buffer(Some(shifter)) = leg.driver {
                judge_edge(sink, strip, data, &leg, &plan.shifters[shifter]);
            }
        }
        if let (Some(series), Some(leg)) = (&data.series, legs(plan, strip, data).last()) {
            judge_series(sink, strip, data, leg, series);
        }
    }
}

/// From 0 to VIH, 70 % of the supply, an RC takes ln(1/0.3) of its time constant.
const TO_VIH: f64 = 1.204;

/// The resistor in line against the cable and the input behind it: a short pulse that ends before it is high is none.
fn judge_series(sink: &mut Sink, strip: &Strip, data: &Data, leg: &Leg<'_>, series: &Figure<Ohms>) {
    let farads = INPUT_F + LEAD_F_PER_M * leg.length_m.unwrap_or(0.0);
    let rises = TO_VIH * series.low.get() * farads;
    if at_most(rises, SHORTEST_PULSE_S) {
        return;
    }
    sink.find(
        Draft::fault((&strip.name.text, data.span))
            .says(format!(
                "data to `{}` is high only {} after its driver, through {} into {} of cable; its shortest pulse \
                lasts {}",
                leg.to,
                Seconds::new(rises),
                series.low,
                Metres::new(leg.length_m.unwrap_or(0.0)),
                Seconds::new(SHORTEST_PULSE_S)
            ))
            .judged("switching_time", Seconds::new(rises))
            .at_most("allowed", Seconds::new(SHORTEST_PULSE_S), &Origin::Default("pulses of 800 kHz data (typical)")),
    );
}

fn judge_edge(sink: &mut Sink, strip: &Strip, data: &Data, leg: &Leg<'_>, shifter: &Shifter) {
    let name = &strip.name.text;
    let allowed = EDGE_SHARE * SHORTEST_PULSE_S;
    // A cable whose length is not given counts as none.
    let Some((edge, why, origin)) = edge_of(shifter, leg.length_m.unwrap_or(0.0)) else {
        sink.pass(name, || format!("`{}` drives both edges", leg.from));
        return;
    };
    if at_most(edge, allowed) {
        sink.pass(name, || format!("behind `{}` its edges rise within {}", leg.from, Seconds::new(edge)));
        return;
    }
    sink.find(
        Draft::fault((name, data.span))
            .says(format!(
                "data to `{}` rises in {} behind `{}`, {why}; at 800 kHz more than {} is too slow",
                leg.to,
                Seconds::new(edge),
                leg.from,
                Seconds::new(allowed)
            ))
            .judged_as_given("switching_time", Seconds::new(edge), &origin)
            .at_most("allowed", Seconds::new(allowed), &Origin::Computed),
    );
}

pub(crate) fn cable(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for strip in &plan.strips {
        let Some(data) = &strip.data else { continue };
        for leg in legs(plan, strip, data) {
            judge_lead(sink, strip, data, &leg);
        }
        for (name, stage) in &data.through {
            if let Stage::Pair(p) = stage {
                judge_pair(sink, strip, data, (&name.text, &plan.pairs[*p]));
            }
        }
    }
}

fn judge_lead(sink: &mut Sink, strip: &Strip, data: &Data, leg: &Leg<'_>) {
    let Some(length) = leg.length_m.filter(|l| *l > 0.0) else { return };
    let (from, to) = (&leg.from, &leg.to);
    let long = Metres::new(length);
    let beyond = |limit: f64| exceeds(length, limit);
    // From one strip to the next the chip in the last pixel drives: no resistor is usual there.
    let bare = leg.driver != Driver::Pixel && leg.series.is_none_or(|r| r.high.get() <= 0.0);
    let buffered = matches!(leg.driver, Driver::Buffer(_));
    let (limit, message) = if !buffered && beyond(BUFFER_FROM_M) {
        (BUFFER_FROM_M, format!("`{from}` alone drives {long} of data cable to `{to}`"))
    } else if buffered && beyond(PAIR_FROM_M) {
        (PAIR_FROM_M, format!("`{from}` drives {long} of data cable to `{to}`"))
    } else if bare && beyond(SERIES_FROM_M) {
        (SERIES_FROM_M, format!("the data cable to `{to}` ({long}) has no series resistor"))
    } else {
        sink.pass(&strip.name.text, || format!("{long} of data cable to `{to}`"));
        return;
    };
    let origin = Origin::Default("0.3 m without a series resistor, 3 m without a buffer, 15 m with one (typical)");
    let mut evidence = vec![Evidence::judged("length", long), Evidence::at_most("limit", Metres::new(limit), &origin)];
    evidence.extend(leg.series.map(|r| Evidence::context("series", Ohms::new(r.typical.get()), &r.origin)));
    sink.find(
        Draft::caution((&strip.name.text, data.span))
            .says(format!("{message}; above {}, reflections and slow edges corrupt the data", Metres::new(limit)))
            .facts(evidence),
    );
}

fn judge_pair(sink: &mut Sink, strip: &Strip, data: &Data, (name, pair): (&str, &DifferentialPair)) {
    let Some(length) = &pair.length else { return };
    let (long, reach) = (length.high, pair.reach.low);
    if at_most(long.get(), reach.get()) {
        sink.pass(&strip.name.text, || format!("`{name}` is {long} of {reach} long"));
        return;
    }
    sink.find(
        Draft::caution((&strip.name.text, data.span))
            .says(format!(
                "differential pair `{name}` to `{}` is {long} long; good for {reach} at 800 kHz",
                strip.name.text
            ))
            .judged_as_given("length", long, &length.origin)
            .at_most("limit", reach, &pair.reach.origin),
    );
}
