//! Reviews of plans as people write them, the fixes of what is found, and 512 builds: times against one another in one run.
//!
//! ```sh
//! cargo bench -p modest-ohm-bench --bench reviews
//! ```

#![allow(missing_docs, reason = "a benchmark has no readers of its items")]
#![allow(clippy::print_stdout, reason = "a benchmark prints what it measured")]
#![allow(clippy::unwrap_used, reason = "a benchmark fails by panicking")]

use std::hint::black_box;
use std::time::Instant;

use modest_ohm::Plan;

const PLANS: [(&str, &str); 4] = [
    ("reading corner, 2 parts", include_str!("../../../plans/reading-corner.toml")),
    ("harbour diorama, sound", include_str!("../../../plans/harbour-diorama.toml")),
    ("harbour diorama, draft", include_str!("../../../plans/harbour-first-draft.toml")),
    ("marsh rover, 40 parts", include_str!("rover.toml")),
];

/// The median of some runs, in milliseconds.
fn median(runs: usize, mut run: impl FnMut()) -> f64 {
    run();
    let mut times: Vec<f64> = (0..runs)
        .map(|_| {
            let start = Instant::now();
            run();
            1e3 * start.elapsed().as_secs_f64()
        })
        .collect();
    times.sort_by(f64::total_cmp);
    times[runs / 2]
}

fn main() {
    let mut first: Option<f64> = None;
    for (name, text) in PLANS {
        let plan = Plan::from_toml(text).unwrap();
        let time = median(11, || drop(black_box(plan.review())));
        let ratio = time / *first.get_or_insert(time);
        let found = plan.review().findings().len();
        println!("{name:<26} {time:>8.1} ms a review  {ratio:>6.1} times the first  {found:>3} findings");
        let review = plan.review();
        let builds = review.odds().builds;
        let fixes = median(3, || drop(black_box(review.clone().with_fixes())));
        let offered: usize = review.clone().with_fixes().findings().iter().map(|f| f.fixes.len()).sum();
        println!("{:<26} {fixes:>8.1} ms for {offered} fixes  {:>6.1} times its review", "", fixes / time);
        let odds = median(3, || drop(black_box(review.odds())));
        println!("{:<26} {odds:>8.1} ms for {builds} builds  {:>5.1} times its review", "", odds / time);
    }
    println!("wanted: the 40 parts under 100 ms, the builds of the draft under 500 ms, its fixes under 100 ms,");
    println!("the fixes of 40 parts with 20 findings under 2 s");
}
