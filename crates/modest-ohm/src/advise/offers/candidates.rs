//! Candidates for a stage, from the simplest on: what each is made of, sized for the load.

use super::rig::Rig;
use crate::advise::offers::{DriverRejected, DriverRequest};
use crate::catalogue::{Catalogue, Class};
use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Ohms, Volts};
use crate::size::base::{BaseNeed, base};
use crate::size::flyback::flyback_class;
use crate::size::series::Series;
use crate::size::stock::Values;

/// A stage to be tried.
pub(crate) struct Candidate {
    pub class: String,
    pub kind: &'static str,
    pub parts: Vec<String>,
    pub toml: String,
}

type Made = Result<Candidate, DriverRejected>;

/// Collector current over base current with which a transistor, and a Darlington pair, saturates well.
const RATIO: f64 = 10.0;
const DARLINGTON_RATIO: f64 = 250.0;

/// The classes of a kind.
fn classes(kind: &str) -> impl Iterator<Item = &'static Class> {
    Catalogue.drivers(kind)
}

/// All candidates, the simplest first.
pub(crate) fn candidates(wish: &DriverRequest, rig: &Rig) -> Vec<Made> {
    let mut all: Vec<Made> = Vec::new();
    let bridges = || classes("bridge").map(|class| bridge(wish, rig, class));
    if wish.reversible {
        all.extend(bridges());
        return all;
    }
    if lacks_diode(wish, rig) {
        let why = format!("no diode in the catalogue is rated for {} at turn-off", Amps::new(rig.most_a));
        let passed = |class: &str, kind| Err(DriverRejected { class: class.to_owned(), kind, why: why.clone() });
        all.extend(classes("nmos").map(|class| passed(&class.name, "MOSFET")));
        if rig.is_motor {
            all.extend(bridges());
        }
        return all;
    }
    all.extend(classes("npn").map(|class| transistor(wish, rig, class, RATIO)));
    // An array has its resistors in it.
    let is_array = |class: &&Class| class.word("input-resistor").is_some();
    let pairs = classes("darlington").filter(|class| !is_array(class));
    all.extend(pairs.map(|class| transistor(wish, rig, class, DARLINGTON_RATIO)));
    all.extend(classes("nmos").map(|class| Ok(fet(wish, rig, &class.name))));
    all.extend(classes("darlington").filter(is_array).map(|class| Ok(array(wish, rig, &class.name))));
    all.extend(classes("mosfet-module").map(|class| Ok(module(wish, rig, &class.name))));
    all.extend(classes("pmos").map(|class| Ok(high_side(wish, rig, &class.name))));
    all.extend(classes("relay").map(|class| relay(wish, rig, class)));
    all.extend(classes("relay-module").map(|class| relay_module(wish, rig, &class.name)));
    all.extend(classes("solid-state").map(|class| Ok(solid_state(wish, rig, &class.name))));
    if rig.is_motor {
        all.extend(bridges());
    }
    all
}

fn pwm_line(wish: &DriverRequest) -> String {
    wish.pwm.map_or_else(String::new, |f| format!("pwm = \"{f}\"\n"))
}

/// True where its coil needs a diode that no class is.
fn lacks_diode(wish: &DriverRequest, rig: &Rig) -> bool {
    rig.is_winding && flyback(wish, rig).1.is_none()
}

/// The line of the load's flyback diode, and the part.
fn flyback(wish: &DriverRequest, rig: &Rig) -> (String, Option<String>) {
    if !rig.is_winding {
        return (String::new(), None);
    }
    let class = flyback_class(Amps::new(rig.most_a), Volts::new(rig.rail_high), wish.pwm.is_some());
    match class {
        Some(class) => (format!("flyback = \"{}\"\n", class.name), Some(class.name.to_owned())),
        None => (String::new(), None),
    }
}

/// The tables of a driver, named by its class, and of the load behind it.
fn behind(rig: &Rig, class: &str, driver: &str, more: &str) -> String {
    let load = rig.load("rail", &format!("driver = \"{class}\"\n{more}"));
    format!("[driver.{class}]\n{driver}\n{load}")
}

fn made(class: &str, kind: &'static str, parts: Vec<Option<String>>, toml: String) -> Candidate {
    Candidate { class: class.to_owned(), kind, parts: parts.into_iter().flatten().collect(), toml }
}

fn part(name: &str) -> Option<String> {
    Some(name.to_owned())
}

/// The base resistor of a transistor for a current, from a pin; an error in words where none does it.
fn base_resistor(rig: &Rig, class: &Class, amps: f64, ratio: f64) -> Result<Ohms, String> {
    let vbe = class.figure::<Volts>("vbe").map_or((0.8, 0.6), |f| (f.high.get(), f.low.get()));
    let Some(pin) = rig.pin_a else { return Err("the rating of the board's pins is not given".into()) };
    let need = BaseNeed {
        vdd: Volts::new(rig.vdd.0),
        pin: Ohms::new(rig.pin_ohms.high.get()),
        vbe: Range::new(Volts::new(vbe.1), Volts::new(vbe.0)),
        current: Amps::new(amps),
        ratio,
        // The resistor may be 5 % less, and the pin's supply at its highest.
        pin_recommended: Amps::new(pin.get() * 0.93 * rig.vdd.0 / rig.vdd.1),
    };
    let size = base(&need, &Values::Series(Series::E12));
    size.chosen.ok_or_else(|| {
        let wanted = Amps::new(amps / ratio);
        let asks = format!("{} needs {wanted} at its base", Amps::new(amps));
        match size.base {
            _ if wanted > pin => format!("{asks}; a pin is rated {pin} continuous"),
            Some(most) => format!(
                "{asks}; a resistor for that draws up to {most}, and a pin is rated {pin} \
                continuous"
            ),
            None => format!("{asks}, and the pin's voltage leaves none for a resistor"),
        }
    })
}

fn transistor(wish: &DriverRequest, rig: &Rig, part_class: &'static Class, ratio: f64) -> Made {
    let class = part_class.name.as_str();
    let kind = if ratio > 100.0 { "Darlington transistor" } else { "transistor" };
    let ohms = base_resistor(rig, part_class, rig.most_a, ratio).map_err(|why| DriverRejected {
        class: class.to_owned(),
        kind,
        why,
    })?;
    let (diode, diode_part) = flyback(wish, rig);
    let driver = format!(
        "part = \"{class}\"\npin = \"{}\"\nsafe-state = \"off\"\nbase-resistor = \"{ohms}\"\n{}",
        rig.pins[0],
        pwm_line(wish)
    );
    let parts = vec![part(class), Some(format!("{ohms} at its base")), diode_part];
    Ok(made(class, kind, parts, behind(rig, class, &driver, &diode)))
}

fn fet(wish: &DriverRequest, rig: &Rig, class: &str) -> Candidate {
    let (diode, diode_part) = flyback(wish, rig);
    let driver = format!(
        "part = \"{class}\"\npin = \"{}\"\nsafe-state = \"off\"\ngate-resistor = \"100 Ω\"\npull-down = \"10 kΩ\"\n{}",
        rig.pins[0],
        pwm_line(wish)
    );
    let parts = vec![part(class), part("100 Ω at its gate"), part("10 kΩ from its gate to ground"), diode_part];
    made(class, "MOSFET", parts, behind(rig, class, &driver, &diode))
}

fn array(wish: &DriverRequest, rig: &Rig, class: &str) -> Candidate {
    let load = rig.load("rail", &format!("driver = \"{class}.1\"\n"));
    let toml = format!(
        "[driver.{class}]\npart = \"{class}\"\nsafe-state = \"off\"\ncommon = \"rail\"\n{}\n[driver.{class}.channels]\n1 = \"{}\"\n\n{load}",
        pwm_line(wish),
        rig.pins[0]
    );
    made(class, "Darlington array", vec![Some(format!("{class}, its common pin at the rail"))], toml)
}

fn module(wish: &DriverRequest, rig: &Rig, class: &str) -> Candidate {
    let (diode, diode_part) = flyback(wish, rig);
    let driver = format!("part = \"{class}\"\npin = \"{}\"\nsafe-state = \"off\"\n{}", rig.pins[0], pwm_line(wish));
    made(class, "MOSFET module", vec![part(class), diode_part], behind(rig, class, &driver, &diode))
}

/// Above this the gate of a P-channel MOSFET needs a clamp: what small ones stand.
const GATE_V: f64 = 12.0;

fn high_side(wish: &DriverRequest, rig: &Rig, class: &str) -> Candidate {
    let small = classes("npn").next().map_or("npn-small", |c| c.name.as_str());
    let (diode, diode_part) = flyback(wish, rig);
    let clamp = if rig.rail_high > GATE_V { "gate-clamp = \"10 V .. 11 V\"\n" } else { "" };
    let driver = format!(
        "part = \"{class}\"\npin = \"{}\"\nsafe-state = \"off\"\npull-up = \"10 kΩ\"\n{clamp}gate-driver = {{ part = \
         \"{small}\", base-resistor = \"10 kΩ\" }}\n{}",
        rig.pins[0],
        pwm_line(wish)
    );
    let zener = (!clamp.is_empty()).then(|| "a 10 V Zener diode at its gate".to_owned());
    let parts = vec![
        part(class),
        Some(format!("{small} with 10 kΩ at its base")),
        part("10 kΩ from gate to source"),
        zener,
        diode_part,
    ];
    made(class, "P-channel MOSFET", parts, behind(rig, class, &driver, &diode))
}

/// Coils for less than this are connected to the board's 5 V, which is at most so much, V.
const LOGIC_COIL_V: f64 = 6.0;
const LOGIC_HIGH_V: f64 = 5.05;

/// A relay, its coil on the 5 V or on the rail, switched by a small transistor.
fn relay(wish: &DriverRequest, rig: &Rig, part_class: &'static Class) -> Made {
    let (class, kind) = (part_class.name.as_str(), "relay");
    let passed = |why: String| DriverRejected { class: class.to_owned(), kind, why };
    let coil = part_class.figure::<Volts>("coil").zip(part_class.figure::<Ohms>("coil-resistance"));
    let Some((volts, ohms)) = coil else { return Err(passed("its coil current is not in the catalogue".into())) };
    // A coil for a logic supply is connected to that; a copper coil has 10 % of tolerance.
    let (feed, rail_v) =
        if volts.typical.get() < LOGIC_COIL_V { ("logic", LOGIC_HIGH_V) } else { ("rail", rig.rail_high) };
    let coil_a = rail_v / ohms.with_tolerance(0.10).low.get();
    let Some(switch_class) = classes("npn").next() else {
        return Err(passed("no transistor in the catalogue drives its coil".into()));
    };
    let small = &switch_class.name;
    let ohms = base_resistor(rig, switch_class, coil_a, RATIO).map_err(|why| passed(format!("its coil: {why}")))?;
    let (diode, diode_part) = flyback(wish, rig);
    let switch = format!(
        "[driver.coil-switch]\npart = \"{small}\"\npin = \"{}\"\nsafe-state = \"off\"\nbase-resistor = \"{ohms}\"\n{}\n",
        rig.pins[0],
        pwm_line(wish)
    );
    let driver = format!(
        "part = \"{class}\"\nfrom = \"{feed}\"\ncable = \"0.1 m 20 AWG\"\ndriver = \"coil-switch\"\nflyback = \
         \"signal-diode-100v\"\n"
    );
    let parts = vec![
        part(class),
        Some(format!("{small} with {ohms} at its base")),
        part("signal-diode-100v across the coil"),
        diode_part.map(|d| format!("{d} across the load")),
    ];
    Ok(made(class, kind, parts, format!("{switch}{}", behind(rig, class, &driver, &diode))))
}

fn relay_module(wish: &DriverRequest, rig: &Rig, class: &str) -> Made {
    let kind = "relay module";
    let Some(pin) = &rig.pin_at_high else {
        let why = "it is on while its pin is low, and the board has no spare pin that is not low at boot";
        return Err(DriverRejected { class: class.to_owned(), kind, why: why.to_owned() });
    };
    let (diode, diode_part) = flyback(wish, rig);
    // Its optocoupler is connected to the rail that the pin runs on, so that the pin lets it go.
    let logic = if rig.vdd.0 > 4.0 { "logic".to_owned() } else { rig.logic_output() };
    let indicator = if rig.vdd.0 > 4.0 { "series" } else { "none" };
    let driver = format!(
        "part = \"{class}\"\nfrom = {{ coil = {{ node = \"logic\", cable = \"0.1 m 20 AWG\" }}, logic = \"{logic}\" }}\njumper = \
         \"out\"\npin = \"{}\"\nsafe-state = \"off\"\nopto = {{ resistor = \"1 kΩ\", indicator = \"{indicator}\", from = \"{logic}\" }}\n{}",
        pin,
        pwm_line(wish)
    );
    let parts = vec![part(class), diode_part.map(|d| format!("{d} across the load"))];
    Ok(made(class, kind, parts, behind(rig, class, &driver, &diode)))
}

fn solid_state(wish: &DriverRequest, rig: &Rig, class: &str) -> Candidate {
    let (diode, diode_part) = flyback(wish, rig);
    let driver = format!("part = \"{class}\"\npin = \"{}\"\nsafe-state = \"off\"\n{}", rig.pins[0], pwm_line(wish));
    made(class, "solid-state relay", vec![part(class), diode_part], behind(rig, class, &driver, &diode))
}

fn bridge(wish: &DriverRequest, rig: &Rig, part_class: &'static Class) -> Made {
    let (class, kind) = (part_class.name.as_str(), "bridge");
    if wish.grounded {
        let why = "a bridge drives both ends of its motor, and the negative of this one is its case".to_owned();
        return Err(DriverRejected { class: class.to_owned(), kind, why });
    }
    let pins = if wish.reversible {
        format!("\"{}\", \"{}\"", rig.pins[0], rig.pins[1])
    } else {
        format!("\"{}\"", rig.pins[0])
    };
    // Its logic is connected to the pins' own rail where it works from that, else on 5 V.
    let works = part_class.figure::<Volts>("logic-voltage").is_some_and(|f| f.low.get() <= rig.vdd.0);
    let logic = if works && rig.vdd.0 < 4.0 { rig.logic_output() } else { "logic".to_owned() };
    let load = rig.load(&format!("{class}.a"), "");
    let toml = format!(
        "[driver.{class}]\npart = \"{class}\"\nfrom = {{ motor = {{ node = \"rail\", cable = \"0.1 m 12 AWG\" }}, logic = {{ node = \
         \"{logic}\", cable = \"0.1 m 20 AWG\" }} }}\npins = [{pins}]\n{}\n{load}",
        pwm_line(wish)
    );
    Ok(made(class, kind, vec![part(class)], toml))
}
