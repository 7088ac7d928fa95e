//! Filling the rows of tables from the solved scenarios.

use super::parts::parts_of;
use super::select::{Row, Select};
use super::shapes::{ConductorRow, ConverterRow, InjectionFlow, LoadRow, NodeRow, SignalRow, StripRow, TotalRow};
use crate::network::layout::Terminals;
use crate::network::layout::{BoardAt, ConverterAt, DemandAt};
use crate::plan::kinds::converter::ConverterKind;
use crate::plan::kinds::ground::GroundKind;
use crate::plan::kinds::scenario::Scenario;
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::quantity::range::Range;
use crate::quantity::units::{Amps, Celsius, Fraction, Metres, Volts, Watts};
use crate::review::Review;
use crate::solved::heat::air_of_run_c;
use crate::solved::outcome::{Outcome, Snapshot};
use crate::topology::run::Run;

fn volts(snapshot: &Snapshot, t: Terminals) -> Volts {
    Volts::new(snapshot.solution.across(t.plus, t.minus))
}

impl Review {
    /// Supplies, branches, converters and board supply pins; per scenario the corner with the largest wanted/limit.
    #[must_use]
    pub fn nodes(&self, select: &Select) -> Vec<Row<NodeRow>> {
        let (mut rows, selected) = (Vec::new(), self.selected(select));
        for (id, node) in self.plan.nodes.iter().enumerate() {
            let is_end = matches!(node.kind, NodeKind::StripStart(_) | NodeKind::StripEnd(_));
            if is_end || !selected.shows_on_the_way(&node.name) {
                continue;
            }
            rows.extend(self.pick(
                select,
                |o| self.node_row(id, o),
                |r| match (r.demand, r.limit) {
                    (Some(w), Some(l)) => w.get() / l.get(),
                    (Some(w), None) => w.get(),
                    _ => f64::INFINITY,
                },
            ));
        }
        rows
    }

    /// What the continuous rating of a boost's input leaves at its output.
    fn boost_limit(&self, kind: NodeKind, o: &Outcome) -> Option<Amps> {
        let NodeKind::Converter(i) = kind else { return None };
        let rating = self.plan.converters[i].input_current.as_ref()?.low.get();
        crate::solved::currents::boost_limit(&self.plan, kind, o.wanted.as_ref().ok()?, rating)
    }

    fn node_row(&self, id: usize, o: &Outcome) -> Option<NodeRow> {
        let kind = self.plan.nodes[id].kind;
        let t = self.layout.nodes[id];
        if let Ok(s) = o.wanted.as_ref()
            && !s.solution.alive[t.plus]
        {
            return None;
        }
        let through = |s: &Snapshot| Amps::new(s.current_of(kind));
        let wanted = o.wanted.as_ref().ok().map(through);
        let limit = crate::topology::ratings::node_limit(&self.plan, kind).or_else(|| self.boost_limit(kind, o));
        let headroom = match (wanted, limit) {
            (Some(w), Some(l)) => Fraction::left_of(w, l),
            _ => None,
        };
        let actual = o.actual.as_ref().ok();
        Some(NodeRow {
            name: self.plan.nodes[id].name.clone(),
            kind: crate::topology::ratings::kind_word(&self.plan, kind),
            voltage: actual.map(|s| volts(s, t)),
            minus: actual.map(|s| Volts::new(s.solution.potential[t.minus])),
            current: actual.map(through),
            demand: wanted,
            limit,
            headroom,
            parts: o.wanted.as_ref().map_or_else(|_| Vec::new(), |s| parts_of(&self.plan, id, s)),
            limiting: actual.is_some_and(|s| {
                crate::solved::currents::source_of(&self.layout, kind).is_some_and(|b| s.solution.limiting[b])
            }),
        })
    }

    /// One node in the scenario *worst* at its worst corner; `None` for a name that is no node.
    #[must_use]
    pub fn node(&self, name: &str) -> Option<NodeRow> {
        let id = self.plan.nodes.iter().position(|n| n.name == name)?;
        let select = Select { scenario: Some(Scenario::Worst), ..Select::default() };
        let rows = self.pick(&select, |o| self.node_row(id, o), |r| r.headroom.map_or(0.0, |h| -h.get()));
        rows.into_iter().next().map(|r| r.row)
    }

    /// Every conductor pair; per scenario the corner with the largest loss.
    #[must_use]
    pub fn conductors(&self, select: &Select) -> Vec<Row<ConductorRow>> {
        let (mut rows, selected) = (Vec::new(), self.selected(select));
        let shown = |name: &str| selected.shows_on_the_way(name);
        for info in self.layout.conductors.iter().filter(|c| !is_inside(&self.plan, c.run) && shown(&c.name)) {
            rows.extend(self.pick(
                select,
                |o| {
                    let s = o.actual.as_ref().ok()?;
                    let of = |b: usize| (s.amps(b), s.amps(b) * s.drop_v(b));
                    let (feed, feed_loss) = info.feed.map_or((None, 0.0), |b| (Some(Amps::new(of(b).0)), of(b).1));
                    let (back, return_loss) = of(info.back);
                    let drop = |b: usize| Volts::new(s.drop_v(b).abs());
                    let lasting = o.sustained.as_ref().unwrap_or(s);
                    let air = air_of_run_c(&self.plan, info.run, lasting);
                    let (limit, limited_by) = crate::topology::ratings::lead_limit(&self.plan, info.run, air);
                    let amps = |b: usize| lasting.solution.current[b].abs();
                    let sides = [
                        info.feed.zip(crate::topology::conductors::cable_of(&self.plan, info.run)),
                        Some(info.back).zip(crate::topology::conductors::return_cable_of(&self.plan, info.run)),
                    ];
                    let warmest = sides.into_iter().flatten().filter_map(|(b, c)| c.temperature_c(air, amps(b)));
                    Some(ConductorRow {
                        feed_drop: info.feed.map_or(Volts::new(0.0), drop),
                        return_drop: drop(info.back),
                        temperature: warmest.reduce(f64::max).map(Celsius::new),
                        limit,
                        limited_by,
                        name: info.name.clone(),
                        feed,
                        back: Amps::new(back),
                        feed_loss: Watts::new(feed_loss),
                        return_loss: Watts::new(return_loss),
                        ampacity: crate::topology::conductors::cable_of(&self.plan, info.run)
                            .and_then(|c| c.ampacity(air))
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
        let (mut rows, selected) = (Vec::new(), self.selected(select));
        let shown = |name: &str| selected.shows_on_the_way(name);
        for (i, c) in self.plan.converters.iter().enumerate().filter(|(_, c)| shown(&c.name.text)) {
            let ConverterAt { input, output, .. } = self.layout.converters[i];
            let Some(out) = self.plan.node_id(NodeKind::Converter(i)).map(|id| self.layout.nodes[id.0]) else {
                continue;
            };
            rows.extend(self.pick(
                select,
                |o| {
                    let s = o.actual.as_ref().ok().filter(|s| s.solution.alive[input.plus])?;
                    let out_a = Amps::new(s.amps(output));
                    let (v, a) = (volts(s, input), Amps::new(s.current_into_converter(&self.plan, i)));
                    let out_v = volts(s, out);
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
                // What a linear regulator takes for itself is no load's.
                let own = own_of_linear_w(&self.plan, s);
                Some(TotalRow {
                    source: Watts::new(t.source_w),
                    source_internal: Watts::new(t.source_internal_w),
                    load: Watts::new(t.load_w - own),
                    conductor: Watts::new(t.conductor_w),
                    converter_loss: Watts::new(t.converter_loss_w + own),
                    diode: Watts::new(t.diode_w),
                })
            },
            |r| r.source.get(),
        )
    }

    /// Every strip; per scenario the corner with the lowest pixel.
    #[must_use]
    pub fn strips(&self, select: &Select) -> Vec<Row<StripRow>> {
        let selected = self.selected(select);
        (0..self.plan.strips.len())
            .filter(|i| selected.shows(&self.plan.strips[*i].name.text))
            .flat_map(|i| self.pick(select, |o| self.strip_row(i, o), |r| -r.lowest.get()))
            .collect()
    }

    fn strip_row(&self, i: usize, o: &Outcome) -> Option<StripRow> {
        let s = o.actual.as_ref().ok()?;
        let strip = &self.plan.strips[i];
        let solved = &s.solution.strips[i];
        if !solved.alive {
            return None;
        }
        let net = &s.net.strips[i];
        let shared = self.plan.shared_limit(i).map(|c| &self.plan.firmware_limits[c]);
        let feeds = self.layout.ports[i].iter().map(|p| {
            let (port, flow) = (&net.ports[*p], &solved.ports[*p]);
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
            first: Volts::new(solved.first_v),
            last: Volts::new(solved.last_v),
            first_minus: Volts::new(solved.minus_first),
            below_full: solved.below_full,
            copper_loss: Watts::new(solved.copper_w),
            copper_max_feed: Amps::new(solved.copper_max_feed_a),
            copper_max_return: Amps::new(solved.copper_max_return_a),
            firmware_limit: strip.firmware_limit.as_ref().or(shared.map(|c| &c.current)).map(|c| c.typical),
            leds: strip.pixels * strip.group,
            switched: strip
                .switched
                .iter()
                .map(|s| (strip.pixel.colours[s.colour].name.clone(), s.by.text.clone()))
                .collect(),
            shared_limit: shared.map(|c| c.name.text.clone()),
            feeds: feeds.collect(),
            unit: strip.unit(),
            minimum: strip.pixel.works.as_ref().map(|v| v.typical),
            recommended: strip.pixel.sheet.as_ref().map(|v| Range::new(v.low, v.high)),
        })
    }

    /// One strip in the scenario *worst* at its worst corner; `None` for a name that is no strip.
    #[must_use]
    pub fn strip(&self, name: &str) -> Option<StripRow> {
        let i = self.plan.strips.iter().position(|s| s.name.text == name)?;
        let select = Select { scenario: Some(Scenario::Worst), ..Select::default() };
        self.pick(&select, |o| self.strip_row(i, o), |r| -r.lowest.get()).into_iter().next().map(|r| r.row)
    }

    /// Loads, boards and shifters; per scenario the corner with the lowest voltage.
    #[must_use]
    pub fn loads(&self, select: &Select) -> Vec<Row<LoadRow>> {
        let mut things: Vec<(String, Terminals, usize)> = Vec::new();
        for (i, load) in self.plan.loads.iter().enumerate() {
            things.extend(self.layout.loads[i].iter().enumerate().map(|(m, d)| (load.member(m), d.at, d.branch)));
        }
        for (c, BoardAt { main: t, own: b, .. }) in self.plan.boards.iter().zip(&self.layout.boards) {
            things.push((c.name.text.clone(), *t, *b));
        }
        for (s, DemandAt { at: t, branch: b }) in self.plan.shifters.iter().zip(&self.layout.shifters) {
            things.push((s.name.text.clone(), *t, *b));
        }
        let selected = self.selected(select);
        things
            .into_iter()
            .filter(|(name, ..)| selected.shows(name))
            .flat_map(|(name, t, b)| {
                self.pick(
                    select,
                    |o| {
                        let s = o.actual.as_ref().ok().filter(|s| s.solution.alive[t.plus])?;
                        Some(LoadRow {
                            name: name.clone(),
                            voltage: volts(s, t),
                            current: Amps::new(s.amps(b)),
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
    pub fn signals(&self, select: &Select) -> Vec<Row<SignalRow>> {
        let selected = self.selected(select);
        let hops = crate::topology::signals::hops(&self.plan);
        let rows = hops.iter().filter(|hop| hop.wants_levels(&self.plan)).flat_map(|hop| {
            self.pick(
                select,
                |o| super::link_row::link_row(&self.plan, hop, o.actual.as_ref().ok()?),
                |r| r.high_margin.map_or(f64::NEG_INFINITY, |m| -m.get()),
            )
        });
        rows.filter(|r| selected.shows(&r.row.from) || selected.shows(&r.row.to)).collect()
    }
}

pub(crate) fn is_of<T>(row: &Row<T>, outcome: &Outcome) -> bool {
    row.scenario == outcome.case.scenario && row.corner == outcome.corner && row.surging == outcome.case.surging
}

/// What linear regulators take for themselves, W.
fn own_of_linear_w(plan: &Plan, s: &Snapshot) -> f64 {
    let linear = plan.converters.iter().zip(&s.layout.converters).filter(|(c, _)| c.kind == ConverterKind::Linear);
    linear.map(|(_, at)| s.amps(at.intake) * s.drop_v(at.intake)).sum()
}

/// What a part has inside is no cable.
fn is_inside(plan: &Plan, run: Run) -> bool {
    matches!(run, Run::Ground(g) if plan.grounds[g].what == GroundKind::Inside)
}
