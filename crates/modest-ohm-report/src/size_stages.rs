//! Answers about base resistors, gates, flyback diodes, relays, bridges and whole stages.

use modest_ohm::advise::{DriverOffers, DriverRequest};
use modest_ohm::size::{
    BaseNeed, BaseSize, BridgeLack, BridgeNeed, BridgeState, CoilState, FlybackClass, GateNeed, GateVerdict, Release,
    ReleaseNeed, Saturates, Switching, TransistorNeed, TransistorState,
};
use modest_ohm::units::{Amps, Celsius, Fraction, Hertz, Range, Volts};
use serde_json::{Value, json};

use crate::document::{Block, Table, named, prose, values, words};
use crate::json::number;
use crate::size::SizeAnswer;

/// `size base`: the next smaller resistor, or why there is none.
#[must_use]
pub fn size_base(need: &BaseNeed, size: &BaseSize) -> SizeAnswer {
    let wanted = Amps::new(need.current.get() / need.ratio);
    let mut lines = Vec::new();
    match (size.chosen, size.base) {
        (Some(ohms), Some(base)) => {
            lines.push(format!("use {ohms}: base current up to {base}; the pin is rated {}", need.pin_recommended));
            lines.push(format!(
                "the exact value {} gives {wanted}, which {} needs at a ratio of {}",
                size.exact, need.current, need.ratio
            ));
        }
        (None, Some(base)) if wanted <= need.pin_recommended => lines.push(format!(
            "no base resistor: the exact value is {}, and the next smaller draws up to {base}; the pin is rated {}",
            size.exact, need.pin_recommended
        )),
        _ => lines.push(format!(
            "no base resistor: {} needs {wanted} at its base; the pin is rated {}",
            need.current, need.pin_recommended
        )),
    }
    if size.chosen.is_none() {
        lines.push("use a MOSFET specified at the pin's voltage, a Darlington pair (`--ratio 250`) or an array".into());
    }
    let figures = json!({
        "exact_ohm": number(size.exact), "chosen_ohm": size.chosen.and_then(number), "base_a": size.base.and_then(number),
        "required_base_a": number(wanted), "pin_recommended_a": number(need.pin_recommended),
    });
    SizeAnswer::new(lines, figures, size.chosen.is_some())
}

/// `size base --resistor`: what a transistor does with the resistor that it has.
#[must_use]
pub fn size_transistor(need: &TransistorNeed, state: &TransistorState, recommended: Amps) -> SizeAnswer {
    let can = Amps::new(need.hfe * state.base.get());
    let first = match state.verdict {
        Saturates::Pass => {
            format!("it saturates: {} base current is enough for {can}; {} needed", state.base, need.current)
        }
        Saturates::Caution => {
            format!(
                "it saturates without margin: {} base current is enough for {can}; {} needed",
                state.base, need.current
            )
        }
        Saturates::Fault => {
            format!("it may not saturate: {} base current is enough for {can}; {} needed", state.base, need.current)
        }
    };
    let mut lines = vec![first];
    lines.push(format!("overdrive {:.2}; 2 recommended, below 1.3 is a fault", state.overdrive));
    lines.push(format!("{} flows, {} across it, {} dissipated", state.collector, state.vce, state.heat));
    if state.verdict == Saturates::Fault {
        lines.push(format!("partly on it may dissipate up to {}", state.worst_partial));
    }
    if state.base > recommended {
        lines.push(format!("the pin is rated {recommended} continuous; this draws {}", state.base));
    }
    let figures = json!({
        "base_a": number(state.base), "overdrive": state.overdrive, "verdict": state.verdict.word(),
        "collector_a": number(state.collector), "vce_v": number(state.vce), "power_w": number(state.heat),
        "worst_partial_w": number(state.worst_partial),
    });
    SizeAnswer::new(lines, figures, state.verdict != Saturates::Fault && state.base <= recommended)
}

/// A gate, what it withstands, and its edges.
#[derive(Clone, Copy, Debug)]
pub struct GateAsked {
    /// What it gets and is made for.
    pub need: GateNeed,
    /// What it stands; `None`: not known.
    pub stands: Option<Volts>,
    /// How often it is switched.
    pub pwm: Option<Hertz>,
    /// What its edges cost; `None` where nothing is said of its charge.
    pub edges: Option<Switching>,
}

/// `size gate`: whether it is fully on, and what its edges cost.
#[must_use]
pub fn size_gate(asked: &GateAsked, verdict: GateVerdict) -> SizeAnswer {
    let need = &asked.need;
    let mut lines = vec![match verdict {
        GateVerdict::Pass => {
            format!("fully on: gate voltage {}, on-resistance specified at {}", need.volts, need.specified)
        }
        GateVerdict::Caution => format!(
            "probably on: gate voltage {} is 1 V above its largest threshold, at no more than a tenth of its rating; \
            on-resistance specified at {}",
            need.volts, need.specified
        ),
        GateVerdict::Fault => format!(
            "may not be fully on: gate voltage {}, on-resistance specified at {}; a threshold only says where it \
            starts to conduct",
            need.volts, need.specified
        ),
    }];
    let over = asked.stands.is_some_and(|s| need.volts > s);
    if let Some(stands) = asked.stands {
        let word = if over { "above" } else { "of" };
        lines.push(format!("{} {word} its gate rating of {stands}", need.volts));
    }
    lines.push("100 Ω (47 Ω .. 220 Ω) at its gate, 10 kΩ (up to 100 kΩ) from the gate to ground".into());
    if let Some(pwm) = asked.pwm {
        lines.push(match asked.edges {
            Some(e) => {
                let share = Fraction::new((e.on.get() + e.off.get()) * pwm.get());
                format!(
                    "at {pwm} it switches in {} and {}, {share} of the period, and dissipates {}",
                    e.on, e.off, e.loss
                )
            }
            None => {
                "switching loss not computed: name a part with gate charge and plateau, driven above its plateau".into()
            }
        });
    }
    let figures = json!({
        "verdict": verdict.word(), "gate_v": number(need.volts), "specified_v": number(need.specified),
        "threshold_v": need.threshold.and_then(number), "max_v": asked.stands.and_then(number),
        "on_s": asked.edges.and_then(|e| number(e.on)), "off_s": asked.edges.and_then(|e| number(e.off)),
        "switching_w": asked.edges.and_then(|e| number(e.loss)),
    });
    SizeAnswer::new(lines, figures, verdict != GateVerdict::Fault && !over)
}

/// `size flyback`: the smallest class, and how long the current goes on.
#[must_use]
pub fn size_flyback(
    current: Amps,
    pwm: bool,
    class: Option<&FlybackClass>,
    plain: Option<&(ReleaseNeed, Release)>,
    zener: Option<&(Volts, Release)>,
) -> SizeAnswer {
    let when = if pwm { "repetitively" } else { "at each turn-off" };
    let mut lines = vec![match class {
        Some(c) => format!("use `{}` across it, cathode to positive: it is rated for {current} {when}", c.name),
        None => format!("no diode in the catalogue is rated for {current} {when}: use one whose datasheet is"),
    }];
    if let Some(c) = class {
        lines.push(format!(
            "{} continuous, {} once, {} reverse, {}",
            c.current,
            c.surge,
            c.reverse,
            if c.fast { "fast" } else { "slow: not above 1 kHz" }
        ));
    }
    let told = |what: &str, r: &Release| {
        format!(
            "{what} it releases after {}; {} at the switch; {} goes into the path and the coil",
            r.time, r.peak, r.energy
        )
    };
    lines.extend(plain.map(|(_, r)| told("through the diode", r)));
    lines.extend(zener.map(|(z, r)| told(&format!("with an additional {z} Zener diode"), r)));
    if plain.is_none() {
        lines.push("release time not computed: give `--inductance` and `--resistance` of the coil".into());
    }
    let release = |r: &Release| json!({ "time_s": number(r.time), "until_zero_s": number(r.until_still), "energy_j": number(r.energy), "peak_v": number(r.peak) });
    let figures = json!({
        "class": class.map(|c| c.name), "current_a": number(current),
        "plain": plain.map(|(_, r)| release(r)), "zener": zener.map(|(_, r)| release(r)),
    });
    SizeAnswer::new(lines, figures, class.is_some())
}

/// A class of relay, tried.
#[derive(Clone, Debug)]
pub struct RelayTried {
    /// Its name.
    pub class: String,
    /// Its coil.
    pub coil: CoilState,
    /// What its contact may switch here; `None`: nothing is promised.
    pub may: Option<Amps>,
    /// What is printed on it.
    pub rating: Amps,
}

/// `size relay`: the classes whose coil and contact do.
#[must_use]
pub fn size_relay(current: Amps, gets: Range<Volts>, tried: &[RelayTried]) -> SizeAnswer {
    let why = |t: &RelayTried| {
        if t.coil.too_much {
            Some(format!("its coil is rated {}", t.coil.max))
        } else if !t.coil.enough {
            Some(format!("its coil needs {} when warm", t.coil.pulls_in))
        } else {
            match t.may {
                None => Some("not rated at this voltage".to_owned()),
                Some(may) if current > may => Some(format!("its {} derates to {may} for this load", t.rating)),
                Some(_) => None,
            }
        }
    };
    let fitting: Vec<&str> = tried.iter().filter(|t| why(t).is_none()).map(|t| t.class.as_str()).collect();
    let mut lines = vec![if fitting.is_empty() {
        "no relay in the catalogue is suitable: use a larger one, or a MOSFET with a diode across the load".to_owned()
    } else {
        format!("use {}: coil at {} .. {}", fitting.join(" or "), gets.low, gets.high)
    }];
    lines.push(
        "a coil switched by a transistor needs a diode across it, and so does a coil switched by a contact".into(),
    );
    let row = |t: &RelayTried| {
        vec![
            t.class.clone(),
            t.coil.pulls_in.to_string(),
            t.coil.max.to_string(),
            t.may.map_or_else(|| "–".into(), |m| m.to_string()),
            why(t).unwrap_or_else(|| "suitable".into()),
        ]
    };
    let table = Table::new(
        [named("relay"), values("pulls in"), values("rated"), values("switches"), words("verdict")],
        tried.iter().map(row),
    );
    let classes: Vec<Value> = tried
        .iter()
        .map(|t| {
            json!({
                "class": t.class, "pulls_in_v": number(t.coil.pulls_in), "max_v": number(t.coil.max),
                "rating_a": t.may.and_then(number), "suitable": why(t).is_none(), "reasons": why(t),
            })
        })
        .collect();
    SizeAnswer::new(lines, json!({ "current_a": number(current), "classes": classes }), !fitting.is_empty())
        .with(Block::Table(table))
}

/// A class of bridge, tried.
#[derive(Clone, Debug)]
pub struct BridgeTried {
    /// Its name.
    pub class: String,
    /// What was asked.
    pub need: BridgeNeed,
    /// What follows.
    pub state: BridgeState,
    /// What its junction stands.
    pub limit: Celsius,
}

impl BridgeTried {
    /// Why it does not do, in words.
    fn why_not(&self, wants: Option<Volts>) -> Option<String> {
        let (n, s) = (&self.need, &self.state);
        let lack = match s.why_not {
            Some(BridgeLack::TooMuchSupply) => Some(format!("rated up to {}", n.range.high)),
            Some(BridgeLack::TooLittleSupply) => Some(format!("needs {}", n.range.low)),
            Some(BridgeLack::Runs) => Some(format!("rated {} continuous", n.continuous)),
            Some(BridgeLack::Stall) => {
                Some(format!("rated {} continuous; {} flows when stalled", n.continuous, n.stall))
            }
            Some(BridgeLack::Moment) => Some(format!("rated {} peak; {} flows", n.peak, s.demand)),
            None => None,
        };
        let hot = || s.junction.filter(|j| *j > self.limit).map(|j| format!("junction {j}; limit {}", self.limit));
        let low = || wants.filter(|w| s.leaves < *w).map(|w| format!("less than the required {w} at the motor"));
        lack.or_else(hot).or_else(low)
    }
}

/// `size bridge`: the classes that do, by what they leave the motor.
#[must_use]
pub fn size_bridge(wants: Option<Volts>, tried: &[BridgeTried]) -> SizeAnswer {
    let mut sorted: Vec<&BridgeTried> = tried.iter().collect();
    sorted.sort_by(|a, b| b.state.leaves.get().total_cmp(&a.state.leaves.get()));
    sorted.sort_by_key(|t| t.why_not(wants).is_some());
    let best = sorted.first().filter(|t| t.why_not(wants).is_none());
    let lines = vec![match best {
        Some(t) => {
            format!("use {}: {} at the motor, {} dissipated", t.class, t.state.leaves, t.state.heat)
        }
        None => "no catalogue bridge is rated for this; use a larger one, or parallel two if the datasheet allows it"
            .to_owned(),
    }];
    let row = |t: &&BridgeTried| {
        vec![
            t.class.clone(),
            t.state.leaves.to_string(),
            t.state.heat.to_string(),
            t.state.junction.map_or_else(|| "–".into(), |j| j.to_string()),
            t.state.demand.to_string(),
            t.why_not(wants).unwrap_or_else(|| "suitable".into()),
        ]
    };
    let heads =
        [named("bridge"), values("motor voltage"), words("heat"), values("junction"), values("peak"), words("verdict")];
    let table = Table::new(heads, sorted.iter().map(row));
    let classes: Vec<Value> = sorted
        .iter()
        .map(|t| {
            json!({
                "class": t.class, "load_v": number(t.state.leaves), "heat_w": number(t.state.heat),
                "junction_c": t.state.junction.and_then(number), "peak_a": number(t.state.demand),
                "suitable": t.why_not(wants).is_none(), "reasons": t.why_not(wants),
            })
        })
        .collect();
    SizeAnswer::new(lines, json!({ "classes": classes }), best.is_some()).with(Block::Table(table))
}

/// `size driver`: the stages that work out, the simplest first, and why the others do not.
#[must_use]
pub fn size_driver(wish: &DriverRequest, found: &DriverOffers, tables: Option<&str>) -> SizeAnswer {
    let own = |o: &&modest_ohm::advise::DriverOffer| tables.is_some_and(|t| t == o.part);
    if let Some(offer) = found.offers.iter().find(own) {
        let figures = json!({ "class": offer.part, "toml": offer.toml });
        let lines = vec![format!(
            "`{}` for `{}` on {}, as tables of a plan (rename them to suit yours)",
            offer.part, wish.load, wish.rail
        )];
        return SizeAnswer::new(lines, figures, true).with(Block::Verbatim(offer.toml.clone()));
    }
    let mut lines = vec![match found.offers.first() {
        Some(first) if first.parts.len() > 1 => format!("use {}, with {}", first.part, first.parts[1..].join(", ")),
        Some(first) => format!("use {}", first.part),
        None => format!("no driver in the catalogue switches `{}` on {} from `{}`", wish.load, wish.rail, wish.board),
    }];
    lines.push("each was tried in a plan with this load, rail and board; the simplest first".into());
    if !found.offers.is_empty() {
        lines.push("`--tables PART` prints the tables of a plan for one of them".into());
    }
    let row = |o: &modest_ohm::advise::DriverOffer| {
        vec![
            o.part.clone(),
            o.leaves.map_or_else(|| "–".into(), |v| v.to_string()),
            o.parts.iter().skip(1).cloned().collect::<Vec<_>>().join(", "),
        ]
    };
    let mut answer_tables = Vec::new();
    if !found.offers.is_empty() {
        let rows = found.offers.iter().map(row);
        answer_tables.push(Table::new([named("driver"), values("motor voltage"), prose("besides")], rows));
    }
    if !found.rejected.is_empty() {
        let rows = found.rejected.iter().map(|p| vec![p.class.clone(), p.why.clone()]);
        answer_tables.push(Table::new([named("rejected"), prose("why")], rows));
    }
    let offers: Vec<Value> = found
        .offers
        .iter()
        .map(|o| {
            json!({
                "class": o.part, "kind": o.kind, "parts": o.parts, "toml": o.toml, "load_v": o.leaves.and_then(number),
                "heat": o.heat, "advisories": o.advice,
            })
        })
        .collect();
    let passed: Vec<Value> =
        found.rejected.iter().map(|p| json!({ "class": p.class, "kind": p.kind, "why": p.why })).collect();
    let figures =
        json!({ "load": wish.load, "rail": wish.rail, "board": wish.board, "offers": offers, "rejected": passed });
    let answer = SizeAnswer::new(lines, figures, !found.offers.is_empty());
    answer_tables.into_iter().map(Block::Table).fold(answer, SizeAnswer::with)
}
