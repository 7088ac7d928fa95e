//! The feed, cable, fuse and contacts of a conductor pair.

use super::run::Run;
use crate::plan::model::Plan;
use crate::plan::wiring::cable::Cable;
use crate::plan::wiring::contact::Contact;
use crate::plan::wiring::feed::Feed;
use crate::plan::wiring::fuse::Fuse;

/// How a conductor pair is fed; `None` for a ground tie.
pub(crate) fn feed_of(plan: &Plan, run: Run) -> Option<&Feed> {
    match run {
        Run::Branch(i) => Some(&plan.branches[i].feed),
        Run::Converter(i) => Some(&plan.converters[i].feed),
        Run::Board(i) => plan.boards[i].feed.as_ref(),
        Run::Shifter(i) => Some(&plan.shifters[i].feed),
        Run::Load(i) => Some(&plan.loads[i].feed),
        Run::Injection(s, q) => Some(&plan.strips[s].injections[q].feed),
        Run::Join(s, k) => plan.strips[s].rows.as_ref()?.joins.get(k),
        Run::Ground(_) => None,
    }
}

/// The cable of a feed, and that of its return where that is another.
pub(crate) fn cables_of(feed: &Feed) -> (Option<&Cable>, Option<&Cable>) {
    let own = feed.cable.as_ref();
    (own, feed.back.as_ref().map_or(own, |back| back.cable.as_ref()))
}

/// The cable of a conductor pair's feed.
pub(crate) fn cable_of(plan: &Plan, run: Run) -> Option<&Cable> {
    match run {
        Run::Ground(i) => plan.grounds[i].cable.as_ref(),
        _ => feed_of(plan, run)?.cable.as_ref(),
    }
}

/// The cable of its return, where that is another.
pub(crate) fn return_cable_of(plan: &Plan, run: Run) -> Option<&Cable> {
    let Some(feed) = feed_of(plan, run) else { return cable_of(plan, run) };
    match &feed.back {
        Some(back) => back.cable.as_ref(),
        None => feed.cable.as_ref(),
    }
}

/// The fuse at the beginning of its feed.
pub(crate) fn fuse_of(plan: &Plan, run: Run) -> Option<&Fuse> {
    feed_of(plan, run)?.fuse.as_ref()
}

/// The contacts that a conductor pair passes, those of its return where that is another cable.
pub(crate) fn contacts_of(plan: &Plan, run: Run) -> impl Iterator<Item = &Contact> {
    contacts_in(plan, run, feed_of(plan, run), cable_of(plan, run))
}

/// As [`contacts_of`], for a feed of a run; `tie` is the cable of what has no feed.
pub(crate) fn contacts_in<'p>(
    plan: &'p Plan,
    run: Run,
    feed: Option<&'p Feed>,
    tie: Option<&'p Cable>,
) -> impl Iterator<Item = &'p Contact> {
    let (own, back) = feed.map_or((tie, None), cables_of);
    let back = back.filter(|b| own.is_none_or(|c| !std::ptr::eq(*b, c)));
    let contact = if let Run::Branch(i) = run { plan.branches[i].contact() } else { None };
    let leads = own.into_iter().chain(back).flat_map(Cable::contacts);
    leads.chain(contact)
}

/// What the weakest contact of a conductor pair carries continuously, A.
pub(crate) fn contact_limit_of(plan: &Plan, run: Run) -> Option<f64> {
    contacts_of(plan, run).filter_map(Contact::rating_a).reduce(f64::min)
}
