//! Traces of numbers: what they come from, as an indented text and as JSON.

use std::fmt::Write as _;

use modest_ohm::views::Trace;
use serde::Serialize;

use crate::document::style::{QUIET, STRONG, paint};
use crate::document::wrap::wrap;
use crate::json::{FORMAT, pretty};
use crate::{Input, Layout};

/// The traces of a name as text.
#[must_use]
pub fn why_text(input: &Input<'_>, traces: &[Trace], layout: Layout) -> String {
    let mut out = String::new();
    for trace in traces {
        write_trace(&mut out, input, trace, 0, layout.width);
    }
    out
}

fn write_trace(out: &mut String, input: &Input<'_>, trace: &Trace, depth: usize, width: usize) {
    let indent = "  ".repeat(depth);
    let what = if depth == 0 { paint(STRONG, &trace.what) } else { trace.what.clone() };
    let value = if trace.value.is_empty() { String::new() } else { format!("  {}", trace.value) };
    let place = trace.line.map_or_else(String::new, |line| format!(" · {}:{line}", input.path));
    let plain = format!("{}{value}", trace.what);
    let because = format!("{}{place}", trace.because);
    let one_line = indent.len() + plain.chars().count() + 3 + because.chars().count() <= width;
    if one_line {
        let _ = writeln!(out, "{indent}{what}{value}   {}", paint(QUIET, &because));
    } else {
        let _ = writeln!(out, "{indent}{what}{value}");
        let room = width.saturating_sub(indent.len() + 4);
        for line in wrap(&because, room, 0).lines() {
            let _ = writeln!(out, "{indent}    {}", paint(QUIET, line));
        }
    }
    for from in &trace.from {
        write_trace(out, input, from, depth + 1, width);
    }
}

#[derive(Serialize)]
struct WhyShape<'a> {
    format: u32,
    plan: &'a str,
    name: &'a str,
    traces: Vec<TraceShape<'a>>,
}

#[derive(Serialize)]
struct TraceShape<'a> {
    what: &'a str,
    text: &'a str,
    because: &'a str,
    line: Option<usize>,
    from: Vec<TraceShape<'a>>,
}

impl<'a> TraceShape<'a> {
    fn of(trace: &'a Trace) -> Self {
        Self {
            what: &trace.what,
            text: &trace.value,
            because: &trace.because,
            line: trace.line,
            from: trace.from.iter().map(Self::of).collect(),
        }
    }
}

/// The traces of a name as JSON.
#[must_use]
pub fn why_json(input: &Input<'_>, name: &str, traces: &[Trace]) -> String {
    let traces = traces.iter().map(TraceShape::of).collect();
    pretty(&WhyShape { format: FORMAT, plan: input.path, name, traces })
}
