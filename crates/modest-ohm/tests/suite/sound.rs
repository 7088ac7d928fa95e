//! Sound plans from across the field, each as an engineer would build it: no danger, no fault, nothing unknown, and no
//! caution that the head of the plan does not give a reason for.

use std::path::Path;

use modest_ohm::{Plan, Severity};

#[test]
fn sound_plans_stay_silent() {
    let (mut loud, mut seen) = (Vec::new(), 0);
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/sound");
    for path in std::fs::read_dir(folder).unwrap().map(|e| e.unwrap().path()) {
        let text = std::fs::read_to_string(&path).unwrap();
        let review = Plan::from_toml(&text).unwrap_or_else(|e| panic!("{}: {e}", path.display())).review();
        let explained = usize::from(text.lines().next().is_some_and(|head| head.contains("caution")));
        let told: Vec<_> = review.findings().iter().filter(|f| f.severity != Severity::Advisory).collect();
        let worst = told.iter().filter(|f| f.severity != Severity::Caution).count();
        if worst > 0 || told.len() != explained {
            let words: Vec<_> = told.iter().map(|f| (f.severity.word(), f.code, &f.message)).collect();
            loud.push(format!("{}: {words:?}", path.display()));
        }
        seen += 1;
    }
    assert!(seen >= 20, "only {seen} plans");
    assert!(loud.is_empty(), "{loud:#?}");
}
