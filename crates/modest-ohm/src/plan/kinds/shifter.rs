//! Level shifters (`shifter`), thresholds and pins.

use crate::plan::wiring::feed::{Feed, read_feed, read_terminal_feeds};
use crate::plan::wiring::name::Name;
use crate::plan::wiring::threshold::{Threshold, read_threshold};
use crate::quantity::figure::Figure;
use crate::quantity::units::{Amps, Metres, Ohms, Seconds, Volts};
use crate::text::order::at_most;
use crate::text::problem::Problem;
use crate::text::reader::{Need, Reader};
use crate::text::tree::Value;
use modest_ohm_derive::Figures;

/// `[shifter.x]`: a buffer that lifts levels.
#[derive(Clone, Debug, Figures)]
pub(crate) struct Shifter {
    pub name: Name,
    #[figures(flat)]
    pub feed: Feed,
    pub current: Figure<Amps>,
    #[figures(range)]
    pub recommended: Option<Figure<Volts>>,
    /// Below it it does not work; where nothing is given, the lowest recommended voltage.
    pub minimum: Option<Figure<Volts>>,
    pub absolute: Option<Figure<Volts>>,
    pub vih: Option<Threshold>,
    pub vil: Option<Threshold>,
    /// True where its inputs take no current while it has no supply.
    pub partial_power_down: bool,
    /// The resistor through which alone its output rises.
    pub pull: Option<Figure<Ohms>>,
    /// How long its output takes to rise.
    pub edge: Option<Figure<Seconds>>,
    /// How data comes to its input.
    #[figures(flat)]
    pub input: DataLead,
    /// The feed of its low side, of one between two supplies; `feed` is that of its high side.
    pub low: Option<Feed>,
    pub sends: Sends,
    /// What its input stands, where that is not its supply.
    pub input_volts: Option<Figure<Volts>>,
}

/// Which way a shifter between two supplies sends.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Figures)]
pub(crate) enum Sends {
    /// From the low side to the high side.
    Up,
    Down,
    /// Either way, as its signals go.
    Both,
}

/// The data lead to a part's input: its length, and the resistor at its beginning.
#[derive(Clone, Debug, Default, Figures)]
pub(crate) struct DataLead {
    #[figures(key = "data-cable")]
    pub length: Option<Figure<Metres>>,
    pub series: Option<Figure<Ohms>>,
}

pub(crate) fn read_data_lead(reader: &mut Reader<'_>) -> DataLead {
    DataLead {
        length: reader.figure::<Metres>("data-cable", Need::NotNegative),
        series: reader.figure::<Ohms>("series", Need::NotNegative),
    }
}

pub(crate) fn read_shifter(reader: &mut Reader<'_>, name: Name) -> Shifter {
    let (feed, low) = read_sides(reader);
    let current =
        reader.figure_or::<Amps>("current", Need::NotNegative, Amps::new(0.001), "1 mA, typical of one buffer in use");
    let recommended = reader.figure::<Volts>("recommended", Need::Positive);
    let minimum = reader.figure::<Volts>("minimum", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let highest = recommended.as_ref().map(|r| r.high);
    let help = "an absolute maximum is above what is recommended";
    at_most(reader, ("recommended", highest), ("absolute", absolute.as_ref().map(|a| a.high)), help);
    let vih = read_threshold(reader, "vih");
    let vil = read_threshold(reader, "vil");
    let partial_power_down = reader.flag("partial-power-down", false);
    let pull = reader.figure::<Ohms>("pull", Need::Positive);
    let edge = reader.figure::<Seconds>("edge", Need::Positive);
    let input = read_data_lead(reader);
    let sends =
        reader.choice("sends", &[("up", Sends::Up), ("down", Sends::Down), ("both", Sends::Both)]).unwrap_or(Sends::Up);
    let input_volts = reader.figure::<Volts>("input-voltage", Need::Positive);
    Shifter {
        name,
        feed,
        current,
        recommended,
        minimum,
        absolute,
        vih,
        vil,
        partial_power_down,
        pull,
        edge,
        input,
        low,
        sends,
        input_volts,
    }
}

/// `from = "five"`, or `from = { low = "keeper.3v3", high = "five" }` of one between two supplies.
fn read_sides(reader: &mut Reader<'_>) -> (Feed, Option<Feed>) {
    if !matches!(reader.node("from").map(|n| &n.value), Some(Value::Table(_))) {
        return (read_feed(reader), None);
    }
    let span = reader.own_span("from");
    let mut sides = read_terminal_feeds(reader, Some(&["low", "high"]));
    let mut side = |name: &str| sides.iter().position(|(n, _)| n == name).map(|i| sides.swap_remove(i).1);
    let (low, high) = (side("low"), side("high"));
    if low.is_some() != high.is_some() {
        let missing = if low.is_some() { "high" } else { "low" };
        reader.problem(Problem::new(
            span,
            format!("{}: the {missing} side is missing", reader.what()),
            "write both: `from = { low = \"keeper.3v3\", high = \"five\" }`",
        ));
    }
    (high.unwrap_or_else(Feed::stand_in), low)
}
