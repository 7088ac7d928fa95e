//! `size injection`, `size firmware-limit`, `size frames`: what strips ask.

use modest_ohm::Plan;
use modest_ohm::advise::FeedRequest;
use modest_ohm::size::{self, PathLimit, PixelTiming};
use modest_ohm::tables::WireSize;
use modest_ohm::units::{Amps, Fraction, Seconds, parse_figure, parse_quantity};
use modest_ohm_report::{SizeAnswer, size_firmware_limit, size_frames, size_injection};

use crate::args::{SizeFirmwareLimit, SizeFrames, SizeInjection};
use crate::commands::problems::Problems;
use crate::plans;

/// What went wrong: a message to show, or an exit code when it has been shown.
pub enum Failed {
    Message(String),
    Shown(u8),
}

/// The strip that a question without a plan speaks of.
const ASKED: &str = "asked";

pub fn injection(args: &SizeInjection) -> Result<SizeAnswer, Failed> {
    let size = match args.wire.as_deref().map(str::parse::<WireSize>).transpose() {
        Ok(size) => size,
        Err(e) => return Err(Failed::Message(format!("the wire: {e}; write `18 AWG` or `0.75 mm²`"))),
    };
    let plan = match &args.plan {
        Some(path) => plans::read(path, args.format).map_err(Failed::Shown)?,
        None => {
            let text = asked(args).map_err(Failed::Message)?;
            Plan::from_toml(&text).map_err(|errors| {
                let all: Vec<String> = errors.problems.iter().map(|p| format!("{} ({})", p.message, p.help)).collect();
                Failed::Message(all.join("\n"))
            })?
        }
    };
    let strip = args.strip.as_deref().unwrap_or(ASKED);
    let wish = FeedRequest { limit: args.min_voltage, size, most: Some(usize::from(args.max_feeds)) };
    plan.feed_plan(strip, &wish).map(|feeds| size_injection(&feeds)).map_err(|e| Failed::Message(e.to_string()))
}

/// A plan of one strip on an adapter that gives whatever is asked; its voltage has the tolerance that it has in a plan.
fn asked(args: &SizeInjection) -> Result<String, String> {
    let mut problems = Problems::default();
    problems.unless(args.pixels.is_some() != args.leds.is_some(), || {
        "give what its label counts, `--pixels` or `--leds`, one of them".into()
    });
    let quoted = |text: &Option<String>, what: &str, problems: &mut Problems| {
        let text = text.clone().unwrap_or_default();
        problems.unless(!text.contains(['"', '\\', '\n']), || format!("{what}: `{text}` cannot be read"));
        text
    };
    let part = quoted(&args.part, "the part", &mut problems);
    let volts = quoted(&args.voltage, "the voltage", &mut problems);
    let copper = args.copper.as_ref().map(|_| quoted(&args.copper, "the copper", &mut problems));
    let lead = args.cable_length.map_or(0.5, |l| l.get());
    problems.or(|| {
        let mut text = format!(
            "format = 1\n[supply.source]\nkind = \"adapter\"\nvoltage = \"{volts}\"\n\
             [strip.{ASKED}]\npart = \"{part}\"\nfrom = \"source\"\ncable = \"{lead} m {}\"\n",
            args.wire.as_deref().unwrap_or("18 AWG")
        );
        let mut key = |key: &str, value: Option<String>| {
            if let Some(value) = value {
                text += &format!("{key} = \"{value}\"\n");
            }
        };
        key("length", args.length.map(|l| format!("{} m", l.get())));
        key("pixels", args.pixels.map(|d| format!("{} /m", d.get())));
        key("leds", args.leds.map(|d| format!("{} /m", d.get())));
        key("power", args.power.map(|p| format!("{} W/m", p.get())));
        key("copper", copper);
        text
    })
}

pub fn firmware_limit(args: &SizeFirmwareLimit) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let dark = args.quiescent.unwrap_or(Amps::new(0.001));
    problems.unless(dark.get() >= 0.0 && args.full_white > dark, || {
        format!("a pixel draws {} at full white and {dark} when dark", args.full_white)
    });
    let limits: Vec<PathLimit> = args
        .path_limit
        .iter()
        .filter_map(|text| match limit(text) {
            Ok(limit) => Some(limit),
            Err(message) => {
                problems.unless(false, || message);
                None
            }
        })
        .collect();
    problems.or(|| {
        let firmware_limit = size::firmware_limit(&limits, args.pixels as usize, dark, args.full_white);
        size_firmware_limit(&limits, args.pixels as usize, dark, args.full_white, firmware_limit.as_ref())
    })
}

/// `converter 5 A 80 % 0.35 A 100 %`.
fn limit(text: &str) -> Result<PathLimit, String> {
    let whole = || {
        format!(
            "`{text}`: write name, rating, and then the usable share, the current of other loads, and the share of \
            the strip's current: `converter 5 A 80 % 0.35 A`"
        )
    };
    let (name, rest) = text.trim().split_once(' ').ok_or_else(whole)?;
    // A number and its unit may stand apart or together.
    let mut figures: Vec<String> = Vec::new();
    for word in rest.split_whitespace() {
        match figures.last_mut() {
            Some(last) if last.ends_with(|c: char| c.is_ascii_digit()) => {
                last.push(' ');
                last.push_str(word);
            }
            _ => figures.push(word.to_owned()),
        }
    }
    let mut figures = figures.into_iter();
    let amps = |text: Option<String>| text.map(|t| parse_figure::<Amps>(&t).map(|f| f.typical)).transpose();
    let share = |text: Option<String>| text.map(|t| parse_quantity::<Fraction>(&t)).transpose();
    let limit = amps(figures.next()).ok().flatten().ok_or_else(whole)?;
    let usable = share(figures.next()).map_err(|_| whole())?.unwrap_or(Fraction::new(0.8));
    let other = amps(figures.next()).map_err(|_| whole())?.unwrap_or(Amps::new(0.0));
    let part = share(figures.next()).map_err(|_| whole())?.unwrap_or(Fraction::new(1.0));
    if figures.next().is_some() || limit.get() <= 0.0 || other.get() < 0.0 || part.get() <= 0.0 {
        return Err(whole());
    }
    Ok(PathLimit { name: name.to_owned(), limit, usable, other, share: part.get() })
}

pub fn frames(args: &SizeFrames) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    problems.unless(args.clocked.is_none_or(|c| c.get() > 0.0), || "the clock's period is not above zero".into());
    problems.or(|| {
        let one_wire = || PixelTiming::one_wire(usize::from(args.colours));
        let timing = args.clocked.map_or_else(one_wire, |bit: Seconds| PixelTiming::clocked(bit));
        size_frames(timing, args.pixels as usize, args.fps.map(f64::from))
    })
}
