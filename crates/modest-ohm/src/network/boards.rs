//! Boards in the network: their own demand, what feeds their main terminal, their regulator.

use modest_ohm_solve::network::{Law, Lies};

use super::build::{Builder, fixed};
use super::layout::{BoardAt, DemandAt};
use super::layout::{Inlets, Terminals, UsbInlet};
use super::state::Boards;
use crate::plan::kinds::board::{Board, Inputs, UsbUse};
use crate::plan::kinds::supply::{usb_lead, usb_volts};
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Corner, Role};
use crate::topology::run::Run;

impl Builder<'_> {
    pub(crate) fn boards(&mut self) {
        let corner = self.state.corner;
        for (i, c) in self.plan.boards.iter().enumerate() {
            let t = self.at(NodeKind::BoardInput(i));
            if let Some(feed) = &c.feed {
                self.feed(&format!("{}.{}", c.name.text, c.terminal), Run::Board(i), feed, t);
            }
            let figure = if self.state.boards == Boards::Peak { &c.peak } else { &c.mean };
            let on = self.state.demands.controllers_on[i];
            let amps = if on { figure.at(corner, Role::Demand).get() } else { 0.0 };
            let knee = c
                .knee
                .as_ref()
                .map_or_else(|| 0.8 * c.recommended.as_ref().map_or(4.5, |r| r.low.get()), |k| k.typical.get());
            let own = self.branch(t.plus, t.minus, Law::ConstantCurrent { amps, knee });
            let regulator = c.regulator.as_ref().map(|r| {
                let out = self.at(NodeKind::BoardOutput(i));
                self.branch(
                    t.plus,
                    out.plus,
                    Law::Regulator {
                        common: t.minus,
                        volts: r.voltage.at(corner, Role::Source).get(),
                        ohms: 0.0,
                        dropout: r.dropout.at(corner, Role::Resistance).get(),
                        limit: f64::INFINITY,
                    },
                )
            });
            self.layout.boards.push(BoardAt { main: t, own, regulator });
            let inlets = Inlets { usb: self.usb(i, c, t), unregulated: self.unregulated(i, c, t) };
            self.layout.inlets.push(inlets);
        }
        for (i, s) in self.plan.shifters.iter().enumerate() {
            let t = self.terminals();
            self.feed(&s.name.text, Run::Shifter(i), &s.feed, t);
            let amps = s.current.at(corner, Role::Demand).get();
            let branch = self.branch(t.plus, t.minus, Law::ConstantCurrent { amps, knee: 1.5 });
            self.layout.shifters.push(DemandAt { at: t, branch });
            let low = s.low.as_ref().map(|feed| {
                let low = Terminals { plus: self.vertex(), minus: t.minus };
                // Its − is the part's own: an ideal return beside it would join grounds that only leads join.
                self.feed_only(feed, 0.0, low.plus);
                low
            });
            self.layout.shifter_lows.push(low);
        }
    }

    /// A board's terminal that is a run of the plan.
    fn terminal(&self, board: usize, is: impl Fn(&str) -> bool) -> Option<(usize, Terminals)> {
        let mut runs = self.plan.terminals_of(board);
        let run = runs.find(|r| is(&self.plan.branches[*r].name.text))?;
        Some((run, self.at(NodeKind::Branch(run))))
    }

    fn usb(&mut self, i: usize, c: &Board, main: Terminals) -> Option<UsbInlet> {
        let known = self.terminal(i, |name| c.is_usb(name));
        let plugged = self.state.demands.plugged[i];
        let (at, port, live) = match known {
            Some((_, at)) => (at, None, true),
            None if c.usb.when == UsbUse::Never && !self.ever_plugged(i) => return None,
            None => {
                let alone = c.feed.is_none() && self.terminal(i, |name| c.is_unregulated(name)).is_none();
                let (at, port) = self.computer(c, plugged, alone);
                (at, Some(port), plugged)
            }
        };
        self.branch(at.minus, main.minus, fixed(0.0));
        let corner = self.state.corner;
        let join = match c.inputs {
            Inputs::DiodeJoined => Law::Diode {
                vf: c.usb.diode_vf.at(corner, Role::Resistance).get(),
                ohms: c.usb.diode_ohms.at(corner, Role::Resistance).get(),
                reverse: f64::INFINITY,
                lies: Lies::InFeed,
            },
            Inputs::Selects if self.selects_another(i, c) => Law::OPEN,
            Inputs::Selects | Inputs::Joined => fixed(0.0),
        };
        let takes_usb = live && c.inputs == Inputs::Selects && !matches!(join, Law::ConstantCurrent { .. });
        if takes_usb && c.unregulated.is_none() {
            // What is not chosen is parted from the board.
            let feed = self.layout.conductors.iter().find(|info| info.run == Run::Board(i)).and_then(|info| info.feed);
            if let Some(feed) = feed {
                self.net.branches[feed].law = Law::OPEN;
            }
        }
        let join = self.branch(at.plus, main.plus, if live { join } else { Law::OPEN });
        Some(UsbInlet { join, port })
    }

    /// A scenario of the maker plugs it in.
    fn ever_plugged(&self, board: usize) -> bool {
        let name = &self.plan.boards[board].name.text;
        self.plan.scenarios.iter().any(|s| s.plugged.iter().any(|p| p.text == *name))
    }

    /// A computer's port and its cable. Its voltage stands against the rail's, so that the corner *low* has the largest
    /// current out of it and *high* the largest into it.
    fn computer(&mut self, c: &Board, plugged: bool, alone: bool) -> (Terminals, usize) {
        let (at, host) = (self.terminals(), self.terminals());
        let volts = usb_volts();
        let emf = match self.state.corner {
            // A board that nothing else feeds has its lowest voltage in *low*, as from any source.
            corner if alone => volts.at(corner, Role::Source),
            Corner::Typical => volts.typical,
            Corner::Low => volts.high,
            Corner::High | Corner::Hot => volts.low,
        };
        // Ports limit at 1.1 times their rating and more (typical).
        let law = Law::Source {
            emf: emf.get(),
            ohms: 0.0,
            limit: 1.1 * c.usb.limit.low.get(),
            sinks: c.inputs != Inputs::DiodeJoined,
        };
        let port = self.branch(host.minus, host.plus, if plugged { law } else { Law::OPEN });
        let half = usb_lead().high.get() / 2.0;
        self.branch(host.plus, at.plus, fixed(half));
        self.branch(host.minus, at.minus, fixed(half));
        if plugged {
            self.net.supplies.push(port);
        }
        self.net.source_minus.push(host.minus);
        (at, port)
    }

    fn unregulated(&mut self, i: usize, c: &Board, main: Terminals) -> Option<(Terminals, usize)> {
        let own = c.unregulated.as_ref()?;
        let (_, at) = self.terminal(i, |name| c.is_unregulated(name))?;
        self.branch(at.minus, main.minus, fixed(0.0));
        let corner = self.state.corner;
        let law = Law::Regulator {
            common: main.minus,
            volts: own.makes.at(corner, Role::Source).get(),
            ohms: 0.0,
            dropout: own.dropout.at(corner, Role::Resistance).get(),
            limit: f64::INFINITY,
        };
        Some((at, self.branch(at.plus, main.plus, law)))
    }

    /// Whether a board that selects its input takes another than USB. One with an unregulated input selects between
    /// that and USB: its main terminal lies behind, on the rail that both make. Another selects between main terminal
    /// and USB.
    fn selects_another(&self, board: usize, c: &Board) -> bool {
        let other = if c.unregulated.is_some() {
            let run = self.terminal(board, |name| c.is_unregulated(name)).map(|(run, _)| run);
            run.and_then(|run| self.plan.node_id(NodeKind::Branch(run)))
        } else {
            c.feed.as_ref().map(|f| f.from.id)
        };
        other.is_some_and(|id| self.reaches_supply(id))
    }

    /// Whether a node is connected to a supply that is on, over runs that are closed.
    fn reaches_supply(&self, id: NodeId) -> bool {
        let (mut open, mut seen) = (vec![id], Vec::new());
        while let Some(at) = open.pop() {
            if seen.contains(&at) {
                continue;
            }
            seen.push(at);
            match self.plan.nodes[at.0].kind {
                NodeKind::Supply(i) if self.state.demands.supplies_on[i] => return true,
                NodeKind::Supply(_) => {}
                NodeKind::Branch(i) if self.state.demands.runs[i].0.plus => {}
                _ => open.extend(self.plan.feeders(at)),
            }
        }
        false
    }
}
