//! Which rows a table shows: by default every scenario once, at the corner that matters most.

use crate::derived::feed_row::FeedRow;
use crate::plan::kinds::scenario::Scenario;
use crate::quantity::figure::Corner;
use crate::review::Review;
use crate::solved::outcome::Outcome;

/// Which scenarios and corners to show.
#[derive(Clone, Debug, Default)]
pub struct Select {
    /// One scenario only; without it all but *programming*, in which a board is plugged into a computer for a while,
    /// and *all-at-once*, which only the program keeps apart.
    pub scenario: Option<Scenario>,
    /// One corner only.
    pub corner: Option<Corner>,
    /// Every corner a row.
    pub all_corners: bool,
    /// These parts only, with the rails and cables on the way to them; all where it is empty.
    pub items: Vec<String>,
}

/// A row with the scenario and corner it holds for.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct Row<T> {
    /// The scenario.
    pub scenario: Scenario,
    /// What surges, in *surge*; the board that is plugged in, in *programming*.
    pub surging: Option<String>,
    /// The corner.
    pub corner: Corner,
    /// The row itself.
    pub row: T,
}

/// States that no table shows unless they are asked for.
fn is_aside(outcome: &Outcome) -> bool {
    outcome.case.programming || outcome.case.scenario == Scenario::AllAtOnce
}

impl Review {
    /// The rows of one thing: per scenario the one with the largest key; ties go to low, hot, high, typical.
    pub(crate) fn pick<T>(
        &self,
        select: &Select,
        make: impl Fn(&Outcome) -> Option<T>,
        key: impl Fn(&T) -> f64,
    ) -> Vec<Row<T>> {
        let mut rows: Vec<(f64, Row<T>)> = Vec::new();
        for outcome in &self.outcomes {
            if select.scenario.as_ref().is_some_and(|s| *s != outcome.case.scenario)
                || select.corner.is_some_and(|c| c != outcome.corner)
                || (select.scenario.is_none() && is_aside(outcome))
            {
                continue;
            }
            let Some(row) = make(outcome) else { continue };
            let value = key(&row);
            let row = Row {
                scenario: outcome.case.scenario.clone(),
                surging: outcome.case.surging.clone(),
                corner: outcome.corner,
                row,
            };
            let same = |r: &Row<T>| r.scenario == row.scenario && (!select.all_corners || r.corner == row.corner);
            match rows.iter_mut().find(|(_, r)| same(r)) {
                // Rounding must not settle a tie: only what is larger by more than it counts as larger.
                Some((best, kept)) => {
                    let larger = value > *best + 1e-9 * best.abs().max(1e-9) || best.is_nan();
                    let tie = (value - *best).abs() <= 1e-9 * best.abs().max(1e-9);
                    if larger || (tie && rank(row.corner) < rank(kept.corner)) {
                        (*best, *kept) = (value, row);
                    }
                }
                None => rows.push((value, row)),
            }
        }
        rows.into_iter().map(|(_, row)| row).collect()
    }

    /// Whether the feed can deliver, per scenario and corner (see [`FeedRow`]).
    #[must_use]
    pub fn solve_feeds(&self, select: &Select) -> Vec<Row<FeedRow>> {
        let mut rows: Vec<Row<FeedRow>> = Vec::new();
        // The lowest voltage is where a feed collapses first; one corner is enough unless asked for.
        let corners = match (select.corner, select.all_corners) {
            (Some(corner), _) => vec![corner],
            (None, true) => Corner::ALL.to_vec(),
            (None, false) => vec![Corner::Low],
        };
        for outcome in self.outcomes.iter().filter(|o| corners.contains(&o.corner)) {
            let other = select.scenario.as_ref().map_or(is_aside(outcome), |s| *s != outcome.case.scenario);
            if other {
                continue;
            }
            let row = crate::derived::deliverable::feed_row(&self.plan, outcome).0;
            let row = Row {
                scenario: outcome.case.scenario.clone(),
                surging: outcome.case.surging.clone(),
                corner: outcome.corner,
                row,
            };
            match rows.iter_mut().find(|r| r.scenario == row.scenario && r.corner == row.corner) {
                Some(kept) => {
                    let scale = |r: &Row<FeedRow>| r.row.largest_scale.unwrap_or(f64::INFINITY);
                    if scale(&row) < scale(kept) {
                        *kept = row;
                    }
                }
                None => rows.push(row),
            }
        }
        rows
    }
}

fn rank(corner: Corner) -> usize {
    Corner::ALL.iter().position(|c| *c == corner).unwrap_or(0)
}
