//! Every figure of a plan with the item and key it belongs to: for tracing numbers and for trying assumed ones at the
//! ends of their spread.

use super::Plan;
use crate::plan::driver::figures::Stage as DriverStage;
use crate::plan::kinds::converter::ConverterKind;
use crate::plan::kinds::load::Demand;
use crate::plan::kinds::run::{Diode, RunKind};
use crate::plan::wiring::cable::{Cable, Conductor};
use crate::plan::wiring::contact::Contact;
use crate::plan::wiring::feed::Feed;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Quantity;

/// Which end of its spread a figure is held at.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum End {
    Low,
    High,
}

/// A figure of any quantity.
pub(crate) trait AnyFigure {
    fn origin(&self) -> &Origin;
    /// True where its smallest and largest value differ.
    fn is_spread(&self) -> bool;
    /// Takes one end of its spread as its only value.
    fn hold(&mut self, end: End);
    /// Smallest and largest value in the base unit, and the unit.
    fn ends(&self) -> (f64, f64, &'static str);
    /// Its values in words: `12.0 V`, `11.4 V .. 12.6 V`.
    fn words(&self) -> String;
}

impl<Q: Quantity> AnyFigure for Figure<Q> {
    fn origin(&self) -> &Origin {
        &self.origin
    }

    fn is_spread(&self) -> bool {
        self.high.si() - self.low.si() > 1e-9 * self.high.si().abs()
    }

    fn hold(&mut self, end: End) {
        let value = if end == End::Low { self.low } else { self.high };
        (self.low, self.typical, self.high) = (value, value, value);
    }

    fn ends(&self) -> (f64, f64, &'static str) {
        (self.low.si(), self.high.si(), Q::SYMBOL)
    }

    fn words(&self) -> String {
        if !self.is_spread() {
            return self.typical.to_string();
        }
        format!("{} .. {}, typical {}", self.low, self.high, self.typical)
    }
}

/// Sees each figure with its item and its key; equal keys of one item belong together.
type See<'a> = &'a mut dyn FnMut(&str, &'static str, &mut dyn AnyFigure);

fn maybe<Q: Quantity>(see: See<'_>, item: &str, key: &'static str, figure: &mut Option<Figure<Q>>) {
    if let Some(figure) = figure {
        see(item, key, figure);
    }
}

fn contact(see: See<'_>, item: &str, contact: &mut Contact) {
    see(item, "joint resistance", &mut contact.resistance);
    maybe(see, item, "joint current", &mut contact.rating);
}

fn cable(see: See<'_>, item: &str, cable: &mut Option<Cable>) {
    let Some(cable) = cable else { return };
    cable.contacts_mut().for_each(|c| contact(see, item, c));
    for conductor in [&mut cable.feed, &mut cable.back] {
        if let Conductor::Stated(figure) = conductor {
            see(item, "cable", figure);
        }
    }
}

fn feed(see: See<'_>, item: &str, feed: &mut Feed) {
    cable(see, item, &mut feed.cable);
    if let Some(back) = &mut feed.back {
        cable(see, item, &mut back.cable);
    }
    if let Some(f) = &mut feed.fuse {
        see(item, "fuse", &mut f.rating);
        see(item, "fuse resistance", &mut f.resistance);
        maybe(see, item, "fuse voltage", &mut f.voltage);
        maybe(see, item, "fuse breaking", &mut f.breaking);
    }
}

/// `reverse` is the key of its reverse volts: another across a rail than in a feed.
fn diode(see: See<'_>, item: &str, reverse: &'static str, d: &mut Diode) {
    see(item, "vf", &mut d.vf);
    see(item, "resistance", &mut d.resistance);
    maybe(see, item, reverse, &mut d.reverse);
    maybe(see, item, "current", &mut d.rating);
}

impl Plan {
    /// Visits every figure of the plan.
    pub(crate) fn each_figure(&mut self, see: See<'_>) {
        see("the plan", "ambient", &mut self.ambient);
        self.each_power_figure(see);
        self.each_board_figure(see);
        self.each_load_figure(see);
    }

    fn each_power_figure(&mut self, see: See<'_>) {
        for s in &mut self.supplies {
            let item = &s.name.text;
            see(item, "voltage", &mut s.voltage);
            see(item, "resistance", &mut s.resistance);
            maybe(see, item, "current", &mut s.current);
            maybe(see, item, "limit", &mut s.limit);
            if let Some(b) = &mut s.battery {
                see(item, "holder", &mut b.holder);
                see(item, "until", &mut b.until);
                maybe(see, item, "capacity", &mut b.capacity);
                maybe(see, item, "cut-off", &mut b.cut_off);
            }
        }
        for b in &mut self.branches {
            let item = &b.name.text;
            feed(see, item, &mut b.feed);
            match &mut b.kind {
                RunKind::Switch(s) => {
                    maybe(see, item, "current", &mut s.rating);
                    see(item, "resistance", &mut s.resistance);
                }
                RunKind::Diode(d) => diode(see, item, "reverse", d),
                RunKind::Joint(j) => contact(see, item, &mut j.contact),
                RunKind::Port(p) => maybe(see, item, "limit", &mut p.limit),
                _ => {}
            }
        }
        for c in &mut self.converters {
            let item = &c.name.text;
            feed(see, item, &mut c.feed);
            see(item, "output", &mut c.output);
            maybe(see, item, "current", &mut c.current);
            maybe(see, item, "label-current", &mut c.input_current);
            maybe(see, item, "limit", &mut c.limit);
            if c.kind == ConverterKind::Linear {
                see(item, "own-current", &mut c.own_current);
            } else {
                see(item, "efficiency", &mut c.efficiency);
                see(item, "quiescent", &mut c.quiescent);
            }
            see(item, "dropout", &mut c.dropout);
            see(item, "resistance", &mut c.resistance);
            maybe(see, item, "input", &mut c.input);
            maybe(see, item, "theta", &mut c.heat.theta);
        }
        for c in &mut self.clamps {
            diode(see, &c.name.text, "clamps", &mut c.diode);
        }
        for l in &mut self.links {
            see(&l.name.text, "resistance", &mut l.resistance);
        }
        for c in &mut self.capacitors {
            see(&c.name.text, "capacitance", &mut c.capacitance);
            see(&c.name.text, "esr", &mut c.esr);
        }
        for h in &mut self.housings {
            see(&h.name.text, "area", &mut h.area);
            see(&h.name.text, "stands", &mut h.stands);
        }
        for g in &mut self.grounds {
            cable(see, &g.name.text, &mut g.cable);
            maybe(see, &g.name.text, "resistance", &mut g.resistance);
        }
    }

    fn each_board_figure(&mut self, see: See<'_>) {
        for c in &mut self.controllers {
            let item = &c.name.text;
            if let Some(f) = &mut c.feed {
                feed(see, item, f);
            }
            see(item, "mean", &mut c.mean);
            see(item, "peak", &mut c.peak);
            maybe(see, item, "recommended", &mut c.recommended);
            maybe(see, item, "absolute", &mut c.absolute);
            maybe(see, item, "brown-out", &mut c.brown_out);
            maybe(see, item, "total", &mut c.total);
            maybe(see, item, "selected", &mut c.selected);
            see(item, "usb-current", &mut c.usb.limit);
            see(item, "usb-diode", &mut c.usb.diode_vf);
            if let Some(r) = &mut c.regulator {
                see(item, "regulator.voltage", &mut r.voltage);
                see(item, "regulator.dropout", &mut r.dropout);
                maybe(see, item, "regulator.limit", &mut r.limit);
                maybe(see, item, "regulator.theta", &mut r.heat.theta);
            }
            if let Some(u) = &mut c.unregulated {
                see(item, "unregulated.recommended", &mut u.recommended);
                see(item, "unregulated.absolute", &mut u.absolute);
                see(item, "unregulated.makes", &mut u.makes);
                see(item, "unregulated.dropout", &mut u.dropout);
                maybe(see, item, "unregulated.theta", &mut u.heat.theta);
            }
        }
        for s in &mut self.shifters {
            feed(see, &s.name.text, &mut s.feed);
            see(&s.name.text, "current", &mut s.current);
            maybe(see, &s.name.text, "recommended", &mut s.recommended);
            maybe(see, &s.name.text, "absolute", &mut s.absolute);
        }
    }

    fn each_load_figure(&mut self, see: See<'_>) {
        for s in &mut self.strips {
            let item = &s.name.text;
            for q in &mut s.injections {
                feed(see, item, &mut q.feed);
            }
            see(item, "length", &mut s.length);
            see(item, "pixels", &mut s.density);
            see(item, "copper", &mut s.copper_feed);
            see(item, "copper", &mut s.copper_return);
            maybe(see, item, "firmware-cap", &mut s.cap);
            let p = &mut s.pixel;
            see(item, "quiescent", &mut p.quiescent);
            for c in &mut p.colours {
                see(item, "colours.current", &mut c.current);
                see(item, "colours.vf", &mut c.vf);
                see(item, "colours.vreg", &mut c.vreg);
            }
            maybe(see, item, "works", &mut p.works);
            maybe(see, item, "sheet", &mut p.sheet);
            maybe(see, item, "absolute", &mut p.absolute);
            for switched in &mut s.switched {
                see(item, "switched.resistance", &mut switched.resistance);
            }
            for join in s.rows.iter_mut().flat_map(|r| &mut r.joins) {
                feed(see, item, join);
            }
        }
        for d in &mut self.drivers {
            let item = &d.name.text;
            see(item, "resistance", &mut d.ohms);
            maybe(see, item, "drop", &mut d.drop);
            maybe(see, item, "current", &mut d.current);
            maybe(see, item, "surge-current", &mut d.surge);
            maybe(see, item, "voltage", &mut d.voltage);
            maybe(see, item, "theta", &mut d.heat.theta);
            match &mut d.stage {
                DriverStage::Transistor(t) => {
                    see(item, "vbe", &mut t.vbe);
                    maybe(see, item, "base-resistor", &mut t.base);
                }
                DriverStage::Fet(f) => {
                    maybe(see, item, "gate-volts", &mut f.specified);
                    maybe(see, item, "threshold", &mut f.threshold);
                    maybe(see, item, "gate-maximum", &mut f.gate_max);
                }
                DriverStage::Relay(r) => {
                    see(item, "pull-in", &mut r.pull_in);
                    see(item, "coil-maximum", &mut r.most);
                }
                DriverStage::Bridge(_) | DriverStage::SolidState(_) => {}
            }
        }
        for c in &mut self.caps {
            see(&c.name.text, "current", &mut c.current);
        }
        for l in &mut self.loads {
            let item = &l.name.text;
            feed(see, item, &mut l.feed);
            macro_rules! states {
                ($states:expr, $key:literal) => {{
                    see(item, $key, &mut $states.peak);
                    maybe(see, item, "idle", &mut $states.idle);
                    maybe(see, item, "typical", &mut $states.typical);
                    maybe(see, item, "surge", &mut $states.surge);
                }};
            }
            match &mut l.demand {
                Demand::Current(s) => states!(s, "current"),
                Demand::Power(s) => states!(s, "power"),
                Demand::Resistance(s) => states!(s, "resistance"),
                Demand::Leds(d) => {
                    see(item, "vf", &mut d.vf);
                    maybe(see, item, "diode", &mut d.diode);
                    see(item, "resistor", &mut d.ohms);
                }
            }
            maybe(see, item, "voltage", &mut l.voltage);
            maybe(see, item, "recommended", &mut l.recommended);
            maybe(see, item, "minimum", &mut l.minimum);
            maybe(see, item, "absolute", &mut l.absolute);
            maybe(see, item, "knee", &mut l.knee);
        }
    }
}
