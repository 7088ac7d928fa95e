//! The strip solver against a general sparse direct solver on the same ladder, one Newton step against a bare pass over
//! the same memory, and time against the number of pixels; all in one run, so that the ratios hold.
//!
//! ```sh
//! cargo bench -p modest-ohm-bench
//! ```

#![allow(missing_docs, reason = "a benchmark has no readers of its items")]
#![allow(clippy::print_stdout, reason = "a benchmark prints what it measured")]
#![allow(clippy::unwrap_used, reason = "a benchmark fails by panicking")]

use std::hint::black_box;
use std::time::Instant;

use modest_ohm::{Corner, Plan, Select};
use modest_ohm_solve::solve::trial::LadderTrial;
use nalgebra::DVector;
use nalgebra_sparse::factorization::CscCholesky;
use nalgebra_sparse::{CooMatrix, CscMatrix};

/// A 5 V pixel of the 20 mA class: quiescent, red, green, blue.
const LAW: [(f64, f64, f64); 4] = [(0.001, 0.0, 1.5), (0.02, 1.8, 2.4), (0.02, 2.6, 3.6), (0.02, 2.7, 3.7)];
const PIXELS: usize = 100_000;
/// So little that 100 000 pixels in a row stay lit.
const COPPER_OHM_PER_M: f64 = 1e-7;
/// So low that the knees are at work in about a tenth of it.
const VOLTS: f64 = 3.951;

/// The median of some runs, in seconds.
fn median(runs: usize, mut run: impl FnMut()) -> f64 {
    run();
    let mut times: Vec<f64> = (0..runs)
        .map(|_| {
            let start = Instant::now();
            run();
            start.elapsed().as_secs_f64()
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[runs / 2]
}

fn tangent(v: f64) -> (f64, f64) {
    let (mut slope, mut offset) = (0.0, 0.0);
    for (amps, vf, vreg) in LAW {
        let t = (v - vf) / (vreg - vf);
        if t >= 1.0 {
            offset += amps;
        } else if t > 0.0 {
            slope += amps / (vreg - vf);
            offset -= amps * vf / (vreg - vf);
        }
    }
    (slope, offset)
}

/// The same ladder by a general method: a pair of potentials a pixel, conductances, Cholesky. The pattern's symbolic
/// work is done once; assembly and numeric factorisation once a Newton round.
fn general(pixels: usize) -> Vec<f64> {
    let gap = 60.0 / COPPER_OHM_PER_M;
    let n = 2 * pixels;
    let mut v = vec![VOLTS; pixels];
    let mut cholesky: Option<CscCholesky<f64>> = None;
    for _ in 0..60 {
        let mut matrix = CooMatrix::new(n, n);
        let mut rhs = DVector::zeros(n);
        for (k, volts) in v.iter().enumerate() {
            let (plus, minus) = (2 * k, 2 * k + 1);
            let (slope, offset) = tangent(*volts);
            // To the neighbour on the left, or to the feed half a gap away.
            for (row, feed) in [(plus, VOLTS), (minus, 0.0)] {
                let left = if k == 0 { 2.0 * gap } else { gap };
                let right = if k + 1 == pixels { 2.0 * gap } else { gap };
                matrix.push(row, row, left + right + slope);
                if k == 0 {
                    rhs[row] += left * feed;
                } else {
                    matrix.push(row, row - 2, -left);
                }
                if k + 1 == pixels {
                    rhs[row] += right * feed;
                } else {
                    matrix.push(row, row + 2, -right);
                }
            }
            matrix.push(plus, minus, -slope);
            matrix.push(minus, plus, -slope);
            rhs[plus] -= offset;
            rhs[minus] += offset;
        }
        let csc = CscMatrix::from(&matrix);
        match &mut cholesky {
            Some(c) => c.refactor(csc.values()).unwrap(),
            None => cholesky = Some(CscCholesky::factor(&csc).unwrap()),
        }
        let x = cholesky.as_ref().unwrap().solve(&rhs);
        let next: Vec<f64> = (0..pixels).map(|k| x[(2 * k, 0)] - x[(2 * k + 1, 0)]).collect();
        let change = next.iter().zip(&v).fold(0.0f64, |m, (a, b)| m.max((a - b).abs()));
        v = next;
        if change < 1e-9 {
            break;
        }
    }
    v
}

fn main() {
    let mut trial = LadderTrial::new(PIXELS, COPPER_OHM_PER_M, VOLTS, &LAW);
    let ours = trial.solve();
    let theirs = general(PIXELS);
    let apart = ours.iter().zip(&theirs).fold(0.0f64, |m, (a, b)| m.max((a - b).abs()));
    let sloping = ours.iter().filter(|v| **v < 3.7).count() as f64 / PIXELS as f64;
    // No two methods agree better than about ε·n² volts on a ladder of n pixels.
    let bound = f64::EPSILON * (PIXELS as f64).powi(2);
    assert!(apart <= 10.0 * bound, "{apart} V apart");
    println!("ladder of {PIXELS} pixels, fed at both ends, knees at work in {:.1} % of it", 100.0 * sloping);
    println!("  the two methods differ by {apart:.1e} V (ε·n² = {bound:.1e} V)");
    let fast = median(9, || drop(black_box(trial.solve())));
    let slow = median(3, || drop(black_box(general(PIXELS))));
    println!("  strip solver          {:>9.2} ms per converged solve", 1e3 * fast);
    println!("  general sparse solver {:>9.2} ms per converged solve", 1e3 * slow);
    println!("  ratio                 {:>9.1} (wanted: 40 or more)", slow / fast);
    let step = median(25, || {
        black_box(trial.step());
    });
    let touch = median(25, || {
        black_box(trial.touch());
    });
    println!("  one Newton step       {:>9.3} ms", 1e3 * step);
    println!("  a pass over memory    {:>9.3} ms", 1e3 * touch);
    println!("  ratio                 {:>9.2} (wanted: 6 at most)", step / touch);

    println!("\none strip, time of a converged solve");
    let mut last: Option<f64> = None;
    for pixels in [1_000, 10_000, 100_000, 1_000_000] {
        // Copper in proportion, so that the strip sags the same.
        let copper = COPPER_OHM_PER_M * (PIXELS as f64 / pixels as f64).powi(2);
        let mut trial = LadderTrial::new(pixels, copper, VOLTS, &LAW);
        let time = median(if pixels > 100_000 { 5 } else { 15 }, || drop(black_box(trial.solve())));
        let growth = last.map_or(String::new(), |l| format!("{:.1} times the last (wanted: 11 at most)", time / l));
        println!(
            "  {pixels:>9} pixels  {:>9.3} ms  {:>6.1} ns a pixel  {growth}",
            1e3 * time,
            1e9 * time / pixels as f64
        );
        last = Some(time);
    }

    println!("\n1 000 strips of 1 000 pixels on one supply");
    let mut text =
        String::from("format = 1\n[supply.wall]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"9000 A\"\n");
    for i in 0..1000 {
        text += &format!(
            "[strip.s{i}]\npart = \"pixel-5v-rgb\"\nfrom = \"wall\"\nlength = \"10 m\"\npixels = \"100 /m\"\nfirmware-limit = \"2 A\"\n\
             inject = [ {{ at = \"start\", cable = \"0.3 m 12 AWG\" }}, {{ at = \"end\", cable = \"0.3 m 12 AWG\" }} ]\n"
        );
    }
    let read = median(3, || drop(black_box(Plan::from_toml(&text).unwrap())));
    let plan = Plan::from_toml(&text).unwrap();
    let review = plan.review();
    let one = median(3, || drop(black_box(review.solve_profile("s0", "worst", Corner::Low).unwrap())));
    let whole = median(3, || drop(black_box(plan.review())));
    let solves = review.totals(&Select { all_corners: true, ..Select::default() }).len();
    println!("  reading               {:>9.1} ms", 1e3 * read);
    println!("  one solve             {:>9.1} ms (wanted: under 1000)", 1e3 * one);
    println!("  the whole review      {:>9.1} ms, {solves} solves and the checks", 1e3 * whole);
}
