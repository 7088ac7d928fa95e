//! The table of kinds: which tables a plan may have, and what an item of each becomes.
//!
//! A new kind is its file and one row here.

use super::stacks::stack;
use crate::plan::driver::read::read_driver;
use crate::plan::kinds::board::read_board;
use crate::plan::kinds::bus::{read_bus, read_sensor};
use crate::plan::kinds::busbar::read_busbar;
use crate::plan::kinds::connector::read_connector;
use crate::plan::kinds::converter::read_converter;
use crate::plan::kinds::differential_pair::read_pair;
use crate::plan::kinds::enclosure::read_enclosure;
use crate::plan::kinds::firmware_limit::read_firmware_limit;
use crate::plan::kinds::ground::{bridge_at_minus, read_ground};
use crate::plan::kinds::group::read_group;
use crate::plan::kinds::heater::read_heater;
use crate::plan::kinds::input::read_input;
use crate::plan::kinds::led::read_led;
use crate::plan::kinds::limiter::read_limiter;
use crate::plan::kinds::link::{bridge, read_capacitor, read_link};
use crate::plan::kinds::load::{read_load, read_motor, read_pump, read_servo, read_solenoid};
use crate::plan::kinds::mains::read_mains;
use crate::plan::kinds::run::{ReadDiode, read_branch, read_diode, read_switch};
use crate::plan::kinds::scenario::read_scenario;
use crate::plan::kinds::shifter::read_shifter;
use crate::plan::kinds::signal_lines::read_wire;
use crate::plan::kinds::supply::read_supply;
use crate::plan::model::Plan;
use crate::plan::strip::panel::read_panel;
use crate::plan::strip::read_strip;
use crate::plan::wiring::name::Name;
use crate::text::reader::Reader;

/// Reads an item and adds what it is to the plan.
type Add = fn(&mut Reader<'_>, Name, &mut Plan);

/// A kind of items.
#[derive(Clone, Copy)]
pub(crate) struct Kind {
    /// The word of its tables: `[word.name]`.
    pub word: &'static str,
    pub add: Add,
    /// Other kinds whose classes an item of this kind may name.
    borrows: &'static [&'static str],
    /// True for a load: its classes suit a plain `load` too.
    is_load: bool,
    /// The key without which an item of this kind needs a `part`: nothing else would tell what it is.
    pub described_by: Option<&'static str>,
}

impl Kind {
    const fn described_by(mut self, key: &'static str) -> Self {
        self.described_by = Some(key);
        self
    }
}

const fn kind(word: &'static str, add: Add) -> Kind {
    Kind { word, add, borrows: &[], is_load: false, described_by: None }
}

const fn load(word: &'static str, add: Add) -> Kind {
    Kind { word, add, borrows: &["load"], is_load: true, described_by: None }
}

/// All kinds, in the order in which they are read: what is added later may look for what is there already.
pub(crate) const KINDS: [Kind; 34] = [
    kind("supply", |r, n, p| p.supplies.push(read_supply(r, n))),
    kind("branch", |r, n, p| p.branches.push(read_branch(r, n))),
    kind("converter", |r, n, p| p.converters.push(read_converter(r, n))),
    kind("board", |r, n, p| p.boards.push(read_board(r, n))).described_by("mean"),
    kind("shifter", |r, n, p| p.shifters.push(read_shifter(r, n))),
    kind("strip", |r, n, p| p.strips.push(read_strip(r, n))).described_by("colours"),
    kind("firmware-limit", |r, n, p| p.firmware_limits.push(read_firmware_limit(r, n))),
    load("load", |r, n, p| p.loads.push(read_load(r, n))),
    load("motor", |r, n, p| p.loads.push(read_motor(r, n))),
    load("pump", |r, n, p| p.loads.push(read_pump(r, n))),
    load("servo", |r, n, p| p.loads.push(read_servo(r, n))),
    load("solenoid", |r, n, p| p.loads.push(read_solenoid(r, n))),
    load("heater", |r, n, p| p.loads.push(read_heater(r, n))),
    kind("mains", |r, n, p| p.mains.push(read_mains(r, n))),
    kind("input", |r, n, p| p.inputs.push(read_input(r, n))),
    kind("bus", |r, n, p| p.buses.push(read_bus(r, n))),
    kind("signal", |r, n, p| p.wires.push(read_wire(r, n))),
    kind("ground", |r, n, p| p.grounds.push(read_ground(r, n))),
    kind("link", |r, n, p| p.links.push(read_link(r, n))),
    kind("capacitor", |r, n, p| p.capacitors.push(read_capacitor(r, n))),
    kind("group", |r, n, p| p.groups.push(read_group(r, n))),
    kind("enclosure", |r, n, p| p.enclosures.push(read_enclosure(r, n))),
    kind("scenario", |r, n, p| p.scenarios.push(read_scenario(r, n))),
    kind("switch", |r, n, p| p.branches.push(read_switch(r, n))),
    kind("limiter", |r, n, p| p.branches.push(read_limiter(r, n))),
    kind("connector", |r, n, p| p.branches.push(read_connector(r, n))),
    Kind { word: "panel", add: panel, borrows: &["strip"], is_load: false, described_by: None },
    kind("driver", driver).described_by("kind"),
    kind("led", led).described_by("vf"),
    kind("sensor", sensor),
    kind("differential-pair", pair),
    kind("diode", diode),
    kind("busbar", busbar),
    kind("stack", stack),
];

/// The kind of a word.
pub(crate) fn kind_of(word: &str) -> Option<Kind> {
    KINDS.into_iter().find(|k| k.word == word)
}

/// True where a class of one kind can stand in an item of another.
pub(crate) fn suits(word: &str, class: &str) -> bool {
    word == class
        || kind_of(word).is_some_and(|k| k.borrows.contains(&class))
        || (word == "load" && kind_of(class).is_some_and(|k| k.is_load))
}

/// A panel that is its own pixels is a strip of its name as well.
fn panel(reader: &mut Reader<'_>, name: Name, plan: &mut Plan) {
    let (panel, strip) = read_panel(reader, name);
    plan.panels.push(panel);
    plan.strips.extend(strip);
}

fn driver(reader: &mut Reader<'_>, name: Name, plan: &mut Plan) {
    let read = read_driver(reader, name);
    plan.drivers.extend(read.driver);
    plan.converters.extend(read.regulator);
    plan.loads.extend(read.load);
    plan.branches.extend(read.runs);
}

fn led(reader: &mut Reader<'_>, name: Name, plan: &mut Plan) {
    let (mut led, load) = read_led(reader, name);
    led.load = plan.loads.len();
    plan.loads.push(load);
    plan.leds.push(led);
}

fn sensor(reader: &mut Reader<'_>, name: Name, plan: &mut Plan) {
    let (mut sensor, load) = read_sensor(reader, name);
    sensor.load = plan.loads.len();
    plan.loads.push(load);
    plan.sensors.push(sensor);
}

fn pair(reader: &mut Reader<'_>, name: Name, plan: &mut Plan) {
    let (mut pair, ends) = read_pair(reader, name);
    pair.near = plan.shifters.len();
    pair.far = pair.near + 1;
    plan.shifters.extend(ends);
    plan.pairs.push(pair);
}

fn diode(reader: &mut Reader<'_>, name: Name, plan: &mut Plan) {
    match read_diode(reader, name) {
        ReadDiode::Series(run) => plan.branches.push(*run),
        ReadDiode::Clamp(clamp) => plan.clamps.push(*clamp),
    }
}

fn busbar(reader: &mut Reader<'_>, name: Name, plan: &mut Plan) {
    let bar = read_busbar(reader, name);
    if let ([left, right], true) = (bar.halves.as_slice(), bar.joined) {
        plan.links.push(bridge(&bar.name, [&left.name, &right.name]));
    }
    if let ([left, right], true) = (bar.halves.as_slice(), bar.minus_joined) {
        plan.grounds.push(bridge_at_minus(&bar.name, [&left.name, &right.name]));
    }
    plan.branches.extend(bar.halves);
}
