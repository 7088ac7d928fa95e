//! `[differential-pair.x]`: a balanced link over distance, a driver at its near end and a receiver at its far end.
//! Either is fed like a shifter, and is one: `x.near` and `x.far`.

use super::shifter::{Sends, Shifter, read_data_lead};
use crate::plan::wiring::feed::{Feed, read_feed};
use crate::plan::wiring::name::Name;
use crate::plan::wiring::threshold::{Threshold, read_threshold};
use crate::quantity::figure::{Figure, Origin};
use crate::quantity::units::{Amps, Metres, Volts};
use crate::text::reader::{Need, Reader};
use modest_ohm_derive::Figures;

/// A driver into its terminated pair, and a receiver (typical).
const NEAR_A: f64 = 0.030;
const FAR_A: f64 = 0.005;
/// How far apart the grounds of both ends may lie (TIA/EIA-485), V.
const COMMON_MODE_V: (f64, f64) = (-7.0, 12.0);
/// How long a pair may be at 800 kHz, m (typical: pulses of 0.4 µs).
const REACH_M: f64 = 100.0;

#[derive(Clone, Debug, Figures)]
pub(crate) struct DifferentialPair {
    pub name: Name,
    /// Indices of the shifters that its ends are, once the plan is put together.
    pub near: usize,
    pub far: usize,
    /// Of the pair itself.
    pub length: Option<Figure<Metres>>,
    pub reach: Figure<Metres>,
    /// Voltage that either wire may have against the far end's ground.
    #[figures(range)]
    pub common_mode: Figure<Volts>,
}

/// A pair and its two ends.
pub(crate) fn read_pair(reader: &mut Reader<'_>, name: Name) -> (DifferentialPair, [Shifter; 2]) {
    let length = reader.figure::<Metres>("length", Need::NotNegative);
    let reach = reader.figure_or::<Metres>("reach", Need::Positive, Metres::new(REACH_M), "100 m at 800 kHz (typical)");
    let common_mode = reader.figure::<Volts>("common-mode", Need::Any).unwrap_or_else(|| Figure {
        low: Volts::new(COMMON_MODE_V.0),
        typical: Volts::new(0.0),
        high: Volts::new(COMMON_MODE_V.1),
        origin: Origin::Default("−7 V .. 12 V (TIA/EIA-485)"),
        bare: false,
    });
    let near_amps = reader.figure_or::<Amps>(
        "current",
        Need::NotNegative,
        Amps::new(NEAR_A),
        "30 mA, typical of a driver into its terminated pair",
    );
    let far_amps =
        reader.figure_or::<Amps>("far-current", Need::NotNegative, Amps::new(FAR_A), "5 mA, typical of a receiver");
    let recommended = reader.figure::<Volts>("recommended", Need::Positive);
    let minimum = reader.figure::<Volts>("minimum", Need::Positive);
    let absolute = reader.figure::<Volts>("absolute", Need::Positive);
    let vih = read_threshold(reader, "vih");
    let vil = read_threshold(reader, "vil");
    let input = read_data_lead(reader);
    let near = read_end(reader, "near");
    let far = read_end(reader, "far");
    let end =
        |which: &str, feed: Feed, current: Figure<Amps>, levels: (Option<Threshold>, Option<Threshold>)| Shifter {
            name: Name { text: format!("{}.{which}", name.text), span: name.span },
            feed,
            current,
            recommended: recommended.clone(),
            minimum: minimum.clone(),
            absolute: absolute.clone(),
            vih: levels.0,
            vil: levels.1,
            partial_power_down: false,
            pull: None,
            edge: None,
            input: Default::default(),
            low: None,
            sends: Sends::Up,
            input_volts: None,
        };
    let mut ends = [end("near", near, near_amps, (vih, vil)), end("far", far, far_amps, (None, None))];
    ends[0].input = input;
    (DifferentialPair { name, near: usize::MAX, far: usize::MAX, length, reach, common_mode }, ends)
}

/// `near = { from = "five", cable = "0.2 m 22 AWG" }`.
fn read_end(reader: &mut Reader<'_>, key: &'static str) -> Feed {
    let Some(mut inner) = reader.child(key) else {
        if !reader.has(key) {
            reader.missing(key, &format!("write what feeds that end: `{key} = {{ from = \"five\" }}`"));
        }
        return Feed::stand_in();
    };
    let feed = read_feed(&mut inner);
    inner.finish();
    feed
}
