//! What a deed ends: where it was done, and what of a part it changed.
use crate::engine::{Characteristic, Layout, Place, Reach, Scope, Tag};

/// Everything measured within `scope` that one of the tags describes is no longer proven.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Ends {
    /// Where it was done.
    pub scope: Scope,
    /// What was changed.
    pub tags: &'static [Tag],
}

impl Ends {
    /// Whether it ends the evidence about a characteristic of a place.
    ///
    /// ```
    /// use jagged_pin_core::engine::{Characteristic, Crank, Layout, Place, Role, Scope, Tag};
    /// use jagged_pin_core::log::Ends;
    /// use jagged_pin_core::Length;
    ///
    /// let journal = Length::tenths(26_240);
    /// let four = Layout::of_mains(5, Place::main(3), journal, Crank::proportional(5, journal, 1));
    /// let polished = Ends { scope: Scope::One(Place::main(2)), tags: &[Tag::Journal] };
    /// let ends = |role| Characteristic::at(Place::main(2), role).is_some_and(|c| polished.reach(&four, Place::main(2), c));
    /// assert!(ends(Role::JOURNAL) && !ends(Role::BORE));
    /// // A strip crushed on the old journal says nothing about the new one.
    /// assert!(ends(Role::STRIP));
    /// ```
    pub fn reach(&self, layout: &Layout, place: Place, characteristic: Characteristic) -> bool {
        characteristic.row().ended_by.iter().any(|(tag, reach)| {
            let journal = layout.journal_of(place);
            let reached = || match reach {
                Reach::Here => self.scope.covers(place),
                Reach::OnJournal => self.scope.covers(journal),
                Reach::OnBearings => {
                    layout.all_bearings().any(|b| layout.journal_of(b) == journal && self.scope.covers(b))
                }
                Reach::Anywhere => true,
            };
            self.tags.contains(tag) && reached()
        })
    }
}
