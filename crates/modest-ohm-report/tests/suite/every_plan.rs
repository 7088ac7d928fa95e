//! What is held of the shipped plans is held of every plan that makes a check fire: one screen, one verdict, nothing
//! lost, and sentences that are sentences.

use std::path::{Path, PathBuf};

use modest_ohm::findings::EvidenceRole;
use modest_ohm::{Finding, Plan, Review, Select, Severity};
use modest_ohm_report::{Input, Layout, check_text};

use crate::texts::plain;

const INPUT: Input<'static> = Input { path: "plan.toml" };

fn plans() -> Vec<PathBuf> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../modest-ohm/tests/plans");
    let mut files = Vec::new();
    for check in std::fs::read_dir(folder).unwrap() {
        let own = std::fs::read_dir(check.unwrap().path()).unwrap().map(|e| e.unwrap().path());
        files.extend(own.filter(|p| p.file_name().unwrap().to_str().unwrap().starts_with("fires")));
    }
    files.sort();
    files
}

/// The first sentence of the verdict, from the severities alone.
fn verdict(review: &Review) -> &'static str {
    let worst = review.findings().iter().filter(|f| f.accepted.is_none()).map(|f| f.severity).max();
    match worst {
        Some(Severity::Danger) => "Do not power on.",
        Some(Severity::Fault) => "It will not work as planned.",
        Some(Severity::Caution) => "It works, but with too little margin.",
        Some(Severity::Unknown) => "Nothing wrong was found, but not everything could be checked.",
        _ => "It works.",
    }
}

fn one_screen(review: &Review) -> Result<(), String> {
    for width in [60, 80, 120] {
        let screen = plain(&check_text(&INPUT, review, Layout { width, passed: false, rows: Some(23) }));
        let lines = screen.lines().count();
        if lines > 23 {
            return Err(format!("{lines} lines at {width}\n{screen}"));
        }
        if let Some(line) = screen.lines().find(|l| l.chars().count() > width) {
            return Err(format!("{width}: {line}"));
        }
        let words = screen.split_whitespace().collect::<Vec<_>>().join(" ");
        if !words.contains(verdict(review)) {
            return Err(format!("no `{}` in\n{screen}", verdict(review)));
        }
    }
    Ok(())
}

/// A headline says what is wrong and ends without a full stop; a task begins with a capital or a name.
fn sentences(f: &Finding) -> Result<(), String> {
    let texts = std::iter::once(&f.message).chain(&f.tasks);
    for text in texts {
        let odd = text.contains("  ") || text.contains("..  ") || text.ends_with('.') || text.trim() != text;
        if odd || text.contains("NaN") || text.contains("inf ") || text.contains(" ,") || text.contains(" ;") {
            return Err(format!("`{text}`"));
        }
        if text.matches('`').count() % 2 == 1 || text.matches('(').count() != text.matches(')').count() {
            return Err(format!("unpaired: `{text}`"));
        }
    }
    // "20 % headroom; 20 % required" says nothing.
    if let Some((has, needs)) = f.message.split_once(" headroom; ")
        && needs.strip_suffix(" required").is_some_and(|needs| has.ends_with(&format!(": {needs}")))
    {
        return Err(format!("`{}`", f.message));
    }
    for task in &f.tasks {
        let first = task.chars().next().unwrap_or(' ');
        if !(first.is_uppercase() || first == '`' || first.is_ascii_digit()) {
            return Err(format!("`{task}` begins with `{first}`"));
        }
    }
    Ok(())
}

/// The typical number has the unit of the judged one, is less bad, and stands in the message or in its words.
fn both_numbers(f: &Finding) -> Result<bool, String> {
    let Some(typical) = f.evidence.iter().find(|e| e.name == "typical") else { return Ok(false) };
    let judged = f.evidence.iter().find(|e| e.role == EvidenceRole::Judged).ok_or("nothing is judged")?;
    if typical.unit != judged.unit || (typical.value - judged.value).abs() <= 0.02 * judged.value.abs() {
        return Err(format!("{typical:?} beside {judged:?}"));
    }
    let twice = f.message.matches("typical").count() > 1;
    if twice || f.corner == Some(modest_ohm::Corner::Typical) {
        return Err(format!("`{}` in {:?}", f.message, f.corner));
    }
    Ok(true)
}

#[test]
fn every_plan_that_fires() {
    let (mut wrong, mut both, plans) = (Vec::new(), 0, plans());
    assert!(plans.len() > 200, "{}", plans.len());
    for path in &plans {
        let plan = Plan::from_toml(&std::fs::read_to_string(path).unwrap()).unwrap();
        let review = plan.review();
        let mut note = |what: String| wrong.push(format!("{}: {what}", path.display()));
        one_screen(&review).unwrap_or_else(&mut note);
        let grouped: usize = review.finding_groups().iter().map(|g| g.findings.len()).sum();
        if grouped != review.findings().len() {
            note(format!("{grouped} of {} findings are in a group", review.findings().len()));
        }
        for f in review.findings() {
            sentences(f).unwrap_or_else(&mut note);
            match both_numbers(f) {
                Ok(has) => both += usize::from(has),
                Err(what) => note(what),
            }
        }
    }
    assert!(wrong.is_empty(), "{} wrong:\n{}", wrong.len(), wrong.join("\n"));
    // Most test plans have no tolerances, so that their numbers can be calculated by hand.
    assert!(both > 5, "{both}");
}

/// What is selected is a part of all, number for number, whatever the plan and the part.
#[test]
fn every_selection_is_a_part_of_all() {
    let mut selected = 0;
    for path in plans().iter().step_by(7) {
        let plan = Plan::from_toml(&std::fs::read_to_string(path).unwrap()).unwrap();
        let review = plan.review();
        let all = Select::default();
        let names: Vec<String> = review.loads(&all).iter().map(|r| r.row.name.clone()).collect();
        let Some(name) = names.first() else { continue };
        let item = name.split('.').next().unwrap();
        let one = Select { items: vec![item.to_owned()], ..Select::default() };
        let rows = |select: &Select| -> Vec<String> {
            let mut rows: Vec<String> = review.nodes(select).iter().map(|r| format!("{r:?}")).collect();
            rows.extend(review.conductors(select).iter().map(|r| format!("{r:?}")));
            rows.extend(review.loads(select).iter().map(|r| format!("{r:?}")));
            rows.extend(review.strips(select).iter().map(|r| format!("{r:?}")));
            rows
        };
        let (few, many) = (rows(&one), rows(&all));
        assert!(few.iter().all(|row| many.contains(row)), "{}: {item}", path.display());
        assert!(review.loads(&one).iter().any(|r| r.row.name == *name), "{}: {item}", path.display());
        let source = review.nodes(&one).iter().any(|r| r.row.kind == "supply");
        assert!(source || review.nodes(&all).iter().all(|r| r.row.kind != "supply"), "{}: {item}", path.display());
        selected += 1;
    }
    assert!(selected > 30, "{selected}");
}
