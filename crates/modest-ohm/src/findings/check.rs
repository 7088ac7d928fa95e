//! What a check is: its code, title, severities, long text, the function that runs it, and what follows from what it
//! finds.

use super::change::Change;
use super::finding::Finding;
use super::sink::Sink;
use crate::derived::context::Context;
use crate::derived::solves::Solves;
use crate::plan::model::Plan;
use crate::verdict::codes::Code;
use crate::verdict::severity::Severity;

/// A check.
#[derive(Clone, Copy)]
#[non_exhaustive]
pub struct Check {
    /// The stable code.
    pub code: &'static str,
    /// The family it belongs to.
    pub family: &'static str,
    /// One line: when it fires.
    pub title: &'static str,
    /// The severities it can have, worst first.
    pub severities: &'static [Severity],
    /// The long text, in Markdown.
    pub about: &'static str,
    pub(crate) run: fn(&Context<'_>, &mut Sink),
    pub(crate) solves: Solves,
    pub(crate) consequences: Consequences,
    pub(crate) one_change: OneChange,
    /// True where it judges supplies and cables, not the part connected to them.
    pub(crate) is_about_feed: bool,
    /// True where its own fix is needed whatever else is fixed: it is never put under another finding.
    pub(crate) stands_alone: bool,
    /// Whether it holds a part's own limit against what flows through it.
    pub(crate) own_limit: bool,
    /// True where a verdict on one state depends on the nominal state of the same scenario.
    pub(crate) beside_nominal: bool,
    /// True where its findings name no scenario and no corner: they are not looked for in single states.
    pub(crate) names_no_state: bool,
    /// The kinds of change that may end what it finds, in the order in which they are tried.
    pub(crate) fixed_by: &'static [Change],
    /// The code under which the same number is reported while it is milder; never both of one part.
    pub(crate) milder: Option<&'static str>,
}

/// How it is found out which other findings follow from what a check finds.
#[derive(Clone, Copy)]
pub(crate) enum Consequences {
    /// Nothing is tried.
    None,
    /// What is gone in a plan without the mistake: makes that plan, false where nothing was changed. `first` where it
    /// says more than what else may be at fault.
    Undo { undo: fn(&mut Plan, &Finding) -> bool, first: bool },
    /// What is gone with the limit of the source lifted.
    Lift,
}

/// Findings that one and the same change fixes, by what they speak of. They are reported as one.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum OneChange {
    No,
    /// What a pin carries: the pin is the subject.
    PinOfJob,
    /// What a pin drives: the load is the subject.
    LoadOfPin,
    /// An LED on a pin.
    LedOnPin,
    /// A load on a pin, whose resistance takes its voltage.
    LoadOnPin,
    /// An input without a divider; `leads` for the one that goes first.
    UndividedInput {
        leads: bool,
    },
}

impl Check {
    pub(crate) const fn new(
        code: Code,
        family: &'static str,
        title: &'static str,
        severities: &'static [Severity],
        run: fn(&Context<'_>, &mut Sink),
    ) -> Self {
        Self {
            code: code.name,
            family,
            title,
            severities,
            about: code.about,
            run,
            solves: Solves::Nothing,
            consequences: Consequences::None,
            one_change: OneChange::No,
            is_about_feed: false,
            stands_alone: false,
            own_limit: false,
            beside_nominal: false,
            names_no_state: false,
            milder: None,
            fixed_by: &[],
        }
    }

    /// What it solves in addition to the scenarios.
    pub(crate) const fn solving(self, solves: Solves) -> Self {
        Self { solves, ..self }
    }

    /// What is gone in the plan that `undo` makes follows from what this check finds.
    pub(crate) const fn undone_by(self, undo: fn(&mut Plan, &Finding) -> bool) -> Self {
        Self { consequences: Consequences::Undo { undo, first: false }, ..self }
    }

    /// As [`Self::undone_by`], and tried before other causes, as it says more than they do.
    pub(crate) const fn undone_first_by(self, undo: fn(&mut Plan, &Finding) -> bool) -> Self {
        Self { consequences: Consequences::Undo { undo, first: true }, ..self }
    }

    /// What is gone with the source's limit lifted follows from what this check finds.
    pub(crate) const fn lifted(self) -> Self {
        Self { consequences: Consequences::Lift, ..self }
    }

    /// It judges supplies and cables, not the part connected to them. Such advice is left out where a part is offered.
    pub(crate) const fn about_the_feed(self) -> Self {
        Self { is_about_feed: true, ..self }
    }

    /// Nothing but its own fix ends it: it is never put under another finding, which would hide it.
    pub(crate) const fn standing_alone(self) -> Self {
        Self { stands_alone: true, ..self }
    }

    /// It holds a part's own limit against what flows through it: of all that one firmware limit would end each such
    /// limit has another fix of its own, and is reported with its number.
    pub(crate) const fn of_its_own_limit(self) -> Self {
        Self { own_limit: true, ..self }
    }

    /// Its verdict on a state depends on the nominal state of the same scenario: what a usual part of a class does may
    /// make it milder.
    pub(crate) const fn beside_nominal(self) -> Self {
        Self { beside_nominal: true, ..self }
    }

    /// Its findings name no scenario and no corner.
    pub(crate) const fn naming_no_state(self) -> Self {
        Self { names_no_state: true, ..self }
    }

    /// While the number is milder it is reported under another code.
    pub(crate) const fn milder_under(self, code: Code) -> Self {
        Self { milder: Some(code.name), ..self }
    }

    /// The kinds of change that may end what it finds, in the order in which they are tried.
    pub(crate) const fn fixed_by(self, fixed_by: &'static [Change]) -> Self {
        Self { fixed_by, ..self }
    }

    /// What else the change that fixes this finding fixes.
    pub(crate) const fn fixed_with(self, one_change: OneChange) -> Self {
        Self { one_change, ..self }
    }
}

impl std::fmt::Debug for Check {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Check").field("code", &self.code).field("title", &self.title).finish_non_exhaustive()
    }
}
