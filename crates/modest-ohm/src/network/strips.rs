//! Strips: copper, pixels and feed points; pieces joined where the + is cut or a row ends.

use modest_ohm_solve::network::{Clamp, Ladder, Law, PixelLaw, Port};
use modest_ohm_solve::network::{Fan, Section, StripNet};

use super::build::{Builder, fixed};
use super::layout::{ConductorInfo, Terminals};
use super::state::levels;
use crate::plan::model::node::NodeKind;
use crate::plan::strip::Strip;
use crate::plan::strip::pixel::Colour;
use crate::quantity::figure::{Corner, Role};
use crate::topology::run::Run;

/// A plain strip's current goes on rising; this many times its rated current is beyond anything that is solved.
const FAR: f64 = 1e4;

/// The least resistance of a piece of copper, Ω.
const LEAST_COPPER_OHMS: f64 = 1e-6;

/// Places closer than this are one.
const SAME_PLACE_M: f64 = 1e-9;

/// The two ends of a strip as nodes.
pub(crate) fn ends(i: usize, strip: &Strip) -> [(NodeKind, f64); 2] {
    [(NodeKind::StripStart(i), 0.0), (NodeKind::StripEnd(i), strip.length.typical.get())]
}

/// What parts a strip at a place.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Parted {
    /// The + copper is cut; the − goes on.
    Cut,
    /// A row ends; the lead to the next has this index. Where the + is cut there too, only its − is led on.
    Row(usize, bool),
}

/// Where a strip is parted, in order.
fn parted(strip: &Strip) -> Vec<(f64, Parted)> {
    let mut places: Vec<(f64, Parted)> = strip.cuts.iter().map(|(x, _)| (*x, Parted::Cut)).collect();
    if let Some(rows) = &strip.rows {
        let row_m = strip.pixels as f64 / strip.density.typical.get() / rows.count as f64;
        for k in 0..rows.joins.len() {
            let x = (k + 1) as f64 * row_m;
            let before = places.len();
            places.retain(|(y, _)| (x - y).abs() >= SAME_PLACE_M);
            places.push((x, Parted::Row(k, places.len() < before)));
        }
    }
    places.sort_by(|a, b| a.0.total_cmp(&b.0));
    places
}

/// From one place of a strip with a return a colour to the next, m from its start, and the vertices there.
#[derive(Clone, Copy)]
struct Stretch<'a> {
    from: f64,
    to: f64,
    left: usize,
    left_minus: &'a [usize],
    right: usize,
    right_minus: &'a [usize],
}

/// Where a row of a strip with a return a colour ends.
struct RowEnd<'a> {
    /// Index of the lead to the next row.
    index: usize,
    /// The + is not led on.
    cut: bool,
    /// The last place before it.
    plus: usize,
    minus: &'a [usize],
    /// From there to the end of the row.
    gap_m: f64,
}

/// A port with the injection that it is, where it is one.
type Place = (Port, Option<usize>);

impl Builder<'_> {
    pub(crate) fn strips(&mut self) {
        let levels = levels(self.plan, self.state);
        for (i, (strip, levels)) in self.plan.strips.iter().zip(&levels).enumerate() {
            let net = if strip.is_fan() { self.fan(i, strip, levels) } else { self.ladders(i, strip, levels) };
            self.net.strips.push(net);
        }
    }

    fn ladders(&mut self, i: usize, strip: &Strip, levels: &[f64]) -> StripNet {
        let places = self.places(i, strip);
        self.layout.ports.push(index_of_injections(strip, &places));
        let ports: Vec<Port> = places.into_iter().map(|(p, _)| p).collect();
        let law = law(strip, self.state.corner, levels);
        let mut sections = Vec::new();
        let (mut start_m, mut first_pixel) = (0.0, 0);
        // The + and − at the beginning of the next section.
        let mut begins: Option<Terminals> = None;
        let parts = parted(strip);
        for n in 0..=parts.len() {
            let end = parts.get(n);
            let end_m = end.map_or(f64::INFINITY, |(x, _)| *x);
            let beyond = end.map_or(strip.pixels, |(x, _)| first_pixel_from(strip, *x));
            // What is connected at a parting belongs to the piece that begins there.
            let inside = |p: &&Port| p.at_m >= start_m - SAME_PLACE_M && p.at_m < end_m - SAME_PLACE_M;
            let local = |p: &Port| Port { at_m: (p.at_m - start_m).max(0.0), ..*p };
            let mut own: Vec<Port> = ports.iter().filter(inside).map(local).collect();
            if let Some(t) = begins.take() {
                own.insert(0, Port { at_m: 0.0, plus: t.plus, minus: t.minus });
            }
            if let Some((x, parted)) = end {
                let here = self.terminals();
                own.push(Port { at_m: x - start_m, plus: here.plus, minus: here.minus });
                begins = Some(self.beyond(i, strip, *parted, here));
            }
            sections.push(Section { ladder: self.net.ladders.len(), first_pixel });
            self.net.ladders.push(Ladder {
                pixels: beyond - first_pixel,
                per_m: strip.density.typical.get(),
                first_m: first_pixel as f64 / strip.density.typical.get() - start_m,
                feed_ohm_per_m: strip.copper_feed.at(self.state.corner, Role::Resistance).get()
                    * strip.stretch(self.state.corner),
                return_ohm_per_m: strip.copper_return.at(self.state.corner, Role::Resistance).get()
                    * strip.stretch(self.state.corner),
                law: law.clone(),
                ports: own,
            });
            (start_m, first_pixel) = (end_m, beyond);
        }
        StripNet { sections, fan: None, ports, pixels: strip.pixels, per_m: strip.density.typical.get() }
    }

    /// The other side of a parting.
    fn beyond(&mut self, i: usize, strip: &Strip, parted: Parted, here: Terminals) -> Terminals {
        match parted {
            Parted::Cut => Terminals { plus: self.terminals().plus, minus: here.minus },
            Parted::Row(k, cut) => {
                let to = self.terminals();
                let Some(join) = strip.rows.as_ref().and_then(|r| r.joins.get(k)) else { return to };
                let cable = join.cable.as_ref();
                let feed = self.conductor(cable, |c| &c.feed, 0.0);
                let back = self.conductor(cable, |c| &c.back, 0.0);
                let feed = (!cut).then(|| self.branch(here.plus, to.plus, feed));
                let back = self.branch(here.minus, to.minus, back);
                self.layout.conductors.push(ConductorInfo {
                    name: format!("{}.join[{k}]", strip.name.text),
                    run: Run::Join(i, k),
                    feed,
                    back,
                });
                to
            }
        }
    }

    /// Feed points, and ends that something else is connected to, in order of position.
    fn places(&mut self, i: usize, strip: &Strip) -> Vec<Place> {
        let mut places: Vec<Place> = Vec::new();
        for (q, injection) in strip.injections.iter().enumerate() {
            let t = self.feed_points[i][q];
            self.feed(&injection_name(strip, q), Run::Injection(i, q), &injection.feed, t);
            places.push((Port { at_m: injection.at_m, plus: t.plus, minus: t.minus }, Some(q)));
        }
        for (kind, at_m) in ends(i, strip) {
            let Some(id) = self.plan.node_id(kind).filter(|id| self.tapped[id.0]) else { continue };
            let t = self.node(id);
            if !places.iter().any(|(p, _)| p.plus == t.plus) {
                places.push((Port { at_m, plus: t.plus, minus: t.minus }, None));
            }
        }
        places.sort_by(|a, b| a.0.at_m.total_cmp(&b.0.at_m));
        places
    }

    /// One feed and a return a colour: conductors between neighbouring places, a string of LEDs a group and colour.
    fn fan(&mut self, i: usize, strip: &Strip, levels: &[f64]) -> StripNet {
        let corner = self.state.corner;
        let colours = strip.pixel.colours.len();
        let mut fan = Fan { minus: vec![Vec::new(); colours], strings: vec![Vec::new(); colours], ..Fan::default() };
        fan.return_copper = vec![Vec::new(); colours];
        let mut points: Vec<(f64, Option<usize>)> = (0..strip.pixels).map(|k| (strip.position_m(k), None)).collect();
        points.extend(strip.injections.iter().enumerate().map(|(q, inj)| (inj.at_m, Some(q))));
        points.sort_by(|a, b| a.0.total_cmp(&b.0));
        let parts = parted(strip);
        let copper = |figure: &crate::quantity::figure::Figure<crate::quantity::units::OhmsPerMetre>| {
            figure.at(corner, Role::Resistance).get() * strip.stretch(corner)
        };
        let (feed_r, return_r) = (copper(&strip.copper_feed), copper(&strip.copper_return));
        (fan.feed_ohm_per_m, fan.return_ohm_per_m) = (feed_r, return_r);
        let mut before: Option<(f64, usize, Vec<usize>)> = None;
        let mut ports: Vec<Place> = Vec::new();
        let mut leads = Vec::new();
        for (x, injection) in points {
            let plus = match injection {
                Some(q) => self.feed_points[i][q].plus,
                None => self.terminals().plus,
            };
            let minus: Vec<usize> = (0..colours).map(|_| self.terminals().minus).collect();
            if let Some((from, left, left_minus)) = &before {
                let stretch = Stretch { from: *from, to: x, left: *left, left_minus, right: plus, right_minus: &minus };
                self.fan_stretch(i, strip, &parts, &stretch, &mut fan);
            }
            match injection {
                Some(q) => {
                    let lead = self.fan_lead(i, strip, q, plus, &minus);
                    let t = self.feed_points[i][q];
                    ports.push((Port { at_m: x, plus, minus: t.minus }, Some(q)));
                    leads.push(lead);
                }
                None => {
                    for c in 0..colours {
                        let string = self.string(strip, c, levels[c]);
                        fan.strings[c].push(self.branch(plus, minus[c], string));
                        fan.minus[c].push(minus[c]);
                    }
                    fan.plus.push(plus);
                }
            }
            before = Some((x, plus, minus));
        }
        fan.leads = leads;
        fan.full_a = strip.pixel.colours.iter().map(|c| c.current.at(corner, Role::Demand).get()).collect();
        self.layout.ports.push(index_of_injections(strip, &ports));
        StripNet {
            sections: Vec::new(),
            fan: Some(fan),
            ports: ports.into_iter().map(|(p, _)| p).collect(),
            pixels: strip.pixels,
            per_m: strip.density.typical.get(),
        }
    }

    /// The copper between two neighbouring places: none where it is cut, with the cable between them where a row ends.
    fn fan_stretch(&mut self, i: usize, strip: &Strip, parts: &[(f64, Parted)], stretch: &Stretch<'_>, fan: &mut Fan) {
        let Stretch { from, to: x, left, left_minus, right: plus, right_minus: minus } = *stretch;
        let mut end = Terminals { plus: left, minus: 0 };
        let mut end_minus = left_minus.to_vec();
        let mut at = from;
        let mut whole = true;
        for (place, parted) in parts.iter().filter(|(p, _)| *p > from && *p <= x) {
            match parted {
                Parted::Cut => whole = false,
                Parted::Row(k, cut) => {
                    let row = RowEnd { index: *k, cut: *cut, plus: end.plus, minus: &end_minus, gap_m: *place - at };
                    (end, end_minus) = self.fan_join(i, strip, &row, fan);
                    at = *place;
                }
            }
        }
        let gap = (x - at).max(SAME_PLACE_M);
        let feed = whole.then(|| self.branch(end.plus, plus, copper_of(fan.feed_ohm_per_m * gap)));
        fan.feed_copper.push(feed);
        for c in 0..minus.len() {
            // Both copper currents count towards growing x.
            fan.return_copper[c].push(self.branch(end_minus[c], minus[c], copper_of(fan.return_ohm_per_m * gap)));
        }
    }

    /// The copper up to the end of a row, and the lead to the next.
    fn fan_join(&mut self, i: usize, strip: &Strip, row: &RowEnd<'_>, fan: &mut Fan) -> (Terminals, Vec<usize>) {
        let k = row.index;
        let gap = row.gap_m.max(SAME_PLACE_M);
        let end = self.terminals();
        let feed = self.branch(row.plus, end.plus, copper_of(fan.feed_ohm_per_m * gap));
        fan.feed_copper.push(Some(feed));
        let to = self.terminals();
        let cable = strip.rows.as_ref().and_then(|r| r.joins.get(k)).and_then(|j| j.cable.as_ref());
        let feed = self.conductor(cable, |c| &c.feed, 0.0);
        let feed = (!row.cut).then(|| self.branch(end.plus, to.plus, feed));
        let mut minus = Vec::with_capacity(row.minus.len());
        for (c, from) in row.minus.iter().enumerate() {
            let (here, there) = (self.terminals().minus, self.terminals().minus);
            fan.return_copper[c].push(self.branch(*from, here, copper_of(fan.return_ohm_per_m * gap)));
            let back = self.conductor(cable, |c| &c.back, 0.0);
            let back = self.branch(here, there, back);
            let name = fan_name(&format!("{}.join[{k}]", strip.name.text), strip, c);
            let run = Run::Join(i, k);
            self.layout.conductors.push(ConductorInfo { name, run, feed: feed.filter(|_| c == 0), back });
            minus.push(there);
        }
        (to, minus)
    }

    /// The cable of a feed point: one feed conductor, a return a colour, each with its switch.
    fn fan_lead(&mut self, i: usize, strip: &Strip, q: usize, plus: usize, minus: &[usize]) -> (usize, Vec<usize>) {
        let feed = &strip.injections[q].feed;
        let base = injection_name(strip, q);
        let far = self.feed_points[i][q];
        let (out, back_to, cable) = self.feed_only(feed, 0.0, plus);
        // Beyond the switches: the − that the strip is fed from.
        self.branch(back_to, far.minus, fixed(0.0));
        let mut returns = Vec::with_capacity(minus.len());
        for (c, m) in minus.iter().enumerate() {
            let switch = strip.switched.iter().find(|s| s.colour == c);
            let ohms = switch.map_or(0.0, |s| s.resistance.at(self.state.corner, Role::Resistance).get());
            // Behind a driver's channel its current goes through that, which is a run of its own.
            let channel = switch.and_then(|s| s.node.as_ref()).map(|n| self.node(n.id).minus);
            let law = self.conductor(cable, |c| &c.back, ohms);
            let back = self.branch(channel.unwrap_or(back_to), *m, law);
            self.layout.conductors.push(ConductorInfo {
                name: fan_name(&base, strip, c),
                run: Run::Injection(i, q),
                feed: Some(out).filter(|_| c == 0),
                back,
            });
            returns.push(back);
        }
        (out, returns)
    }

    /// The LEDs and the resistor of one colour of one group.
    fn string(&self, strip: &Strip, colour: usize, level: f64) -> Law {
        let clamp = plain_clamp(strip, self.state.corner, colour, level);
        Law::LedString { vf: clamp.start_v, siemens: clamp.amps * clamp.slope }
    }
}

/// A piece of copper; the current of a shorter one would drown in the rounding of its voltage.
fn copper_of(ohms: f64) -> Law {
    Law::Copper { ohms: ohms.max(LEAST_COPPER_OHMS) }
}

fn injection_name(strip: &Strip, q: usize) -> String {
    format!("{}.inject[{q}]", strip.name.text)
}

/// The first colour's return goes with the feed; the others are named by their colour.
fn fan_name(base: &str, strip: &Strip, colour: usize) -> String {
    if colour == 0 { base.to_owned() } else { format!("{base}.{}", strip.pixel.colours[colour].name) }
}

/// Per injection of the plan: which of the ports, in order of position, it is.
fn index_of_injections(strip: &Strip, places: &[Place]) -> Vec<usize> {
    let mut index = vec![0; strip.injections.len()];
    for (p, (_, q)) in places.iter().enumerate() {
        if let Some(q) = q {
            index[*q] = p;
        }
    }
    index
}

/// The first pixel at or beyond a place.
fn first_pixel_from(strip: &Strip, x: f64) -> usize {
    let guess = (x * strip.density.typical.get() - 0.5 - 1e-9).ceil().max(0.0) as usize;
    guess.min(strip.pixels)
}

/// A colour of a plain strip: no current up to the drop of its LEDs, beyond it (V − n·Vf)/R without end, with
/// R = (V_rated − n·Vf)/I of the nominal figures. Under PWM the current flows in full while it is on.
fn plain_clamp(strip: &Strip, corner: Corner, colour: usize, level: f64) -> Clamp {
    let c = &strip.pixel.colours[colour];
    let on = if level > 0.0 { 1.0 } else { 0.0 };
    let across_resistor = (c.vreg.typical - c.vf.typical).get().max(1e-6);
    Clamp {
        amps: on * FAR * c.current.at(corner, Role::Demand).get(),
        start_v: c.vf.at(corner, Role::LoadOpposite).get(),
        slope: 1.0 / (FAR * across_resistor),
    }
}

/// A strip's law in a corner, its colours at their levels.
fn law(strip: &Strip, corner: Corner, levels: &[f64]) -> PixelLaw {
    let pixel = &strip.pixel;
    if pixel.plain {
        return PixelLaw {
            clamps: (0..pixel.colours.len()).map(|c| plain_clamp(strip, corner, c, levels[c])).collect(),
        };
    }
    let mut clamps = vec![Clamp {
        amps: pixel.quiescent.at(corner, Role::Demand).get(),
        start_v: 0.0,
        slope: 1.0 / pixel.quiescent_knee.at(corner, Role::LoadOpposite).get(),
    }];
    let colour = |(c, level): (&Colour, &f64)| {
        let (vf, vreg) = (c.vf.at(corner, Role::LoadOpposite).get(), c.vreg.at(corner, Role::LoadOpposite).get());
        Clamp {
            amps: level * c.current.at(corner, Role::Demand).get(),
            start_v: vf,
            slope: 1.0 / (vreg - vf).max(1e-6),
        }
    };
    let colours = pixel.colours.iter().zip(levels).map(colour);
    if pixel.in_series {
        clamps.extend(colours.reduce(|a, b| if b.amps > a.amps { b } else { a }));
    } else {
        clamps.extend(colours);
    }
    PixelLaw { clamps }
}
