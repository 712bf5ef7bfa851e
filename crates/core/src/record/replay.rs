//! Replays a whole build, such as one from a file: could every fact of it have been recorded here?
use std::collections::HashSet;

use super::admission::admit;
use crate::build::{Build, BuildError};
use crate::log::What;
use crate::sheet::seal_digest;
use crate::units::check_text;

impl Build {
    /// Checks that the whole build could have been recorded here, fact by fact, and that its signatures
    /// carry the digests of what they stand under. Used on builds that come from a file.
    ///
    /// # Errors
    /// [`BuildError`] names the first thing that does not hold.
    pub fn check(&self) -> Result<(), BuildError> {
        self.check_set_up()?;
        let mut so_far = self.without_facts();
        let mut ids = HashSet::new();
        for (expected, fact) in (1..).zip(&self.facts) {
            let wrong = |why: String| BuildError::Fact { seq: fact.seq, why };
            if fact.seq != expected {
                return Err(wrong(format!("the facts are numbered from 1 without gaps; {expected} was due")));
            }
            if !ids.insert(fact.id) {
                return Err(wrong("its id was used before".into()));
            }
            check_text(&fact.by.name, "a name")?;
            admit(&so_far, &fact.by, &fact.what).map_err(|r| wrong(r.to_string()))?;
            if let What::Signature(s) = &fact.what
                && seal_digest(&so_far, fact) != s.digest
            {
                return Err(wrong("the seal does not match what it stands under: the file was changed".into()));
            }
            so_far.facts.push(fact.clone());
        }
        Ok(())
    }
}
