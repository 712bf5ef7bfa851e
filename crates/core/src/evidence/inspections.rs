//! What parts look like now: the last inspection of each, unless the part was reworked since.
use std::collections::HashMap;

use super::endings::Endings;
use crate::build::{Build, Standing};
use crate::engine::Place;
use crate::log::{Fact, InspectedPart, Inspection, Sign, What};

/// What parts look like now: the last look at each, unless the part was reworked since.
#[derive(Debug, Default)]
pub struct Inspections<'a>(HashMap<(Place, InspectedPart), (&'a Fact, &'a Inspection)>);

impl<'a> Inspections<'a> {
    /// The looks in force, each at the place where the part that was looked at stands.
    pub fn of(notes: &[&'a Fact], standing: &Standing<'_>, endings: &Endings<'_>) -> Self {
        let mut inspections = HashMap::new();
        let kind = |look: &Inspection| look.part.measured_at(look.station).map(|c| c.row().part);
        for fact in notes {
            if let What::Inspection(look) = &fact.what {
                let stands = kind(look).map_or(Some(look.station), |kind| {
                    standing.follow((kind, look.station), None, (fact.seq, u32::MAX))
                });
                if let Some(place) = stands {
                    inspections.insert((place, look.part), (*fact, look));
                }
            }
        }
        let ended = |place, part: InspectedPart, seq| {
            part.measured_at(place).is_some_and(|c| endings.ended(place, c, seq).is_some())
        };
        inspections.retain(|(_, part), (fact, look)| !ended(look.station, *part, fact.seq));
        Inspections(inspections)
    }

    /// The looks in force in a build.
    pub fn of_build(build: &'a Build) -> Self {
        let notes = build.notes();
        let standing = Standing::of(&build.layout, &notes);
        let endings = Endings::of(&build.layout, &notes, &standing, build.rules_now().reckoning);
        Inspections::of(&notes, &standing, &endings)
    }

    /// The looks in force, in the order they were taken.
    pub fn all(&self) -> Vec<(Place, &'a Fact, &'a Inspection)> {
        let mut all: Vec<_> = self.0.iter().map(|((place, _), (fact, look))| (*place, *fact, *look)).collect();
        all.sort_by_key(|(_, fact, _)| fact.seq);
        all
    }

    /// The signs seen on a part.
    pub fn signs(&self, station: Place, part: InspectedPart) -> &'a [Sign] {
        self.0.get(&(station, part)).map_or(&[], |(_, look)| &look.signs)
    }

    /// Whether a part was looked at after a fact.
    pub fn seen_since(&self, station: Place, part: InspectedPart, seq: u32) -> bool {
        self.0.get(&(station, part)).is_some_and(|(fact, look)| fact.seq > seq && !look.signs.is_empty())
    }

    /// Whether any of these signs was seen on a part.
    pub fn shows(&self, station: Place, part: InspectedPart, any: &[Sign]) -> bool {
        self.signs(station, part).iter().any(|s| any.contains(s))
    }

    /// Whether any of these signs was seen on either shell of a bearing.
    pub fn shells(&self, station: Place, any: &[Sign]) -> bool {
        self.shows(station, InspectedPart::Upper, any) || self.shows(station, InspectedPart::Lower, any)
    }

    /// Whether a shell of the bearing was looked at.
    pub fn looked_at(&self, station: Place) -> bool {
        [InspectedPart::Upper, InspectedPart::Lower].into_iter().any(|p| !self.signs(station, p).is_empty())
    }
}
