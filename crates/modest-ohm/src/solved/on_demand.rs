//! A state that is solved at first use.

use std::fmt;
use std::ops::Deref;
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

use modest_ohm_solve::solve::SolveError;

use super::outcome::Solved;

type Work = Box<dyn FnOnce() -> Solved + Send>;

/// A solved state, or one that will be solved if somebody looks at it.
#[derive(Clone)]
pub(crate) struct OnDemand(Arc<Inner>);

struct Inner {
    solved: OnceLock<Solved>,
    work: Mutex<Option<Work>>,
}

impl OnDemand {
    /// Work for later.
    pub fn later(work: impl FnOnce() -> Solved + Send + 'static) -> Self {
        Self(Arc::new(Inner { solved: OnceLock::new(), work: Mutex::new(Some(Box::new(work))) }))
    }

    /// True for one and the same.
    pub fn is_same(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.0, &other.0)
    }
}

impl From<Solved> for OnDemand {
    fn from(solved: Solved) -> Self {
        Self(Arc::new(Inner { solved: OnceLock::from(solved), work: Mutex::new(None) }))
    }
}

impl Deref for OnDemand {
    type Target = Solved;

    fn deref(&self) -> &Solved {
        self.0.solved.get_or_init(|| {
            let work = self.0.work.lock().unwrap_or_else(PoisonError::into_inner).take();
            // There is work wherever nothing is solved.
            work.map_or(Err(SolveError::Unsettled), |work| work())
        })
    }
}

impl fmt::Debug for OnDemand {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.solved.fmt(f)
    }
}
