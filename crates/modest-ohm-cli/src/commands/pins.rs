//! `pins`: which pin does what, which are free, and pins for what has none.

use modest_ohm::Plan;
use modest_ohm::catalogue::classes;
use modest_ohm::checks::nearest_name;
use modest_ohm::views::{BoardPins, pin_abilities};
use modest_ohm_report::{
    Input, Wanted, assignment_json, assignment_text, free_pins_text, pins_csv, pins_json, pins_text,
};

use crate::args::{Pins, Sheet};
use crate::{output, plans};

/// Runs `pins`.
pub fn run(args: &Pins) -> u8 {
    match answer(args) {
        Ok((text, found)) => {
            output::result(&text);
            if found { output::FINE } else { output::FOUND }
        }
        Err(Failed::Message(message)) => {
            output::message(&message);
            output::UNREADABLE
        }
        Err(Failed::Shown(code)) => code,
    }
}

enum Failed {
    Message(String),
    /// Told already.
    Shown(u8),
}

fn answer(args: &Pins) -> Result<(String, bool), Failed> {
    let wanted = wanted(&args.supports).map_err(Failed::Message)?;
    let (plan, path) = match (&args.part, &args.plan) {
        (Some(part), _) => (plan_of_class(part).map_err(Failed::Message)?, format!("part {part}")),
        (None, Some(path)) => {
            (plans::read(path, args.format.of_problems()).map_err(Failed::Shown)?, path.display().to_string())
        }
        (None, None) => return Err(Failed::Message("name a plan, or a part with --part".into())),
    };
    let input = Input { path: &path };
    if args.assign {
        return assign(&plan, args, &input);
    }
    let mut boards = plan.review().pins();
    one_board(&mut boards, args.board.as_deref()).map_err(Failed::Message)?;
    let text = match (args.format, &wanted) {
        (Sheet::Text, None) => pins_text(&boards, output::layout()),
        (Sheet::Text, Some(wanted)) => free_pins_text(&boards, wanted, output::layout()),
        (Sheet::Csv, wanted) => pins_csv(&boards, wanted.as_ref()),
        (Sheet::Json, wanted) => pins_json(&input, &boards, wanted.as_ref()),
    };
    Ok((text, true))
}

fn assign(plan: &Plan, args: &Pins, input: &Input<'_>) -> Result<(String, bool), Failed> {
    if args.format == Sheet::Csv {
        return Err(Failed::Message("--assign answers as text or JSON".into()));
    }
    let known = plan.signals();
    if let Some(stranger) = args.also.iter().find(|n| !known.contains(n)) {
        let near = nearest_name(stranger, known.iter().map(String::as_str));
        let help =
            near.map_or_else(|| format!("items with pins: {}", known.join(", ")), |n| format!("did you mean `{n}`?"));
        return Err(Failed::Message(format!("`{stranger}` has no pin to assign ({help})")));
    }
    let found = plan.assign_pins(&args.also);
    let text = match args.format {
        Sheet::Json => assignment_json(input, &found),
        _ => assignment_text(&found, output::layout()),
    };
    Ok((text, found.is_ok()))
}

/// Keeps one board, where one is named.
fn one_board(boards: &mut Vec<BoardPins>, name: Option<&str>) -> Result<(), String> {
    let Some(name) = name else { return Ok(()) };
    let known: Vec<String> = boards.iter().map(|b| b.board.clone()).collect();
    boards.retain(|b| b.board == name);
    if !boards.is_empty() {
        return Ok(());
    }
    let near = nearest_name(name, known.iter().map(String::as_str));
    let help = near.map_or_else(|| format!("it has: {}", known.join(", ")), |n| format!("did you mean `{n}`?"));
    Err(format!("the plan has no board `{name}` ({help})"))
}

/// What `--supports` asks for; names words that are no ability.
fn wanted(words: &[String]) -> Result<Option<Wanted>, String> {
    if words.is_empty() {
        return Ok(None);
    }
    let known = pin_abilities();
    let mut wanted = Wanted::default();
    for word in words {
        match word.as_str() {
            "output" => {}
            "input" => wanted.as_input = true,
            ability if known.contains(&ability) => {
                // What is read needs an input only.
                wanted.as_input |= ["analogue", "interrupt", "count"].contains(&ability);
                wanted.abilities.push(ability.to_owned());
            }
            other => {
                let all = || known.iter().copied().chain(["output", "input"]);
                let help = match nearest_name(other, all()) {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => format!("functions: {}", all().collect::<Vec<_>>().join(", ")),
                };
                return Err(format!("`{other}` is not a function ({help})"));
            }
        }
    }
    wanted.as_input &= !words.iter().any(|w| w == "output");
    Ok(Some(wanted))
}

/// A plan of one board of a class.
fn plan_of_class(part: &str) -> Result<Plan, String> {
    let boards: Vec<String> = classes().into_iter().filter(|c| c.kind == "board").map(|c| c.name).collect();
    if !boards.iter().any(|b| b == part) {
        let near = nearest_name(part, boards.iter().map(String::as_str));
        let help = near.map_or_else(|| format!("boards: {}", boards.join(", ")), |n| format!("did you mean `{n}`?"));
        return Err(format!("the catalogue has no board `{part}` ({help})"));
    }
    let text = format!(
        "format = 1\n[supply.bench]\nkind = \"bench\"\nvoltage = \"5 V\"\ncurrent = \"5 A\"\n\
         [board.{part}]\npart = \"{part}\"\nfrom = \"bench\"\n"
    );
    Plan::from_toml(&text).map_err(|e| e.to_string())
}
