//! data-slow-edge and data-cable: what rounds the edges of a data line, and how long it is.

use crate::checks::context::Context;
use crate::checks::sink::{Draft, Sink};
use crate::finding::{Evidence, Severity};
use crate::plan::{Cable, Shifter, Strip};
use crate::quantity::{Metres, Ohms, Origin, Seconds};

/// The shortest high pulse of one-wire data at 800 kHz, 0.4 µs (typical; 0.25 to 0.4 µs): an edge that takes half of it
/// leaves too little.
const SHORTEST_PULSE_S: f64 = 0.4e-6;
const EDGE_SHARE: f64 = 0.5;
/// Capacitance of a pixel's input and of a lead, F and F/m (typical, as on a two-wire bus).
const INPUT_F: f64 = 10e-12;
const LEAD_F_PER_M: f64 = 75e-12;
/// From 10 % to 90 % through a resistor: 2.2 · R · C.
const RISE: f64 = 2.2;

/// Beyond this a lead wants a series resistor at the sender.
const SERIES_FROM_M: f64 = 0.3;
/// Beyond this it wants a buffer, or better a balanced pair.
const BUFFER_FROM_M: f64 = 3.0;

/// A lead whose length is not given counts as none.
fn length_m(strip: &Strip) -> f64 {
    strip.data.as_ref().and_then(|d| d.cable.as_ref()).and_then(Cable::length_m).unwrap_or(0.0)
}

/// How long a shifter's output takes to rise, and in words why.
fn edge_of(shifter: &Shifter, lead_m: f64) -> Option<(f64, String, Origin)> {
    let stated = shifter.edge.as_ref().map(|e| (e.high.get(), "by its sheet".to_owned(), e.origin.clone()));
    let pulled = shifter.pull.as_ref().map(|pull| {
        let farads = INPUT_F + LEAD_F_PER_M * lead_m;
        let why = format!("through {} into the lead of {}", pull.typical, Metres::new(lead_m));
        (RISE * pull.typical.get() * farads, why, pull.origin.clone())
    });
    stated.into_iter().chain(pulled).reduce(|a, b| if b.0 > a.0 { b } else { a })
}

pub(super) fn slow_edge(context: &Context<'_>, sink: &mut Sink) {
    let plan = context.plan;
    for strip in &plan.strips {
        let one_wire = strip.pixel.timing.as_ref().is_some_and(|t| !t.clocked);
        let Some(data) = strip.data.as_ref().filter(|_| one_wire) else { continue };
        let Some((by, shifter)) = &data.through else { continue };
        let name = &strip.name.text;
        let allowed = EDGE_SHARE * SHORTEST_PULSE_S;
        let Some((edge, why, origin)) = edge_of(&plan.shifters[*shifter], length_m(strip)) else {
            sink.pass(name, format!("`{}` drives both edges", by.text));
            continue;
        };
        if edge <= allowed * (1.0 + 1e-9) {
            sink.pass(name, format!("its edges rise within {}", Seconds::new(edge)));
            continue;
        }
        sink.find(Draft {
            severity: Severity::Fault,
            subject: name,
            span: data.span,
            at: None,
            message: format!(
                "data to `{name}` rises in {} behind `{}`, {why}; at 800 kHz more than {} is too slow",
                Seconds::new(edge),
                by.text,
                Seconds::new(allowed)
            ),
            cures: vec!["take a buffer of the HCT kind, which drives both edges: `part = \"hct-buffer\"`".into()],
            evidence: vec![
                Evidence::new("edge", Seconds::new(edge), &origin),
                Evidence::computed("allowed", Seconds::new(allowed)),
            ],
        });
    }
}

pub(super) fn cable(context: &Context<'_>, sink: &mut Sink) {
    for strip in &context.plan.strips {
        let Some(data) = &strip.data else { continue };
        let length = length_m(strip);
        if length <= 0.0 {
            continue;
        }
        let name = &strip.name.text;
        let long = Metres::new(length);
        let sender = match (&data.pin, &data.after) {
            (Some(pin), _) => pin.name.text.clone(),
            (None, Some((before, _))) => format!("{}.end", before.text),
            (None, None) => continue,
        };
        let buffered = data.through.is_some();
        // From one strip to the next the chip in the last pixel drives: no resistor is usual there.
        let bare = data.pin.is_some() && data.series.as_ref().is_none_or(|r| r.high.get() <= 0.0);
        let (limit, message, cure) = if !buffered && length > BUFFER_FROM_M * (1.0 + 1e-9) {
            let cure = "put a buffer of the HCT kind at the sender, or the controller nearer; beyond some metres take a balanced \
                        pair";
            (BUFFER_FROM_M, format!("`{sender}` alone drives {long} of data lead to `{name}`"), cure)
        } else if bare && length > SERIES_FROM_M * (1.0 + 1e-9) {
            let cure = "put 220 Ω to 470 Ω in line at the sender: `series = \"330 Ω\"`";
            (SERIES_FROM_M, format!("the data lead to `{name}` is {long} long and has no series resistor"), cure)
        } else {
            sink.pass(name, format!("{long} of data lead"));
            continue;
        };
        let origin = Origin::Default("0.3 m without a series resistor, 3 m without a buffer (typical)");
        let mut evidence =
            vec![Evidence::computed("length", long), Evidence::new("limit", Metres::new(limit), &origin)];
        evidence.extend(data.series.as_ref().map(|r| Evidence::new("series", Ohms::new(r.typical.get()), &r.origin)));
        sink.find(Draft {
            severity: Severity::Caution,
            subject: name,
            span: data.span,
            at: None,
            message: format!("{message}; beyond {} its edges ring or round off", Metres::new(limit)),
            cures: vec![cure.into()],
            evidence,
        });
    }
}
