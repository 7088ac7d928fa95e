//! The charge that cells give by the current, of the chemistries.

/// The charge that a cell gives, by the current.
#[derive(Clone, Copy, Debug)]
pub(super) enum Rate {
    /// Ah at a current in A, from small currents to large, log–log between.
    Amps(&'static [(f64, f64)]),
    /// The share of its label at amperes per ampere-hour, linear in the logarithm between.
    Share(&'static [(f64, f64)]),
}

/// Typical of the chemistries (lead: standby blocks by their sheets at 20 h, 10 h, 5 h … 20 min).
pub(super) const LEAD_RATE: Rate =
    Rate::Share(&[(0.05, 1.0), (0.1, 0.93), (0.2, 0.85), (0.5, 0.67), (1.0, 0.55), (2.0, 0.42), (3.0, 0.34)]);
pub(super) const LITHIUM_RATE: Rate = Rate::Share(&[(0.2, 1.0), (1.0, 0.97), (2.0, 0.93)]);
pub(super) const LFP_RATE: Rate = Rate::Share(&[(0.2, 1.0), (1.0, 0.98), (3.0, 0.95)]);
pub(super) const NIMH_RATE: Rate = Rate::Share(&[(0.2, 1.0), (1.0, 0.93), (2.0, 0.88)]);

/// The points around an abscissa, and where between them it lies on a logarithmic scale.
fn between(points: &[(f64, f64)], at: f64) -> Result<(f64, f64, f64), f64> {
    let (first, last) = (points[0], points[points.len() - 1]);
    if at <= first.0 {
        return Err(first.1);
    }
    let pair = points.windows(2).find(|pair| at <= pair[1].0);
    let Some([(x0, y0), (x1, y1)]) = pair else { return Err(last.1) };
    Ok(((at / x0).ln() / (x1 / x0).ln(), *y0, *y1))
}

pub(super) fn log_log(points: &[(f64, f64)], at: f64) -> f64 {
    between(points, at).map_or_else(|end| end, |(share, y0, y1)| (y0.ln() + share * (y1 / y0).ln()).exp())
}

pub(super) fn log_linear(points: &[(f64, f64)], at: f64) -> f64 {
    between(points, at).map_or_else(|end| end, |(share, y0, y1)| y0 + share * (y1 - y0))
}
