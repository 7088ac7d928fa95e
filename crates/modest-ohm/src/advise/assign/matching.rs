//! Jobs and pins matched at least cost.

/// Jobs matched to pins at least cost, by shortest augmenting paths with potentials; the jobs that compete for too few
/// pins where there is no matching (Hall's condition).
pub(crate) fn cheapest(costs: &[Vec<Option<u32>>]) -> Result<Vec<usize>, Vec<usize>> {
    let pins = costs.first().map_or(0, Vec::len);
    let mut job_of: Vec<Option<usize>> = vec![None; pins];
    let (mut of_job, mut of_pin) = (vec![0i64; costs.len()], vec![0i64; pins]);
    for start in 0..costs.len() {
        let (mut least, mut from) = (vec![i64::MAX; pins], vec![start; pins]);
        let mut seen = vec![false; pins];
        let mut tree = vec![start];
        let (mut job, mut depth) = (start, 0i64);
        let end = loop {
            for p in (0..pins).filter(|p| !seen[*p]) {
                let Some(cost) = costs[job][p] else { continue };
                let reduced = depth + i64::from(cost) - of_job[job] - of_pin[p];
                if reduced < least[p] {
                    (least[p], from[p]) = (reduced, job);
                }
            }
            let next = (0..pins).filter(|p| !seen[*p] && least[*p] < i64::MAX).min_by_key(|p| (least[*p], *p));
            // The jobs of the tree can reach no further pin: they are one more than the pins that they reach.
            let Some(pin) = next else { return Err(tree) };
            seen[pin] = true;
            depth = least[pin];
            match job_of[pin] {
                None => break pin,
                Some(taken) => {
                    job = taken;
                    tree.push(taken);
                }
            }
        };
        let reached = least[end];
        of_job[start] += reached;
        for p in (0..pins).filter(|p| seen[*p] && *p != end) {
            if let Some(j) = job_of[p] {
                of_job[j] += reached - least[p];
            }
            of_pin[p] -= reached - least[p];
        }
        let mut pin = end;
        loop {
            let j = from[pin];
            let before = job_of.iter().position(|of| *of == Some(j));
            job_of[pin] = Some(j);
            match before {
                Some(old) if j != start => pin = old,
                _ => break,
            }
        }
    }
    let pin_of = |j: usize| job_of.iter().position(|of| *of == Some(j));
    Ok((0..costs.len()).filter_map(pin_of).collect())
}
