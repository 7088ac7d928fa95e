//! One scenario in one corner: its three states, solved at once or each at first use.

use std::sync::{Arc, Mutex, PoisonError};

use modest_ohm_solve::network::{Law, Network};
use modest_ohm_solve::solve::{Limits, Workspace, solve, solve_from, solve_like};

use super::collapsed::collapsed;
use super::on_demand::OnDemand;
use super::outcome::{Lift, Outcome, Snapshot, Solved};
use crate::network::build::build;
use crate::network::layout::Layout;
use crate::network::state::{Boards, Case, State};
use crate::plan::model::Plan;
use crate::quantity::figure::Corner;

/// What is to be solved.
pub(super) struct Question<'q> {
    pub plan: &'q Plan,
    pub case: &'q Arc<Case>,
    pub corner: Corner,
    pub lift: Lift,
    /// A similar outcome to start from.
    pub near: Option<&'q Outcome>,
}

impl Question<'_> {
    fn built(&self, boards: Boards) -> (Network, Arc<Layout>) {
        let (net, layout) = build(self.plan, &State { corner: self.corner, boards, demands: &self.case.demands });
        (net, Arc::new(layout))
    }

    /// Only boards make a difference between what flows continuously and what is drawn in a burst.
    fn bursts(&self) -> bool {
        self.case.bursts && !self.plan.boards.is_empty()
    }

    /// Limits lifted, boards at their mean.
    fn sustained(&self, built: (Network, Arc<Layout>), workspace: &mut Workspace) -> Solved {
        let near = self.near.map(|o| &*o.sustained);
        snapshot(built, Limits::LIFTED, near, near, workspace)
    }

    /// Limits lifted, boards at peak current; `None` where nothing bursts, for then it is as sustained.
    fn in_burst(&self, sustained: impl FnOnce() -> OnDemand, workspace: &mut Workspace) -> Option<Solved> {
        if !self.bursts() {
            return None;
        }
        let built = self.built(Boards::Peak);
        let near = self.near.map(|o| &*o.wanted);
        Some(match near {
            Some(Ok(_)) => snapshot(built, Limits::LIFTED, near, near, workspace),
            _ => snapshot(built, Limits::LIFTED, None, Some(&sustained()), workspace),
        })
    }

    /// Limits in force; `None` where nothing reaches its limit, for then it is as wanted.
    fn beyond_limits(&self, wanted: &Solved, workspace: &mut Workspace) -> Option<Solved> {
        if wanted.as_ref().is_ok_and(|s| !over_limit(s, self.lift)) {
            return None;
        }
        // A source at its limit may hold up a feed that would collapse without it.
        let (mut net, layout) = self.built(if self.bursts() { Boards::Peak } else { Boards::Mean });
        lift_limit(&mut net, &layout, self.lift);
        let near = self.near.map(|o| &*o.actual);
        let limited = snapshot((net, layout), Limits::IN_FORCE, near, None, workspace);
        Some(limited.map(|s| Snapshot { down: collapsed(self.plan, &s).into(), ..s }))
    }

    /// The three states.
    pub fn solve(&self, workspace: &mut Workspace) -> (Outcome, Arc<Layout>) {
        let built = self.built(Boards::Mean);
        let layout = Arc::clone(&built.1);
        let sustained: OnDemand = self.sustained(built, workspace).into();
        let wanted = self.in_burst(|| sustained.clone(), workspace).map_or_else(|| sustained.clone(), OnDemand::from);
        let actual = self.beyond_limits(&wanted, workspace).map_or_else(|| wanted.clone(), OnDemand::from);
        (Outcome { case: Arc::clone(self.case), corner: self.corner, sustained, wanted, actual }, layout)
    }
}

/// A workspace shared by states that are solved later.
pub(crate) type SharedWorkspace = Arc<Mutex<Workspace>>;

/// What it takes to solve a state later.
struct Deferred {
    plan: Arc<Plan>,
    case: Arc<Case>,
    corner: Corner,
    near: Option<Outcome>,
    workspace: SharedWorkspace,
}

impl Deferred {
    fn ask<T>(&self, solve: impl FnOnce(&Question<'_>, &mut Workspace) -> T) -> T {
        let Self { plan, case, corner, near, workspace } = self;
        let question = Question { plan, case, corner: *corner, lift: Lift::None, near: near.as_ref() };
        solve(&question, &mut workspace.lock().unwrap_or_else(PoisonError::into_inner))
    }
}

impl Outcome {
    /// The same scenario and corner in a variant of the plan.
    pub fn in_variant(&self, plan: &Plan, lift: Lift, workspace: &mut Workspace) -> (Self, Arc<Layout>) {
        Question { plan, case: &self.case, corner: self.corner, lift, near: Some(self) }.solve(workspace)
    }

    /// As [`in_variant`](Self::in_variant), each state solved at first use.
    pub fn in_variant_later(&self, plan: &Arc<Plan>, workspace: &SharedWorkspace) -> Self {
        later(plan, &self.case, self.corner, Some(self), workspace)
    }
}

/// A scenario of a plan in one corner, each of its states solved at first use, from a similar outcome where there is one.
pub(super) fn later(
    plan: &Arc<Plan>,
    case: &Arc<Case>,
    corner: Corner,
    near: Option<&Outcome>,
    workspace: &SharedWorkspace,
) -> Outcome {
    let (plan, workspace) = (Arc::clone(plan), Arc::clone(workspace));
    let of = Arc::new(Deferred { plan, case: Arc::clone(case), corner, near: near.cloned(), workspace });
    let own = Arc::clone(&of);
    let sustained = OnDemand::later(move || own.ask(|q, workspace| q.sustained(q.built(Boards::Mean), workspace)));
    let (own, other) = (Arc::clone(&of), sustained.clone());
    let wanted = OnDemand::later(move || {
        // What it starts from is solved first: both take the one workspace.
        let starts_there = own.near.as_ref().is_none_or(|near| near.wanted.is_err());
        if starts_there {
            let _ = &*other;
        }
        own.ask(|q, workspace| q.in_burst(|| other.clone(), workspace)).unwrap_or_else(|| (*other).clone())
    });
    let other = wanted.clone();
    let actual = OnDemand::later(move || {
        let wanted = &*other;
        of.ask(|q, workspace| q.beyond_limits(wanted, workspace)).unwrap_or_else(|| wanted.clone())
    });
    Outcome { case: Arc::clone(case), corner, sustained, wanted, actual }
}

/// A network solved from a start; the solution of `like` where that is of the very same network.
fn snapshot(
    (net, layout): (Network, Arc<Layout>),
    limits: Limits,
    like: Option<&Solved>,
    start: Option<&Solved>,
    workspace: &mut Workspace,
) -> Solved {
    if let Some(Ok(same)) = like.filter(|s| s.as_ref().is_ok_and(|s| s.is_of(&net, limits))) {
        return Ok(same.clone());
    }
    let solution = match (start, like) {
        (Some(Ok(start)), _) => solve_from(&net, limits, &start.solution, workspace)?,
        (_, Some(Ok(like))) => solve_like(&net, limits, &like.solution, workspace)?,
        _ => solve(&net, limits, workspace)?,
    };
    Ok(Snapshot::new(net, limits, solution, layout))
}

fn lift_limit(net: &mut Network, layout: &Layout, lift: Lift) {
    let branch = match lift {
        Lift::None => return,
        Lift::Supply(i) => layout.supplies[i],
        Lift::Converter(i) => layout.converters[i].output,
    };
    if let Law::Source { limit, .. } | Law::Regulator { limit, .. } = &mut net.branches[branch].law {
        *limit = f64::INFINITY;
    }
}

fn over_limit(snapshot: &Snapshot, lift: Lift) -> bool {
    let layout = &snapshot.layout;
    let lifted = match lift {
        Lift::None => None,
        Lift::Supply(i) => layout.supplies.get(i).copied(),
        Lift::Converter(i) => layout.converters.get(i).map(|c| c.output),
    };
    snapshot.net.branches.iter().enumerate().any(|(i, b)| {
        matches!(b.law, Law::Source { limit, .. } | Law::Regulator { limit, .. }
            if Some(i) != lifted && snapshot.amps(i) > limit)
    })
}
