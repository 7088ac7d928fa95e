//! Answers about base resistors, gates, flyback diodes, relays, bridges and whole stages.

use modest_ohm::advise::{StageOffers, StageWish};
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
            lines.push(format!(
                "take {ohms}: {base} into its base at the most, of {} that the pin gives",
                need.pin_recommended
            ));
            lines.push(format!(
                "exactly {} would give the {wanted} that {} want at a ratio of {}",
                size.exact, need.current, need.ratio
            ));
        }
        (None, Some(base)) if wanted <= need.pin_recommended => lines.push(format!(
            "no base resistor: {} exactly, and the next smaller lets up to {base} flow, where the pin gives {}",
            size.exact, need.pin_recommended
        )),
        _ => lines.push(format!(
            "no base resistor: {} want {wanted} at its base, and the pin gives {}",
            need.current, need.pin_recommended
        )),
    }
    if size.chosen.is_none() {
        lines.push(
            "take a MOSFET whose resistance is given at the pin's volts, a Darlington pair (`--ratio 250`) or an array"
                .into(),
        );
    }
    let figures = json!({
        "exact_ohm": number(size.exact), "chosen_ohm": size.chosen.and_then(number), "base_a": size.base.and_then(number),
        "wanted_base_a": number(wanted), "pin_recommended_a": number(need.pin_recommended),
    });
    SizeAnswer::new(lines, figures, size.chosen.is_some())
}

/// `size base --resistor`: what a transistor does with the resistor that it has.
#[must_use]
pub fn size_transistor(need: &TransistorNeed, state: &TransistorState, recommended: Amps) -> SizeAnswer {
    let can = Amps::new(need.hfe * state.base.get());
    let first = match state.verdict {
        Saturates::Pass => {
            format!("it saturates: {} into its base carry {can}, and {} are wanted", state.base, need.current)
        }
        Saturates::Caution => {
            format!(
                "it saturates without margin: {} into its base carry {can}, and {} are wanted",
                state.base, need.current
            )
        }
        Saturates::Fault => {
            format!("it need not saturate: {} into its base carry {can}, and {} are wanted", state.base, need.current)
        }
    };
    let mut lines = vec![first];
    lines.push(format!("overdrive {:.2}; 2 is wanted, below 1.3 it is a fault", state.overdrive));
    lines.push(format!("{} flow, {} across it, {} in it", state.collector, state.vce, state.heat));
    if state.verdict == Saturates::Fault {
        lines.push(format!("half on it may have to shed up to {}", state.worst_partial));
    }
    if state.base > recommended {
        lines.push(format!("the pin gives {recommended} for long, and this takes {}", state.base));
    }
    let figures = json!({
        "base_a": number(state.base), "overdrive": state.overdrive, "verdict": state.verdict.word(),
        "collector_a": number(state.collector), "vce_v": number(state.vce), "power_w": number(state.heat),
        "worst_partial_w": number(state.worst_partial),
    });
    SizeAnswer::new(lines, figures, state.verdict != Saturates::Fault && state.base <= recommended)
}

/// A gate, what it stands, and its edges.
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
            format!("fully on: {} at its gate, its resistance is given at {}", need.volts, need.specified)
        }
        GateVerdict::Caution => format!(
            "likely on: {} at its gate are 1 V above its largest threshold, and no more than a tenth of its rating flows; its \
             resistance is given at {}",
            need.volts, need.specified
        ),
        GateVerdict::Fault => format!(
            "not surely on: {} at its gate, and its resistance is given at {}; a threshold says where it begins to conduct, no more",
            need.volts, need.specified
        ),
    }];
    let over = asked.stands.is_some_and(|s| need.volts > s);
    if let Some(stands) = asked.stands {
        let word = if over { "more than" } else { "of" };
        lines.push(format!("{} {word} the {stands} that its gate stands", need.volts));
    }
    lines.push("100 Ω (47 Ω .. 220 Ω) before its gate, 10 kΩ (up to 100 kΩ) from the gate to −".into());
    if let Some(pwm) = asked.pwm {
        lines.push(match asked.edges {
            Some(e) => {
                let share = Fraction::new((e.on.get() + e.off.get()) * pwm.get());
                format!("at {pwm} its edges take {} and {}, {share} of the period, and cost {}", e.on, e.off, e.loss)
            }
            None => "what its edges cost is not known: name a class whose gate charge and plateau are known, and which gets above it".into(),
        });
    }
    let figures = json!({
        "verdict": verdict.word(), "gate_v": number(need.volts), "specified_v": number(need.specified),
        "threshold_v": need.threshold.and_then(number), "stands_v": asked.stands.and_then(number),
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
    let when = if pwm { "over and over" } else { "each time it is let go" };
    let mut lines = vec![match class {
        Some(c) => format!("take `{}` across it, its cathode to the +: it carries {current} {when}", c.name),
        None => format!("no class of diode carries {current} {when}: take one whose sheet does"),
    }];
    if let Some(c) = class {
        lines.push(format!(
            "{} for long, {} once, {} backwards, {}",
            c.current,
            c.surge,
            c.reverse,
            if c.fast { "fast" } else { "slow: not above 1 kHz" }
        ));
    }
    let told = |what: &str, r: &Release| {
        format!(
            "{what} it lets go after {}; the switch sees {}; {} go into the path and the winding",
            r.time, r.peak, r.energy
        )
    };
    lines.extend(plain.map(|(_, r)| told("through the diode", r)));
    lines.extend(zener.map(|(z, r)| told(&format!("with {z} of a Zener diode besides"), r)));
    if plain.is_none() {
        lines.push("how long it holds is not known: give `--inductance` and `--resistance` of the winding".into());
    }
    let release = |r: &Release| json!({ "time_s": number(r.time), "until_still_s": number(r.until_still), "energy_j": number(r.energy), "peak_v": number(r.peak) });
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
            Some(format!("its coil stands {}", t.coil.stands))
        } else if !t.coil.enough {
            Some(format!("its coil wants {}, warm", t.coil.pulls_in))
        } else {
            match t.may {
                None => Some("nothing is promised at these volts".to_owned()),
                Some(may) if current > may => Some(format!("of its {} {may} are left for this load", t.rating)),
                Some(_) => None,
            }
        }
    };
    let fitting: Vec<&str> = tried.iter().filter(|t| why(t).is_none()).map(|t| t.class.as_str()).collect();
    let mut lines = vec![if fitting.is_empty() {
        "no class does it: take a relay for more, or a MOSFET with a diode across the load".to_owned()
    } else {
        format!("take {}: its coil gets {} .. {}", fitting.join(" or "), gets.low, gets.high)
    }];
    lines.push("a coil on a transistor wants a diode across it, and a winding at a contact one of its own".into());
    let row = |t: &RelayTried| {
        vec![
            t.class.clone(),
            t.coil.pulls_in.to_string(),
            t.coil.stands.to_string(),
            t.may.map_or_else(|| "–".into(), |m| m.to_string()),
            why(t).unwrap_or_else(|| "does it".into()),
        ]
    };
    let table = Table::new(
        [named("relay"), values("pulls in"), values("stands"), values("switches"), words("verdict")],
        tried.iter().map(row),
    );
    let classes: Vec<Value> = tried
        .iter()
        .map(|t| {
            json!({
                "class": t.class, "pulls_in_v": number(t.coil.pulls_in), "stands_v": number(t.coil.stands),
                "may_a": t.may.and_then(number), "fits": why(t).is_none(), "why_not": why(t),
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
            Some(BridgeLack::TooMuchSupply) => Some(format!("takes {} at most", n.range.high)),
            Some(BridgeLack::TooLittleSupply) => Some(format!("works from {}", n.range.low)),
            Some(BridgeLack::Runs) => Some(format!("carries {} for long", n.carries)),
            Some(BridgeLack::Stall) => Some(format!("carries {} for long, and held {} flow", n.carries, n.stall)),
            Some(BridgeLack::Moment) => Some(format!("stands {} for a moment, and {} flow", n.peak, s.moment)),
            None => None,
        };
        let hot = || s.junction.filter(|j| *j > self.limit).map(|j| format!("gets {j} warm, of {}", self.limit));
        let low = || wants.filter(|w| s.leaves < *w).map(|w| format!("leaves less than the {w} that are wanted"));
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
            format!("take {}: it leaves the motor {} and gets {} of heat", t.class, t.state.leaves, t.state.heat)
        }
        None => "no class does it: take two single bridges in parallel by their sheet, or one for more".to_owned(),
    }];
    let row = |t: &&BridgeTried| {
        vec![
            t.class.clone(),
            t.state.leaves.to_string(),
            t.state.heat.to_string(),
            t.state.junction.map_or_else(|| "–".into(), |j| j.to_string()),
            t.state.moment.to_string(),
            t.why_not(wants).unwrap_or_else(|| "does it".into()),
        ]
    };
    let heads = [
        named("bridge"),
        values("leaves"),
        words("heat"),
        values("junction"),
        values("for a moment"),
        words("verdict"),
    ];
    let table = Table::new(heads, sorted.iter().map(row));
    let classes: Vec<Value> = sorted
        .iter()
        .map(|t| {
            json!({
                "class": t.class, "leaves_v": number(t.state.leaves), "heat_w": number(t.state.heat),
                "junction_c": t.state.junction.and_then(number), "moment_a": number(t.state.moment),
                "fits": t.why_not(wants).is_none(), "why_not": t.why_not(wants),
            })
        })
        .collect();
    SizeAnswer::new(lines, json!({ "classes": classes }), best.is_some()).with(Block::Table(table))
}

/// `size stage`: the stages that work out, the simplest first, and why the others do not.
#[must_use]
pub fn size_stage(wish: &StageWish, found: &StageOffers, tables: Option<&str>) -> SizeAnswer {
    let own = |o: &&modest_ohm::advise::StageOffer| tables.is_some_and(|t| t == o.class);
    if let Some(offer) = found.offers.iter().find(own) {
        let figures = json!({ "class": offer.class, "toml": offer.toml });
        let lines = vec![format!("`{}` for `{}` on {}, as tables of a plan", offer.class, wish.load, wish.rail)];
        return SizeAnswer::new(lines, figures, true).with(Block::Verbatim(offer.toml.clone()));
    }
    let mut lines = vec![match found.offers.first() {
        Some(first) if first.parts.len() > 1 => format!("take {}, with {}", first.class, first.parts[1..].join(", ")),
        Some(first) => format!("take {}", first.class),
        None => format!("no stage of the catalogue switches `{}` on {} from `{}`", wish.load, wish.rail, wish.board),
    }];
    lines
        .push("each was put into a plan with this load, rail and board, solved and checked; the simplest first".into());
    if !found.offers.is_empty() {
        lines.push("`--tables CLASS` prints the tables of a plan for one of them".into());
    }
    let row = |o: &modest_ohm::advise::StageOffer| {
        vec![
            o.class.clone(),
            o.leaves.map_or_else(|| "–".into(), |v| v.to_string()),
            o.parts.iter().skip(1).cloned().collect::<Vec<_>>().join(", "),
        ]
    };
    let mut answer_tables = Vec::new();
    if !found.offers.is_empty() {
        let rows = found.offers.iter().map(row);
        answer_tables.push(Table::new([named("stage"), values("leaves"), prose("besides")], rows));
    }
    if !found.passed_over.is_empty() {
        let rows = found.passed_over.iter().map(|p| vec![p.class.clone(), p.why.clone()]);
        answer_tables.push(Table::new([named("not"), prose("why")], rows));
    }
    let offers: Vec<Value> = found
        .offers
        .iter()
        .map(|o| {
            json!({
                "class": o.class, "kind": o.kind, "parts": o.parts, "toml": o.toml, "leaves_v": o.leaves.and_then(number),
                "heat": o.heat, "advice": o.advice,
            })
        })
        .collect();
    let passed: Vec<Value> =
        found.passed_over.iter().map(|p| json!({ "class": p.class, "kind": p.kind, "why": p.why })).collect();
    let figures =
        json!({ "load": wish.load, "rail": wish.rail, "board": wish.board, "offers": offers, "passed_over": passed });
    let answer = SizeAnswer::new(lines, figures, !found.offers.is_empty());
    answer_tables.into_iter().map(Block::Table).fold(answer, SizeAnswer::with)
}
