//! Replays a whole build, such as one from a file: could every fact of it have been recorded here?
use std::collections::HashSet;

use super::admission::{MOST_FACTS, admit_after};
use super::agreement::agrees;
use super::before::Before;
use crate::assess::evaluate;
use crate::build::{Build, BuildError};
use crate::evidence::Sessions;
use crate::log::{Fact, What};
use crate::sheet::{SealFault, SealFlaw, prove};
use crate::units::{Timestamp, check_text};

/// How far a clock elsewhere may be ahead of ours, ms: a day, which is more than all the world's clocks differ.
const AHEAD: i64 = 24 * 60 * 60 * 1_000;

impl Build {
    /// Checks that the whole build could have been recorded here, fact by fact, and that its signatures
    /// carry the digests of what they stand under. Used on builds that come from a file.
    ///
    /// # Errors
    /// [`BuildError`] names the first thing that does not hold.
    pub fn check(&self) -> Result<(), BuildError> {
        self.check_while(&|| true)
    }

    fn check_while(&self, wanted: &dyn Fn() -> bool) -> Result<(), BuildError> {
        self.check_set_up()?;
        let mut before = Before::first_of(self);
        let mut so_far = self.without_facts();
        let mut ids = HashSet::new();
        for (expected, fact) in (1..).zip(&self.facts) {
            if !wanted() {
                return Err(BuildError::GivenUp);
            }
            let wrong = |why: String| BuildError::Fact { seq: fact.seq, why };
            if fact.seq != expected {
                return Err(wrong(format!("the facts are numbered from 1 without gaps; {expected} was due")));
            }
            if !ids.insert(fact.id) {
                return Err(wrong("its id was used before".into()));
            }
            check_text(&fact.by.name, "a name")?;
            admit_after(&before, &so_far, &fact.by, &fact.what).map_err(|r| wrong(r.to_string()))?;
            before.take_in(fact);
            so_far.facts.push(fact.clone());
        }
        let changed = |f: &SealFault| matches!(f.flaw, SealFlaw::Changed { .. });
        match prove(self, None).faults.iter().find(|f| changed(f)) {
            Some(fault) => {
                let why = "the seal does not match what it stands under: the file was changed".into();
                Err(BuildError::Fact { seq: fault.seq, why })
            }
            None => Ok(()),
        }
    }

    /// Checks a build that comes from a file, at the moment `now`: as [`Build::check`], and that no time is ahead of ours (any
    /// time will do without a `now`: for what was recorded while a clock was ahead), that what was typed can mean what it was taken for, and that everything that follows from it can be worked out.
    /// Gives up between two facts when the answer is no longer `wanted`.
    ///
    /// # Errors
    /// [`BuildError`] names the first thing that does not hold.
    pub fn check_file(&self, now: Option<Timestamp>, wanted: &dyn Fn() -> bool) -> Result<(), BuildError> {
        self.check_while(wanted)?;
        let latest = Timestamp(now.map_or(i64::MAX, |now| now.0.saturating_add(AHEAD)));
        if self.opened_at > latest {
            return Err(BuildError::Time);
        }
        if self.seq() >= MOST_FACTS {
            return Err(BuildError::Size);
        }
        // Sittings, rules and gauges of a reading stand before it, so the whole build tells what its text could mean.
        let sessions = Sessions::of(&self.notes(), self.rules_now().reckoning);
        self.facts.iter().try_for_each(|fact| {
            if wanted() { self.believes(fact, &sessions, latest) } else { Err(BuildError::GivenUp) }
        })?;
        evaluate(self);
        Ok(())
    }

    fn believes(&self, fact: &Fact, sessions: &Sessions, latest: Timestamp) -> Result<(), BuildError> {
        let wrong = |why: &str| Err(BuildError::Fact { seq: fact.seq, why: why.to_owned() });
        match &fact.what {
            _ if fact.at > latest => Err(BuildError::Ahead { seq: fact.seq }),
            What::Reading(r) if r.taken.is_some_and(|taken| taken > latest) => Err(BuildError::Ahead { seq: fact.seq }),
            What::Reading(r) if !agrees(self, sessions, r) => wrong("what was typed cannot mean what it was taken for"),
            _ => Ok(()),
        }
    }
}
