//! What was worked out not long ago, for what is asked for again and again and takes long.
use std::cell::RefCell;
use std::collections::VecDeque;

/// The last `N` answers of a thread, by what was asked. They follow from the question alone, so that nobody can tell whether one
/// was kept.
#[derive(Debug)]
pub(crate) struct Kept<K, V, const N: usize>(RefCell<VecDeque<(K, V)>>);

impl<K: PartialEq, V: Clone, const N: usize> Kept<K, V, N> {
    /// None yet.
    pub const fn new() -> Self {
        Kept(RefCell::new(VecDeque::new()))
    }

    /// The answer, worked out where it is not kept; the oldest makes room.
    pub fn get(&self, asked: K, answer: impl FnOnce() -> V) -> V {
        let found = self.0.borrow().iter().find(|(of, _)| *of == asked).map(|(_, known)| known.clone());
        found.unwrap_or_else(|| {
            let made = answer();
            let mut all = self.0.borrow_mut();
            all.truncate(N.saturating_sub(1));
            all.push_front((asked, made.clone()));
            made
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn answers_are_worked_out_once_until_newer_ones_need_the_room() {
        let (kept, asked) = (Kept::<u32, u32, 2>::new(), RefCell::new(Vec::new()));
        let square = |n: u32| {
            kept.get(n, || {
                asked.borrow_mut().push(n);
                n * n
            })
        };
        assert_eq!([2, 3, 2, 3, 4, 3, 2].map(square), [4, 9, 4, 9, 16, 9, 4]);
        // The third asked for made the first give way.
        assert_eq!(*asked.borrow(), [2, 3, 4, 2]);
    }
}
