//! The rows of tables: nodes, conductors, converters, totals, strips, loads, signal links.

use super::Review;
use super::outcome::{Outcome, Snapshot};
use super::select::{Row, Select};
use crate::network::{Boards, State, Terminals, build};
use crate::plan::NodeKind;
use crate::quantity::{Amps, Corner, Fraction, Metres, Volts, Watts};
use crate::ratings;
use crate::signal;
use crate::solve::{Limits, Workspace, solve_pixels};

/// A supply, branch, converter or board supply pin.
#[derive(Clone, Debug)]
pub struct NodeRow {
    /// Its name.
    pub name: String,
    /// `supply`, `branch`, `converter`, `board input`, `board output`.
    pub kind: &'static str,
    /// + against −, source limits in force; `None` where they have no solution.
    pub voltage: Option<Volts>,
    /// − against the − of the first source of its group.
    pub minus: Option<Volts>,
    /// What it delivers, source limits in force, boards bursting.
    pub current: Option<Amps>,
    /// What is asked of it with source limits lifted.
    pub wanted: Option<Amps>,
    /// What it may carry for ever.
    pub limit: Option<Amps>,
    /// 1 − wanted/limit.
    pub headroom: Option<Fraction>,
    /// True where a supply or converter holds its current limit and gives less than is wanted.
    pub limiting: bool,
}

/// A feed and a return conductor. Currents count away from the source: the return's is negative.
#[derive(Clone, Debug)]
pub struct ConductorRow {
    /// Named by what it feeds.
    pub name: String,
    /// Current in the feed; `None` for a ground tie, which has none.
    pub feed: Option<Amps>,
    /// Current in the return.
    pub back: Amps,
    /// Heat in the feed.
    pub feed_loss: Watts,
    /// Heat in the return.
    pub return_loss: Watts,
    /// What the conductor carries at this ambient; `None` where its size is not given.
    pub ampacity: Option<Amps>,
}

/// A converter.
#[derive(Clone, Debug)]
pub struct ConverterRow {
    /// Its name.
    pub name: String,
    /// Volts at its input terminals.
    pub input_v: Volts,
    /// Input current.
    pub input_a: Amps,
    /// Input power.
    pub input_w: Watts,
    /// Output current.
    pub output_a: Amps,
    /// Input power less power at the output terminals.
    pub loss: Watts,
}

/// Where the power goes: source = inside the source + loads + conductors + converter losses.
#[derive(Clone, Debug)]
pub struct TotalRow {
    /// Σ EMF·I.
    pub source: Watts,
    /// In the sources' own resistance.
    pub source_internal: Watts,
    /// In loads, boards and pixels.
    pub load: Watts,
    /// In cables, fuses, ties and strip copper.
    pub conductor: Watts,
    /// In converters and regulators.
    pub converter_loss: Watts,
}

/// Whether the feed delivers what is asked, and how much more it could.
#[derive(Clone, Debug)]
pub struct FeedRow {
    /// False where the demands have no solution.
    pub has_solution: bool,
    /// The largest common scale of all constant-power demands, searched up to 100; `None` without such demands.
    pub largest_scale: Option<f64>,
    /// Their power there.
    pub deliverable: Option<Watts>,
    /// Their power at the largest scale at which every input stays in its range.
    pub deliverable_in_range: Option<Watts>,
    /// True where every input stays in range as planned.
    pub stays_in_range: Option<bool>,
}

/// A feed point of a strip.
#[derive(Clone, Debug)]
pub struct InjectionFlow {
    /// Position from the start.
    pub at: Metres,
    /// Into the strip's feed copper.
    pub feed: Amps,
    /// Into its return copper: negative.
    pub back: Amps,
    /// + against − where it meets the strip.
    pub voltage: Volts,
}

/// A strip.
#[derive(Clone, Debug)]
pub struct StripRow {
    /// Its name.
    pub name: String,
    /// Number of pixels.
    pub pixels: usize,
    /// Sum over the pixels.
    pub current: Amps,
    /// Power in the pixels.
    pub pixel_power: Watts,
    /// Lowest pixel voltage.
    pub lowest: Volts,
    /// Where.
    pub lowest_at: Metres,
    /// Its index, from 0.
    pub lowest_index: usize,
    /// Highest pixel voltage.
    pub highest: Volts,
    /// First and last pixel's volts.
    pub ends: (Volts, Volts),
    /// − of the first pixel against 0 V.
    pub first_minus: Volts,
    /// Pixels that draw less than their full current.
    pub below_full: usize,
    /// Heat in the strip's copper.
    pub copper_loss: Watts,
    /// Largest current in any piece of the feed copper.
    pub copper_max_feed: Amps,
    /// Largest current in any piece of the return copper.
    pub copper_max_return: Amps,
    /// The firmware's cap, if the plan sets one.
    pub firmware_cap: Option<Amps>,
    /// Its feed points.
    pub feeds: Vec<InjectionFlow>,
}

/// One pixel of a profile.
#[derive(Clone, Copy, Debug)]
pub struct ProfilePoint {
    /// From the start.
    pub position: Metres,
    /// Across the pixel.
    pub voltage: Volts,
    /// Through it.
    pub current: Amps,
}

/// A load, a board or a shifter.
#[derive(Clone, Debug)]
pub struct LoadRow {
    /// Its name; members of a count are `name.1`, `name.2` ….
    pub name: String,
    /// Across its own terminals.
    pub voltage: Volts,
    /// What it draws.
    pub current: Amps,
    /// Its − against the − of the first source of the group.
    pub ground_shift: Volts,
}

/// A signal from one part to another, with its signed margins in one state.
#[derive(Clone, Debug)]
pub struct LinkRow {
    /// Sender.
    pub from: String,
    /// Receiver.
    pub to: String,
    /// The receiver's supply.
    pub vdd: Volts,
    /// Its VIH.
    pub vih: Option<Volts>,
    /// Receiver's ground less sender's ground.
    pub shift: Volts,
    /// VOH,min − shift − VIH.
    pub high_margin: Option<Volts>,
    /// VIL − VOL,max + shift.
    pub low_margin: Option<Volts>,
    /// (VDD + 0.3 V) − (VOH,max − shift).
    pub over_margin: Volts,
    /// VOL,min − shift + 0.3 V.
    pub below_margin: Volts,
}

fn volts(snapshot: &Snapshot, t: Terminals) -> Volts {
    Volts::new(snapshot.solution.across(t.plus, t.minus))
}

impl Review {
    /// Supplies, branches, converters and board supply pins; per scenario the corner with the largest wanted/limit.
    #[must_use]
    pub fn nodes(&self, select: &Select) -> Vec<Row<NodeRow>> {
        let mut rows = Vec::new();
        for id in 0..self.plan.nodes.len() {
            if matches!(self.plan.nodes[id].kind, NodeKind::StripStart(_) | NodeKind::StripEnd(_)) {
                continue;
            }
            rows.extend(self.pick(
                select,
                |o| self.node_row(id, o),
                |r| match (r.wanted, r.limit) {
                    (Some(w), Some(l)) => w.get() / l.get(),
                    (Some(w), None) => w.get(),
                    _ => f64::INFINITY,
                },
            ));
        }
        rows
    }

    fn node_row(&self, id: usize, o: &Outcome) -> Option<NodeRow> {
        let kind = self.plan.nodes[id].kind;
        let t = self.layout.nodes[id];
        if let Ok(s) = &o.wanted
            && !s.solution.alive[t.plus]
        {
            return None;
        }
        let through = |s: &Snapshot| Amps::new(ratings::node_current(&self.layout, kind, s));
        let wanted = o.wanted.as_ref().ok().map(through);
        let limit = ratings::node_limit(&self.plan, kind);
        let headroom = match (wanted, limit) {
            (Some(w), Some(l)) => Some(Fraction::new(1.0 - w.get() / l.get())),
            _ => None,
        };
        let actual = o.actual.as_ref().ok();
        Some(NodeRow {
            name: self.plan.nodes[id].name.clone(),
            kind: ratings::kind_word(kind),
            voltage: actual.map(|s| volts(s, t)),
            minus: actual.map(|s| Volts::new(s.solution.potential[t.minus])),
            current: actual.map(through),
            wanted,
            limit,
            headroom,
            limiting: actual
                .is_some_and(|s| ratings::source_of(&self.layout, kind).is_some_and(|b| s.solution.limiting[b])),
        })
    }

    /// One node in the scenario *worst* at its worst corner; `None` for a name that is no node.
    #[must_use]
    pub fn node(&self, name: &str) -> Option<NodeRow> {
        let id = self.plan.nodes.iter().position(|n| n.name == name)?;
        let select = Select { scenario: Some("worst".into()), ..Select::default() };
        let rows = self.pick(&select, |o| self.node_row(id, o), |r| r.headroom.map_or(0.0, |h| -h.get()));
        rows.into_iter().next().map(|r| r.row)
    }

    /// Every conductor pair; per scenario the corner with the largest loss.
    #[must_use]
    pub fn conductors(&self, select: &Select) -> Vec<Row<ConductorRow>> {
        let mut rows = Vec::new();
        for info in &self.layout.conductors {
            rows.extend(self.pick(
                select,
                |o| {
                    let s = o.actual.as_ref().ok()?;
                    let of = |b: usize| (s.solution.current[b], s.solution.current[b] * s.solution.drop_of(&s.net, b));
                    let (feed, feed_loss) = info.feed.map_or((None, 0.0), |b| (Some(Amps::new(of(b).0)), of(b).1));
                    let (back, return_loss) = of(info.back);
                    Some(ConductorRow {
                        name: info.name.clone(),
                        feed,
                        back: Amps::new(back),
                        feed_loss: Watts::new(feed_loss),
                        return_loss: Watts::new(return_loss),
                        ampacity: ratings::cable_of(&self.plan, info.run)
                            .and_then(|c| c.ampacity(self.plan.ambient_c()))
                            .map(Amps::new),
                    })
                },
                |r| (r.feed_loss + r.return_loss).get(),
            ));
        }
        rows
    }

    /// Every converter; per scenario the corner with the largest loss.
    #[must_use]
    pub fn converters(&self, select: &Select) -> Vec<Row<ConverterRow>> {
        let mut rows = Vec::new();
        for (i, c) in self.plan.converters.iter().enumerate() {
            let (input, intake, output) = self.layout.converters[i];
            rows.extend(self.pick(
                select,
                |o| {
                    let s = o.actual.as_ref().ok().filter(|s| s.solution.alive[input.plus])?;
                    let (v, a) = (volts(s, input), Amps::new(s.solution.current[intake]));
                    let out_a = Amps::new(s.solution.current[output]);
                    let out_v = Volts::new(-s.solution.drop_of(&s.net, output));
                    Some(ConverterRow {
                        name: c.name.text.clone(),
                        input_v: v,
                        input_a: a,
                        input_w: v * a,
                        output_a: out_a,
                        loss: v * a - out_v * out_a,
                    })
                },
                |r| r.loss.get(),
            ));
        }
        rows
    }

    /// Where the power goes; per scenario the corner with the largest source power.
    #[must_use]
    pub fn totals(&self, select: &Select) -> Vec<Row<TotalRow>> {
        self.pick(
            select,
            |o| {
                let s = o.actual.as_ref().ok()?;
                let t = s.solution.totals(&s.net);
                Some(TotalRow {
                    source: Watts::new(t.source_w),
                    source_internal: Watts::new(t.source_internal_w),
                    load: Watts::new(t.load_w),
                    conductor: Watts::new(t.conductor_w),
                    converter_loss: Watts::new(t.converter_loss_w),
                })
            },
            |r| r.source.get(),
        )
    }

    /// Every strip; per scenario the corner with the lowest pixel.
    #[must_use]
    pub fn strips(&self, select: &Select) -> Vec<Row<StripRow>> {
        (0..self.plan.strips.len())
            .flat_map(|i| self.pick(select, |o| self.strip_row(i, o), |r| -r.lowest.get()))
            .collect()
    }

    fn strip_row(&self, i: usize, o: &Outcome) -> Option<StripRow> {
        let s = o.actual.as_ref().ok()?;
        let strip = &self.plan.strips[i];
        let solved = &s.solution.ladders[i];
        if !solved.alive {
            return None;
        }
        let ladder = &s.net.ladders[i];
        let feeds = self.layout.ports[i].iter().map(|p| {
            let (port, flow) = (&ladder.ports[*p], &solved.ports[*p]);
            InjectionFlow {
                at: Metres::new(port.at_m),
                feed: Amps::new(flow.feed_a),
                back: Amps::new(flow.return_a),
                voltage: Volts::new(s.solution.across(port.plus, port.minus)),
            }
        });
        Some(StripRow {
            name: strip.name.text.clone(),
            pixels: strip.pixels,
            current: Amps::new(solved.current_a),
            pixel_power: Watts::new(solved.pixel_w),
            lowest: Volts::new(solved.lowest.0),
            lowest_at: Metres::new(strip.position_m(solved.lowest.1)),
            lowest_index: solved.lowest.1,
            highest: Volts::new(solved.highest_v),
            ends: (Volts::new(solved.first_v), Volts::new(solved.last_v)),
            first_minus: Volts::new(solved.minus_first),
            below_full: solved.below_full,
            copper_loss: Watts::new(solved.copper_w),
            copper_max_feed: Amps::new(solved.copper_max_feed_a),
            copper_max_return: Amps::new(solved.copper_max_return_a),
            firmware_cap: strip.cap.as_ref().map(|c| c.typical),
            feeds: feeds.collect(),
        })
    }

    /// One strip in the scenario *worst* at its worst corner; `None` for a name that is no strip.
    #[must_use]
    pub fn strip(&self, name: &str) -> Option<StripRow> {
        let i = self.plan.strips.iter().position(|s| s.name.text == name)?;
        let select = Select { scenario: Some("worst".into()), ..Select::default() };
        self.pick(&select, |o| self.strip_row(i, o), |r| -r.lowest.get()).into_iter().next().map(|r| r.row)
    }

    /// Every pixel of a strip in one scenario and corner, solved again for it; `None` for an unknown strip or scenario
    /// and where there is no solution. A scenario that has several members (*surge*) gives its first.
    #[must_use]
    pub fn profile(&self, strip: &str, scenario: &str, corner: Corner) -> Option<Vec<ProfilePoint>> {
        let i = self.plan.strips.iter().position(|s| s.name.text == strip)?;
        let outcome = self.outcomes.iter().find(|o| o.case.name == scenario && o.corner == corner)?;
        self.profile_of(i, outcome)
    }

    /// As [`profile`](Self::profile), for a row that [`strips`](Self::strips) gave.
    #[must_use]
    pub fn profile_for(&self, row: &Row<StripRow>) -> Option<Vec<ProfilePoint>> {
        let i = self.plan.strips.iter().position(|s| s.name.text == row.row.name)?;
        let outcome = self
            .outcomes
            .iter()
            .find(|o| o.case.name == row.scenario && o.corner == row.corner && o.case.surging == row.surging)?;
        self.profile_of(i, outcome)
    }

    fn profile_of(&self, i: usize, outcome: &Outcome) -> Option<Vec<ProfilePoint>> {
        let boards = if outcome.case.bursts { Boards::Peak } else { Boards::Mean };
        let (net, _) = build(&self.plan, &State { corner: outcome.corner, boards, demands: &outcome.case.demands });
        let solution = solve_pixels(&net, Limits::IN_FORCE, &mut Workspace::default()).ok()?;
        let solved = solution.ladders.get(i).filter(|l| l.alive)?;
        let ladder = &net.ladders[i];
        Some(
            solved
                .v
                .iter()
                .enumerate()
                .map(|(k, v)| ProfilePoint {
                    position: Metres::new(ladder.position(k)),
                    voltage: Volts::new(*v),
                    current: Amps::new(ladder.law.current(*v)),
                })
                .collect(),
        )
    }

    /// Loads, boards and shifters; per scenario the corner with the lowest voltage.
    #[must_use]
    pub fn loads(&self, select: &Select) -> Vec<Row<LoadRow>> {
        let mut things: Vec<(String, Terminals, usize)> = Vec::new();
        for (i, load) in self.plan.loads.iter().enumerate() {
            things.extend(self.layout.loads[i].iter().enumerate().map(|(m, (t, b))| (load.member(m), *t, *b)));
        }
        for (c, (t, b, _)) in self.plan.controllers.iter().zip(&self.layout.controllers) {
            things.push((c.name.text.clone(), *t, *b));
        }
        for (s, (t, b)) in self.plan.shifters.iter().zip(&self.layout.shifters) {
            things.push((s.name.text.clone(), *t, *b));
        }
        things
            .into_iter()
            .flat_map(|(name, t, b)| {
                self.pick(
                    select,
                    |o| {
                        let s = o.actual.as_ref().ok().filter(|s| s.solution.alive[t.plus])?;
                        Some(LoadRow {
                            name: name.clone(),
                            voltage: volts(s, t),
                            current: Amps::new(s.solution.current[b]),
                            ground_shift: Volts::new(s.solution.potential[t.minus]),
                        })
                    },
                    |r| -r.voltage.get(),
                )
            })
            .collect()
    }

    /// Every hop of every data line; per scenario the corner with the smallest high margin.
    #[must_use]
    pub fn links(&self, select: &Select) -> Vec<Row<LinkRow>> {
        signal::hops(&self.plan)
            .iter()
            .flat_map(|hop| {
                self.pick(
                    select,
                    |o| signal::link_row(&self.plan, &self.layout, hop, o.actual.as_ref().ok()?),
                    |r| r.high_margin.map_or(f64::NEG_INFINITY, |m| -m.get()),
                )
            })
            .collect()
    }
}
