//! What a `[driver.x]` draws itself: its coil, its motor supply, its logic.

use super::figures::{Jumper, Logic, Stage};
use crate::plan::driver::{Driver, DriverKind};
use crate::plan::kinds::converter::Converter;
use crate::plan::kinds::load::{Demand, Load, Nature, States};
use crate::plan::kinds::load_kind::LoadKind;
use crate::plan::kinds::run::{Branch, Open, RunKind};
use crate::plan::wiring::feed::{Feed, NodeRef, read_optional_feed, read_terminal_feeds};
use crate::plan::wiring::name::Name;
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::Amps;
use crate::source::Span;
use crate::text::Named;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;

/// A driver, and what else its `[driver.x]` puts into the plan.
#[derive(Default)]
pub(crate) struct ReadDriver {
    pub driver: Option<Driver>,
    pub load: Option<Load>,
    /// The motor supply of a bridge, and its outputs.
    pub runs: Vec<Branch>,
    /// Its own 5 V regulator, where its jumper is in.
    pub regulator: Option<Converter>,
}

/// Where a driver's own supplies come from.
#[derive(Default)]
pub(super) struct Feeds {
    /// Of its coil, its motors, its load.
    main: Option<Feed>,
    logic: Option<Feed>,
}

impl Feeds {
    pub(super) fn read(reader: &mut Reader<'_>, kind: DriverKind) -> Self {
        let is_table = matches!(reader.node("from").map(|n| &n.value), Some(Value::Table(_)));
        let names: &[&str] = match kind {
            DriverKind::Bridge => &["motor", "logic"],
            DriverKind::RelayModule => &["coil", "logic"],
            _ => {
                let main = read_optional_feed(reader);
                for key in ["cable", "fuse", "return"] {
                    if let (None, true, Some(span)) = (&main, reader.has(key), reader.own_span(key)) {
                        let message = format!("`{key}` of {} needs the node that the cable comes from", reader.what());
                        reader.problem(Problem::new(span, message, "write `from = \"deck\"`"));
                    }
                }
                return Self { main, logic: None };
            }
        };
        if !is_table {
            return Self { main: read_optional_feed(reader), logic: None };
        }
        let mut sides = read_terminal_feeds(reader, Some(names));
        let mut side = |name: &str| sides.iter().position(|(n, _)| n == name).map(|i| sides.swap_remove(i).1);
        let (main, logic) = (side(names[0]), side(names[1]));
        if main.is_none() && logic.is_some() {
            reader.problem(Problem::new(
                reader.own_span("from"),
                format!("{}: the {} supply is missing", reader.what(), names[0]),
                format!("write both: `from = {{ {} = \"deck\", logic = \"five\" }}`", names[0]),
            ));
        }
        Self { main, logic }
    }
}

/// The load that a driver is itself, and the runs that it brings.
pub(super) fn read_consumer(reader: &mut Reader<'_>, driver: &mut Driver, feeds: Feeds) -> ReadDriver {
    let own_current = reader.figure::<Amps>("own-current", Need::NotNegative);
    match driver.kind {
        DriverKind::Relay => ReadDriver { load: coil(reader, driver, feeds), ..ReadDriver::default() },
        DriverKind::RelayModule => ReadDriver { load: module(reader, driver, feeds), ..ReadDriver::default() },
        DriverKind::Bridge => bridge(reader, driver, feeds, own_current),
        _ => {
            driver.feed = feeds.main;
            ReadDriver::default()
        }
    }
}

fn needs_feed(reader: &mut Reader<'_>, feed: Option<Feed>, example: &str) -> Feed {
    if feed.is_none() && !reader.has("from") {
        reader.missing("from", example);
    }
    feed.unwrap_or_else(Feed::stand_in)
}

/// A bare relay's coil: a load of its own, that a pin or another driver switches.
fn coil(reader: &mut Reader<'_>, driver: &mut Driver, feeds: Feeds) -> Option<Load> {
    let feed = needs_feed(reader, feeds.main, "write what feeds its coil: `from = \"five\"`").taking_pins();
    let Stage::Relay(relay) = &driver.stage else { return None };
    let ohms = relay.coil_ohms.clone();
    if ohms.is_none() && !reader.has("coil-resistance") {
        reader.missing("coil-resistance", "write its coil resistance, `coil-resistance = \"70 Ω\"`, or set `part`");
    }
    let states = States { peak: ohms.unwrap_or_else(Figure::stand_in), idle: None, typical: None, surge: None };
    let mut load = Load::plain(driver.name.clone(), LoadKind::Driver, feed, Demand::Resistance(states));
    load.nature = Some(Nature::Coil);
    load.voltage = relay.coil.clone();
    // What its coil stands and needs is the matter of a check of its own.
    load.judged_apart = true;
    load.read_driven(reader);
    load.rests_off = driver.rests_off == Some(true);
    load.flyback = driver.flyback.take();
    Some(load)
}

/// A module of relays: all coils that the plan uses, and its optocouplers' share.
fn module(reader: &mut Reader<'_>, driver: &mut Driver, feeds: Feeds) -> Option<Load> {
    let feed = needs_feed(reader, feeds.main, "write what feeds its coils: `from = \"five\"`");
    let Stage::Relay(relay) = &mut driver.stage else { return None };
    let logic = feeds.logic.map(|f| f.from);
    // What is on while its pin is low is fed from a +: from its logic's where that is another, else from its coils'.
    if let Some(opto) = driver.input.opto.as_mut().filter(|o| driver.active_low && o.from.is_none()) {
        opto.from = Some(logic.clone().unwrap_or_else(|| feed.from.clone()));
    }
    relay.logic = logic.map(|from| Logic { from });
    let coils = driver.channels.len().max(1) as f64;
    let peak = match (&relay.coil_ohms, &relay.coil) {
        (Some(ohms), _) => ohms.scaled(1.0 / coils),
        (None, _) => {
            if !reader.has("coil-resistance") {
                reader.missing(
                    "coil-resistance",
                    "write the resistance of one coil, `coil-resistance = \"70 Ω\"`, or set `part`",
                );
            }
            Figure::stand_in()
        }
    };
    let states = States { peak, idle: None, typical: None, surge: None };
    let mut load = Load::plain(driver.name.clone(), LoadKind::Driver, feed, Demand::Resistance(states));
    load.nature = Some(Nature::Electronics);
    load.voltage = relay.coil.clone();
    load.judged_apart = true;
    load.rests_off = driver.rests_off == Some(true);
    Some(load)
}

/// A bridge: its motor supply is a run, each channel a run behind it; its logic draws from its own supply, or through
/// its regulator from that of the motors.
fn bridge(reader: &mut Reader<'_>, driver: &mut Driver, feeds: Feeds, own_current: Option<Figure<Amps>>) -> ReadDriver {
    let main = needs_feed(
        reader,
        feeds.main,
        "write what feeds its motors and its logic: `from = { motor = \"deck\", logic = \"five\" }`",
    );
    let inlet = format!("{}.motor", driver.name.text);
    let named = |text: &str, span: Span| Named { text: text.to_owned(), span: Some(span) };
    let name = |text: String, span: Span| Name { text, span };
    let span = driver.name.span;
    let mut runs = vec![Branch { name: name(inlet.clone(), span), feed: main, open: Open::NOT, kind: RunKind::Inlet }];
    for (i, channel) in driver.channels.iter().enumerate() {
        let feed = Feed { from: NodeRef::new(named(&inlet, channel.span)), cable: None, back: None, fuse: None };
        let at = crate::plan::wiring::driven::StageRun {
            driver: usize::MAX,
            channel: i,
            contacts: crate::plan::wiring::driven::Contacts::Open,
        };
        runs.push(Branch {
            name: name(channel.name.clone(), channel.span),
            feed,
            open: Open::NOT,
            kind: RunKind::Stage(at),
        });
    }
    let own = own_current
        .unwrap_or_else(|| Figure::exact(Amps::new(0.036), Origin::Default("a bridge draws 36 mA itself (typical)")));
    let states = States { idle: Some(own.clone()), peak: own, typical: None, surge: None };
    let behind = |node: &str| Feed { from: NodeRef::new(named(node, span)), cable: None, back: None, fuse: None };
    let Stage::Bridge(own_figures) = &mut driver.stage else { return ReadDriver::default() };
    own_figures.logic_fed = feeds.logic.is_some();
    let output = format!("{}.5v", driver.name.text);
    let regulator = (own_figures.regulator == Jumper::In).then(|| {
        let theta = own_figures.regulator_theta.clone();
        Converter::on_board(name(output.clone(), span), behind(&inlet), theta, &own_figures.regulator_least)
    });
    let logic = feeds.logic.unwrap_or_else(|| behind(if regulator.is_some() { &output } else { &inlet }));
    let mut load = Load::plain(driver.name.clone(), LoadKind::Driver, logic, Demand::Current(states));
    load.nature = Some(Nature::Electronics);
    load.regulated = true;
    // Without a supply of its own it takes the motors', where it is made for that.
    load.judged_apart = own_figures.logic.is_none() || !(own_figures.logic_fed || regulator.is_some());
    if !load.judged_apart {
        load.recommended = own_figures.logic.clone();
    }
    ReadDriver { driver: None, load: Some(load), runs, regulator }
}
