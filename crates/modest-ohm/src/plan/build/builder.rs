//! A plan written in code: typed drafts that become the same text a maker would write, then the same plan.

use std::fmt::Write as _;

use super::drafts::{
    BoardDraft, BranchDraft, CapacitorDraft, ConnectorDraft, ConverterDraft, DiodeDraft, Draft, LinkDraft, LoadDraft,
    ShifterDraft, SupplyDraft, SwitchDraft, quoted, written,
};
use super::strip_draft::StripDraft;
use crate::plan::model::Plan;
use crate::quantity::units::{Celsius, Fraction};
use crate::text::problem::PlanErrors;

/// Writes a plan in code. Every method takes typed quantities; [`PlanBuilder::build`] checks the whole as text would
/// be.
///
/// ```
/// use modest_ohm::Plan;
/// use modest_ohm::plan::{Lead, LoadDraft, SupplyDraft};
/// use modest_ohm::units::{Amps, Metres, Volts};
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

impl Plan {
    /// Starts a plan in code.
    #[must_use]
    pub fn builder(title: &str) -> PlanBuilder {
        PlanBuilder::new(title)
    }
}

impl PlanBuilder {
    pub(crate) fn new(title: &str) -> Self {
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

    /// Adds a connector.
    #[must_use]
    pub fn connector(self, draft: ConnectorDraft) -> Self {
        self.item("connector", draft.0)
    }

    /// Adds a converter.
    #[must_use]
    pub fn converter(self, draft: ConverterDraft) -> Self {
        self.item("converter", draft.0)
    }

    /// Adds a board.
    #[must_use]
    pub fn board(self, draft: BoardDraft) -> Self {
        self.item("board", draft.0)
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

    /// Adds a hand switch.
    #[must_use]
    pub fn switch(self, draft: SwitchDraft) -> Self {
        self.item("switch", draft.0)
    }

    /// Adds a diode.
    #[must_use]
    pub fn diode(self, draft: DiodeDraft) -> Self {
        self.item("diode", draft.0)
    }

    /// Adds a link.
    #[must_use]
    pub fn link(self, draft: LinkDraft) -> Self {
        self.item("link", draft.0)
    }

    /// Adds a capacitor.
    #[must_use]
    pub fn capacitor(self, draft: CapacitorDraft) -> Self {
        self.item("capacitor", draft.0)
    }

    /// Adds whatever else the plan file knows, as its text: `[group.x]`, `[enclosure.x]`, `[stack.x]` ….
    #[must_use]
    pub fn text(mut self, toml: &str) -> Self {
        let _ = write!(self.body, "\n{toml}\n");
        self
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
