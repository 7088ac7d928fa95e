//! Answers about LEDs, dividers, pulls and levels.

use modest_ohm::size::{
    BusPull, BusPullRange, DividerLimits, DividerNeed, DividerSize, LED_AT_WORST, LedNeed, LedResistor, LedSize,
    LevelNeed, LevelOption, PullNeed, PullSize,
};
use modest_ohm::units::{Amps, Fraction, Ohms, Volts};
use serde_json::{Value, json};

use crate::document::{Block, Table, named, values, words};
use crate::json::number;
use crate::size::SizeAnswer;

/// Limits that the worst current of an LED is compared with.
#[derive(Clone, Copy, Debug)]
pub struct LedLimits {
    /// The least that is required.
    pub wanted: Option<Amps>,
    /// For long.
    pub recommended: Option<Amps>,
    /// Never more.
    pub absolute: Option<Amps>,
}

impl LedLimits {
    /// What may flow with every tolerance at its bad end: a quarter more than is recommended, never more than the
    /// absolute maximum, as `check` has it.
    #[must_use]
    pub fn at_worst(&self) -> Option<Amps> {
        let recommended = self.recommended.map(|amps| amps * LED_AT_WORST);
        match (recommended, self.absolute) {
            (Some(a), Some(b)) => Some(if a < b { a } else { b }),
            (a, b) => a.or(b),
        }
    }
}

fn led_row(r: &LedResistor, mark: &str) -> Vec<String> {
    vec![
        format!("{}{mark}", r.ohms),
        r.nominal.to_string(),
        r.worst.to_string(),
        r.worst_heat.to_string(),
        r.heat.word().to_owned(),
    ]
}

fn led_json(r: &LedResistor) -> Value {
    json!({
        "ohm": number(r.ohms), "nominal_a": number(r.nominal), "worst_a": number(r.worst),
        "nominal_w": number(r.nominal_heat), "worst_w": number(r.worst_heat), "heat": r.heat.word(),
    })
}

/// `size led`: the resistor, its neighbours, and what a plain sum leaves out.
#[must_use]
pub fn size_led(need: &LedNeed, size: &LedSize, limits: &LedLimits) -> SizeAnswer {
    let mut lines = Vec::new();
    let Some(chosen) = &size.chosen else {
        return no_led_resistor(need, size);
    };
    lines.push(format!(
        "use {}: {} nominal, {} at worst; dissipates at worst {} of {}",
        chosen.ohms, chosen.nominal, chosen.worst, chosen.worst_heat, need.rated
    ));
    lines.push(match (&size.passed_over, need.most) {
        (Some(next), Some(most)) => format!(
            "the exact value {} gives {}, but {} passes {} at worst, more than the {most} that it is rated for then; \
            that needs {}",
            size.exact, need.current, next.ohms, next.worst, size.least
        ),
        _ if (size.exact.get() / chosen.ohms.get() - 1.0).abs() < 1e-3 => {
            format!("that is the exact value for {}", need.current)
        }
        _ => {
            format!("the exact value {} gives {}; the next larger available value is chosen", size.exact, need.current)
        }
    });
    lines.extend(led_notes(need, size, chosen, limits));
    if need.supply.nominal == need.supply.worst {
        // In a plan an adapter without a tolerance has 5 %; here a plain number is what it says.
        let supply = need.supply.nominal;
        lines.push(format!("the supply counts as exactly {supply}; an adapter is \"{supply} ± 5 %\""));
    }
    let mut rows: Vec<(Ohms, Vec<String>)> = size.others.iter().map(|r| (r.ohms, led_row(r, ""))).collect();
    rows.push((chosen.ohms, led_row(chosen, " *")));
    rows.sort_by(|a, b| a.0.get().total_cmp(&b.0.get()));
    let table = Table::new(
        [named("resistor"), values("nominal"), values("worst"), values("dissipates"), words("heat")],
        rows.into_iter().map(|(_, r)| r),
    );
    let over = limits.absolute.is_some_and(|l| chosen.worst > l) || chosen.heat.word() == "danger";
    let figures = json!({
        "exact_ohm": number(size.exact), "min_ohm": number(size.least), "simple_ohm": number(size.naive), "undefined_current": size.undefined,
        "chosen": led_json(chosen), "others": size.others.iter().map(led_json).collect::<Vec<_>>(),
        "demand_a": limits.wanted.and_then(number), "recommended_a": limits.recommended.and_then(number),
        "absolute_a": limits.absolute.and_then(number),
    });
    SizeAnswer::new(lines, figures, !over).with(Block::Table(table))
}

fn no_led_resistor(need: &LedNeed, size: &LedSize) -> SizeAnswer {
    let drop = need.vf.nominal + need.diode.nominal;
    let why = if size.exact.get() <= 0.0 {
        format!("no resistor: the LEDs and what is in series need {drop}; the supply has {}", need.supply.nominal)
    } else {
        format!("no resistor: {} or more needed; none of these values is that large", size.least)
    };
    let figures = json!({ "exact_ohm": number(size.exact), "min_ohm": number(size.least), "chosen": null });
    SizeAnswer::new(vec![why], figures, false)
}

/// What a plain sum leaves out, and what is not as required.
fn led_notes(need: &LedNeed, size: &LedSize, chosen: &LedResistor, limits: &LedLimits) -> Vec<String> {
    let mut lines = Vec::new();
    let left_out: Vec<String> = [
        (need.diode.nominal.get() > 0.0).then(|| format!("the diode's {}", need.diode.nominal)),
        (need.pin.nominal.get() > 0.0).then(|| format!("the pin's {}", need.pin.nominal)),
    ]
    .into_iter()
    .flatten()
    .collect();
    if !left_out.is_empty() {
        lines.push(format!("without {} it would be {}", left_out.join(" and "), size.naive));
    }
    let spread = chosen.worst / Amps::new(chosen.nominal.get().max(1e-12));
    lines.push(format!(
        "nominal: {}. With the supply at {}, forward voltage at {} and the resistor {} low it is {:.0} % more",
        chosen.nominal,
        need.supply.worst,
        need.vf.worst,
        need.tolerance,
        (spread - 1.0) * 100.0
    ));
    if size.undefined {
        let left = Fraction::new(
            ((need.supply.nominal - need.diode.nominal - need.vf.nominal) / need.supply.nominal).max(0.0),
        );
        lines.push(format!(
            "only {left} of the supply is across the resistor: the LED's own spread decides its current"
        ));
    }
    if let Some(limit) = limits.at_worst().filter(|l| chosen.worst > *l) {
        lines.push(format!("at worst above {limit}"));
    } else if let Some(limit) = limits.recommended.filter(|l| chosen.nominal > *l) {
        lines.push(format!("nominal above the recommended {limit}"));
    }
    if let Some(wanted) = limits.wanted.filter(|w| chosen.nominal < *w) {
        lines.push(format!("nominal below the required {wanted}"));
    }
    match chosen.heat.word() {
        "danger" => lines.push(format!("the resistor dissipates more than {}: use one of higher rating", need.rated)),
        "caution" => lines.push("more than 60 % of the resistor's rating: hot to the touch".into()),
        _ => {}
    }
    lines
}

fn divider_json(d: &DividerSize) -> Value {
    json!({
        "top_ohm": number(d.top), "bottom_ohm": number(d.bottom), "nominal_max_v": number(d.nominal),
        "worst_high_v": number(d.worst_high), "worst_low_v": number(d.worst_low), "source_ohm": number(d.source),
        "current_a": number(d.current), "over_max": d.over, "below_min": d.below,
    })
}

/// `size divider`: the pairs that fit at every corner, the widest margins first; or what a given pair makes.
#[must_use]
pub fn size_divider(
    need: &DividerNeed,
    limits: &DividerLimits,
    found: &[DividerSize],
    finer: Option<(Fraction, DividerSize)>,
    given: bool,
) -> SizeAnswer {
    let window = format!("{} .. {}", need.least, need.most);
    let mut figures = json!({ "pairs": found.iter().map(divider_json).collect::<Vec<_>>() });
    if let Some((tolerance, pair)) = &finer {
        figures["finer"] = json!({ "tolerance": number(*tolerance), "pair": divider_json(pair) });
    }
    let Some(first) = found.first() else {
        return no_divider(need, limits, finer, figures);
    };
    let mut lines = Vec::new();
    if given {
        let verdict = match (first.over, first.below) {
            (true, true) => "too high at its highest and too low at its lowest",
            (true, false) => "too high at its highest",
            (false, true) => "too low at its lowest",
            (false, false) => "within the window at every corner",
        };
        lines.push(format!(
            "{} over {}: {} .. {} at the tap, allowed {window}: {verdict}",
            first.top, first.bottom, first.worst_low, first.worst_high
        ));
    } else {
        lines.push(format!(
            "use {} to the source and {} to ground: {} .. {} at the tap, of {window}",
            first.top, first.bottom, first.worst_low, first.worst_high
        ));
    }
    lines
        .push(format!("its source resistance is {}, and {} flows at {}", first.source, first.current, need.input.high));
    lines.push(format!(
        "nominal: {} at {}; with {} tolerance in both it may be {}",
        first.nominal, need.input.high, need.tolerance, first.worst_high
    ));
    let row = |d: &DividerSize| {
        vec![
            format!("{} / {}", d.top, d.bottom),
            d.worst_low.to_string(),
            d.nominal.to_string(),
            d.worst_high.to_string(),
            d.source.to_string(),
            d.current.to_string(),
        ]
    };
    let heading = [
        named("top / bottom"),
        values("lowest high"),
        values("nominal max"),
        values("worst max"),
        values("tap"),
        values("max current"),
    ];
    let fits = !given || first.fits();
    let answer = SizeAnswer::new(lines, figures, fits);
    if found.len() > 1 { answer.with(Block::Table(Table::new(heading, found.iter().map(row)))) } else { answer }
}

fn no_divider(
    need: &DividerNeed,
    limits: &DividerLimits,
    finer: Option<(Fraction, DividerSize)>,
    figures: Value,
) -> SizeAnswer {
    let ratio = need.most / need.input.high / (need.least / need.input.low);
    let why = if ratio < 1.0 {
        format!(
            "the window is too narrow for any divider: {} from {} and {} from {} needed",
            need.least, need.input.low, need.most, need.input.high
        )
    } else {
        format!(
            "with {} tolerance, at most {} source resistance and {} from its source, none fits",
            need.tolerance, limits.source, limits.current
        )
    };
    let mut lines = vec!["no pair fits at every corner".into(), why];
    lines.extend(finer.map(|(tolerance, pair)| {
        format!("with {tolerance} resistors one fits: {} to the source and {} to ground", pair.top, pair.bottom)
    }));
    SizeAnswer::new(lines, figures, false)
}

/// `size pull`: of a contact or an open collector.
#[must_use]
pub fn size_pull(need: &PullNeed, size: &PullSize) -> SizeAnswer {
    let open_ended = |o: Ohms| o.get() > 1e12;
    let most = if open_ended(size.most) { "no limit".to_owned() } else { size.most.to_string() };
    let figures = json!({
        "min_ohm": number(size.least), "max_ohm": if open_ended(size.most) { Value::Null } else { json!(number(size.most)) },
        "chosen_ohm": size.chosen.and_then(number), "current_a": number(size.current),
    });
    let Some(chosen) = size.chosen else {
        if need.closed >= need.thresholds.low {
            let (closed, vil) = (need.closed, need.thresholds.low);
            let why =
                format!("closed, it still outputs {closed}; {vil} or less reads as closed: use one that pulls lower");
            return SizeAnswer::new(vec!["no pull resistor fits".into(), why], figures, false);
        }
        let why = format!(
            "closed needs {} or more, open and the contact {most} or less, both with {} tolerance",
            size.least, need.tolerance
        );
        return SizeAnswer::new(vec!["no pull resistor fits".into(), why], figures, false);
    };
    let mut lines = vec![format!("use {chosen}: {} to {most} is possible", size.least)];
    lines.push(format!("{} flows while the contact is closed, at {}", size.current, need.rail.high));
    let left = Volts::new(need.leak.get() * chosen.get());
    lines.push(format!("{} of leakage lowers the open level by {left}", need.leak));
    SizeAnswer::new(lines, figures, true)
}

/// `size pull --bus`: the range for an I²C bus, and a value of it.
#[must_use]
pub fn size_bus_pull(bus: &BusPull, range: &BusPullRange, chosen: Option<Ohms>) -> SizeAnswer {
    let figures = json!({
        "min_ohm": number(range.least), "max_ohm": number(range.most), "capacitance_f": number(range.capacitance),
        "chosen_ohm": chosen.and_then(number),
    });
    let window = format!("{} .. {}", range.least, range.most);
    let Some(chosen) = chosen else {
        let why = format!(
            "an output sinks 3 mA from {} up, and {} line capacitance needs {} or less at {}",
            range.least, range.capacitance, range.most, bus.speed
        );
        let cure = "run it more slowly, shorten it, or add a bus buffer".to_owned();
        return SizeAnswer::new(vec!["no pull-up fits".into(), why, cure], figures, false);
    };
    let lines = vec![
        format!("use {chosen} in total: {window} is possible at {}", bus.speed),
        format!("line capacitance {}: 10 pF for each of {} parts and 75 pF/m", range.capacitance, bus.devices),
        "the pull-ups on the modules count too: all on a line are in parallel".into(),
    ];
    SizeAnswer::new(lines, figures, true)
}

/// `size level`: every way, the simplest first; those that do not do say why.
#[must_use]
pub fn size_level(need: &LevelNeed, ways: &[LevelOption]) -> SizeAnswer {
    let way = |w: &LevelOption| {
        json!({
            "option": w.option, "what": w.what, "works": w.works(), "high_margin_v": number(w.high_margin),
            "low_margin_v": number(w.low_margin), "reasons": w.why_not,
        })
    };
    let figures = json!({ "options": ways.iter().map(way).collect::<Vec<_>>() });
    let first = ways.iter().find(|w| w.works());
    let mut lines = vec![match first {
        Some(w) => format!("{}: margin high {}, low {}", w.what, w.high_margin, w.low_margin),
        None => "no option is suitable".into(),
    }];
    let from =
        format!("from {} .. {} to {} .. {}", need.sender.low, need.sender.high, need.receiver.low, need.receiver.high);
    lines.push(format!("{from}, at {}", need.rate));
    for w in ways {
        let text = if w.works() {
            format!("suitable: margin high {}, low {}", w.high_margin, w.low_margin)
        } else {
            w.why_not.join("; ")
        };
        lines.push(format!("{}, {}: {text}", w.option, w.what));
    }
    SizeAnswer::new(lines, figures, first.is_some())
}
