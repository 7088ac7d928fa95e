//! Every code has one check, and every check a code with a long text.

use super::registry;
use crate::verdict::codes::ALL;

#[test]
fn codes_and_checks_are_the_same_set() {
    let mut checks: Vec<&str> = registry().iter().map(|c| c.code).collect();
    checks.sort_unstable();
    let codes: Vec<&str> = ALL.iter().map(|c| c.name).collect();
    assert_eq!(checks, codes, "left: entries of the families; right: the files in `about/`");
    assert!(ALL.iter().all(|c| !c.about.trim().is_empty()));
}
