//! Answers about strips: where to feed them, the firmware limit, frames per second.

use modest_ohm::advise::{FeedLimit, FeedOption, FeedPlan};
use modest_ohm::size::{FirmwareLimit, PathLimit, PixelTiming, frame, pixels_at};
use modest_ohm::units::{Amps, Fraction, Seconds};
use serde_json::{Value, json};

use crate::document::{Block, Table, named, values, words};
use crate::json::number;
use crate::size::SizeAnswer;

/// `size injection`.
#[must_use]
pub fn size_injection(feeds: &FeedPlan) -> SizeAnswer {
    let last = feeds.options.last();
    let best = feeds.fewest.and_then(|n| feeds.options.iter().find(|o| o.cables.len() == n));
    let head = match (best, last) {
        (Some(best), _) => {
            format!("feed `{}` at {}: lowest {} then {}", feeds.strip, places(best), feeds.unit, best.lowest)
        }
        (None, Some(last)) => format!(
            "{} are not enough for `{}`: lowest {} {} of {} ({})",
            points(last.cables.len()),
            feeds.strip,
            feeds.unit,
            last.lowest,
            feeds.limit,
            last.verdict.words()
        ),
        (None, None) => format!("nothing keeps `{}` at {}", feeds.strip, feeds.limit),
    };
    let whose = match feeds.limit_of {
        FeedLimit::Recommended => "the lower recommended voltage",
        FeedLimit::Minimum => "its minimum",
        _ => "as requested",
    };
    let must =
        format!("every {} must have {}, {whose}, in every continuous scenario and corner", feeds.unit, feeds.limit);
    let mut lines = vec![head, must];
    if let Some(firmware_limit) = feeds.with_limit {
        lines.push(format!(
            "full white exceeds its supply: calculated with a firmware limit of {firmware_limit}, which it needs however it is \
            fed"
        ));
    }
    if feeds.options.iter().any(|o| !o.tried_all) {
        lines.push(format!(
            "{} places are too many to try every set: the best was found by moving feed points until no move helps",
            feeds.places
        ));
    }
    let mut answer = SizeAnswer::new(lines, shape(feeds), feeds.fewest.is_some())
        .with(Block::Caption("The best places for each number of feed points".into()))
        .with(Block::Captioned(option_table(&feeds.options)));
    if let Some(best) = best.or(last) {
        let lead = |l: &modest_ohm::advise::FeedCable| {
            let fuse = l.fuse.map_or_else(|| "none fits".into(), |f| f.to_string());
            vec![l.place.clone(), l.length.to_string(), l.size.to_string(), l.current.to_string(), fuse]
        };
        answer =
            answer.with(Block::Caption("The cables of these feed points".into())).with(Block::Captioned(Table::new(
                [named("feed at"), values("length"), words("size"), values("current"), values("blade fuse")],
                best.cables.iter().map(lead),
            )));
    }
    let other = |a: &modest_ohm::advise::FeedAlternative| {
        let verdict = a.verdict.words().into();
        vec![a.what.clone(), a.lowest.to_string(), falls(a.shift_nominal, a.shift), a.current.to_string(), verdict]
    };
    answer.with(Block::Caption("Other options, side by side".into())).with(Block::Captioned(Table::new(
        [named("option"), values("lowest"), values("dimmer by"), values("current"), words("verdict")],
        feeds.alternatives.iter().map(other),
    )))
}

/// How much the light falls, at nominal figures and at the worst: `21 .. 30 %`.
fn falls(nominal: Fraction, worst: Fraction) -> String {
    let percent = |f: Fraction| format!("{:.0}", 100.0 * f.get());
    let (nominal, worst) = (percent(nominal), percent(worst));
    if nominal == worst { format!("{worst} %") } else { format!("{nominal} .. {worst} %") }
}

fn option_table(options: &[FeedOption]) -> Table {
    let row = |o: &FeedOption| {
        vec![
            o.cables.len().to_string(),
            places_in_short(o),
            o.lowest.to_string(),
            falls(o.shift_nominal, o.shift),
            o.copper.to_string(),
            o.verdict.words().into(),
        ]
    };
    let heading =
        [named("feeds"), values("fed at"), values("lowest"), values("dimmer by"), values("copper"), words("verdict")];
    Table::new(heading, options.iter().map(row))
}

fn points(n: usize) -> String {
    if n == 1 { "one feed point".into() } else { format!("{n} feed points") }
}

fn places(option: &FeedOption) -> String {
    let at: Vec<String> = option.cables.iter().map(|l| l.place.clone()).collect();
    match at.split_last() {
        Some((last, [])) => last.clone(),
        Some((last, rest)) => format!("{} and {last}", rest.join(", ")),
        None => String::new(),
    }
}

/// As [`places`], of many the first two and the last: the cables are listed below.
fn places_in_short(option: &FeedOption) -> String {
    match option.cables.as_slice() {
        [first, second, .., last] if option.cables.len() > 5 => {
            format!("{}, {} … {}", first.place, second.place, last.place)
        }
        _ => places(option),
    }
}

fn shape(feeds: &FeedPlan) -> Value {
    let lead = |l: &modest_ohm::advise::FeedCable| {
        json!({
            "at_m": number(l.at),
            "place": l.place,
            "length_m": number(l.length),
            "size": l.size.to_string(),
            "current_a": number(l.current),
            "fuse_a": l.fuse.map(number),
        })
    };
    let option = |o: &FeedOption| {
        json!({
            "feeds": o.cables.iter().map(lead).collect::<Vec<_>>(),
            "lowest_v": number(o.lowest),
            "scenario": o.scenario.name(),
            "corner": o.corner.name(),
            "colour_falls": number(o.shift),
            "colour_falls_nominal": number(o.shift_nominal),
            "copper_w_per_m": number(o.copper),
            "verdict": o.verdict.words(),
            "suitable": o.verdict.does(),
            "exhaustive": o.tried_all,
        })
    };
    let other = |a: &modest_ohm::advise::FeedAlternative| {
        json!({
            "option": a.what,
            "lowest_v": number(a.lowest),
            "colour_falls": number(a.shift),
            "colour_falls_nominal": number(a.shift_nominal),
            "current_a": number(a.current),
            "verdict": a.verdict.words(),
            "suitable": a.verdict.does(),
        })
    };
    json!({
        "strip": feeds.strip,
        "limit_v": number(feeds.limit),
        "limit_of": feeds.limit_of.word(),
        "with_limit_a": feeds.with_limit.map(number),
        "places": feeds.places,
        "fewest": feeds.fewest,
        "options": feeds.options.iter().map(option).collect::<Vec<_>>(),
        "alternatives": feeds.alternatives.iter().map(other).collect::<Vec<_>>(),
    })
}

/// `size firmware-limit`.
#[must_use]
pub fn size_firmware_limit(
    limits: &[PathLimit],
    pixels: usize,
    quiescent: Amps,
    full: Amps,
    firmware_limit: Option<&FirmwareLimit>,
) -> SizeAnswer {
    let bright = full * pixels as f64;
    let Some(firmware_limit) = firmware_limit else {
        let lines = vec![
            format!("no firmware limit is small enough: the pixels draw {} when dark", quiescent * pixels as f64),
            "give the strip its own supply path, or fewer pixels".into(),
        ];
        return SizeAnswer::new(lines, json!({ "limit_a": null, "full_a": number(bright) }), false);
    };
    let mut lines = vec![match &firmware_limit.binding {
        Some(name) => format!("set the firmware to {}: limited by {name}", firmware_limit.limit),
        None => format!(
            "no firmware limit is needed: full white draws {}, and the path is rated for it",
            firmware_limit.limit
        ),
    }];
    lines.push(format!(
        "that is {} of full white, {} per pixel, of {full} at full white",
        firmware_limit.brightness, firmware_limit.per_pixel
    ));
    for l in limits {
        let of = Amps::new((l.limit.get() * l.usable.get() - l.other.get()) / l.share.max(1e-12));
        lines.push(format!(
            "{}: {} × {} less {} for others leaves {of} for the strip",
            l.name, l.limit, l.usable, l.other
        ));
    }
    let value = json!({
        "limit_a": number(firmware_limit.limit),
        "binding": firmware_limit.binding,
        "brightness": number(firmware_limit.brightness),
        "per_pixel_a": number(firmware_limit.per_pixel),
        "full_a": number(bright),
    });
    SizeAnswer::new(lines, value, true)
}

/// `size frames`.
#[must_use]
pub fn size_frames(timing: PixelTiming, pixels: usize, wished: Option<f64>) -> SizeAnswer {
    let time: Seconds = frame(timing, pixels);
    let rate = 1.0 / time.get();
    let mut lines = vec![format!("{pixels} pixels on one line: {time} per frame, at most {rate:.1} fps")];
    let most = wished.map(|fps| pixels_at(timing, fps));
    let lines_wanted = most.filter(|m| *m > 0).map(|m| pixels.div_ceil(m));
    let does = wished.is_none_or(|fps| rate >= fps * (1.0 - 1e-9));
    if let (Some(fps), Some(most)) = (wished, most) {
        lines.push(match lines_wanted {
            _ if does => format!("{fps} fps is reached; up to {most} pixels on a line would reach it"),
            Some(n) => format!(
                "for {fps} fps a line may have {most} pixels: split them over {n} lines of {} or fewer",
                pixels.div_ceil(n)
            ),
            None => format!("no line of pixels reaches {fps} fps"),
        });
    }
    let bytes = pixels * timing.bits / 8;
    lines.push(format!("a frame needs {bytes} bytes of the board's memory"));
    let value = json!({
        "frame_s": number(time),
        "frames_per_second": rate,
        "max_pixels": most,
        "lines": lines_wanted,
        "bytes": bytes,
    });
    SizeAnswer::new(lines, value, does)
}
