//! What polishing really took: sizes before and after every polish of a journal, and what a grit removes and takes here.
//!
//! A polish that was measured before and after tells `removed / grits`; the middle of all of them is what the shop learned.
//! Minutes are learned from what was booked ([`super::booked_per_grit`]).
use serde::Serialize;

use crate::assess::{Assessment, evaluate};
use crate::build::Build;
use crate::engine::{Place, Read, Role};
use crate::log::{Fact, What, Work, WorkEvent};
use crate::units::{Length, Person, Timestamp};

/// One journal polished once.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Polished {
    /// Which journal.
    pub at: Place,
    /// When.
    pub when: Timestamp,
    /// By whom.
    pub by: Person,
    /// The ladder, coarse to fine.
    pub grits: Vec<u16>,
    /// Minutes that were booked, for everything the entry covers.
    pub minutes: Option<u16>,
    /// Its size before.
    pub before: Option<Length>,
    /// Its size afterwards, once it was measured again.
    pub after: Option<Length>,
}

impl Polished {
    /// What came off the diameter, where both sizes are known; never less than nothing.
    pub fn removed(&self) -> Option<Length> {
        Some((self.before? - self.after?).max(Length::ZERO))
    }
}

/// What was learned.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LearnedPolish {
    /// What one grit takes off a diameter.
    pub per_grit: Length,
    /// Of how many polishes that is the middle.
    pub polishes: usize,
}

impl LearnedPolish {
    /// Grits that take so much off, at least one.
    ///
    /// ```
    /// use jagged_pin_core::Length;
    /// use jagged_pin_core::machining::LearnedPolish;
    ///
    /// let learned = LearnedPolish { per_grit: Length::from_nm(1_000), polishes: 3 };
    /// assert_eq!(learned.passes(Length::from_nm(2_540)), 3);
    /// ```
    pub fn passes(&self, removal: Length) -> u16 {
        let grit = self.per_grit.nm().max(1);
        let grits = removal.nm().max(0).saturating_add(grit).saturating_sub(1).checked_div(grit).unwrap_or(1);
        u16::try_from(grits).unwrap_or(u16::MAX).max(1)
    }
}

/// The polishes of a build, in order.
pub fn polish_log(build: &Build) -> Vec<Polished> {
    let polish = |f: &'_ Fact| match &f.what {
        What::Work(w) if w.work == Work::JournalPolished => Some((f.clone(), w.clone())),
        _ => None,
    };
    let polishes: Vec<(Fact, WorkEvent)> = build.facts.iter().filter_map(polish).collect();
    if polishes.is_empty() {
        return Vec::new();
    }
    let before: Vec<Assessment> = polishes.iter().map(|(fact, _)| evaluate(&up_to(build, fact.seq))).collect();
    let now = evaluate(build);
    let journals: Vec<Place> = build.layout.places().filter(|p| build.layout.journal_of(*p) == *p).collect();
    let one = |(i, (fact, event)): (usize, &(Fact, WorkEvent))| {
        let covered: Vec<Place> = journals.iter().copied().filter(|at| event.on.covers(*at)).collect();
        let polished = |at: Place| {
            // What it measured before it was polished again, else what it measures now.
            let mut since = polishes.iter().zip(&before).skip(i.saturating_add(1));
            let then = since.find(|((_, next), _)| next.on.covers(at)).map_or(&now, |(_, measured)| measured);
            Polished {
                at,
                when: fact.at,
                by: fact.by.clone(),
                grits: event.grits.clone(),
                minutes: event.minutes,
                before: before.get(i).and_then(|was| journal(was, at)),
                after: journal(then, at),
            }
        };
        covered.into_iter().map(polished).collect::<Vec<_>>()
    };
    polishes.iter().enumerate().flat_map(one).collect()
}

/// What polishes that were measured before and after teach; nothing where there is none.
pub fn learned(log: &[Polished]) -> Option<LearnedPolish> {
    let each = |p: &Polished| {
        let grits = i64::try_from(p.grits.len()).ok().filter(|n| *n > 0)?;
        let removed = p.removed().filter(|r| *r > Length::ZERO)?;
        Some(Length::from_nm(removed.nm().checked_div(grits)?))
    };
    let all: Vec<Length> = log.iter().filter_map(each).collect();
    Some(LearnedPolish { per_grit: Length::median(&all)?, polishes: all.len() })
}

/// The build as it stood before a fact.
fn up_to(build: &Build, seq: u32) -> Build {
    let facts = build.facts.iter().filter(|f| f.seq < seq).cloned().collect();
    Build { facts, ..build.without_facts() }
}

/// The size of a journal, where it is measured.
fn journal(assessed: &Assessment, at: Place) -> Option<Length> {
    let journals = [Role::JOURNAL, Role::new("cam_journal")];
    let of_it = assessed
        .figures
        .iter()
        .flat_map(|f| &f.measured)
        .find(|m| m.place == at && m.read == Read::Size && journals.contains(&m.role))?;
    of_it.size.size.as_ref().filter(|_| of_it.size.complete).map(|s| s.effective)
}
