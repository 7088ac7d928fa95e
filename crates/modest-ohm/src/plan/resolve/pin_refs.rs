//! Names of pins to pins: in either numbering, and what a supply pin stands for.

use super::names::{Names, some_of};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::pins::{PinKind, Pins};
use crate::plan::wiring::feed::{NodeId, NodeRef, Position};
use crate::plan::wiring::pin::{OPEN_PIN, PinAt, PinRef};
use crate::text::Named;
use crate::text::problem::Problem;

/// The boards of a plan as names of pins see them.
pub(crate) struct Boards {
    boards: Vec<NamedBoard>,
}

struct NamedBoard {
    name: String,
    pins: Pins,
    /// Its main terminal, and the rail that its pins run on.
    input: Option<NodeId>,
    logic: Option<NodeId>,
}

/// A few letters and a number, `io27`, `d5`, `p13`: nothing that a terminal or an output is called.
fn looks_like_pin(text: &str) -> bool {
    let letters = text.bytes().take_while(u8::is_ascii_lowercase).count();
    let digits = text.bytes().skip(letters).filter(u8::is_ascii_digit).count();
    (1..=4).contains(&letters) && (1..=3).contains(&digits) && letters + digits == text.len()
}

impl Boards {
    pub fn of(plan: &Plan) -> Self {
        let board = |(i, c): (usize, &crate::plan::kinds::board::Board)| {
            let input = plan.node_id(NodeKind::BoardInput(i));
            let logic = c.logic_regulator().and_then(|_| plan.node_id(NodeKind::BoardOutput(i))).or(input);
            NamedBoard { name: c.name.text.clone(), pins: c.pins.clone(), input, logic }
        };
        Self { boards: plan.boards.iter().enumerate().map(board).collect() }
    }

    /// The board and the rest of `keeper.io27`.
    fn split<'n>(&self, name: &'n str) -> Option<(usize, &'n str)> {
        let (board, pin) = name.split_once('.')?;
        Some((self.boards.iter().position(|b| b.name == board)?, pin))
    }

    /// Fills in the pin of a signal. A pin that a board does not have is a finding, no problem of the text.
    pub fn signal(&self, names: &Names, pin: &mut PinRef, note: &impl Fn(Problem)) {
        let (board, rest) = pin.name.text.split_once('.').unwrap_or((&pin.name.text, ""));
        let board = Named { text: board.to_owned(), span: pin.name.span };
        match names.thing(&board, "board") {
            Ok(i) => match self.at(i, rest, &pin.name) {
                Ok(at) => {
                    pin.name.text = format!("{}.{}", self.boards[i].name, at.pin);
                    pin.at = at;
                }
                Err(p) => note(p),
            },
            Err(p) => note(p),
        }
    }

    fn at(&self, number: usize, pin: &str, name: &Named) -> Result<PinAt, Problem> {
        let NamedBoard { name: board, pins, .. } = &self.boards[number];
        let listed: Vec<String> = pins.list.iter().filter(|p| p.is_signal()).map(|p| p.name.clone()).collect();
        if pin.is_empty() {
            let example = listed.first().map_or("io27", String::as_str);
            return Err(Problem::new(
                name.span,
                format!("`{}` names no pin", name.text),
                if listed.is_empty() {
                    format!("write `{board}.io27` or `{board}.p13`")
                } else {
                    format!("write for example `{board}.{example}`; its pins: {}", some_of(&listed))
                },
            ));
        }
        if let Some(bad) = pin.chars().find(|c| !(c.is_alphanumeric() || "-_+./".contains(*c))) {
            return Err(Problem::new(
                name.span,
                format!("`{}` names no pin: pin names have no `{bad}`", name.text),
                "pin names use letters, digits, `-` and `_`",
            ));
        }
        if pin.bytes().all(|b| b.is_ascii_digit()) {
            return Err(Problem::new(
                name.span,
                format!("`{pin}` can be a chip number or a header position"),
                self.both(number, pin),
            ));
        }
        let index = pins.find(pin);
        let pin = index.map_or(pin, |i| &pins.list[i].name).to_owned();
        Ok(PinAt { board: number, index, pin })
    }

    /// What a bare number can mean on a board.
    fn both(&self, index: usize, number: &str) -> String {
        let NamedBoard { name: board, pins, .. } = &self.boards[index];
        let position = format!("p{number}");
        let ends = |n: &str| {
            n.strip_suffix(number).is_some_and(|h| !h.is_empty() && h.bytes().all(|b| b.is_ascii_alphabetic()))
        };
        let chip: Vec<String> = pins
            .list
            .iter()
            .filter(|p| ends(&p.name) && p.name != position)
            .map(|p| format!("`{board}.{}`", p.name))
            .collect();
        let at = pins.find(&position).map(|i| &pins.list[i]);
        match (chip.is_empty(), at) {
            (true, None) => {
                format!("write `{board}.io{number}` for the chip's number, `{board}.{position}` for the position")
            }
            (false, None) => format!("write {} for the chip's number", chip.join(" or ")),
            (_, Some(at)) => {
                let what = if at.name == position { at.kind_words() } else { format!("`{}`", at.name) };
                let chip = if chip.is_empty() { "no pin has this chip number".to_owned() } else { chip.join(" or ") };
                format!("chip number: {chip}; position: `{board}.{position}`, which is {what}")
            }
        }
    }

    /// The node that a pin stands for where a node is named: of a supply pin its terminal or output, of a ground pin
    /// the board's −, of a signal pin the rail that it runs on. `None` where it is no pin.
    pub fn node(&self, names: &Names, r: &mut NodeRef) -> Option<Result<NodeId, Problem>> {
        let (number, text) = self.split(&r.name.text)?;
        let board = &self.boards[number];
        if text == OPEN_PIN && r.takes_pin {
            r.pin = Some(PinAt { board: number, index: None, pin: text.to_owned() });
            return board.logic.map(Ok);
        }
        // Of a board whose pins nobody listed any is believed, as signals' are.
        if board.pins.list.is_empty() && r.takes_pin && looks_like_pin(text) {
            r.pin = Some(PinAt { board: number, index: None, pin: text.to_owned() });
            return board.logic.map(Ok);
        }
        let index = board.pins.find(text)?;
        let pin = &board.pins.list[index];
        match &pin.kind {
            PinKind::Supply(Some(of)) => {
                let node = format!("{}.{of}", board.name);
                // `keeper.5v` is a node with a + and a −; `keeper.p27` is one contact.
                r.position = (r.name.text != node).then_some(Position::Plus);
                names.nodes.get(&node).copied().map(Ok)
            }
            PinKind::Ground => {
                r.position = Some(Position::Minus);
                board.input.map(Ok)
            }
            PinKind::Io | PinKind::Input if r.takes_pin => {
                r.pin = Some(PinAt { board: number, index: Some(index), pin: pin.name.clone() });
                board.logic.map(Ok)
            }
            PinKind::Io | PinKind::Input => Some(Err(Problem::new(
                r.name.span,
                format!("`{}` is a pin: it feeds a load or an LED, nothing else", r.name.text),
                format!("name a node: {}", some_of(&own_nodes(names, &board.name))),
            ))),
            _ => Some(Err(Problem::new(
                r.name.span,
                format!("`{}` is {}: it feeds nothing", r.name.text, pin.kind_words()),
                format!("name a node: {}", some_of(&own_nodes(names, &board.name))),
            ))),
        }
    }
}

/// Every place of a plan that names a pin, in the order of its jobs.
pub(crate) fn pins_mut(plan: &mut Plan) -> Vec<&mut PinAt> {
    let mut all: Vec<&mut PinAt> = Vec::new();
    for strip in &mut plan.strips {
        let Some(data) = &mut strip.data else { continue };
        all.extend([&mut data.pin, &mut data.clock].into_iter().flatten().map(|p| &mut p.at));
    }
    for load in &mut plan.loads {
        all.extend(&mut load.feed.from.pin);
        all.extend(load.feed.back.iter_mut().filter_map(|b| b.to.pin.as_mut()));
        all.extend(load.signal.iter_mut().flat_map(|s| &mut s.pins).map(|p| &mut p.at));
    }
    for channel in plan.drivers.iter_mut().flat_map(|d| &mut d.channels) {
        all.extend(channel.pins.iter_mut().map(|p| &mut p.at));
        if let crate::plan::driver::channels::Enable::Pin(pin) = &mut channel.enable {
            all.push(&mut pin.at);
        }
    }
    for wire in &mut plan.wires {
        all.push(&mut wire.pin.at);
        all.extend(wire.to.as_mut().map(|p| &mut p.at));
    }
    all.extend(plan.inputs.iter_mut().map(|i| &mut i.pin.at));
    all.extend(plan.buses.iter_mut().flat_map(|b| &mut b.lines).map(|(_, p)| &mut p.at));
    all.extend(plan.sensors.iter_mut().filter_map(|s| s.select.as_mut()).map(|p| &mut p.at));
    for stack in &mut plan.stacks {
        all.extend(stack.claims.iter_mut().chain(&mut stack.bus_pins).map(|p| &mut p.at));
    }
    all
}

fn own_nodes(names: &Names, board: &str) -> Vec<String> {
    names.node_names.iter().filter(|n| n.split('.').next() == Some(board)).cloned().collect()
}
