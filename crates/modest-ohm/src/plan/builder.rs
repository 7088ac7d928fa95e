//! A plan written in code: typed drafts that become the same text a maker would write, then the same plan.

use std::fmt::Write as _;

use super::Plan;
use crate::quantity::{Amps, Celsius, Fraction, Metres, Ohms, OhmsPerMetre, PerMetre, Quantity, Volts, Watts};
use crate::text::PlanErrors;

/// Writes a plan in code. Every method takes typed quantities; [`PlanBuilder::build`] checks the whole as text would be.
///
/// ```
/// use modest_ohm::{Amps, Lead, LoadDraft, Metres, Plan, SupplyDraft, Volts};
/// let plan = Plan::builder("One pump")
///     .supply(SupplyDraft::adapter("wall").voltage(Volts::new(12.0)).current(Amps::new(2.0)))
///     .load(LoadDraft::amps("tide", Amps::new(0.5)).from("wall").cable(Lead::awg(Metres::new(1.5), 20)))
///     .build()
///     .expect("a sound plan");
/// assert_eq!(plan.loads(), ["tide"]);
/// ```
#[derive(Clone, Debug)]
pub struct PlanBuilder {
    head: String,
    body: String,
}

impl PlanBuilder {
    pub(super) fn new(title: &str) -> Self {
        Self { head: format!("format = 1\ntitle = {}\n", quoted(title)), body: String::new() }
    }

    /// The ambient temperature.
    #[must_use]
    pub fn ambient(mut self, ambient: Celsius) -> Self {
        let _ = writeln!(self.head, "ambient = {}", written(ambient));
        self
    }

    /// A scenario: shares of full light for strips, and what is off; starts from *worst*.
    #[must_use]
    pub fn scenario(mut self, name: &str, light: &[(&str, Fraction)], off: &[&str]) -> Self {
        let set: Vec<String> = light.iter().map(|(strip, share)| format!("{strip} = {}", written(*share))).collect();
        let off: Vec<String> = off.iter().map(|n| quoted(n)).collect();
        let _ = write!(self.body, "\n[scenario.{name}]\nset = {{ {} }}\noff = [{}]\n", set.join(", "), off.join(", "));
        self
    }

    fn item(mut self, kind: &str, draft: Draft) -> Self {
        let _ = write!(self.body, "\n[{kind}.{}]\n{}", draft.name, draft.keys);
        self
    }

    /// Adds a supply.
    #[must_use]
    pub fn supply(self, draft: SupplyDraft) -> Self {
        self.item("supply", draft.0)
    }

    /// Adds a branch.
    #[must_use]
    pub fn branch(self, draft: BranchDraft) -> Self {
        self.item("branch", draft.0)
    }

    /// Adds a converter.
    #[must_use]
    pub fn converter(self, draft: ConverterDraft) -> Self {
        self.item("converter", draft.0)
    }

    /// Adds a board.
    #[must_use]
    pub fn controller(self, draft: ControllerDraft) -> Self {
        self.item("controller", draft.0)
    }

    /// Adds a level shifter.
    #[must_use]
    pub fn shifter(self, draft: ShifterDraft) -> Self {
        self.item("shifter", draft.0)
    }

    /// Adds a strip.
    #[must_use]
    pub fn strip(self, mut draft: StripDraft) -> Self {
        if !draft.inject.is_empty() {
            let _ = writeln!(draft.base.keys, "inject = [ {} ]", draft.inject.join(", "));
        }
        self.item("strip", draft.base)
    }

    /// Adds a load.
    #[must_use]
    pub fn load(self, draft: LoadDraft) -> Self {
        self.item("load", draft.0)
    }

    /// The plan as text.
    #[must_use]
    pub fn to_toml(&self) -> String {
        format!("{}{}", self.head, self.body)
    }

    /// Checks the whole and makes the plan.
    ///
    /// # Errors
    /// As [`Plan::from_toml`]; places refer to [`PlanBuilder::to_toml`].
    pub fn build(&self) -> Result<Plan, PlanErrors> {
        Plan::from_toml(&self.to_toml())
    }
}

#[derive(Clone, Debug)]
struct Draft {
    name: String,
    keys: String,
}

impl Draft {
    fn new(name: &str) -> Self {
        Self { name: name.to_owned(), keys: String::new() }
    }

    fn set(&mut self, key: &str, value: &str) {
        let _ = writeln!(self.keys, "{key} = {value}");
    }
}

fn quoted(text: &str) -> String {
    let mut out = String::from("\"");
    for c in text.chars() {
        match c {
            '"' | '\\' => {
                out.push('\\');
                out.push(c);
            }
            c if c.is_control() => {
                let _ = write!(out, "\\u{:04X}", c as u32);
            }
            c => out.push(c),
        }
    }
    out.push('"');
    out
}

/// The quantity in full precision with its unit.
fn written<Q: Quantity>(quantity: Q) -> String {
    if Q::SYMBOL == "%" {
        format!("\"{} %\"", quantity.si() * 100.0)
    } else {
        format!("\"{} {}\"", quantity.si(), Q::SYMBOL)
    }
}

/// A lead of two conductors.
///
/// ```
/// use modest_ohm::{Lead, Metres, Ohms};
/// let _ = Lead::awg(Metres::new(1.2), 16);
/// let _ = Lead::mm2(Metres::new(1.2), 0.75);
/// let _ = Lead::measured(Ohms::new(0.042), Ohms::new(0.055));
/// ```
#[derive(Clone, Debug)]
pub struct Lead(String);

impl Lead {
    /// Length (one way) and AWG size.
    #[must_use]
    pub fn awg(length: Metres, size: i32) -> Self {
        Self(format!("\"{} m {size} AWG\"", length.get()))
    }

    /// Length (one way) and cross-section in mm².
    #[must_use]
    pub fn mm2(length: Metres, area_mm2: f64) -> Self {
        Self(format!("\"{} m {area_mm2} mm²\"", length.get()))
    }

    /// Measured resistance of each conductor.
    #[must_use]
    pub fn measured(feed: Ohms, back: Ohms) -> Self {
        Self(format!("{{ feed = {}, return = {} }}", written(feed), written(back)))
    }
}

macro_rules! draft {
    ($(#[$doc:meta])* $name:ident; $($(#[$mdoc:meta])* $method:ident: $quantity:ty => $key:literal;)*) => {
        $(#[$doc])*
        #[derive(Clone, Debug)]
        pub struct $name(Draft);

        impl $name {
            $(
                $(#[$mdoc])*
                #[must_use]
                pub fn $method(mut self, value: $quantity) -> Self {
                    self.0.set($key, &written(value));
                    self
                }
            )*

            /// Any other key of the plan file, with its TOML value.
            #[must_use]
            pub fn key(mut self, key: &str, toml: &str) -> Self {
                self.0.set(key, toml);
                self
            }
        }
    };
}

macro_rules! fed {
    ($name:ident) => {
        impl $name {
            /// The node that feeds it.
            #[must_use]
            pub fn from(mut self, node: &str) -> Self {
                self.0.set("from", &quoted(node));
                self
            }

            /// Its lead.
            #[must_use]
            pub fn cable(mut self, lead: Lead) -> Self {
                self.0.set("cable", &lead.0);
                self
            }

            /// Its class in the catalogue.
            #[must_use]
            pub fn part(mut self, part: &str) -> Self {
                self.0.set("part", &quoted(part));
                self
            }
        }
    };
}

draft!(
    /// A supply in the making.
    SupplyDraft;
    /// Its volts; the class's tolerance holds (adapter ± 5 %, bench ± 1 %) unless a resistance is given.
    voltage: Volts => "voltage";
    /// Its continuous rating.
    current: Amps => "current";
    /// Its source resistance; makes the volts exact.
    resistance: Ohms => "resistance";
);

impl SupplyDraft {
    /// An adapter.
    #[must_use]
    pub fn adapter(name: &str) -> Self {
        Self(Draft::new(name)).key("kind", "\"adapter\"")
    }

    /// A bench supply.
    #[must_use]
    pub fn bench(name: &str) -> Self {
        Self(Draft::new(name)).key("kind", "\"bench\"")
    }
}

draft!(
    /// A branch in the making.
    BranchDraft;
    /// A blade fuse of this rating.
    fuse: Amps => "fuse";
);
fed!(BranchDraft);

impl BranchDraft {
    /// A run with this name.
    #[must_use]
    pub fn new(name: &str) -> Self {
        Self(Draft::new(name))
    }
}

draft!(
    /// A converter in the making.
    ConverterDraft;
    /// Its set volts.
    output: Volts => "output";
    /// What it delivers continuously.
    current: Amps => "current";
    /// Its efficiency.
    efficiency: Fraction => "efficiency";
    /// What it draws without load.
    quiescent: Watts => "quiescent";
    /// Its output resistance; makes the volts exact.
    resistance: Ohms => "resistance";
);
fed!(ConverterDraft);

impl ConverterDraft {
    /// A buck converter.
    #[must_use]
    pub fn buck(name: &str) -> Self {
        Self(Draft::new(name)).key("kind", "\"buck\"")
    }
}

draft!(
    /// A board in the making.
    ControllerDraft;
    /// Its own mean current.
    mean: Amps => "mean";
    /// Its own peak current.
    peak: Amps => "peak";
);
fed!(ControllerDraft);

impl ControllerDraft {
    /// A board with this name.
    #[must_use]
    pub fn new(name: &str) -> Self {
        Self(Draft::new(name))
    }
}

draft!(
    /// A level shifter in the making.
    ShifterDraft;
    /// Its supply current.
    current: Amps => "current";
);
fed!(ShifterDraft);

impl ShifterDraft {
    /// A shifter with this name.
    #[must_use]
    pub fn new(name: &str) -> Self {
        Self(Draft::new(name))
    }
}

draft!(
    /// A load in the making.
    LoadDraft;
    /// Rated volts.
    voltage: Volts => "voltage";
    /// Below it the load does not work.
    minimum: Volts => "minimum";
    /// Below it a constant current falls off.
    knee: Volts => "knee";
);
fed!(LoadDraft);

impl LoadDraft {
    /// A load that draws a current.
    #[must_use]
    pub fn amps(name: &str, current: Amps) -> Self {
        Self(Draft::new(name)).key("current", &written(current))
    }

    /// A load that keeps its power.
    #[must_use]
    pub fn watts(name: &str, power: Watts) -> Self {
        Self(Draft::new(name)).key("power", &written(power))
    }

    /// A resistive load.
    #[must_use]
    pub fn ohms(name: &str, resistance: Ohms) -> Self {
        Self(Draft::new(name)).key("resistance", &written(resistance))
    }
}

/// A strip in the making.
#[derive(Clone, Debug)]
pub struct StripDraft {
    base: Draft,
    inject: Vec<String>,
}

/// A feed point in the making.
#[derive(Clone, Debug)]
pub struct InjectionDraft(String);

impl InjectionDraft {
    /// A feed point at a position from the start, over a lead of its own.
    #[must_use]
    pub fn at(position: Metres, lead: Lead) -> Self {
        Self(format!("{{ at = \"{} m\", cable = {} }}", position.get(), lead.0))
    }
}

impl StripDraft {
    /// A strip of a class.
    #[must_use]
    pub fn new(name: &str, part: &str) -> Self {
        Self { base: Draft::new(name), inject: Vec::new() }.key("part", &quoted(part))
    }

    /// Its length.
    #[must_use]
    pub fn length(self, length: Metres) -> Self {
        self.key("length", &written(length))
    }

    /// Pixels per metre.
    #[must_use]
    pub fn pixels(self, density: PerMetre) -> Self {
        self.key("pixels", &format!("\"{} /m\"", density.get()))
    }

    /// Copper of each conductor.
    #[must_use]
    pub fn copper(self, copper: OhmsPerMetre) -> Self {
        self.key("copper", &written(copper))
    }

    /// The firmware's current cap.
    #[must_use]
    pub fn firmware_cap(self, cap: Amps) -> Self {
        self.key("firmware-cap", &written(cap))
    }

    /// The node that feeds it.
    #[must_use]
    pub fn from(self, node: &str) -> Self {
        self.key("from", &quoted(node))
    }

    /// Adds a feed point; without any, one feed at the start.
    #[must_use]
    pub fn inject(mut self, injection: InjectionDraft) -> Self {
        self.inject.push(injection.0);
        self
    }

    /// Any other key of the plan file, with its TOML value.
    #[must_use]
    pub fn key(mut self, key: &str, toml: &str) -> Self {
        self.base.set(key, toml);
        self
    }
}
