//! The plan put together from its tables.

use super::read::{Assembly, KINDS};
use crate::plan::driver::read::read_driver;
use crate::plan::kinds::balanced::read_pair;
use crate::plan::kinds::bus::{read_bus, read_sensor};
use crate::plan::kinds::cap::read_cap;
use crate::plan::kinds::controller::{Controller, read_controller};
use crate::plan::kinds::converter::read_converter;
use crate::plan::kinds::ground::{Ground, read_ground};
use crate::plan::kinds::group::read_group;
use crate::plan::kinds::housing::read_housing;
use crate::plan::kinds::input::read_input;
use crate::plan::kinds::joint::read_joint;
use crate::plan::kinds::led::read_led;
use crate::plan::kinds::link::{Link, bridge, read_capacitor, read_link, read_stack};
use crate::plan::kinds::load::{Load, read_load, read_motor, read_pump, read_servo, read_solenoid};
use crate::plan::kinds::mains::read_mains;
use crate::plan::kinds::run::{Branch, Clamp, ReadDiode, RunKind, read_branch, read_busbar, read_diode, read_switch};
use crate::plan::kinds::scenario::{Policy, read_policy, read_scenario};
use crate::plan::kinds::shifter::read_shifter;
use crate::plan::kinds::signal_lines::read_wire;
use crate::plan::kinds::supply::read_supply;
use crate::plan::model::Plan;
use crate::plan::resolve::driver_runs::stage_runs;
use crate::plan::resolve::signal_grounds::signal_grounds;
use crate::plan::strip::panel::read_panel;
use crate::plan::strip::{default_ambient, read_strip};
use crate::plan::wiring::name::Name;
use crate::quantity::units::Celsius;
use crate::source::{Source, Span};
use crate::text::problem::Problem;
use crate::text::reader::{Layer, Need, Reader};

/// A reader of one kind of load.
type ReadLoad = fn(&mut Reader<'_>, Name) -> Load;

impl Assembly<'_> {
    pub(crate) fn assemble(&self, source: Source) -> Plan {
        let whole = Span { start: 0, end: 0 };
        let mut top =
            Reader::new(vec![Layer { table: self.root, class: None }], "the plan".into(), whole, self.problems);
        self.check_format(&mut top);
        let title = top.text("title");
        let ambient = top.figure::<Celsius>("ambient", Need::Any).unwrap_or_else(default_ambient);
        let policy = top.child("policy").map_or_else(Policy::default, |mut inner| {
            let policy = read_policy(&mut inner);
            inner.finish();
            policy
        });
        let parts = self.names("part");
        let mut plan = Plan {
            source,
            title,
            ambient,
            policy,
            supplies: self.items("supply", read_supply),
            branches: self.items("branch", read_branch),
            converters: self.items("converter", read_converter),
            controllers: self.items("controller", read_controller),
            shifters: self.items("shifter", read_shifter),
            pairs: Vec::new(),
            strips: self.items("strip", read_strip),
            caps: self.items("cap", read_cap),
            panels: Vec::new(),
            loads: self.loads(),
            drivers: Vec::new(),
            mains: self.items("mains", read_mains),
            leds: Vec::new(),
            inputs: self.items("input", read_input),
            buses: self.items("bus", read_bus),
            sensors: Vec::new(),
            stacks: Vec::new(),
            wires: self.items("wire", read_wire),
            grounds: self.items("ground", read_ground),
            links: self.items("link", read_link),
            clamps: Vec::new(),
            capacitors: self.items("capacitor", read_capacitor),
            groups: self.items("group", read_group),
            housings: self.items("box", read_housing),
            shortages: Vec::new(),
            scenarios: self.items("scenario", read_scenario),
            accepts: self.accepts(),
            unused_parts: Vec::new(),
            nodes: Vec::new(),
        };
        plan.branches.extend(self.items("switch", read_switch));
        plan.branches.extend(self.items("joint", read_joint));
        self.panels(&mut plan);
        self.drivers(&mut plan);
        self.leds(&mut plan);
        self.sensors(&mut plan);
        self.pairs(&mut plan);
        self.diodes(&mut plan);
        self.busbars(&mut plan);
        self.stacks(&mut plan);
        board_runs(&mut plan);
        stage_runs(&mut plan, &|p| self.note(p));
        signal_grounds(&mut plan);
        let used = self.used_parts.borrow().clone();
        plan.unused_parts = parts.into_iter().filter(|(n, _, _)| !used.contains(&n.text)).map(|(n, _, _)| n).collect();
        for part in &plan.unused_parts {
            self.check_unused_part(part);
        }
        for kind in KINDS {
            let _ = top.has(kind);
        }
        self.unknown_kinds();
        if plan.supplies.is_empty() && self.root.get("supply").is_none() {
            self.note(Problem::new(
                None,
                "the plan has no supply",
                "write `[supply.wall]` with `kind`, `voltage` and `current`",
            ));
        }
        plan
    }

    /// A panel that is its own pixels is a strip of its name besides.
    fn panels(&self, plan: &mut Plan) {
        for (panel, strip) in self.items("panel", read_panel) {
            plan.panels.push(panel);
            plan.strips.extend(strip);
        }
    }

    /// Loads of all kinds.
    fn loads(&self) -> Vec<Load> {
        let kinds: [(&'static str, ReadLoad); 5] = [
            ("load", read_load),
            ("motor", read_motor),
            ("pump", read_pump),
            ("servo", read_servo),
            ("solenoid", read_solenoid),
        ];
        kinds.into_iter().flat_map(|(kind, read)| self.items(kind, read)).collect()
    }

    fn drivers(&self, plan: &mut Plan) {
        for read in self.items("driver", read_driver) {
            plan.drivers.extend(read.driver);
            plan.converters.extend(read.regulator);
            plan.loads.extend(read.load);
            plan.branches.extend(read.runs);
        }
    }

    fn leds(&self, plan: &mut Plan) {
        for (mut led, load) in self.items("led", read_led) {
            led.load = plan.loads.len();
            plan.loads.push(load);
            plan.leds.push(led);
        }
    }

    fn sensors(&self, plan: &mut Plan) {
        for (mut sensor, load) in self.items("sensor", read_sensor) {
            sensor.load = plan.loads.len();
            plan.loads.push(load);
            plan.sensors.push(sensor);
        }
    }

    fn pairs(&self, plan: &mut Plan) {
        for (mut pair, ends) in self.items("pair", read_pair) {
            pair.near = plan.shifters.len();
            pair.far = pair.near + 1;
            plan.shifters.extend(ends);
            plan.pairs.push(pair);
        }
    }

    fn diodes(&self, plan: &mut Plan) {
        for diode in self.items("diode", read_diode) {
            match diode {
                ReadDiode::Series(run) => plan.branches.push(*run),
                ReadDiode::Clamp(clamp) => plan.clamps.push(*clamp),
            }
        }
    }

    fn busbars(&self, plan: &mut Plan) {
        for bar in self.items("busbar", read_busbar) {
            if let ([left, right], true) = (bar.halves.as_slice(), bar.joined) {
                plan.links.push(bridge(&bar.name, [&left.name, &right.name]));
            }
            plan.branches.extend(bar.halves);
        }
    }

    fn stacks(&self, plan: &mut Plan) {
        for stack in self.items("stack", read_stack) {
            let mut known = true;
            for board in [&stack.upper, &stack.host] {
                if !board.text.is_empty() && !plan.controllers.iter().any(|c| c.name.text == board.text) {
                    known = false;
                    self.note(Problem::new(
                        board.span.unwrap_or(stack.name.span),
                        format!("there is no controller `{}`", board.text),
                        "a stack names two boards: `[stack.crane-on-keeper]` with `board = \"crane\"`, `on = \"keeper\"`",
                    ));
                }
            }
            if known {
                let (links, ground): (Vec<Link>, Option<Ground>) = stack.joins();
                plan.links.extend(links);
                plan.grounds.extend(ground);
                plan.stacks.push(stack);
            }
        }
    }
}

/// The further terminals and ports of boards become runs of the plan.
fn board_runs(plan: &mut Plan) {
    let mut runs: Vec<Branch> = Vec::new();
    for (i, board) in plan.controllers.iter_mut().enumerate() {
        for mut run in std::mem::take(&mut board.runs) {
            match &mut run.kind {
                RunKind::Terminal { controller } => *controller = i,
                RunKind::Port(port) => port.controller = i,
                _ => {}
            }
            runs.push(run);
        }
    }
    plan.branches.extend(runs);
}

/// Reads an item of a kind only for its mistakes.
pub(crate) fn read_and_drop(kind: &str, reader: &mut Reader<'_>, name: Name) {
    match kind {
        "supply" => drop(read_supply(reader, name)),
        "branch" => drop(read_branch(reader, name)),
        "joint" => drop(read_joint(reader, name)),
        "converter" => drop(read_converter(reader, name)),
        "controller" => drop::<Controller>(read_controller(reader, name)),
        "shifter" => drop(read_shifter(reader, name)),
        "strip" => drop(read_strip(reader, name)),
        "pair" => drop(read_pair(reader, name)),
        "panel" => drop(read_panel(reader, name)),
        "cap" => drop(read_cap(reader, name)),
        "ground" => drop(read_ground(reader, name)),
        "link" => drop(read_link(reader, name)),
        "switch" => drop(read_switch(reader, name)),
        "diode" => {
            if let ReadDiode::Clamp(clamp) = read_diode(reader, name) {
                drop::<Box<Clamp>>(clamp);
            }
        }
        "busbar" => drop(read_busbar(reader, name)),
        "capacitor" => drop(read_capacitor(reader, name)),
        "box" => drop(read_housing(reader, name)),
        "load" => drop(read_load(reader, name)),
        "motor" => drop(read_motor(reader, name)),
        "pump" => drop(read_pump(reader, name)),
        "servo" => drop(read_servo(reader, name)),
        "solenoid" => drop(read_solenoid(reader, name)),
        "driver" => drop(read_driver(reader, name)),
        "mains" => drop(read_mains(reader, name)),
        "input" => drop(read_input(reader, name)),
        "bus" => drop(read_bus(reader, name)),
        "sensor" => drop(read_sensor(reader, name)),
        "wire" => drop(read_wire(reader, name)),
        "led" => drop(read_led(reader, name)),
        "group" => drop(read_group(reader, name)),
        "stack" => drop(read_stack(reader, name)),
        "scenario" => drop(read_scenario(reader, name)),
        _ => {}
    }
}
