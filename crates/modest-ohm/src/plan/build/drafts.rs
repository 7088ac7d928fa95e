//! Drafts: items of a plan written in code, with typed quantities, as the text a maker would write.

use std::fmt::Write as _;

use super::lead::Lead;
use crate::quantity::units::{Amps, Farads, Fraction, Ohms, Quantity, Volts, Watts};

/// Name and keys of an item.
#[derive(Clone, Debug)]
pub(crate) struct Draft {
    pub name: String,
    pub keys: String,
}

impl Draft {
    pub fn new(name: &str) -> Self {
        Self { name: name.to_owned(), keys: String::new() }
    }

    pub fn set(&mut self, key: &str, value: &str) {
        let _ = writeln!(self.keys, "{key} = {value}");
    }
}

pub(crate) fn quoted(text: &str) -> String {
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
pub(crate) fn written<Q: Quantity>(quantity: Q) -> String {
    if Q::SYMBOL == "%" {
        format!("\"{} %\"", quantity.si() * 100.0)
    } else {
        format!("\"{} {}\"", quantity.si(), Q::SYMBOL)
    }
}

macro_rules! draft {
    ($(#[$doc:meta])* $name:ident; $($(#[$mdoc:meta])* $method:ident: $quantity:ty => $key:literal;)*) => {
        $(#[$doc])*
        #[derive(Clone, Debug)]
        pub struct $name(pub(crate) Draft);

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

            /// Its cable.
            #[must_use]
            pub fn cable(mut self, lead: Lead) -> Self {
                self.0.set("cable", &lead.to_toml());
                self
            }

            /// A blade fuse of this rating at the beginning of its cable.
            #[must_use]
            pub fn fuse(mut self, rating: Amps) -> Self {
                self.0.set("fuse", &written(rating));
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
    /// Its voltage; the class's tolerance holds (adapter ± 5 %, bench ± 1 %) unless a resistance is given.
    voltage: Volts => "voltage";
    /// Its continuous rating.
    current: Amps => "current";
    /// Its source resistance; makes the voltage exact.
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

    /// A battery of a class of cell: cells in series, strings in parallel.
    #[must_use]
    pub fn battery(name: &str, cell: &str, series: usize, parallel: usize) -> Self {
        let base = Self(Draft::new(name)).key("kind", "\"battery\"").key("cell", &quoted(cell));
        base.key("series", &series.to_string()).key("parallel", &parallel.to_string())
    }

    /// A vehicle's supply: `"12 V"` or `"24 V"`.
    #[must_use]
    pub fn vehicle(name: &str, system: &str) -> Self {
        Self(Draft::new(name)).key("kind", "\"vehicle\"").key("system", &quoted(system))
    }

    /// A negotiated source: the profiles that it lists, and the voltage that is selected.
    #[must_use]
    pub fn negotiated(name: &str, profiles: &[(Volts, Amps)], selected: Volts) -> Self {
        let list: Vec<String> = profiles.iter().map(|(v, a)| format!("\"{} V {} A\"", v.get(), a.get())).collect();
        let base = Self(Draft::new(name)).key("kind", "\"negotiated\"");
        base.key("profiles", &format!("[{}]", list.join(", "))).key("selected", &written(selected))
    }
}

draft!(
    /// A branch in the making.
    BranchDraft;
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
    /// A connector in the making: what leads meet in.
    ConnectorDraft;
    /// What one of its contacts carries continuously.
    current: Amps => "current";
);
fed!(ConnectorDraft);

impl ConnectorDraft {
    /// A connector of a class, such as `lever-splice-2mm5`.
    #[must_use]
    pub fn new(name: &str, part: &str) -> Self {
        Self(Draft::new(name)).part(part)
    }
}

draft!(
    /// A converter in the making.
    ConverterDraft;
    /// Its set voltage.
    output: Volts => "output";
    /// What it delivers continuously.
    current: Amps => "current";
    /// Its efficiency.
    efficiency: Fraction => "efficiency";
    /// What it draws without load.
    quiescent: Watts => "quiescent";
    /// Its output resistance; makes the voltage exact.
    resistance: Ohms => "resistance";
);
fed!(ConverterDraft);

impl ConverterDraft {
    /// A buck converter.
    #[must_use]
    pub fn buck(name: &str) -> Self {
        Self(Draft::new(name)).key("kind", "\"buck\"")
    }

    /// A boost converter.
    #[must_use]
    pub fn boost(name: &str) -> Self {
        Self(Draft::new(name)).key("kind", "\"boost\"")
    }

    /// A linear regulator.
    #[must_use]
    pub fn linear(name: &str) -> Self {
        Self(Draft::new(name)).key("kind", "\"linear\"")
    }
}

draft!(
    /// A board in the making.
    BoardDraft;
    /// Its own mean current.
    mean: Amps => "mean";
    /// Its own peak current.
    peak: Amps => "peak";
);
fed!(BoardDraft);

impl BoardDraft {
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
    /// Rated voltage.
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

draft!(
    /// A hand switch in the making.
    SwitchDraft;
    /// What it carries continuously.
    current: Amps => "current";
);
fed!(SwitchDraft);

impl SwitchDraft {
    /// A switch with this name; closed unless a key says otherwise.
    #[must_use]
    pub fn new(name: &str) -> Self {
        Self(Draft::new(name))
    }
}

draft!(
    /// A diode in the making, in a feed or across a rail.
    DiodeDraft;
    /// Forward voltage before its resistance.
    vf: Volts => "vf";
    /// What it carries continuously.
    current: Amps => "current";
);
fed!(DiodeDraft);

impl DiodeDraft {
    /// A diode in a feed.
    #[must_use]
    pub fn series(name: &str) -> Self {
        Self(Draft::new(name))
    }

    /// A clamp across a node that conducts from this voltage on.
    #[must_use]
    pub fn clamp(name: &str, across: &str, clamps: Volts) -> Self {
        Self(Draft::new(name)).key("across", &quoted(across)).key("clamps", &written(clamps))
    }
}

draft!(
    /// A link in the making.
    LinkDraft;
    /// Its resistance.
    resistance: Ohms => "resistance";
);

impl LinkDraft {
    /// A jumper between the + of two nodes.
    #[must_use]
    pub fn new(name: &str, between: [&str; 2], closed: bool) -> Self {
        let ends = between.map(quoted).join(", ");
        Self(Draft::new(name)).key("between", &format!("[{ends}]")).key("closed", &closed.to_string())
    }
}

draft!(
    /// A capacitor in the making.
    CapacitorDraft;
    /// Its series resistance.
    esr: Ohms => "esr";
);

impl CapacitorDraft {
    /// A capacitor across a node.
    #[must_use]
    pub fn new(name: &str, across: &str, capacitance: Farads) -> Self {
        Self(Draft::new(name)).key("across", &quoted(across)).key("capacitance", &written(capacitance))
    }
}
