//! Reading pins: a list of names, or a table with what each is and can.

use crate::plan::pins::{Ability, Adc, AtBoot, Header, Level, Pin, PinGroup, PinKind, Pins};
use crate::plan::wiring::threshold::read_threshold;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Fraction, Ohms, Volts};
use crate::source::Span;
use crate::text::figures::figure_of_node;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use crate::text::{Named, nearest};

/// Of a board whose class does not say: the electrical reference's classes have 33 Ω .. 100 Ω.
const PIN_OHMS: f64 = 33.0;

pub(crate) fn read_pins(reader: &mut Reader<'_>) -> Pins {
    let headers = [("edges", Header::Edges), ("two-row", Header::TwoRow), ("row", Header::Row)];
    let header = reader.choice("header", &headers).unwrap_or(Header::Row);
    let usual = abilities(reader, "pin-functions");
    let groups = read_groups(reader);
    let list = read_list(reader, usual.as_deref(), &groups);
    let adc = reader.child("adc").map(|mut inner| {
        let all = matches!(inner.node("full-scale").map(|n| &n.value), Some(Value::Text(t, _)) if t.trim_end().ends_with('%'));
        if all {
            let _ = inner.figure::<Fraction>("full-scale", Need::Positive);
        }
        let full_scale = if all { None } else { inner.figure::<Volts>("full-scale", Need::NotNegative) };
        let steps = if inner.has("steps") { inner.whole("steps", 2..=1 << 24) } else { None }.unwrap_or(1024);
        inner.finish();
        Adc { full_scale, steps }
    });
    Pins {
        list,
        header,
        current: reader.figure::<Amps>("pin-current", Need::Positive),
        absolute: reader.figure::<Amps>("pin-absolute", Need::Positive),
        sink_absolute: reader.figure::<Amps>("sink-absolute", Need::Positive),
        total: reader.figure::<Amps>("pins-total", Need::Positive),
        ohms: reader.figure_or::<Ohms>(
            "pin-resistance",
            Need::NotNegative,
            Ohms::new(PIN_OHMS),
            "a pin has 33 Ω (typical)",
        ),
        volts: reader.figure::<Volts>("pin-voltage", Need::Positive),
        vih: read_threshold(reader, "vih"),
        vil: read_threshold(reader, "vil"),
        internal_pull: reader.figure::<Ohms>("internal-pull", Need::Positive).unwrap_or_else(|| Figure {
            low: Ohms::new(20e3),
            typical: Ohms::new(35e3),
            high: Ohms::new(50e3),
            origin: Origin::Default("an internal pull has 20 kΩ .. 50 kΩ (typical)"),
            bare: false,
        }),
        adc,
        source: reader.figure_or::<Ohms>(
            "adc-source",
            Need::Positive,
            Ohms::new(10e3),
            "an analogue input needs a source resistance of 10 kΩ or less (typical)",
        ),
        groups,
        radio: reader.flag("radio", false),
    }
}

/// `pin-groups = { left = "100 mA" }`.
fn read_groups(reader: &mut Reader<'_>) -> Vec<PinGroup> {
    let Some(mut inner) = reader.child("pin-groups") else { return Vec::new() };
    let mut groups = Vec::new();
    for (name, _) in inner.keys() {
        let Some((node, _)) = inner.any(&name) else { continue };
        if let Some(total) = figure_of_node::<Amps>(&inner, node, &name, Need::Positive) {
            groups.push(PinGroup { name, total });
        }
    }
    groups
}

fn abilities(reader: &mut Reader<'_>, key: &'static str) -> Option<Vec<Ability>> {
    if !reader.has(key) {
        return None;
    }
    let words = reader.texts(key);
    Some(words.iter().filter_map(|w| ability(reader, w)).collect())
}

/// The ability of a word; notes one that is none.
pub(crate) fn ability(reader: &Reader<'_>, word: &Named) -> Option<Ability> {
    let known = Ability::of_word(&word.text);
    if known.is_none() {
        let all = Ability::ALL.map(|(w, _)| w);
        let help = match nearest(&word.text, all) {
            Some(near) => format!("did you mean `{near}`?"),
            None => format!("functions: {}", all.join(", ")),
        };
        let message = format!("{} has unknown function `{}`", reader.what(), word.text);
        reader.problem(Problem::new(word.span, message, help));
    }
    known
}

/// `pins = ["io0", "io1"]`, of which nothing else is known; or `pins = { io27 = { position = "p11", extra-functions =
/// ["analogue"] } }`.
fn read_list(reader: &mut Reader<'_>, usual: Option<&[Ability]>, groups: &[PinGroup]) -> Vec<Pin> {
    if !matches!(reader.node("pins").map(|n| &n.value), Some(Value::Table(_))) {
        return reader.texts("pins").into_iter().map(|n| Pin::new(&n.text)).collect();
    }
    let Some(mut table) = reader.child("pins") else { return Vec::new() };
    let mut list: Vec<(Pin, Span)> = Vec::new();
    for (name, span) in table.keys() {
        if !table.any(&name).is_some_and(|(node, _)| matches!(node.value, Value::Table(_))) {
            table.problem(Problem::new(
                span,
                format!("pin `{name}` of {} is not a table", reader.what()),
                format!("write `{name} = {{ position = \"p1\" }}`, or `{name} = {{}}`"),
            ));
            continue;
        }
        let Some(mut inner) = table.child_named(&name) else { continue };
        let pin = read_pin(&mut inner, &name, usual, groups);
        inner.finish();
        let taken = |p: &&(Pin, Span)| pin.position.is_some() && p.0.position == pin.position;
        if let Some((other, at)) = list.iter().find(taken) {
            let place = pin.position.as_deref().unwrap_or_default();
            let message = format!("{} has both `{}` and `{name}` at `{place}`", reader.what(), other.name);
            let help = "one pin per position";
            table.problem(Problem::new(span, message, help).with_related(Some(*at), "the other"));
        }
        list.push((pin, span));
    }
    let place = |p: &Pin| {
        p.position.as_deref().and_then(|at| at.trim_start_matches(|c: char| !c.is_ascii_digit()).parse().ok())
    };
    list.sort_by_key(|(p, _)| place(p).unwrap_or(usize::MAX));
    list.into_iter().map(|(p, _)| p).collect()
}

fn read_pin(inner: &mut Reader<'_>, name: &str, usual: Option<&[Ability]>, groups: &[PinGroup]) -> Pin {
    const LEVELS: [(&str, Level); 2] = [("low", Level::Low), ("high", Level::High)];
    const BOOTS: [(&str, AtBoot); 4] = [
        ("low", AtBoot::At(Level::Low)),
        ("high", AtBoot::At(Level::High)),
        ("floats", AtBoot::Floats),
        ("pulses", AtBoot::Pulses),
    ];
    let kinds = [
        ("io", PinKind::Io),
        ("input", PinKind::Input),
        ("supply", PinKind::Supply(None)),
        ("ground", PinKind::Ground),
    ];
    let words = kinds.iter().map(|(w, _)| *w).chain(["reset", "open"]).collect::<Vec<_>>();
    let is = inner.choice("kind", &words.iter().enumerate().map(|(i, w)| (*w, i)).collect::<Vec<_>>());
    let of = inner.text("rail").map(|n| n.text);
    let kind = match is.and_then(|i| words.get(i)).copied() {
        Some("input") => PinKind::Input,
        Some("supply") => PinKind::Supply(of),
        Some("ground") => PinKind::Ground,
        Some("reset") => PinKind::Reset,
        Some("open") => PinKind::Open,
        _ => PinKind::Io,
    };
    let own = abilities(inner, "functions");
    let also = abilities(inner, "extra-functions");
    let can = match (own.or_else(|| usual.map(<[Ability]>::to_vec)), also) {
        (Some(mut can), also) => {
            can.extend(also.into_iter().flatten());
            Some(can)
        }
        (None, also) => also,
    };
    let group = inner.text("group");
    if let Some(group) = group.as_ref().filter(|g| !groups.iter().any(|known| known.name == g.text)) {
        inner.problem(Problem::new(
            group.span,
            format!("{} names no group `{}`", inner.what(), group.text),
            format!("give its total: `pin-groups = {{ {} = \"100 mA\" }}`", group.text),
        ));
    }
    Pin {
        name: name.to_owned(),
        // A pin that is named by its position stands there.
        position: inner.text("position").map(|n| n.text).or_else(|| is_position(name).then(|| name.to_owned())),
        kind,
        can,
        radio: abilities(inner, "radio").unwrap_or_default(),
        samples: inner.choice("boot-level", &LEVELS),
        boot: inner.choice("at-reset", &BOOTS).unwrap_or(AtBoot::Floats),
        reserved: inner.text("reserved").map(|n| n.text),
        current: inner.figure::<Amps>("current", Need::Positive),
        absolute: inner.figure::<Amps>("absolute", Need::Positive),
        volts: inner.figure::<Volts>("voltage", Need::Positive),
        pull_up: inner.figure::<Ohms>("pull-up", Need::Positive),
        pull_down: inner.figure::<Ohms>("pull-down", Need::Positive),
        series: inner.figure::<Ohms>("series", Need::Positive),
        group: group.map(|g| g.text),
    }
}

/// `p14`.
fn is_position(name: &str) -> bool {
    name.strip_prefix('p').is_some_and(|n| !n.is_empty() && n.bytes().all(|b| b.is_ascii_digit()))
}
