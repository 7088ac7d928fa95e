//! The plan that candidates are tried in: a rail, a board, the load, and nothing else that could be found fault with.

use crate::advise::offers::{DriverRequest, rail_of};
use crate::catalogue::{Catalogue, Class};
use crate::plan::kinds::board::Board;
use crate::plan::kinds::load::Demand;
use crate::plan::kinds::load_kind::LoadKind;
use crate::plan::model::Plan;
use crate::plan::pins::{Ability, AtBoot, Level, Pin, PinKind};
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Ohms, Volts};

/// What candidates are sized by, and tried in.
///
/// Its items are named by the classes that the user asked for, so that what is found of them speaks of parts that he
/// knows.
pub(crate) struct Rig {
    head: String,
    /// The load's name, and the board's.
    pub load_name: String,
    board: String,
    /// The load's table but for what switches it, and the node that feeds it.
    load: String,
    /// Of the rail, at most, V.
    pub rail_high: f64,
    /// What flows through the load at most, in a start or a stall, A.
    pub most_a: f64,
    pub is_winding: bool,
    pub is_motor: bool,
    /// Pins that a signal may use and that rest low while the board starts, `keeper.io16`: at least one, two for a
    /// bridge.
    pub pins: Vec<String>,
    /// One that rests high.
    pub pin_at_high: Option<String>,
    pub pin_ohms: Figure<Ohms>,
    /// What a pin may carry continuously.
    pub pin_a: Option<Amps>,
    /// The pins' supply, least and most, V.
    pub vdd: (f64, f64),
}

impl Rig {
    /// The whole plan, with a candidate's tables.
    pub fn plan_with(&self, stage: &str) -> String {
        format!("{}\n{stage}", self.head)
    }

    /// The board's output that its pins run on.
    pub fn logic_output(&self) -> String {
        format!("{}.3v3", self.board)
    }

    /// The load's table: fed from `from`, with further lines.
    pub fn load(&self, from: &str, lines: &str) -> String {
        format!("{}from = \"{from}\"\n{lines}", self.load)
    }
}

/// What a board is fed with.
const LOGIC: &str = "\n[supply.logic]\nkind = \"bench\"\nvoltage = \"5 V ± 1 %\"\nresistance = \"0 Ω\"\ncurrent = \"4 A\"\n\
     \n[ground.tie]\nbetween = [\"rail\", \"logic\"]\ncable = \"0.1 m 14 AWG\"\n";

/// The class of the load of a wish; an error where its classes are not such that a stage could lie between them.
fn classes_of(wish: &DriverRequest) -> Result<&'static Class, String> {
    let class = Catalogue.get(&wish.load).ok_or_else(|| unknown(&wish.load, &switched_kinds()))?;
    if !switched_kinds().contains(&class.kind.as_str()) {
        return Err(match class.kind.as_str() {
            "servo" => format!(
                "`{}` is a servo: it is always powered and controlled by its signal; it needs no driver",
                wish.load
            ),
            kind => format!("`{}` is a {kind}; a driver switches a {}", wish.load, switched_kinds().join(", a ")),
        });
    }
    match Catalogue.get(&wish.board) {
        Some(board) if board.kind == "board" => {}
        Some(other) => return Err(format!("`{}` is a {}, not a board", wish.board, other.kind)),
        None => return Err(unknown(&wish.board, &["board"])),
    }
    Ok(class)
}

/// The pins of a board that can drive a stage: at power-on they leave the stage's input at a level. Pins that float
/// come first, for they ask least of it.
fn pins_at(wish: &DriverRequest, board: &Board, level: Level) -> Vec<String> {
    // What a stage with a pull-down, or without, leaves as the board needs it while it starts.
    let rests = |p: &&Pin| {
        let boot = p.boot == AtBoot::Floats || p.boot == AtBoot::At(level);
        p.kind == PinKind::Io && p.reserved.is_none() && boot && p.samples.is_none_or(|at| at == level)
    };
    let can_pwm = |p: &&Pin| wish.pwm.is_none() || p.can.as_ref().is_none_or(|c| c.contains(&Ability::Pwm));
    let mut list: Vec<&Pin> = board.pins.list.iter().filter(rests).filter(can_pwm).collect();
    list.sort_by_key(|p| (p.samples.is_some(), p.boot != AtBoot::Floats));
    list.into_iter().map(|p| format!("{}.{}", wish.board, p.name)).collect()
}

/// The rig of a wish.
///
/// # Errors
/// As [`stages`](super::stages).
pub(crate) fn rig(wish: &DriverRequest) -> Result<Rig, String> {
    let rail = rail_of(&wish.rail)?;
    let class = classes_of(wish)?;
    let board = format!("\n[board.{0}]\npart = \"{0}\"\nfrom = \"logic\"\ncable = \"0.1 m 20 AWG\"\n", wish.board);
    let grounded = if wish.grounded { "grounded = true\n" } else { "" };
    let watched = if class.kind == "pump" { "dry-running = \"allowed\"\n" } else { "" };
    let load =
        format!("[{0}.{1}]\npart = \"{1}\"\ncable = \"0.2 m 12 AWG\"\n{grounded}{watched}", class.kind, wish.load);
    // Once without a stage, to see what it takes and what the board's pins are.
    let bare = format!(
        "format = 1\n[supply.rail]\nkind = \"bench\"\nvoltage = \"{}\"\ncurrent = \"100 A\"\n{LOGIC}{board}\n{load}from = \"rail\"\n",
        wish.rail
    );
    let plan = Plan::from_toml(&bare).map_err(|e| e.to_string())?;
    let (first, keeper) = (&plan.loads[0], &plan.boards[0]);
    let most_a = largest_a(&first.demand, rail.high);
    // A supply that gives what the load takes at most, and not much more: what protects leads is no question here.
    let amps = Amps::new((1.3 * most_a + 0.5).max(1.0));
    let head = format!(
        "format = 1\n[supply.rail]\nkind = \"bench\"\nvoltage = \"{}\"\nresistance = \"0 Ω\"\ncurrent = \"{amps}\"\n{LOGIC}{board}",
        volts_text(&rail)
    );
    let pins = pins_at(wish, keeper, Level::Low);
    if pins.len() < if wish.reversible { 2 } else { 1 } {
        return Err(format!("`{}` has no pin that has what it needs and is low at boot", wish.board));
    }
    let vdd = match keeper.logic_regulator() {
        Some(r) => (r.voltage.low.get(), r.voltage.high.get()),
        None => (4.9, 5.05),
    };
    Ok(Rig {
        head,
        load_name: wish.load.clone(),
        board: wish.board.clone(),
        load,
        rail_high: rail.high.get(),
        most_a,
        is_winding: first.is_winding(),
        is_motor: first.is_motor(),
        pins,
        pin_at_high: pins_at(wish, keeper, Level::High).into_iter().next(),
        pin_ohms: keeper.pins.ohms.clone(),
        pin_a: keeper.pins.current.as_ref().map(|c| c.low),
        vdd,
    })
}

/// The kinds of loads that a driver switches.
fn switched_kinds() -> Vec<&'static str> {
    use LoadKind::{Driver, Heater, Led, Load, Motor, Pump, Sensor, Servo, Solenoid};
    let all = [Motor, Pump, Solenoid, Heater, Load, Servo, Led, Sensor, Driver];
    all.into_iter().filter(|k| k.is_switched()).map(LoadKind::word).collect()
}

fn volts_text(rail: &Figure<Volts>) -> String {
    format!("{} V .. {} V, typical {} V", rail.low.get(), rail.high.get(), rail.typical.get())
}

fn largest_a(demand: &Demand, volts: Volts) -> f64 {
    match demand {
        Demand::Current(s) => s.surge.as_ref().map_or(0.0, |f| f.high.get()).max(s.peak.high.get()),
        Demand::Power(s) => s.peak.high.get() / volts.get().max(1e-9),
        Demand::Resistance(s) => volts.get() / s.surge.as_ref().unwrap_or(&s.peak).low.get().max(1e-9),
        Demand::Leds(_) => 0.0,
    }
}

fn unknown(name: &str, kinds: &[&str]) -> String {
    let names: Vec<String> = kinds.iter().flat_map(|k| Catalogue.names_of(k)).map(str::to_owned).collect();
    match crate::text::nearest(name, names.iter().map(String::as_str)) {
        Some(near) => format!("there is no part `{name}`; did you mean `{near}`?"),
        None => format!("there is no part `{name}`; parts: {}", names.join(", ")),
    }
}
