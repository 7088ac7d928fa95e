//! A plan's electrics, described for the second method only; written out as a plan's text for the first.

use std::fmt::Write as _;

/// Steps of a multiplicative congruential generator (Lehmer): the same seed gives the same case everywhere.
pub struct Dice(u64);

impl Dice {
    pub fn new(seed: u64) -> Self {
        Self(seed | 1)
    }

    fn roll(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(0xda94_2042_e4dd_58b5);
        (self.0 >> 40) as f64 / (1u64 << 24) as f64
    }

    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        // Five digits, so that the text of a plan holds the number exactly.
        let x = low + (high - low) * self.roll();
        format!("{x:.4e}").parse().unwrap()
    }

    pub fn below(&mut self, n: usize) -> usize {
        ((self.roll() * n as f64) as usize).min(n - 1)
    }

    pub fn chance(&mut self, share: f64) -> bool {
        self.roll() < share
    }
}

/// A source or a converter's output: E − R·i from 0 A (or less, if it sinks) up to the limit.
#[derive(Clone)]
pub struct Supply {
    pub node: usize,
    pub emf: f64,
    pub ohms: f64,
    pub limit: Option<f64>,
    pub sinks: bool,
}

/// A feed and a return conductor; the return may go to another node than the feed comes from.
#[derive(Clone)]
pub struct Lead {
    pub from: usize,
    pub to: usize,
    pub feed: f64,
    pub back: f64,
    pub back_to: usize,
    /// A diode in the feed: forward voltage and resistance.
    pub diode: Option<(f64, f64)>,
}

#[derive(Clone)]
pub struct Converter {
    pub input: usize,
    pub output: Supply,
    pub efficiency: f64,
    pub quiescent: f64,
    /// Its output is a ground group of its own.
    pub isolated: bool,
}

/// A linear regulator: holds `output` less `ohms`·i, or follows its input less the dropout; takes `own` for itself.
#[derive(Clone)]
pub struct Linear {
    pub input: usize,
    pub node: usize,
    pub volts: f64,
    pub ohms: f64,
    pub dropout: f64,
    pub own: f64,
}

#[derive(Clone, Copy)]
pub enum Law {
    Current { amps: f64, knee: f64 },
    Ohms(f64),
    Watts(f64),
}

#[derive(Clone)]
pub struct Strip {
    pub pixels: usize,
    pub per_m: f64,
    pub copper: (f64, f64),
    pub quiescent: f64,
    pub colours: Vec<(f64, f64, f64)>,
    pub light: f64,
    /// Position and lead; `to` is not used.
    pub feeds: Vec<(f64, Lead)>,
}

/// Nodes are numbered; each has a + and a −.
#[derive(Clone, Default)]
pub struct Case {
    pub nodes: usize,
    pub supplies: Vec<Supply>,
    pub leads: Vec<Lead>,
    pub converters: Vec<Converter>,
    pub loads: Vec<(usize, Law)>,
    pub strips: Vec<Strip>,
    pub ties: Vec<(usize, usize, f64)>,
    /// Conductors between the + of two nodes.
    pub links: Vec<(usize, usize, f64)>,
    pub linears: Vec<Linear>,
}

impl Case {
    fn node(&mut self) -> usize {
        self.nodes += 1;
        self.nodes - 1
    }

    /// One or two supplies, runs and converters hanging off them at random, loads and strips at any node.
    pub fn random(seed: u64, stressed: bool) -> Self {
        let mut dice = Dice::new(seed);
        let mut case = Case::default();
        let mut volts: Vec<f64> = Vec::new();
        let supplies = 1 + dice.below(2);
        for _ in 0..supplies {
            let node = case.node();
            let emf = dice.between(4.8, 26.0);
            let limit = (stressed && dice.chance(0.5)).then(|| dice.between(0.5, 5.0));
            case.supplies.push(Supply { node, emf, ohms: dice.between(0.002, 0.1), limit, sinks: dice.chance(0.2) });
            volts.push(emf);
        }
        // A return that wanders between groups, and a signal between them, need the groups tied.
        if supplies == 2 {
            case.ties.push((0, 1, dice.between(0.001, 0.05)));
        }
        for _ in 0..1 + dice.below(5) {
            let from = dice.below(case.nodes);
            if volts[from] > 7.0 && dice.chance(0.4) {
                let input = case.lead(&mut dice, from);
                let set = dice.between(3.3, volts[from] - 2.5);
                let node = case.node();
                let limit = (stressed && dice.chance(0.6)).then(|| dice.between(0.3, 3.0));
                let output = Supply { node, emf: set, ohms: dice.between(0.002, 0.05), limit, sinks: false };
                let (efficiency, quiescent) = (dice.between(0.8, 0.95), dice.between(0.01, 0.2));
                case.converters.push(Converter { input, output, efficiency, quiescent, isolated: false });
                volts.push(volts[from]);
                volts.push(set);
            } else {
                case.lead(&mut dice, from);
                volts.push(volts[from]);
            }
        }
        // Something on every source: without any current its voltage would be anything above its EMF.
        let sources = case.supplies.iter().chain(case.converters.iter().map(|c| &c.output)).map(|s| s.node);
        for node in sources.collect::<Vec<_>>() {
            case.loads.push((node, Law::Ohms(dice.between(500.0, 2000.0))));
        }
        for _ in 0..1 + dice.below(4) {
            let node = dice.below(case.nodes);
            let law = match dice.below(3) {
                0 => Law::Current { amps: dice.between(0.02, 1.2), knee: dice.between(0.5, 3.0) },
                1 => Law::Ohms(dice.between(5.0, 200.0)),
                _ => Law::Watts(dice.between(0.2, if stressed { 20.0 } else { 5.0 })),
            };
            case.loads.push((node, law));
        }
        for _ in 0..dice.below(3) {
            case.strip(&mut dice, &volts);
        }
        case
    }

    /// As [`random`](Self::random), and diodes in some feeds, links between any two nodes, linear regulators, isolated
    /// outputs.
    pub fn rails(seed: u64) -> Self {
        let mut case = Self::random(seed, false);
        let mut dice = Dice::new(seed ^ 0x5eed_0f0d_d1ce_5eed);
        let wanders = case.leads.iter().chain(case.strips.iter().flat_map(|s| s.feeds.iter().map(|(_, l)| l)));
        let wanders = wanders.into_iter().any(|l| l.back_to != l.from);
        for i in 0..case.leads.len() {
            if dice.chance(0.3) {
                case.leads[i].diode = Some((dice.between(0.15, 0.9), dice.between(0.01, 0.2)));
                // Behind a diode that blocks only a resistance says where the voltage is.
                let to = case.leads[i].to;
                case.loads.push((to, Law::Ohms(dice.between(500.0, 2000.0))));
            }
        }
        for c in &mut case.converters {
            c.isolated = !wanders && dice.chance(0.3);
        }
        let feedable = case.nodes;
        for _ in 0..dice.below(3) {
            let input = dice.below(feedable);
            let node = case.node();
            let volts = dice.between(1.8, 9.0);
            let (ohms, dropout, own) = (dice.between(0.01, 0.1), dice.between(0.2, 2.0), dice.between(0.0, 0.01));
            case.linears.push(Linear { input, node, volts, ohms, dropout, own });
            case.loads.push((node, Law::Ohms(dice.between(5.0, 500.0))));
        }
        // Links do not cross from one ground group into another: no current would flow and the voltage means nothing.
        if case.converters.iter().all(|c| !c.isolated) {
            for _ in 0..dice.below(3) {
                let (a, b) = (dice.below(case.nodes), dice.below(case.nodes));
                if a != b {
                    case.links.push((a, b, dice.between(0.02, 2.0)));
                }
            }
        }
        case
    }

    fn lead(&mut self, dice: &mut Dice, from: usize) -> usize {
        let to = self.node();
        let back_to = if dice.chance(0.2) { dice.below(to) } else { from };
        let (feed, back) = (dice.between(0.002, 0.5), dice.between(0.002, 0.5));
        self.leads.push(Lead { from, to, feed, back, back_to, diode: None });
        to
    }

    fn strip(&mut self, dice: &mut Dice, volts: &[f64]) {
        let from = dice.below(volts.len());
        let v = volts[from];
        let pixels = 3 + dice.below(30);
        let per_m = [20.0, 30.0, 60.0, 96.0][dice.below(4)];
        let length = pixels as f64 / per_m;
        let colours = (0..1 + dice.below(3))
            .map(|_| (dice.between(0.005, 0.06), v * dice.between(0.3, 0.5), v * dice.between(0.55, 1.02)))
            .map(|(a, f, r)| (a, format!("{f:.4e}").parse().unwrap(), format!("{r:.4e}").parse().unwrap()))
            .collect();
        let mut feeds = Vec::new();
        for _ in 0..1 + dice.below(3) {
            // Nodes of about the same voltage; a strip fed at a second place from elsewhere on its rail.
            let near: Vec<usize> = (0..volts.len()).filter(|n| (volts[*n] - v).abs() < 1e-9).collect();
            let node = near[dice.below(near.len())];
            let at = match dice.below(4) {
                0 => 0.0,
                1 => length,
                _ => length * dice.between(0.0, 1.0),
            };
            let at: f64 = format!("{at:.4e}").parse().unwrap();
            // The second method has no word for two feeds on one spot.
            if feeds.iter().any(|(other, _): &(f64, Lead)| (other - at).abs() < 0.003) {
                continue;
            }
            let back_to = if dice.chance(0.2) { dice.below(volts.len()) } else { node };
            let lead = Lead {
                from: node,
                to: usize::MAX,
                feed: dice.between(0.0, 0.2),
                back: dice.between(0.0, 0.2),
                back_to,
                diode: None,
            };
            feeds.push((at.min(length), lead));
        }
        self.strips.push(Strip {
            pixels,
            per_m,
            copper: (dice.between(0.02, 2.0), dice.between(0.02, 2.0)),
            quiescent: dice.between(0.0, 0.003),
            colours,
            light: dice.between(0.1, 1.0),
            feeds,
        });
    }

    /// The name that a node has in the plan.
    pub fn name(&self, node: usize) -> String {
        if let Some(i) = self.supplies.iter().position(|s| s.node == node) {
            format!("source{i}")
        } else if let Some(i) = self.converters.iter().position(|c| c.output.node == node) {
            format!("conv{i}")
        } else if let Some(i) = self.linears.iter().position(|l| l.node == node) {
            format!("linear{i}")
        } else {
            format!("n{node}")
        }
    }

    /// The case as a plan.
    #[expect(clippy::too_many_lines, reason = "one kind of item after another")]
    pub fn text(&self) -> String {
        let mut t = String::from("format = 1\n");
        let back = |lead: &Lead| {
            if lead.back_to == lead.from {
                return String::new();
            }
            let to = self.name(lead.back_to);
            format!("return = {{ to = \"{to}\", cable = {{ feed = \"0 Ω\", return = \"{} Ω\" }} }}", lead.back)
        };
        let limit = |s: &Supply| s.limit.map_or(String::new(), |l| format!("limit = \"{l} A\"\n"));
        for s in &self.supplies {
            let (name, emf, ohms, sinks) = (self.name(s.node), s.emf, s.ohms, s.sinks);
            let _ = write!(
                t,
                "[supply.{name}]\nkind = \"bench\"\nvoltage = \"{emf} V\"\nresistance = \"{ohms} Ω\"\nsinks = {sinks}\n{}",
                limit(s)
            );
        }
        for l in &self.leads {
            let _ = write!(
                t,
                "[{}.n{}]\nfrom = \"{}\"\ncable = {{ feed = \"{} Ω\", return = \"{} Ω\" }}\n{}\n",
                if l.diode.is_some() { "diode" } else { "branch" },
                l.to,
                self.name(l.from),
                l.feed,
                l.back,
                back(l)
            );
            if let Some((vf, ohms)) = l.diode {
                let _ = writeln!(t, "vf = \"{vf} V\"\nresistance = \"{ohms} Ω\"");
            }
        }
        for l in &self.linears {
            let _ = writeln!(
                t,
                "[converter.{}]\nkind = \"linear\"\nfrom = \"{}\"\noutput = \"{} V\"\nresistance = \"{} Ω\"\ndropout = \"{} V\"\nown-current = \"{} A\"",
                self.name(l.node),
                self.name(l.input),
                l.volts,
                l.ohms,
                l.dropout,
                l.own
            );
        }
        for (i, (a, b, ohms)) in self.links.iter().enumerate() {
            let _ = writeln!(
                t,
                "[link.link{i}]\nbetween = [\"{}\", \"{}\"]\nresistance = \"{ohms} Ω\"",
                self.name(*a),
                self.name(*b)
            );
        }
        for c in &self.converters {
            let (name, from) = (self.name(c.output.node), self.name(c.input));
            let _ = write!(
                t,
                "[converter.{name}]\nkind = \"{}\"\nfrom = \"{from}\"\noutput = \"{} V\"\nresistance = \"{} Ω\"\n\
                 efficiency = \"{:.6} %\"\nquiescent = \"{} W\"\n{}",
                if c.isolated { "isolated" } else { "buck" },
                c.output.emf,
                c.output.ohms,
                c.efficiency * 100.0,
                c.quiescent,
                limit(&c.output)
            );
        }
        for (i, (node, law)) in self.loads.iter().enumerate() {
            let _ = writeln!(t, "[load.load{i}]\nfrom = \"{}\"", self.name(*node));
            let _ = match law {
                Law::Current { amps, knee } => writeln!(t, "current = \"{amps} A\"\nknee = \"{knee} V\""),
                Law::Ohms(ohms) => writeln!(t, "resistance = \"{ohms} Ω\""),
                Law::Watts(watts) => writeln!(t, "power = \"{watts} W\""),
            };
        }
        for (i, s) in self.strips.iter().enumerate() {
            self.strip_text(&mut t, i, s, &back);
        }
        for (i, (a, b, ohms)) in self.ties.iter().enumerate() {
            let names = (self.name(*a), self.name(*b));
            let _ =
                write!(t, "[ground.tie{i}]\nbetween = [\"{}\", \"{}\"]\nresistance = \"{ohms} Ω\"\n", names.0, names.1);
        }
        let light: Vec<String> =
            self.strips.iter().enumerate().map(|(i, s)| format!("strip{i} = \"{:.6} %\"", s.light * 100.0)).collect();
        let _ = write!(t, "[scenario.case]\nset = {{ {} }}\n", light.join(", "));
        t
    }

    fn strip_text(&self, t: &mut String, i: usize, s: &Strip, back: &dyn Fn(&Lead) -> String) {
        let length = s.pixels as f64 / s.per_m;
        let _ = write!(
            t,
            "[strip.strip{i}]\nlength = \"{length} m\"\npixels = \"{} /m\"\ncopper = {{ feed = \"{} Ω/m\", return = \"{} Ω/m\" }}\n\
             quiescent = \"{} A\"\nquiescent-knee = \"1.5 V\"\n",
            s.per_m, s.copper.0, s.copper.1, s.quiescent
        );
        let points: Vec<String> = s
            .feeds
            .iter()
            .map(|(at, l)| {
                let (from, back) = (self.name(l.from), back(l));
                let comma = if back.is_empty() { "" } else { ", " };
                format!(
                    "{{ at = \"{at} m\", from = \"{from}\", cable = {{ feed = \"{} Ω\", return = \"{} Ω\" }}{comma}{back} }}",
                    l.feed, l.back
                )
            })
            .collect();
        let _ = writeln!(t, "inject = [ {} ]\n[strip.strip{i}.colours]", points.join(", "));
        for (c, (amps, vf, vreg)) in s.colours.iter().enumerate() {
            let _ = writeln!(t, "c{c} = {{ current = \"{amps} A\", vf = \"{vf} V\", vreg = \"{vreg} V\" }}");
        }
    }
}
