//! `size led`, `divider`, `pull` and `level`.

use modest_ohm::catalogue::{PartClass, classes};
use modest_ohm::checks::nearest_name;
use modest_ohm::size::{
    self, BusPull, DividerLimits, DividerNeed, LedNeed, LevelNeed, LevelThreshold, PullNeed, Series, StockProblem,
    Values,
};
use modest_ohm::units::{
    Amps, Figure, Fraction, Hertz, Metres, Nominal, Ohms, Quantity, Range, Volts, Watts, parse_figure,
};
use modest_ohm_report::{LedLimits, SizeAnswer, size_bus_pull, size_divider, size_led, size_level, size_pull};

use super::problems::Problems;
use crate::args::{Choice, SizeDivider, SizeLed, SizeLevel, SizePull};
use crate::files;

impl Problems {
    /// The values to choose from; E24 where nothing is said.
    fn values(&mut self, choice: &Choice) -> Values {
        self.values_or(choice, Series::E24)
    }

    /// As [`values`](Self::values), with another series where nothing is said.
    pub(super) fn values_or(&mut self, choice: &Choice, usual: Series) -> Values {
        if let Some(path) = &choice.stock {
            match files::rows(path).and_then(|rows| size::stock(&rows).map_err(|p| told(&p))) {
                Ok(values) => return values,
                Err(message) => self.unless(false, || format!("{}: {message}", path.display())),
            }
        }
        let Some(name) = &choice.e_series else { return Values::of_series(usual) };
        let series = Series::of_name(name);
        self.unless(series.is_some(), || {
            let all: Vec<&str> = Series::ALL.iter().map(|s| s.name()).collect();
            format!("there is no series `{name}`; write one of: {}", all.join(", "))
        });
        Values::of_series(series.unwrap_or(Series::E24))
    }

    pub(super) fn positive<Q: Quantity>(&mut self, q: Q, what: &str) {
        self.unless(q.si() > 0.0, || format!("{what}: {q} is not above zero"));
    }

    pub(super) fn not_negative<Q: Quantity>(&mut self, q: Q, what: &str) {
        self.unless(q.si() >= 0.0, || format!("{what}: {q} is below zero"));
    }

    fn tolerance(&mut self, tolerance: Option<Fraction>) -> Fraction {
        let tolerance = tolerance.unwrap_or(Fraction::new(0.05));
        self.unless((0.0..1.0).contains(&tolerance.get()), || {
            format!("the tolerance is {tolerance}; it must be below 100 %")
        });
        tolerance
    }

    /// A figure of voltage; a bare number gets a tolerance.
    pub(super) fn volts(&mut self, text: &str, what: &str, bare: f64) -> Figure<Volts> {
        match parse_figure::<Volts>(text) {
            Ok(figure) => {
                self.unless(figure.low.get() >= 0.0, || format!("{what}: {} is below zero", figure.low));
                figure.with_tolerance(bare)
            }
            Err(p) => {
                self.unless(false, || format!("{what}: {} ({})", p.message, p.help));
                Figure::exact(Volts::new(1.0), modest_ohm::units::Origin::Computed)
            }
        }
    }

    /// A threshold: voltage, or a share of the supply.
    fn threshold(&mut self, text: &str, what: &str) -> LevelThreshold {
        if text.trim_end().ends_with('%') {
            match parse_figure::<Fraction>(text) {
                Ok(share) => return LevelThreshold { volts: Volts::new(0.0), share: share.typical },
                Err(p) => self.unless(false, || format!("{what}: {} ({})", p.message, p.help)),
            }
            return LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(0.5) };
        }
        LevelThreshold { volts: self.volts(text, what, 0.0).typical, share: Fraction::new(0.0) }
    }
}

fn told(problems: &[StockProblem]) -> String {
    problems.iter().map(|p| format!("line {}: {}", p.line, p.message)).collect::<Vec<_>>().join("\n")
}

/// The class of an LED.
fn class_of(name: &str) -> Result<PartClass, String> {
    let leds: Vec<PartClass> = classes().into_iter().filter(|c| c.kind == "led").collect();
    if let Some(class) = leds.iter().find(|c| c.name == name) {
        return Ok(class.clone());
    }
    let names = || leds.iter().map(|c| c.name.as_str());
    Err(match nearest_name(name, names()) {
        Some(near) => format!("there is no LED `{name}`; did you mean `{near}`?"),
        None => format!("there is no LED `{name}`; parts: {}", names().collect::<Vec<_>>().join(", ")),
    })
}

/// `size led`.
pub fn led(args: &SizeLed) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let class = args
        .part
        .as_deref()
        .map(class_of)
        .and_then(|class| class.map_err(|message| problems.unless(false, || message)).ok());
    let figure =
        |key: &str| class.as_ref().and_then(|c| c.figures.iter().find(|(k, _)| k == key)).map(|(_, v)| v.clone());
    let amps = |key| figure(key).and_then(|t| parse_figure::<Amps>(t.trim_matches('"')).ok()).map(|f| f.low);
    let supply = problems.volts(&args.supply, "the supply", 0.0);
    let vf_text = args.vf.clone().or_else(|| figure("vf").map(|t| t.trim_matches('"').to_owned()));
    let vf = vf_text.map_or_else(
        || Figure::exact(Volts::new(1.0), modest_ohm::units::Origin::Computed),
        |text| problems.volts(&text, "the LED", 0.10),
    );
    let diode = args.diode.as_deref().map(|text| problems.volts(text, "the diode", 0.0));
    let n = f64::from(args.in_series);
    let pin = args.pin.unwrap_or(Ohms::new(0.0));
    problems.positive(supply.low, "the supply");
    problems.positive(vf.low, "the LED");
    problems.positive(args.current, "the current");
    problems.not_negative(pin, "the pin");
    let rated = args.rated.unwrap_or(Watts::new(0.25));
    problems.positive(rated, "the resistor's rating");
    let limits = LedLimits {
        wanted: args.minimum,
        recommended: args.recommended.or_else(|| amps("current")),
        absolute: args.absolute.or_else(|| amps("absolute")),
    };
    for (limit, what) in [
        (limits.wanted, "the minimum current"),
        (limits.recommended, "the recommended current"),
        (
            limits.absolute,
            "the absolute \
            maximum",
        ),
    ] {
        limit.into_iter().for_each(|amps| problems.positive(amps, what));
    }
    let need = LedNeed {
        supply: Nominal::new(supply.typical, supply.high),
        vf: Nominal::new(vf.typical * n, vf.low * n),
        diode: diode.map_or(Nominal::exactly(Volts::new(0.0)), |d| Nominal::new(d.typical, d.low)),
        pin: Nominal::exactly(pin),
        current: args.current,
        most: limits.at_worst(),
        tolerance: problems.tolerance(args.tolerance),
        rated,
    };
    let values = problems.values(&args.choice);
    problems.or(|| size_led(&need, &size::led(&need, &values), &limits))
}

/// A negative pulse in a vehicle (ISO 7637-2), V, and what may go through a pin's protection continuously, A.
const PULSE_V: f64 = 150.0;
const CLAMP_A: f64 = 1e-3;

/// `size divider`.
pub fn divider(args: &SizeDivider) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let input = problems.range(&args.input, "the input");
    problems.positive(args.max, "the maximum");
    problems.not_negative(args.min, "the minimum");
    problems
        .unless(args.min < args.max, || format!("the minimum, {}, must be below the maximum, {}", args.min, args.max));
    let tolerance = problems.tolerance(args.tolerance);
    let top = Ohms::new(if args.vehicle { PULSE_V / CLAMP_A } else { 0.0 });
    let limits = DividerLimits {
        source: args.source.unwrap_or(Ohms::new(if args.vehicle { 1e6 } else { 10e3 })),
        current: args.max_current.unwrap_or(Amps::new(5e-3)),
        top,
    };
    problems.positive(limits.source, "the tap");
    problems.positive(limits.current, "the maximum current");
    let need = DividerNeed { input, tolerance, most: args.max, least: args.min };
    let values = problems.values(&args.choice);
    if let (Some(top), Some(bottom)) = (args.top, args.bottom) {
        problems.positive(top, "the top");
        problems.positive(bottom, "the bottom");
        return problems.or(|| size_divider(&need, &limits, &[size::divider_with(&need, top, bottom)], None, true));
    }
    problems.or(|| {
        let found = size::divider(&need, &limits, &values, args.list.into());
        let finer = if found.is_empty() { size::divider_finer(&need, &limits, &values) } else { None };
        size_divider(&need, &limits, &found, finer, false)
    })
}

/// `size pull`.
pub fn pull(args: &SizePull) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let rail = problems.range(&args.rail, "the rail");
    let values = problems.values(&args.choice);
    if let Some(speed) = args.bus {
        problems.positive(speed, "the clock");
        let length = args.length.unwrap_or(Metres::new(0.3));
        problems.not_negative(length, "the length");
        let tolerance = problems.tolerance(args.tolerance).get();
        let bus =
            BusPull { rail: rail.high, speed, devices: args.parts.unwrap_or(2).into(), length, capacitance: None };
        return problems.or(|| {
            let range = size::bus_pull(&bus);
            // Inside over its tolerance as well.
            let (from, to) = (range.least * (1.0 / (1.0 - tolerance)), range.most * (1.0 / (1.0 + tolerance)));
            size_bus_pull(&bus, &range, values.middle(from, to))
        });
    }
    let low = args.low.as_deref().map(|text| problems.threshold(text, "the low"));
    let high = args.high.as_deref().map(|text| problems.threshold(text, "the high"));
    let none = LevelThreshold { volts: Volts::new(0.0), share: Fraction::new(0.0) };
    let (low, high) = (low.unwrap_or(none), high.unwrap_or(none));
    let need = PullNeed {
        rail,
        thresholds: Range::new(low.at(rail.low), high.at(rail.low)),
        contact: args.contact.unwrap_or(Ohms::new(50.0)),
        closed: args.closed.unwrap_or(Volts::new(0.0)),
        leak: args.leak.unwrap_or(Amps::new(1e-6)),
        wetting: args.wetting.unwrap_or(Amps::new(0.0)),
        most: args.max_current.unwrap_or(Amps::new(5e-3)),
        tolerance: problems.tolerance(args.tolerance),
    };
    problems.unless(need.thresholds.low < need.thresholds.high, || {
        format!("the low level, {}, must be below the high level, {}", need.thresholds.low, need.thresholds.high)
    });
    problems.not_negative(need.contact, "the contact");
    problems.not_negative(need.closed, "the closed voltage");
    problems.not_negative(need.leak, "the leakage");
    problems.not_negative(need.wetting, "the wetting current");
    problems.positive(need.most, "the maximum current");
    problems.or(|| size_pull(&need, &size::pull(&need, &values)))
}

/// `size level`.
pub fn level(args: &SizeLevel) -> Result<SizeAnswer, String> {
    let mut problems = Problems::default();
    let need = LevelNeed {
        sender: problems.range(&args.from, "the sender"),
        sender_ohms: args.pin.unwrap_or(Ohms::new(33.0)),
        receiver: problems.range(&args.to, "the receiver"),
        vih: problems.threshold(&args.high, "the high level"),
        vil: problems.threshold(&args.low, "the low level"),
        most: args.max,
        shift: args.shift.unwrap_or(Volts::new(0.0)),
        rate: args.rate.unwrap_or(Hertz::new(10e3)),
        length: args.length.unwrap_or(Metres::new(0.3)),
        bidirectional: args.bidirectional,
        tolerance: problems.tolerance(args.tolerance),
    };
    problems.not_negative(need.sender_ohms, "the pin");
    problems.positive(need.rate, "the rate");
    problems.not_negative(need.length, "the length");
    need.most.into_iter().for_each(|most| problems.positive(most, "the maximum"));
    let (low, high) = (need.vil.at(need.receiver.low), need.vih.at(need.receiver.low));
    problems.unless(low < high, || format!("the low level, {low}, must be below the high level, {high}"));
    let values = problems.values(&args.choice);
    problems.or(|| size_level(&need, &size::level(&need, &values)))
}
