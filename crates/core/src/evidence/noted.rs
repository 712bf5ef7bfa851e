//! What was noted of parts and holds: the last figure of each, where its part stands now, unless a rework ended it.
use std::collections::BTreeMap;

use super::endings::Endings;
use crate::build::{Build, Standing};
use crate::engine::Place;
use crate::log::{Fact, Note, Noted, What};

/// The notes in force.
#[derive(Debug, Default)]
pub struct Notes<'a>(BTreeMap<(Place, Note), (&'a Fact, &'a Noted)>);

impl<'a> Notes<'a> {
    /// The notes in force in a build.
    pub fn of_build(build: &'a Build) -> Self {
        let facts = build.notes();
        let standing = Standing::of(&build.layout, &facts);
        let endings = Endings::of(&build.layout, &facts, &standing, build.rules_now().reckoning);
        Notes::of(&facts, &standing, &endings)
    }

    /// The notes in force among a build's facts that are no readings.
    pub fn of(facts: &[&'a Fact], standing: &Standing<'_>, endings: &Endings<'_>) -> Self {
        let mut all = BTreeMap::new();
        for fact in facts.iter().copied() {
            let What::Noted(noted) = &fact.what else { continue };
            let mut of_part = noted.note.parts_of(noted.at).peekable();
            let Some(part) = of_part.peek().copied() else { continue };
            if of_part.any(|c| endings.ended(noted.at, c, fact.seq).is_some()) {
                continue;
            }
            let stands = standing.follow((part.row().part, noted.at), None, (fact.seq, u32::MAX));
            if let Some(place) = stands {
                all.insert((place, noted.note), (fact, noted));
            }
        }
        Notes(all)
    }

    /// All of them: where the part stands now, the fact, and what it says.
    pub fn all(&self) -> impl Iterator<Item = (Place, &'a Fact, &'a Noted)> {
        self.0.iter().map(|((place, _), (fact, noted))| (*place, *fact, *noted))
    }

    /// The figure of a note at a place, in the smallest unit of its quantity.
    pub fn value(&self, place: Place, note: Note) -> Option<i64> {
        self.0.get(&(place, note)).map(|(_, noted)| noted.value)
    }
}
