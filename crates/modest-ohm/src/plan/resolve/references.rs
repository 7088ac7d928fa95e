//! Names to indices, reference by reference.
use std::cell::RefCell;

use super::bounds::bound_starts;
use super::firmware_limits::firmware_limits;
use super::names::{Names, some_of};
use super::pin_refs::Boards;
use super::ports::Ports;
use super::resolve_panels::resolve_panels;
use super::settings::cannot_be_set;
use super::ways::{circles, drop_joined_inside, returns};
use crate::plan::driver::channels::Enable;
use crate::plan::driver::figures::Stage as DriverStage;
use crate::plan::kinds::board::UsbUse;
use crate::plan::kinds::enclosure::Held;
use crate::plan::kinds::run::RunKind;
use crate::plan::kinds::scenario::{Scenario, Setting};
use crate::plan::model::Plan;
use crate::plan::model::node::NodeKind;
use crate::plan::strip::node_refs;
use crate::plan::wiring::feed::{Feed, NodeId, NodeRef};
use crate::plan::wiring::name::Name;
use crate::plan::wiring::through::Stage;
use crate::text::problem::Problem;
use crate::text::{Named, nearest};

/// Fills in every reference; notes those that name nothing.
pub(crate) fn resolve(plan: &mut Plan, problems: &RefCell<Vec<Problem>>) {
    plan.nodes = plan.list_nodes().into();
    let names = Names::of(plan);
    let note = |p: Problem| problems.borrow_mut().push(p);
    let taken = named_nodes(plan, &names);
    let boards = Boards::of(plan);
    let mut ports = Ports::of(plan, taken);
    let mut shortages = Vec::new();
    let mut all_found = true;
    each_reference(plan, &mut |r, consumer| match names.node(&r.name) {
        _ if r.is_stand_in() => all_found = false,
        Ok(id) => r.id = id,
        Err(_) if ports.is_family(&r.name.text) => shortages.extend(ports.give(r, &consumer.text, consumer.span)),
        Err(p) => match boards.node(&names, r).unwrap_or(Err(p)) {
            Ok(id) => r.id = id,
            Err(p) => {
                all_found = false;
                note(p);
            }
        },
    });
    plan.shortages = shortages.into();
    nothing_hangs_on_fans(plan, &note);
    resolve_data(plan, &names, &boards, &note);
    resolve_signals(plan, &names, &boards, &note);
    resolve_watchers(plan, &note);
    resolve_mains(plan, &note);
    resolve_panels(plan, &names, &note);
    firmware_limits(plan, &names, &note);
    resolve_groups(plan, &names, &note);
    resolve_boxes(plan, &names, &note);
    check_scenarios(plan, &names, &note);
    boards_without_feed(plan, &note);
    if all_found && circles(plan, &note) {
        returns(plan, &note);
        drop_joined_inside(plan);
        bound_starts(plan);
    }
}

/// The ends of a strip with a return a colour are no nodes that could feed anything: there is no − beside its +.
fn nothing_hangs_on_fans(plan: &Plan, note: &impl Fn(Problem)) {
    let fan = |id: NodeId| match plan.nodes.get(id.0)?.kind {
        NodeKind::StripStart(i) | NodeKind::StripEnd(i) if plan.strips[i].is_fan() => Some(i),
        _ => None,
    };
    let grounds = plan.grounds.iter().flat_map(|g| g.between.iter());
    let links = plan.links.iter().flat_map(|l| l.between.iter());
    let across = plan.clamps.iter().map(|c| &c.across).chain(plan.capacitors.iter().map(|c| &c.across));
    let own_join = |name: &str, i: usize| name.starts_with(&format!("{}.join[", plan.strips[i].name.text));
    let feeds = plan.feeds();
    let fed = feeds.iter().flat_map(|(name, f, _)| {
        std::iter::once(&f.from)
            .chain(f.back.as_ref().map(|b| &b.to))
            .filter(move |r| fan(r.id).is_some_and(|i| !own_join(name, i)))
    });
    let others = grounds.chain(links).chain(across).filter(|r| fan(r.id).is_some());
    for r in fed.chain(others) {
        note(Problem::new(
            r.name.span,
            format!(
                "`{}` is an end of a strip with one return per colour: it has no return that could feed anything",
                r.name.text
            ),
            "feed it from the supply; write a longer strip as one strip, with the total length",
        ));
    }
}

/// Every reference to a node, with the item it stands in.
fn each_reference(plan: &mut Plan, join: &mut dyn FnMut(&mut NodeRef, &Name)) {
    fn feed(f: &mut Feed, name: &Name, join: &mut dyn FnMut(&mut NodeRef, &Name)) {
        join(&mut f.from, name);
        if let Some(back) = &mut f.back {
            join(&mut back.to, name);
        }
    }
    for b in &mut plan.branches {
        feed(&mut b.feed, &b.name, join);
        if let RunKind::Switch(switch) = &mut b.kind {
            switch.throws.iter_mut().for_each(|(_, f)| feed(f, &b.name, join));
        }
    }
    plan.converters.iter_mut().for_each(|c| feed(&mut c.feed, &c.name, join));
    for c in &mut plan.boards {
        if let Some(f) = &mut c.feed {
            feed(f, &c.name, join);
        }
    }
    for s in &mut plan.shifters {
        feed(&mut s.feed, &s.name, join);
        if let Some(low) = &mut s.low {
            feed(low, &s.name, join);
        }
    }
    plan.loads.iter_mut().for_each(|l| feed(&mut l.feed, &l.name, join));
    for strip in &mut plan.strips {
        let name = strip.name.clone();
        node_refs(strip).for_each(|r| join(r, &name));
        strip.switched.iter_mut().filter_map(|s| s.node.as_mut()).for_each(|r| join(r, &name));
    }
    for driver in &mut plan.drivers {
        let logic = match &mut driver.stage {
            DriverStage::Relay(relay) => relay.logic.as_mut().map(|l| &mut l.from),
            _ => None,
        };
        let own = driver.common.as_mut().into_iter().chain(logic);
        own.for_each(|r| join(r, &driver.name));
    }
    plan.grounds.iter_mut().for_each(|g| g.between.iter_mut().for_each(|r| join(r, &g.name)));
    plan.links.iter_mut().for_each(|l| l.between.iter_mut().for_each(|r| join(r, &l.name)));
    plan.clamps.iter_mut().for_each(|c| join(&mut c.across, &c.name));
    plan.capacitors.iter_mut().for_each(|c| join(&mut c.across, &c.name));
    for input in &mut plan.inputs {
        let name = input.name.clone();
        input.nodes_mut().for_each(|r| join(r, &name));
    }
    let loads = plan.loads.iter_mut().filter_map(|l| Some((&l.name, &mut l.signal.as_mut()?.input)));
    let inputs = loads.chain(plan.wires.iter_mut().map(|w| (&w.name, &mut w.input)));
    let inputs = inputs.chain(plan.drivers.iter_mut().map(|d| (&d.name, &mut d.input)));
    for (name, from) in inputs.filter_map(|(name, input)| Some((name, input.opto.as_mut()?.from.as_mut()?))) {
        join(from, name);
    }
    for bus in &mut plan.buses {
        if let Some(to) = &mut bus.pull_to {
            join(to, &bus.name);
        }
    }
}

/// Nodes that something names itself, as they stand before ports are given out.
fn named_nodes(plan: &mut Plan, names: &Names) -> impl Iterator<Item = NodeId> + use<> {
    let mut found = Vec::new();
    each_reference(plan, &mut |r, _| found.extend(names.nodes.get(&r.name.text)));
    found.into_iter()
}

/// What lies in a mains circuit are contacts of the plan: relays and hand switches.
fn resolve_mains(plan: &Plan, note: &impl Fn(Problem)) {
    let relays =
        plan.drivers.iter().flat_map(|d| d.channels.iter().map(|c| c.name.as_str()).chain([d.name.text.as_str()]));
    let switches = plan.branches.iter().filter(|b| b.switch().is_some()).map(|b| b.name.text.as_str());
    let known: Vec<&str> = relays.chain(switches).collect();
    for m in &plan.mains {
        for fed in &m.feeds {
            let known = plan.mains.iter().any(|other| other.name.text == fed.text);
            if known && fed.text != m.name.text {
                continue;
            }
            let message = match known {
                true => format!("mains circuit `{}` feeds itself", m.name.text),
                false => format!("there is no mains circuit `{}`, which `{}` feeds", fed.text, m.name.text),
            };
            note(Problem::new(fed.span.unwrap_or(m.name.span), message, "name another `[mains.x]` downstream of it"));
        }
    }
    for through in plan.mains.iter().flat_map(|m| &m.through) {
        if known.contains(&through.text.as_str()) {
            continue;
        }
        let help = match nearest(&through.text, known.iter().copied()) {
            Some(near) => format!("did you mean `{near}`?"),
            None => "name relays (`[driver.…]`) and hand switches (`[switch.…]`) of this plan".to_owned(),
        };
        note(Problem::undeclared(through, "relay or switch", help));
    }
}

/// What tells a load to stop is an input.
fn resolve_watchers(plan: &Plan, note: &impl Fn(Problem)) {
    let known = || plan.inputs.iter().map(|i| i.name.text.as_str());
    for by in plan.loads.iter().filter_map(|l| l.limits.watched_by.as_ref()) {
        if known().any(|n| n == by.text) {
            continue;
        }
        let help = match nearest(&by.text, known()) {
            Some(near) => format!("did you mean `{near}`?"),
            None => "add it as an `[input.…]`: a float switch is a contact".to_owned(),
        };
        note(Problem::undeclared(by, "input", help));
    }
}

fn resolve_groups(plan: &mut Plan, names: &Names, note: &impl Fn(Problem)) {
    for group in &mut plan.groups {
        for (name, index) in &mut group.members {
            match names.thing(name, "load") {
                Ok(i) => *index = i,
                Err(p) => note(p),
            }
        }
    }
}

fn resolve_boxes(plan: &mut Plan, names: &Names, note: &impl Fn(Problem)) {
    for (name, held) in plan.enclosures.iter_mut().flat_map(|h| &mut h.holds) {
        let thing = names.things.iter().find(|(n, _, _)| *n == name.text);
        match thing {
            Some((_, "supply", i)) => *held = Held::Supply(*i),
            Some((_, "converter", i)) => *held = Held::Converter(*i),
            Some((_, "board", i)) => *held = Held::Board(*i),
            Some((_, "strip", i)) => *held = Held::Strip(*i),
            Some((_, "load", i)) => *held = Held::Load(*i),
            Some((_, "branch" | "switch" | "driver", i)) => *held = Held::Branch(*i),
            Some((_, kind, _)) => note(Problem::new(
                name.span,
                format!("`{}` is a {kind}, whose heat is not computed", name.text),
                "list converters, boards, branches, connectors, strips and loads",
            )),
            None => {
                let all = names.things.iter().map(|(n, _, _)| n.as_str());
                let help = match nearest(&name.text, all) {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => "list converters, boards, branches, connectors, strips and loads of this plan".into(),
                };
                note(Problem::undeclared(name, "part", help));
            }
        }
    }
}

/// A board has to get its voltage from somewhere: a feed of its own, USB, or a board that it is stacked on or under.
fn boards_without_feed(plan: &Plan, note: &impl Fn(Problem)) {
    for (i, board) in plan.boards.iter().enumerate() {
        let own = plan.node_id(NodeKind::BoardInput(i));
        let linked = plan.links.iter().any(|l| l.between.iter().any(|n| Some(n.id) == own));
        if board.feed.is_none() && board.usb.when != UsbUse::Always && plan.terminals_of(i).next().is_none() && !linked
        {
            note(Problem::new(
                board.name.span,
                format!("board `{}`: `from` is missing", board.name.text),
                "write which node feeds it: `from = \"five\"`; or `usb = \"always\"` if a computer does",
            ));
        }
    }
}

fn resolve_data(plan: &mut Plan, names: &Names, boards: &Boards, note: &impl Fn(Problem)) {
    for strip in &mut plan.strips {
        let Some(data) = &mut strip.data else { continue };
        if let Some(pin) = &mut data.pin {
            boards.signal(names, pin, note);
        }
        if let Some(clock) = &mut data.clock {
            boards.signal(names, clock, note);
        }
        resolve_through(&mut data.through, names, note);
        if let Some((name, index)) = &mut data.after {
            match names.thing(name, "strip") {
                Ok(i) => *index = i,
                Err(p) => note(p),
            }
        }
    }
}

fn resolve_through(through: &mut [(Named, Stage)], names: &Names, note: &impl Fn(Problem)) {
    for (name, stage) in through {
        match names
            .thing(name, "differential-pair")
            .map(Stage::Pair)
            .or_else(|_| names.thing(name, "shifter").map(Stage::Shifter))
        {
            Ok(found) => *stage = found,
            Err(p) => note(p),
        }
    }
}

/// Control cables of loads, and wires from pin to pin.
fn resolve_signals(plan: &mut Plan, names: &Names, boards: &Boards, note: &impl Fn(Problem)) {
    for signal in plan.loads.iter_mut().filter_map(|l| l.signal.as_mut()) {
        signal.pins.iter_mut().for_each(|pin| boards.signal(names, pin, note));
        resolve_through(&mut signal.line.through, names, note);
    }
    for driver in &mut plan.drivers {
        for channel in &mut driver.channels {
            channel.pins.iter_mut().for_each(|pin| boards.signal(names, pin, note));
            if let Enable::Pin(pin) = &mut channel.enable {
                boards.signal(names, pin, note);
            }
        }
        resolve_through(&mut driver.line.through, names, note);
    }
    for input in plan.inputs.iter_mut().filter(|i| !i.pin.name.text.is_empty()) {
        boards.signal(names, &mut input.pin, note);
    }
    for stack in &mut plan.stacks {
        stack.claims.iter_mut().chain(&mut stack.bus_pins).for_each(|pin| boards.signal(names, pin, note));
    }
    for (_, pin) in plan.buses.iter_mut().flat_map(|b| &mut b.lines) {
        boards.signal(names, pin, note);
    }
    for sensor in &mut plan.sensors {
        if let Some(select) = &mut sensor.select {
            boards.signal(names, select, note);
        }
        if !sensor.bus.0.text.is_empty() {
            match names.thing(&sensor.bus.0, "bus") {
                Ok(i) => sensor.bus.1 = i,
                Err(p) => note(p),
            }
        }
    }
    for wire in &mut plan.wires {
        // A missing pin is reported already.
        let pins = std::iter::once(&mut wire.pin).filter(|p| !p.name.text.is_empty()).chain(&mut wire.to);
        pins.for_each(|pin| boards.signal(names, pin, note));
        resolve_through(&mut wire.line.through, names, note);
    }
}

fn check_scenarios(plan: &Plan, names: &Names, note: &impl Fn(Problem)) {
    let of_kinds = |kinds: &[&str]| -> Vec<String> {
        names.things.iter().filter(|(_, k, _)| kinds.contains(k)).map(|(n, _, _)| n.clone()).collect()
    };
    let mut settable = of_kinds(&["strip", "load", "switch"]);
    for load in plan.loads.iter().filter(|l| l.count > 1) {
        settable.extend((0..load.count).map(|i| load.member(i)));
    }
    let mut can_be_off = settable.clone();
    can_be_off.extend(of_kinds(&["board", "supply"]));
    let boards = of_kinds(&["board"]);
    let lasting: Vec<String> = Scenario::CONTINUOUS
        .iter()
        .map(ToString::to_string)
        .chain(plan.scenarios.iter().map(|s| s.name.text.clone()))
        .collect();
    for wish in plan.supplies.iter().filter_map(|s| s.battery.as_ref()?.runtime_in.as_ref()) {
        if !lasting.contains(&wish.text) {
            let help = format!("continuous scenarios: {}", some_of(&lasting));
            note(Problem::new(wish.span, format!("there is no continuous scenario `{}`", wish.text), help));
        }
    }
    for scenario in &plan.scenarios {
        if !matches!(Scenario::from(scenario.name.text.as_str()), Scenario::Own(_)) {
            note(Problem::new(
                scenario.name.span,
                format!("scenario `{}` is built in", scenario.name.text),
                "use another name for yours",
            ));
        }
        let known = |named: &Named, all: &[String], what: &str| {
            if !all.contains(&named.text) {
                let help = match nearest(&named.text, all.iter().map(String::as_str)) {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => format!("{what}: {}", some_of(all)),
                };
                note(Problem::new(
                    named.span,
                    format!("scenario `{}` names an unknown part `{}`", scenario.name.text, named.text),
                    help,
                ));
            }
        };
        for name in &scenario.off {
            known(name, &can_be_off, "strips, loads, switches, boards and supplies can be off");
        }
        for name in &scenario.plugged {
            known(name, &boards, "a computer can be connected to a board");
        }
        for (name, setting) in &scenario.set {
            known(name, &settable, "strips, loads and switches can be set");
            if settable.contains(&name.text)
                && let Some(help) = cannot_be_set(plan, &name.text, setting)
            {
                let span = if let Setting::Position(word) = setting { word.span } else { name.span };
                note(Problem::new(span, format!("`{}` cannot be set like this", name.text), help));
            }
        }
    }
}
