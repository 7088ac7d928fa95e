//! Answers to single questions, as a few lines and as JSON.

use modest_ohm::size::{
    BatteryNeed, BatterySize, CapacitorSize, NoBattery, Profile, RegulatorHeat, RegulatorNeed, SupplySize,
};
use modest_ohm::units::{Amps, Fraction, Ohms, Seconds, Volts, duration};
use serde_json::{Value, json};

use crate::document::{Block, Document};
use crate::json::{FORMAT, number, pretty};

/// An answer: a document, the first line of it the answer itself, and its numbers.
#[derive(Clone, Debug)]
pub struct SizeAnswer {
    document: Document,
    numbers: Value,
    /// False where nothing does what was asked.
    pub found: bool,
}

impl SizeAnswer {
    pub(crate) fn new(lines: Vec<String>, mut numbers: Value, found: bool) -> Self {
        if let Value::Object(map) = &mut numbers {
            map.insert("format".into(), json!(FORMAT));
            map.insert("found".into(), json!(found));
        }
        let block = |(i, line)| if i == 0 { Block::Heading(line) } else { Block::Line(line) };
        let document = Document(lines.into_iter().enumerate().map(block).collect());
        Self { document, numbers, found }
    }

    pub(crate) fn with(mut self, block: Block) -> Self {
        self.document.0.push(block);
        self
    }

    /// For people, at most so many columns wide.
    #[must_use]
    pub fn text(&self, width: usize) -> String {
        self.document.text(width)
    }

    /// For programs.
    #[must_use]
    pub fn json(&self) -> String {
        pretty(&self.numbers)
    }
}

/// What a negotiated source lists, and what of it does.
#[derive(Clone, Debug, Default)]
pub struct Offered {
    /// Its fixed profiles.
    pub listed: Vec<Profile>,
    /// Those that do.
    pub fitting: Vec<Profile>,
    /// One that would over a marked lead.
    pub with_marked_lead: Option<Profile>,
}

/// `size supply`: the rating, and, of a negotiated source, the profiles that do.
#[must_use]
pub fn size_supply(volts: Volts, size: &SupplySize, headroom: Fraction, offered: Option<&Offered>) -> SizeAnswer {
    let usual = size.usual.map_or_else(
        || "no standard supply is large enough: split the load over several".to_owned(),
        |r| format!("use a {r} supply"),
    );
    let mut lines = vec![
        format!("{volts}, {} or more, {}: {usual}", size.least, size.power),
        format!("the loads draw {} together; {headroom} headroom", size.demand),
        "largest continuous current of each load; starts and stalls are a separate sum, for which its limit counts"
            .into(),
    ];
    let mut found = size.usual.is_some();
    if let Some(offered) = offered {
        let list = |profiles: &[Profile]| {
            let each: Vec<String> = profiles.iter().map(|p| format!("{} {}", p.volts, p.current)).collect();
            each.join(", ")
        };
        found = !offered.fitting.is_empty();
        if found {
            lines.push(format!("suitable profiles of the source: {}", list(&offered.fitting)));
        } else {
            lines.push(format!("no profile of the source is suitable; it offers {}", list(&offered.listed)));
        }
        if let (Some(marked), false) = (offered.with_marked_lead, found) {
            lines.push(format!(
                "with a cable marked for more than 3 A it would be, {} {}: `--marked-cable`",
                marked.volts, marked.current
            ));
        }
    }
    let numbers = json!({
        "voltage_v": number(volts),
        "demand_a": number(size.demand),
        "min_a": number(size.least),
        "standard_a": size.usual.and_then(number),
        "power_w": number(size.power),
        "profiles": offered.map(|offered| offered.fitting.iter().map(|p| json!({
            "voltage_v": number(p.volts), "current_a": number(p.current),
        })).collect::<Vec<_>>()),
    });
    SizeAnswer::new(lines, numbers, found)
}

/// `size regulator`: linear or switching.
#[must_use]
pub fn size_regulator(need: &RegulatorNeed, heat: &RegulatorHeat) -> SizeAnswer {
    let limit = need.limit.get();
    let cool = heat.junction.get() <= limit - 15.0;
    let linear = heat.regulates && cool;
    let verdict = match (heat.regulates, cool) {
        (true, true) => "a linear regulator is suitable".to_owned(),
        (true, false) => "use a switching regulator: a linear one would overheat".to_owned(),
        (false, _) => {
            let other = if need.input.low < need.output { "; a boost or buck-boost converter would do" } else { "" };
            format!(
                "no regulator with this dropout: it needs {} input and may have only {}{other}",
                heat.least_input, need.input.low
            )
        }
    };
    let mut lines = vec![verdict];
    // What never regulates has no heat worth telling.
    if need.input.high > need.output {
        lines.push(format!(
            "linear: dissipates {} at {} input, junction {} with {} and {} air; limit {}",
            heat.linear_heat, need.input.high, heat.junction, need.theta, need.ambient, need.limit
        ));
    }
    if let (Some(theta), true) = (heat.theta_needed, heat.regulates && !cool) {
        lines.push(format!("with a heatsink: {theta} in total keeps it 15 K below its limit"));
    }
    lines.push(format!(
        "switching at {}: dissipates {}, draws {} from {}",
        need.efficiency, heat.switching_heat, heat.switching_input, need.input.low
    ));
    let numbers = json!({
        "linear_suitable": linear,
        "regulates": heat.regulates,
        "min_input_v": number(heat.least_input),
        "linear_heat_w": number(heat.linear_heat),
        "junction_c": number(heat.junction),
        "theta_ja_max_k_per_w": heat.theta_needed.and_then(number),
        "switching_heat_w": number(heat.switching_heat),
        "switching_input_a": number(heat.switching_input),
    });
    SizeAnswer::new(lines, numbers, heat.regulates)
}

/// `size battery`: the smallest pack of each class that was asked for.
#[must_use]
pub fn size_battery(need: &BatteryNeed, packs: &[(String, Result<BatterySize, NoBattery>)]) -> SizeAnswer {
    let found = packs.iter().any(|(_, p)| p.is_ok());
    let modest_ohm::units::Range { low: least, high: most } = need.volts;
    let mut lines = vec![format!("{} for {} within {least} .. {most}", need.power, duration(need.time))];
    for (cell, pack) in packs {
        lines.push(match pack {
            Ok(p) => format!(
                "{cell}: {} in series, {} in parallel: {} down to {}, runs {}, at most {} of {}",
                p.series,
                p.parallel,
                p.emf.high,
                p.emf.low,
                duration(p.lasts),
                p.current,
                p.rating
            ),
            Err(why) => format!("{cell}: none; {}", no_battery(*why, most)),
        });
    }
    lines.push(
        "open-circuit voltage full and when it stops; nominal values of the cell type, holder included, cables \
            not"
        .into(),
    );
    let shape = |(cell, pack): &(String, Result<BatterySize, NoBattery>)| {
        let (why_not, pack) = (pack.err().map(|why| why.word()), pack.ok());
        json!({
            "cell": cell,
            "series": pack.map(|p| p.series),
            "parallel": pack.map(|p| p.parallel),
            "full_v": pack.and_then(|p| number(p.emf.high)),
            "empty_v": pack.and_then(|p| number(p.emf.low)),
            "runtime_s": pack.and_then(|p| number(p.lasts)),
            "current_a": pack.and_then(|p| number(p.current)),
            "rating_a": pack.and_then(|p| number(p.rating)),
            "reasons": why_not,
        })
    };
    SizeAnswer::new(lines, json!({ "packs": packs.iter().map(shape).collect::<Vec<_>>() }), found)
}

fn no_battery(why: NoBattery, most: Volts) -> String {
    match why {
        NoBattery::ChargeUnknown => "its charge is not known: give `--cell-charge`".into(),
        NoBattery::TooHigh { full } => format!("one has {full} when full; maximum {most}"),
        NoBattery::TooLow { full } => format!("{full} full, and too low a voltage under this load"),
        NoBattery::TooMany { most } => format!("more than {most} in parallel would be needed"),
        _ => "there is no such cell".into(),
    }
}

/// `size capacitor`: what holds a dip.
#[must_use]
pub fn size_capacitor(step: Amps, delay: Seconds, dip: Volts, esr: Ohms, size: Option<&CapacitorSize>) -> SizeAnswer {
    let asked = format!("{step} load step, source follows after {delay}, {dip} dip allowed, ESR {esr}");
    let lines = match size {
        Some(s) => vec![
            format!("{} or more at its tolerance: use {}", s.least, s.usual),
            asked,
            format!("the ESR drops {} of the dip, the charge the rest", step * esr),
        ],
        None => vec![
            format!("no capacitor with {esr} is enough: its ESR alone drops {}", step * esr),
            asked,
            "put several in parallel, or allow a larger dip".into(),
        ],
    };
    let numbers = json!({
        "min_f": size.and_then(|s| number(s.least)),
        "standard_f": size.and_then(|s| number(s.usual)),
    });
    SizeAnswer::new(lines, numbers, size.is_some())
}
