//! A whole strip's figures: its pieces put together, or read off the branches of a fan.

use super::solution::{PortFlow, StripSolution};
use crate::network::Ladder;
use crate::network::{Fan, Network, StripNet};

/// A group that draws less than its full current by more than this counts as below it.
const BELOW_FULL_A: f64 = 1e-9;

impl StripSolution {
    /// A piece whose + no source reaches: its return copper may carry what its neighbours send through it.
    pub(super) fn of_dead(ladder: &Ladder, potential: &[f64], alive: &[bool]) -> Self {
        let mut out = Self { ports: vec![PortFlow::default(); ladder.ports.len()], ..Self::default() };
        for (n, (a, b, ohms)) in ladder.return_pieces().enumerate() {
            if alive[a] && alive[b] {
                let amps = (potential[a] - potential[b]) / ohms;
                out.ports[n].return_a += amps;
                out.ports[n + 1].return_a -= amps;
                out.copper_w += amps * amps * ohms;
                out.copper_max_return_a = out.copper_max_return_a.max(amps.abs());
                out.copper_max_w_per_m = out.copper_max_w_per_m.max(ladder.return_ohm_per_m * amps * amps);
            }
        }
        out
    }

    /// Puts the pieces of a strip together; a strip in one piece is that piece.
    pub(super) fn of_sections(strip: &StripNet, ladders: &mut [StripSolution]) -> Self {
        if let [only] = strip.sections.as_slice() {
            // The ports of the piece stay where the balance of currents looks for them.
            let whole = &mut ladders[only.ladder];
            let v = std::mem::take(&mut whole.v);
            return Self { v, ..whole.clone() };
        }
        let mut out = Self {
            lowest: (f64::INFINITY, 0),
            highest_v: f64::NEG_INFINITY,
            minus_first: f64::NAN,
            minus_last: f64::NAN,
            ..Self::default()
        };
        for (n, section) in strip.sections.iter().enumerate() {
            let next = strip.sections.get(n + 1).map_or(strip.pixels, |s| s.first_pixel);
            let pixels = next - section.first_pixel;
            let piece = &mut ladders[section.ladder];
            out.alive |= piece.alive;
            if !piece.alive {
                piece.v.fill(0.0);
            }
            out.v.append(&mut piece.v);
            // The first port of every piece but the first, and the last of every piece but the last, are its
            // connectors.
            let connectors = (usize::from(n > 0), usize::from(n + 1 < strip.sections.len()));
            let end = piece.ports.len().saturating_sub(connectors.1).max(connectors.0);
            out.ports.extend_from_slice(&piece.ports[connectors.0..end]);
            out.current_a += piece.current_a;
            out.pixel_w += piece.pixel_w;
            out.copper_w += piece.copper_w;
            out.copper_max_feed_a = out.copper_max_feed_a.max(piece.copper_max_feed_a);
            out.copper_max_return_a = out.copper_max_return_a.max(piece.copper_max_return_a);
            out.copper_max_w_per_m = out.copper_max_w_per_m.max(piece.copper_max_w_per_m);
            if pixels == 0 {
                continue;
            }
            // A piece that nothing feeds has no voltage, and says so.
            let (lowest, highest) = if piece.alive { (piece.lowest, piece.highest_v) } else { ((0.0, 0), 0.0) };
            if lowest.0 < out.lowest.0 {
                out.lowest = (lowest.0, section.first_pixel + lowest.1);
            }
            out.highest_v = out.highest_v.max(highest);
            out.below_full += if piece.alive { piece.below_full } else { pixels };
            if out.minus_first.is_nan() {
                (out.first_v, out.minus_first) = (piece.first_v, piece.minus_first);
            }
            (out.last_v, out.minus_last) = (piece.last_v, piece.minus_last);
        }
        out
    }

    /// The figures of a strip whose colours have a return each. A group's voltage is that of its worst colour.
    pub(super) fn of_fan(
        net: &Network,
        fan: &Fan,
        (potential, current): (&[f64], &[f64]),
        alive: &[bool],
        pixels: bool,
    ) -> Self {
        let ports = |amps: &dyn Fn(usize) -> f64| -> Vec<PortFlow> {
            let of = |(feed, back): &(usize, Vec<usize>)| PortFlow {
                feed_a: amps(*feed),
                return_a: back.iter().map(|b| amps(*b)).sum(),
            };
            fan.leads.iter().map(of).collect()
        };
        let Some(first) = fan.plus.first().filter(|v| alive[**v]) else {
            return Self { ports: ports(&|_| 0.0), ..Self::default() };
        };
        let mut out = Self {
            alive: true,
            ports: ports(&|b| current[b]),
            lowest: (f64::INFINITY, 0),
            highest_v: f64::NEG_INFINITY,
            colour_v: vec![(f64::INFINITY, f64::NEG_INFINITY); fan.minus.len()],
            ..Self::default()
        };
        for (k, plus) in fan.plus.iter().enumerate() {
            let mut worst = f64::INFINITY;
            let mut full = true;
            for (c, minus) in fan.minus.iter().enumerate() {
                let volts = potential[*plus] - potential[minus[k]];
                let string = fan.strings[c][k];
                let is_on =
                    matches!(net.branches[string].law, crate::network::Law::LedString { siemens, .. } if siemens > 0.0);
                let amps = current[string];
                out.current_a += amps;
                out.pixel_w += amps * volts;
                worst = worst.min(volts);
                out.highest_v = out.highest_v.max(volts);
                full &= !is_on || amps >= fan.full_a[c] - BELOW_FULL_A;
                let spread = &mut out.colour_v[c];
                *spread = (spread.0.min(volts), spread.1.max(volts));
            }
            if worst < out.lowest.0 {
                out.lowest = (worst, k);
            }
            out.below_full += usize::from(!full);
            if pixels {
                out.v.push(worst);
            }
        }
        out.copper_of_fan(net, fan, (potential, current));
        let across =
            |k: usize| fan.minus.iter().map(|m| potential[fan.plus[k]] - potential[m[k]]).fold(f64::INFINITY, f64::min);
        out.first_v = across(0);
        out.last_v = across(fan.plus.len() - 1);
        out.minus_first = potential[*first] - out.first_v;
        out.minus_last = potential[fan.plus[fan.plus.len() - 1]] - out.last_v;
        out
    }

    /// What the copper of a strip with a return a colour turns into heat, and carries at most.
    fn copper_of_fan(&mut self, net: &Network, fan: &Fan, (potential, current): (&[f64], &[f64])) {
        let heat = |b: &usize| current[*b] * (potential[net.branches[*b].from] - potential[net.branches[*b].to]);
        let most = |branches: &[usize]| branches.iter().map(|b| current[*b].abs()).fold(0.0, f64::max);
        let feed: Vec<usize> = fan.feed_copper.iter().flatten().copied().collect();
        self.copper_w = feed.iter().chain(fan.return_copper.iter().flatten()).map(heat).sum();
        self.copper_max_feed_a = most(&feed);
        for (n, feed) in fan.feed_copper.iter().enumerate() {
            let back: f64 = fan.return_copper.iter().map(|r| current[r[n]].powi(2)).sum();
            let there = feed.map_or(0.0, |b| current[b].powi(2));
            self.copper_max_w_per_m =
                self.copper_max_w_per_m.max(fan.feed_ohm_per_m * there + fan.return_ohm_per_m * back);
        }
        self.copper_max_return_a = fan.return_copper.iter().map(|r| most(r)).fold(0.0, f64::max);
    }
}
