//! What a search may still cost, and whether anybody waits for its answer.
use std::cell::RefCell;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

thread_local! {
    static ASKED: RefCell<Option<Arc<AtomicBool>>> = const { RefCell::new(None) };
}

/// Does `work`; searches in it, on this thread, give up soon after `given_up` was set. What they answer then is not proven, and
/// nobody waits for it.
///
/// ```
/// use std::sync::Arc;
/// use std::sync::atomic::AtomicBool;
/// use jagged_pin_search::unless_given_up;
///
/// assert_eq!(unless_given_up(&Arc::new(AtomicBool::new(false)), || 7), 7);
/// ```
pub fn unless_given_up<T>(given_up: &Arc<AtomicBool>, work: impl FnOnce() -> T) -> T {
    struct Restored(Option<Arc<AtomicBool>>);
    impl Drop for Restored {
        fn drop(&mut self) {
            ASKED.set(self.0.take());
        }
    }
    let _restored = Restored(ASKED.replace(Some(Arc::clone(given_up))));
    work()
}

/// Branches that are left to a search.
pub(crate) struct Effort {
    left: u64,
    given_up: Option<Arc<AtomicBool>>,
}

impl Effort {
    /// So many branches, for whoever asked on this thread.
    pub fn of(branches: u64) -> Self {
        Effort { left: branches, given_up: ASKED.with_borrow(Clone::clone) }
    }

    /// Takes one branch; false where none is left, or nobody waits any more.
    pub fn take(&mut self) -> bool {
        if self.given_up.as_ref().is_some_and(|given_up| given_up.load(Ordering::Relaxed)) {
            self.left = 0;
        }
        let some = self.left > 0;
        self.left = self.left.saturating_sub(1);
        some
    }

    /// Whether no branch is left.
    pub const fn is_spent(&self) -> bool {
        self.left == 0
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_effort_ends_with_its_branches_or_with_whoever_asked() {
        let mut three = Effort::of(3);
        assert_eq!([three.take(), three.take(), three.take(), three.take()], [true, true, true, false]);
        let given_up = Arc::new(AtomicBool::new(false));
        let (first, second) = unless_given_up(&given_up, || {
            let mut many = Effort::of(1_000);
            let first = many.take();
            given_up.store(true, Ordering::Relaxed);
            (first, many.take())
        });
        assert!(first && !second);
        assert!(Effort::of(1).take(), "what is asked afterwards is another matter");
    }
}
