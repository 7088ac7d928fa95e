//! Where a number comes from: traced to the plan's text, a class, a default, or the numbers that it is computed from.

use crate::network::layout::{ConductorInfo, PinInfo};
use crate::plan::kinds::converter::ConverterKind;
use crate::plan::kinds::run::RunKind;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::figures::Seen;
use crate::plan::model::node::NodeKind;
use crate::plan::wiring::feed::NodeId;
use crate::quantity::figure::{Corner, Origin, Role};
use crate::quantity::units::{Amps, Ohms, Volts, Watts};
use crate::review::Review;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::conductors::cable_of;
use crate::topology::rail::way_up;
use crate::topology::ratings::node_limit;
use crate::topology::run::Run;

/// A number with what it comes from.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Trace {
    /// What it is: `volts`, `wanted current`, `efficiency` ….
    pub what: String,
    /// The number in words.
    pub value: String,
    /// The formula, or where it was stated.
    pub because: String,
    /// The line of the plan, from 1, where it is there.
    pub line: Option<usize>,
    /// The numbers that it is made of.
    pub from: Vec<Trace>,
}

impl Trace {
    pub(crate) fn computed(
        what: impl Into<String>,
        value: impl ToString,
        because: impl Into<String>,
        from: Vec<Self>,
    ) -> Self {
        Self { what: what.into(), value: value.to_string(), because: because.into(), line: None, from }
    }
}

impl Review {
    /// Everything that is known of a name, each number with where it comes from: of a supply, run, converter, board,
    /// strip, load or any of their nodes. `None` for a name that the plan does not have.
    ///
    /// ```
    /// use modest_ohm::Plan;
    /// let plan = Plan::from_toml("format = 1\n[supply.wall]\nkind = \"adapter\"\nvoltage = \"12 V\"\ncurrent = \"2 A\"\n\
    ///     [load.lamp]\nfrom = \"wall\"\ncable = \"1 m 20 AWG\"\ncurrent = \"1 A\"\nvoltage = \"12 V\"\n").unwrap();
    /// let review = plan.review();
    /// let traces = review.why("wall").unwrap();
    /// let demand = traces.iter().find(|t| t.what.starts_with("demand on")).unwrap();
    /// assert_eq!(demand.from[0].what, "lamp");
    /// assert!(review.why("lampp").is_none());
    /// ```
    #[must_use]
    pub fn why(&self, name: &str) -> Option<Vec<Trace>> {
        let item = name.split(['.', '[']).next().unwrap_or(name);
        let mut traces = Vec::new();
        for id in 0..self.plan.nodes.len() {
            let node = &self.plan.nodes[id].name;
            let is_end = matches!(self.plan.nodes[id].kind, NodeKind::StripStart(_) | NodeKind::StripEnd(_));
            if (node == name || (name == item && node.split('.').next() == Some(item))) && !is_end {
                traces.extend(self.node_traces(id));
            }
        }
        for info in &self.layout.conductors {
            let own = info.name == name || (name == item && info.name.split(['.', '[']).next() == Some(item));
            let is_node = self.plan.nodes.iter().any(|n| n.name == info.name);
            if own && matches!(info.run, Run::Ground(_)) {
                traces.extend(self.tie_trace(info));
            }
            if own && !is_node {
                traces.extend(self.consumer_trace(info));
            }
            if own {
                // The limit of a node's own cable stands with the node.
                traces.extend(self.lead_traces(info, !is_node));
            }
        }
        traces.extend(self.between_traces(name));
        traces.extend(self.figure_traces(item));
        traces.extend(self.finding_traces(name, item));
        (!traces.is_empty()).then_some(traces)
    }

    /// Names that `why` knows, for messages.
    #[must_use]
    pub fn why_names(&self) -> Vec<String> {
        let mut names: Vec<String> = self.plan.nodes.iter().map(|n| n.name.clone()).collect();
        names.extend(self.layout.conductors.iter().map(|c| c.name.clone()));
        // Whatever has a figure has something to tell.
        self.plan.clone().each_figure(&mut |Seen { item, .. }, _| {
            if names.last().is_none_or(|last| last != item) {
                names.push(item.to_owned());
            }
        });
        let items: Vec<String> = names.iter().filter_map(|n| Some(n.split(['.', '[']).next()?.to_owned())).collect();
        names.extend(items);
        names.sort();
        names.dedup();
        names
    }

    /// The outcome of *worst* in which a value is largest.
    fn where_largest(&self, value: impl Fn(&Outcome) -> Option<f64>) -> Option<(&Outcome, f64)> {
        let worst = self.outcomes.iter().filter(|o| o.case.scenario == Scenario::Worst);
        let found = worst.filter_map(|o| Some((o, value(o)?)));
        found.reduce(|a, b| if b.1 > a.1 + 1e-9 * a.1.abs() { b } else { a })
    }

    fn node_traces(&self, id: usize) -> Vec<Trace> {
        let kind = self.plan.nodes[id].kind;
        let name = &self.plan.nodes[id].name;
        let mut traces = Vec::new();
        let volts = |s: &Snapshot| s.volts_at(NodeId(id));
        if let Some((o, v)) = self.where_largest(|o| o.actual.as_ref().ok().and_then(volts).map(|v| -v))
            && let Ok(s) = o.actual.as_ref()
        {
            let what = format!("voltage of {name}, lowest (worst, {})", o.corner.name());
            let because = "source voltage less the drops on its path, feed and return";
            traces.push(Trace::computed(what, Volts::new(-v), because, self.chain(NodeId(id), o.corner, s)));
        }
        let wanted = |o: &Outcome| o.wanted.as_ref().ok().map(|s| s.current_of(kind));
        if let Some((o, a)) = self.where_largest(wanted)
            && let Ok(s) = o.wanted.as_ref()
        {
            let mut from: Vec<Trace> = super::parts::parts_of(&self.plan, id, s)
                .into_iter()
                .map(|(part, amps)| Trace::computed(part, amps, "solved", Vec::new()))
                .collect();
            if let NodeKind::Converter(i) = kind {
                from.push(self.intake_trace(i, s));
            }
            let largest = match self.demand_beyond(name, Some(&o.case.scenario)) {
                Some(beyond) if beyond > a => "largest of the corners",
                _ => "largest",
            };
            let what = format!("demand on {name}, {largest} (worst, {})", o.corner.name());
            let because = "source limits ignored, boards at peak current: the sum of";
            traces.push(Trace::computed(what, Amps::new(a), because, from));
        }
        traces.extend(self.limit_trace(id));
        traces
    }

    /// What flows through a ground tie.
    fn tie_trace(&self, info: &ConductorInfo) -> Option<Trace> {
        let through = |o: &Outcome| Some(o.wanted.as_ref().ok()?.solution.current[info.back].abs());
        let (o, amps) = self.where_largest(through)?;
        let amps = if amps < 1e-9 { 0.0 } else { amps };
        let what = format!("current through {}, largest (worst, {})", info.name, o.corner.name());
        Some(Trace::computed(what, Amps::new(amps), "source limits ignored", Vec::new()))
    }

    /// What flows through a link or a clamp of a name.
    fn between_traces(&self, name: &str) -> Option<Trace> {
        let links = self.plan.links.iter().map(|l| &l.name.text).zip(&self.layout.links);
        let clamps = self.plan.clamps.iter().map(|c| &c.name.text).zip(&self.layout.clamps);
        let (_, branch) = links.chain(clamps).find(|(own, _)| *own == name)?;
        let (o, amps) = self.where_largest(|o| Some(o.wanted.as_ref().ok()?.solution.current[*branch].abs()))?;
        // Less is the leak of what blocks.
        let amps = if amps < 1e-9 { 0.0 } else { amps };
        let what = format!("current through {name}, largest (worst, {})", o.corner.name());
        Some(Trace::computed(what, Amps::new(amps), "source limits ignored, boards at peak current", Vec::new()))
    }

    /// P_in = P_out/η + Pq, or, of a linear regulator, I_in = I_out + Iq.
    fn intake_trace(&self, converter: usize, s: &Snapshot) -> Trace {
        let c = &self.plan.converters[converter];
        let input = self.layout.converters[converter].input;
        let volts = s.solution.across(input.plus, input.minus);
        let amps = s.current_into_converter(&self.plan, converter);
        let formula = if c.kind == ConverterKind::Linear {
            "its output current and its own"
        } else {
            "its output power over its efficiency, and its idle power"
        };
        let value = format!("{} at {}, {}", Amps::new(amps), Volts::new(volts), Watts::new(amps * volts));
        Trace::computed("drawn", value, formula, Vec::new())
    }

    fn limit_trace(&self, id: usize) -> Option<Trace> {
        let kind = self.plan.nodes[id].kind;
        let limit = node_limit(&self.plan, kind)?;
        let what = format!("limit of {}", self.plan.nodes[id].name);
        let mut from = Vec::new();
        let because = match kind {
            NodeKind::Branch(i) => {
                from.extend(self.limits_of(Run::Branch(i), self.plan.warmest_c()));
                "the smallest of fuse × load factor, wire and contact ratings"
            }
            NodeKind::BoardInput(i) => {
                from.extend(self.limits_of(Run::Board(i), self.plan.warmest_c()));
                "the rating of its cable"
            }
            NodeKind::BoardOutput(_) => "its regulator's limit less the board's mean",
            _ => "its continuous rating",
        };
        Some(Trace::computed(what, limit, because, from))
    }

    fn consumer_trace(&self, info: &ConductorInfo) -> Option<Trace> {
        let ends = |s: &Snapshot| {
            let (feed, back) = (&s.net.branches[info.feed?], &s.net.branches[info.back]);
            let alive = s.solution.alive[feed.to] && s.solution.alive[back.to];
            alive.then(|| s.solution.across(feed.to, back.to))
        };
        let (o, v) = self.where_largest(|o| o.actual.as_ref().ok().and_then(ends).map(|v| -v))?;
        let s = o.actual.as_ref().ok()?;
        let mut from = vec![self.loss_trace(info, s)];
        from.extend(self.pin_traces(info, s));
        let feed = self
            .plan
            .feeds()
            .into_iter()
            .find(|(n, ..)| *n == info.name || info.name.rsplit_once('.').is_some_and(|(item, _)| *n == item));
        if let Some((_, feed, _)) = feed {
            from.extend(self.chain(feed.from.id, o.corner, s));
        }
        let what = format!("voltage at {}, lowest (worst, {})", info.name, o.corner.name());
        let because = "source voltage less the drops on its path, feed and return";
        Some(Trace::computed(what, Volts::new(-v), because, from))
    }

    /// From a node up to the source of its rail: what each run loses, then the source's voltage.
    fn chain(&self, from: NodeId, corner: Corner, s: &Snapshot) -> Vec<Trace> {
        let mut steps = Vec::new();
        for id in way_up(&self.plan, from) {
            let run = match self.plan.nodes[id.0].kind {
                NodeKind::Branch(i) => Some((Run::Branch(i), self.layout.elements[i])),
                NodeKind::BoardInput(i) => Some((Run::Board(i), None)),
                _ => None,
            };
            if let Some((run, element)) = run {
                // A stage that sits where its load's lead begins has no cable of its own to speak of.
                let is_stage = matches!(run, Run::Branch(i) if matches!(self.plan.branches[i].kind, RunKind::Stage(_)));
                let told = !is_stage || cable_of(&self.plan, run).is_some();
                let info = self.layout.conductors.iter().find(|c| told && c.run == run);
                steps.extend(info.map(|info| self.loss_trace(info, s)));
                if let Some(branch) = element {
                    let volts = Volts::new(s.drop_v(branch));
                    let amps = Amps::new(s.amps(branch));
                    let word = if let NodeKind::Branch(i) = self.plan.nodes[id.0].kind {
                        self.plan.branches[i].word()
                    } else {
                        "contact"
                    };
                    let what = format!("drop in the {word} {}", self.plan.nodes[id.0].name);
                    steps.push(Trace::computed(what, volts, format!("at {amps}"), Vec::new()));
                }
                continue;
            }
            let t = self.layout.nodes[id.0];
            let volts = Volts::new(s.solution.across(t.plus, t.minus));
            let limiting = crate::solved::currents::source_of(&self.layout, self.plan.nodes[id.0].kind)
                .is_some_and(|b| s.solution.limiting[b]);
            let because = if limiting {
                "it is at its current limit".to_owned()
            } else if let Some(starved) = self.starved(id, corner, s) {
                starved
            } else {
                format!("its voltage in the corner {}", corner.name())
            };
            steps.push(Trace::computed(format!("{} supplies", self.plan.nodes[id.0].name), volts, because, Vec::new()));
        }
        steps
    }

    /// Why a linear regulator gives less than it is set to: its input is too low.
    fn starved(&self, id: NodeId, corner: Corner, s: &Snapshot) -> Option<String> {
        let (input, set, dropout) = match self.plan.nodes[id.0].kind {
            NodeKind::BoardOutput(i) => {
                let r = self.plan.boards[i].regulator.as_ref()?;
                (self.layout.boards[i].main, &r.voltage, &r.dropout)
            }
            NodeKind::Converter(i) if self.plan.converters[i].kind == ConverterKind::Linear => {
                let c = &self.plan.converters[i];
                (self.layout.converters[i].input, &c.output, &c.dropout)
            }
            _ => return None,
        };
        let t = self.layout.nodes[id.0];
        let set = set.at(corner, Role::Source);
        let gets = Volts::new(s.solution.across(input.plus, input.minus));
        let dropout = dropout.at(corner, Role::Resistance);
        (s.solution.across(t.plus, t.minus) < set.get() - 1e-6)
            .then(|| format!("set to {set}; input {gets}, dropout {dropout}"))
    }

    /// V = I·R of both conductors of a cable.
    fn loss_trace(&self, info: &ConductorInfo, s: &Snapshot) -> Trace {
        let of = |branch: usize| (s.amps(branch), s.drop_v(branch));
        let each = |word: &str, (amps, volts): (f64, f64)| {
            let ohms =
                if amps.abs() > 1e-9 { format!(" · {}", Ohms::new((volts / amps).abs())) } else { String::new() };
            let value = Volts::new(volts.abs());
            Trace::computed(word, value, format!("{}{ohms}", Amps::new(amps.abs())), Vec::new())
        };
        let mut from = Vec::new();
        if let Some(feed) = info.feed {
            from.push(each("feed", of(feed)));
        }
        from.push(each("return", of(info.back)));
        let lost: f64 = info.feed.map_or(0.0, |b| of(b).1) - of(info.back).1;
        let (because, line) = match cable_of(&self.plan, info.run) {
            Some(cable) => {
                let words = self.plan.source.slice(cable.span).to_owned();
                (words, Some(self.plan.source.place(cable.span.start).line))
            }
            None => ("no cable given: taken as ideal".to_owned(), None),
        };
        Trace {
            what: format!("drop in the cable to {}", info.name),
            value: Volts::new(lost).to_string(),
            because,
            line,
            from,
        }
    }

    /// What is lost in the pins that a load is connected to.
    fn pin_traces(&self, info: &ConductorInfo, s: &Snapshot) -> Vec<Trace> {
        let ends: Vec<usize> = info.feed.into_iter().chain([info.back]).map(|b| s.net.branches[b].from).collect();
        let pins = self.layout.pins.iter().filter(|p| ends.contains(&p.vertex));
        let trace = |p: &PinInfo| {
            let (amps, volts) = (s.amps(p.branch).abs(), s.drop_v(p.branch).abs());
            let what = format!("drop in pin {}.{}", self.plan.boards[p.board].name.text, p.pin);
            let ohms = if amps > 1e-9 { format!(" · {}", Ohms::new(volts / amps)) } else { String::new() };
            Trace::computed(what, Volts::new(volts), format!("{}{ohms}", Amps::new(amps)), Vec::new())
        };
        pins.map(trace).collect()
    }

    /// The figures of an item as the plan, its class or a default has them.
    fn figure_traces(&self, item: &str) -> Vec<Trace> {
        let mut traces: Vec<Trace> = Vec::new();
        self.plan.clone().each_figure(&mut |Seen { item: owner, at, .. }, figure| {
            if owner != item {
                return;
            }
            let (mut because, line) = self.origin_words(figure.origin());
            let stated = ["±", "+", ".."].iter().any(|sign| because.contains(sign));
            if matches!(figure.origin(), Origin::Plan(_)) && figure.is_spread() && !stated {
                because.push_str("; tolerance of the generic part");
            }
            let trace = Trace { what: at.to_string(), value: figure.words(), because, line, from: Vec::new() };
            if !traces.contains(&trace) {
                traces.push(trace);
            }
        });
        traces
    }

    /// Where a figure was stated, in words, and the plan's line.
    pub(crate) fn origin_words(&self, origin: &Origin) -> (String, Option<usize>) {
        match origin {
            Origin::Plan(span) => {
                let words = self.plan.source.slice(*span).to_owned();
                (format!("the plan: {words}"), Some(self.plan.source.place(span.start).line))
            }
            Origin::Catalogue { part, source } => (format!("generic part {part}: {source}"), None),
            Origin::Default(why) => (format!("assumed: {why}"), None),
            Origin::Computed => ("computed".into(), None),
        }
    }
}
