//! Checks by eye and hand that still hold: the last of each, unless what it was about was changed since.
use crate::engine::Place;
use crate::log::{Check, CheckDone, Fact, What};

use super::endings::Endings;

/// The checks on record, in order.
#[derive(Debug, Default)]
pub struct Checks<'a>(Vec<(&'a Fact, &'a CheckDone)>);

impl<'a> Checks<'a> {
    /// Those among a build's notes that nothing ended.
    pub fn of(notes: &[&'a Fact], endings: &Endings<'_>) -> Self {
        let mut checks: Vec<(&Fact, &CheckDone)> = Vec::new();
        for fact in notes {
            if let What::Checked(done) = &fact.what {
                checks.retain(|(_, before)| (before.check, before.at) != (done.check, done.at));
                checks.push((fact, done));
            }
        }
        checks.retain(|(fact, done)| !endings.changed_since(done.check.ended_by(), done.at, fact.seq));
        Checks(checks)
    }

    /// All of them, in the order they were recorded.
    pub fn all(&self) -> &[(&'a Fact, &'a CheckDone)] {
        &self.0
    }

    /// The last one of a check: of the engine as a whole, or of one of these places.
    pub fn last(&self, check: Check, of: &[Place]) -> Option<(&'a Fact, &'a CheckDone)> {
        let there = |at: Option<Place>| at.is_none_or(|at| of.is_empty() || of.contains(&at));
        self.0.iter().rev().find(|(_, done)| done.check == check && there(done.at)).copied()
    }
}
