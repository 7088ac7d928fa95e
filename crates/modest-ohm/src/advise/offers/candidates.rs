//! Candidates for a stage, from the simplest on: what each is made of, sized for the load.

use super::rig::{Rig, STAGE};
use crate::advise::offers::{StagePassedOver, StageWish};
use crate::catalogue::Catalogue;
use crate::quantity::units::{Amps, Ohms, Volts};
use crate::size::base::{BaseNeed, base};
use crate::size::flyback::flyback_class;
use crate::size::series::Series;
use crate::size::stock::Values;

/// A stage to be tried.
pub(crate) struct Candidate {
    pub class: &'static str,
    pub kind: &'static str,
    pub parts: Vec<String>,
    pub toml: String,
}

type Made = Result<Candidate, StagePassedOver>;

const TRANSISTORS: [(&str, f64); 3] = [("npn-small", 10.0), ("npn-power", 10.0), ("darlington-power", 250.0)];
const FETS: [&str; 4] = ["nmos-small-30v", "nmos-logic-30v", "nmos-logic-55v", "nmos-10v-60v"];
const MODULES: [&str; 3] = ["mosfet-module-logic", "mosfet-module-10v", "mosfet-module-opto"];
const HIGH_SIDE: [&str; 2] = ["pmos-30v", "pmos-55v"];
const RELAYS: [&str; 2] = ["relay-5v", "relay-12v"];
const SOLID_STATE: [&str; 2] = ["solid-state-dc", "solid-state-ac"];
const BRIDGES: [&str; 4] = ["bridge-mosfet-13v", "bridge-mosfet-10v", "bridge-bipolar-0a6", "bridge-bipolar-2a"];

/// All candidates, the simplest first.
pub(crate) fn candidates(wish: &StageWish, rig: &Rig) -> Vec<Made> {
    let mut all: Vec<Made> = Vec::new();
    let bridges = || BRIDGES.iter().map(|class| bridge(wish, rig, class));
    if wish.both_ways {
        all.extend(bridges());
        return all;
    }
    if lacks_diode(wish, rig) {
        let why = format!("no class of diode takes the {} of its winding when it is let go", Amps::new(rig.most_a));
        let passed = |class: &str, kind| Err(StagePassedOver { class: class.to_owned(), kind, why: why.clone() });
        all.extend(FETS.iter().map(|class| passed(class, "MOSFET")));
        if rig.is_motor {
            all.extend(bridges());
        }
        return all;
    }
    all.extend(TRANSISTORS.iter().map(|(class, ratio)| transistor(wish, rig, class, *ratio)));
    all.extend(FETS.iter().map(|class| Ok(fet(wish, rig, class))));
    all.push(Ok(array(wish, rig)));
    all.extend(MODULES.iter().map(|class| Ok(module(wish, rig, class))));
    all.extend(HIGH_SIDE.iter().map(|class| Ok(high_side(wish, rig, class))));
    all.extend(RELAYS.iter().map(|class| relay(wish, rig, class)));
    all.push(relay_module(wish, rig));
    all.extend(SOLID_STATE.iter().map(|class| Ok(solid_state(wish, rig, class))));
    if rig.is_motor {
        all.extend(bridges());
    }
    all
}

fn pwm_line(wish: &StageWish) -> String {
    wish.pwm.map_or_else(String::new, |f| format!("pwm = \"{f}\"\n"))
}

/// True where its winding wants a diode that no class is.
fn lacks_diode(wish: &StageWish, rig: &Rig) -> bool {
    rig.is_winding && flyback(wish, rig).1.is_none()
}

/// The line of the load's flyback diode, and the part.
fn flyback(wish: &StageWish, rig: &Rig) -> (String, Option<String>) {
    if !rig.is_winding {
        return (String::new(), None);
    }
    let class = flyback_class(Amps::new(rig.most_a), Volts::new(rig.rail_high), wish.pwm.is_some());
    match class {
        Some(class) => (format!("flyback = \"{}\"\n", class.name), Some(class.name.to_owned())),
        None => (String::new(), None),
    }
}

/// The tables of a driver named `stage` and of the load behind it.
fn behind(rig: &Rig, driver: &str, more: &str) -> String {
    let load = rig.load("rail", &format!("driver = \"{STAGE}\"\n{more}"));
    format!("[driver.{STAGE}]\n{driver}\n{load}")
}

fn made(class: &'static str, kind: &'static str, parts: Vec<Option<String>>, toml: String) -> Candidate {
    Candidate { class, kind, parts: parts.into_iter().flatten().collect(), toml }
}

fn part(name: &str) -> Option<String> {
    Some(name.to_owned())
}

/// The base resistor of a transistor for a current, from a pin; an error in words where none does it.
fn base_resistor(rig: &Rig, class: &str, amps: f64, ratio: f64) -> Result<Ohms, String> {
    let figure = |key: &str| {
        let (_, node) = Catalogue.get(class)?.table.get(key)?;
        let crate::text::tree::Value::Text(text, _) = &node.value else { return None };
        crate::quantity::parse::parse_figure::<Volts>(text).ok()
    };
    let vbe = figure("vbe").map_or((0.8, 0.6), |f| (f.high.get(), f.low.get()));
    let Some(pin) = rig.pin_a else { return Err("what a pin of the board carries is not given".into()) };
    let need = BaseNeed {
        vdd: Volts::new(rig.vdd.0),
        pin: Ohms::new(rig.pin_ohms.high.get()),
        vbe: (Volts::new(vbe.0), Volts::new(vbe.1)),
        current: Amps::new(amps),
        ratio,
        // The resistor may be 5 % less, and the pin's supply at its highest.
        pin_recommended: Amps::new(pin.get() * 0.93 * rig.vdd.0 / rig.vdd.1),
    };
    let size = base(need, &Values::Series(Series::E12));
    size.chosen.ok_or_else(|| {
        let wanted = Amps::new(amps / ratio);
        let asks = format!("{} through it want {wanted} at its base", Amps::new(amps));
        match size.base {
            _ if wanted > pin => format!("{asks}, and a pin gives {pin} for long"),
            Some(most) => format!("{asks}; a resistor for that lets up to {most} flow, and a pin gives {pin} for long"),
            None => format!("{asks}, and a pin has no volts to spare for a resistor there"),
        }
    })
}

fn transistor(wish: &StageWish, rig: &Rig, class: &'static str, ratio: f64) -> Made {
    let kind = if ratio > 100.0 { "Darlington transistor" } else { "transistor" };
    let ohms = base_resistor(rig, class, rig.most_a, ratio).map_err(|why| StagePassedOver {
        class: class.to_owned(),
        kind,
        why,
    })?;
    let (diode, diode_part) = flyback(wish, rig);
    let driver = format!(
        "part = \"{class}\"\npin = \"{}\"\nrest = \"off\"\nbase-resistor = \"{ohms}\"\n{}",
        rig.pins[0],
        pwm_line(wish)
    );
    let parts = vec![part(class), Some(format!("{ohms} at its base")), diode_part];
    Ok(made(class, kind, parts, behind(rig, &driver, &diode)))
}

fn fet(wish: &StageWish, rig: &Rig, class: &'static str) -> Candidate {
    let (diode, diode_part) = flyback(wish, rig);
    let driver = format!(
        "part = \"{class}\"\npin = \"{}\"\nrest = \"off\"\ngate-resistor = \"100 Ω\"\npull-down = \"10 kΩ\"\n{}",
        rig.pins[0],
        pwm_line(wish)
    );
    let parts = vec![part(class), part("100 Ω at its gate"), part("10 kΩ from its gate to −"), diode_part];
    made(class, "MOSFET", parts, behind(rig, &driver, &diode))
}

fn array(wish: &StageWish, rig: &Rig) -> Candidate {
    let class = "darlington-array";
    let load = rig.load("rail", &format!("driver = \"{STAGE}.1\"\n"));
    let toml = format!(
        "[driver.{STAGE}]\npart = \"{class}\"\nrest = \"off\"\ncommon = \"rail\"\n{}\n[driver.{STAGE}.channels]\n1 = \"{}\"\n\n{load}",
        pwm_line(wish),
        rig.pins[0]
    );
    made(class, "Darlington array", vec![part("darlington-array, its common pin at the rail")], toml)
}

fn module(wish: &StageWish, rig: &Rig, class: &'static str) -> Candidate {
    let (diode, diode_part) = flyback(wish, rig);
    let driver = format!("part = \"{class}\"\npin = \"{}\"\nrest = \"off\"\n{}", rig.pins[0], pwm_line(wish));
    made(class, "MOSFET module", vec![part(class), diode_part], behind(rig, &driver, &diode))
}

/// Above this the gate of a P-channel MOSFET wants a clamp: what small ones stand.
const GATE_V: f64 = 12.0;

fn high_side(wish: &StageWish, rig: &Rig, class: &'static str) -> Candidate {
    let (diode, diode_part) = flyback(wish, rig);
    let clamp = if rig.rail_high > GATE_V { "gate-clamp = \"10 V .. 11 V\"\n" } else { "" };
    let driver = format!(
        "part = \"{class}\"\npin = \"{}\"\nrest = \"off\"\npull-up = \"10 kΩ\"\n{clamp}gate-driver = {{ part = \
         \"npn-small\", base-resistor = \"10 kΩ\" }}\n{}",
        rig.pins[0],
        pwm_line(wish)
    );
    let zener = (!clamp.is_empty()).then(|| "a Zener diode of 10 V at its gate".to_owned());
    let parts = vec![
        part(class),
        part("npn-small with 10 kΩ at its base"),
        part("10 kΩ from gate to source"),
        zener,
        diode_part,
    ];
    made(class, "P-channel MOSFET", parts, behind(rig, &driver, &diode))
}

/// A relay, its coil on the 5 V or on the rail, switched by a small transistor.
fn relay(wish: &StageWish, rig: &Rig, class: &'static str) -> Made {
    let kind = "relay";
    let (feed, coil_a) = if class == "relay-5v" { ("logic", 0.0785) } else { ("rail", rig.rail_high / 360.0) };
    let ohms = base_resistor(rig, "npn-small", coil_a, 10.0).map_err(|why| StagePassedOver {
        class: class.to_owned(),
        kind,
        why: format!("its coil: {why}"),
    })?;
    let (diode, diode_part) = flyback(wish, rig);
    let switch = format!(
        "[driver.coil-switch]\npart = \"npn-small\"\npin = \"{}\"\nrest = \"off\"\nbase-resistor = \"{ohms}\"\n{}\n",
        rig.pins[0],
        pwm_line(wish)
    );
    let driver = format!(
        "part = \"{class}\"\nfrom = \"{feed}\"\ncable = \"0.1 m 20 AWG\"\ndriver = \"coil-switch\"\nflyback = \
         \"signal-diode-100v\"\n"
    );
    let parts = vec![
        part(class),
        Some(format!("npn-small with {ohms} at its base")),
        part("signal-diode-100v across the coil"),
        diode_part.map(|d| format!("{d} across the load")),
    ];
    Ok(made(class, kind, parts, format!("{switch}{}", behind(rig, &driver, &diode))))
}

fn relay_module(wish: &StageWish, rig: &Rig) -> Made {
    let (class, kind) = ("relay-module-5v", "relay module");
    let Some(pin) = &rig.pin_at_high else {
        let why = "it is on while its pin is low, and the board has no pin to spare that is not low while it starts";
        return Err(StagePassedOver { class: class.to_owned(), kind, why: why.to_owned() });
    };
    let (diode, diode_part) = flyback(wish, rig);
    // Its optocoupler hangs on the rail that the pin runs on, so that the pin lets it go.
    let logic = if rig.vdd.0 > 4.0 { "logic" } else { "keeper.3v3" };
    let indicator = if rig.vdd.0 > 4.0 { "series" } else { "none" };
    let driver = format!(
        "part = \"{class}\"\nfrom = {{ coil = {{ node = \"logic\", cable = \"0.1 m 20 AWG\" }}, logic = \"{logic}\" }}\njumper = \
         \"out\"\npin = \"{}\"\nrest = \"off\"\nopto = {{ resistor = \"1 kΩ\", indicator = \"{indicator}\", from = \"{logic}\" }}\n{}",
        pin,
        pwm_line(wish)
    );
    let parts = vec![part(class), diode_part.map(|d| format!("{d} across the load"))];
    Ok(made(class, kind, parts, behind(rig, &driver, &diode)))
}

fn solid_state(wish: &StageWish, rig: &Rig, class: &'static str) -> Candidate {
    let (diode, diode_part) = flyback(wish, rig);
    let driver = format!("part = \"{class}\"\npin = \"{}\"\nrest = \"off\"\n{}", rig.pins[0], pwm_line(wish));
    made(class, "solid-state relay", vec![part(class), diode_part], behind(rig, &driver, &diode))
}

fn bridge(wish: &StageWish, rig: &Rig, class: &'static str) -> Made {
    let kind = "bridge";
    if wish.grounded {
        let why = "a bridge drives both ends of its motor, and this one's − is its case".to_owned();
        return Err(StagePassedOver { class: class.to_owned(), kind, why });
    }
    let pins = if wish.both_ways {
        format!("\"{}\", \"{}\"", rig.pins[0], rig.pins[1])
    } else {
        format!("\"{}\"", rig.pins[0])
    };
    // Those of the MOSFET kind take the pins' own rail; bipolar ones want 5 V.
    let logic = if class.contains("mosfet") && rig.vdd.0 < 4.0 { "keeper.3v3" } else { "logic" };
    let load = rig.load(&format!("{STAGE}.a"), "");
    let toml = format!(
        "[driver.{STAGE}]\npart = \"{class}\"\nfrom = {{ motor = {{ node = \"rail\", cable = \"0.1 m 12 AWG\" }}, logic = {{ node = \
         \"{logic}\", cable = \"0.1 m 20 AWG\" }} }}\npins = [{pins}]\n{}\n{load}",
        pwm_line(wish)
    );
    Ok(made(class, kind, vec![part(class)], toml))
}
